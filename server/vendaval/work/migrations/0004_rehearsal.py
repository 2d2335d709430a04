from django.db import migrations, models

# Django's own way makes the table anew on SQLite, and the triggers of the log look at it meanwhile.
ADD = "ALTER TABLE work_run ADD COLUMN rehearsal boolean NOT NULL DEFAULT false"
REMOVE = "ALTER TABLE work_run DROP COLUMN rehearsal"


class Migration(migrations.Migration):
    dependencies = [("work", "0003_visibility")]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.RunSQL(ADD, REMOVE)],
            state_operations=[
                migrations.AddField(
                    model_name="run",
                    name="rehearsal",
                    field=models.BooleanField(default=False),
                ),
            ],
        ),
    ]
