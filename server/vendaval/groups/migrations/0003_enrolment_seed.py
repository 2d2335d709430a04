from django.db import migrations, models
from django.db.models import F

import vendaval.groups.models


def as_before(apps, schema_editor):
    """Draws were made from the row's number: who is enrolled keeps theirs."""
    apps.get_model("groups", "Enrolment").objects.update(seed=F("id"))


# Django's own way makes the table anew on SQLite, and a trigger of the log looks at it meanwhile.
ADD = "ALTER TABLE groups_enrolment ADD COLUMN seed bigint NOT NULL DEFAULT 0"
REMOVE = "ALTER TABLE groups_enrolment DROP COLUMN seed"


class Migration(migrations.Migration):
    dependencies = [("groups", "0002_squashed")]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.RunSQL(ADD, REMOVE)],
            state_operations=[
                migrations.AddField(
                    model_name="enrolment",
                    name="seed",
                    field=models.BigIntegerField(default=vendaval.groups.models.new_seed),
                ),
            ],
        ),
        migrations.RunPython(as_before, migrations.RunPython.noop),
    ]
