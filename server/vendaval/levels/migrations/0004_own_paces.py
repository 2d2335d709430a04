from django.db import migrations, models

import vendaval.shared.columns

# Django's own way makes the table anew on SQLite, and drops the triggers of the log.
ADD = "ALTER TABLE levels_observation ADD COLUMN lapse double precision NOT NULL DEFAULT 0"
REMOVE = "ALTER TABLE levels_observation DROP COLUMN lapse"


class Migration(migrations.Migration):
    dependencies = [("levels", "0003_in_the_order_of_time")]

    operations = [
        migrations.AddField(
            model_name="learnerstate",
            name="effort",
            field=models.JSONField(default=dict),
        ),
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.RunSQL(ADD, REMOVE)],
            state_operations=[
                migrations.AddField(
                    model_name="observation",
                    name="lapse",
                    field=models.FloatField(default=0.0),
                ),
            ],
        ),
    ]
