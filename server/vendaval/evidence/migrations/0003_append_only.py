"""The try log and the levels shown are only ever added to: the database itself refuses changes."""

from django.db import migrations

TABLES = ("evidence_try", "evidence_levelrecord", "evidence_helpopened")


def trigger(table: str) -> migrations.RunSQL:
    name = f"{table}_append_only"
    return migrations.RunSQL(
        f"CREATE TRIGGER {name} BEFORE UPDATE ON {table} "
        f"BEGIN SELECT RAISE(ABORT, '{table} is only ever added to'); END;",
        f"DROP TRIGGER {name};",
    )


class Migration(migrations.Migration):
    dependencies = [("evidence", "0002_initial")]
    operations = [trigger(table) for table in TABLES]
