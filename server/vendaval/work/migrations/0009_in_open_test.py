from django.db import migrations, models


def mark_held(apps, schema_editor):
    """What a test still holds back is open until the jobs look at it again."""
    presentations = apps.get_model("work", "Presentation").objects
    presentations.filter(run__purpose="test").exclude(telling="all").update(in_open_test=True)


class Migration(migrations.Migration):
    dependencies = [("bank", "0003_open_to_all"), ("work", "0008_regrading")]

    operations = [
        migrations.AddField(
            model_name="presentation",
            name="in_open_test",
            field=models.BooleanField(default=False),
        ),
        migrations.AddIndex(
            model_name="presentation",
            index=models.Index(
                condition=models.Q(("in_open_test", True)),
                fields=["run"],
                name="question_in_open_test",
            ),
        ),
        migrations.RunPython(mark_held, migrations.RunPython.noop),
    ]
