"""When results of a test are shown: `telling` in its rules becomes `release`."""

from django.db import migrations


def rename(old, new):
    def run(apps, schema_editor):
        for name in ("Test", "Attempt"):
            rows = apps.get_model("exams", name).objects.only("rules")
            for row in rows.filter(rules__has_key=old).iterator():
                row.rules[new] = row.rules.pop(old)
                row.save(update_fields=["rules"])

    return run


class Migration(migrations.Migration):
    dependencies = [("exams", "0004_withdrawn_and_released")]
    operations = [
        migrations.RunPython(rename("telling", "release"), rename("release", "telling"))
    ]
