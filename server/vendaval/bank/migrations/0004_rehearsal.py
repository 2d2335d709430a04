from django.db import migrations, models

# Django's own way makes the table anew on SQLite, and a trigger of the log looks at it meanwhile.
ADD = "ALTER TABLE bank_family ADD COLUMN rehearsal boolean NOT NULL DEFAULT false"
REMOVE = "ALTER TABLE bank_family DROP COLUMN rehearsal"


def forget(apps, schema_editor):
    """The questions to try out were kept with the course: they come back as families, and the test
    to rehearse with them, when the pack is read again, which no digest of its files holds up."""
    apps.get_model("bank", "Course").objects.update(rehearsal=None, files="")


class Migration(migrations.Migration):
    dependencies = [("bank", "0003_slips_by_one_rule")]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.RunSQL(ADD, REMOVE)],
            state_operations=[
                migrations.AddField(
                    model_name="family",
                    name="rehearsal",
                    field=models.BooleanField(default=False),
                ),
            ],
        ),
        migrations.AlterField(
            model_name="course", name="rehearsal", field=models.JSONField(null=True)
        ),
        migrations.RunPython(forget, migrations.RunPython.noop),
    ]
