"""One word for what is undone: `taken_back` becomes `undone`, `takes_back` becomes `undoes`."""

from django.db import migrations, models

from vendaval.shared.triggers import erasing


def rename(old, new):
    def run(apps, schema_editor):
        # Tries are only ever added to; their names may change while this one change is let through.
        with erasing():
            apps.get_model("work", "Try").objects.filter(kind=old).update(kind=new)

    return run


KINDS = models.CharField(
    max_length=12,
    choices=[
        ("answer", "Answer"),
        ("not_taught", "Not Taught"),
        ("undone", "Undone"),
        ("set_aside", "Set Aside"),
    ],
)


class Migration(migrations.Migration):
    dependencies = [("work", "0001_squashed")]
    operations = [
        # SQLite would make the table anew for this field, and its triggers would be gone.
        migrations.SeparateDatabaseAndState(
            [
                migrations.RunSQL(
                    "ALTER TABLE work_try RENAME COLUMN takes_back_id TO undoes_id",
                    "ALTER TABLE work_try RENAME COLUMN undoes_id TO takes_back_id",
                )
            ],
            [migrations.RenameField("try", "takes_back", "undoes")],
        ),
        migrations.AlterField("try", "kind", KINDS),
        migrations.RunPython(rename("taken_back", "undone"), rename("undone", "taken_back")),
    ]
