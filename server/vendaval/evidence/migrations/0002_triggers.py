"""What the database itself holds to.

The try log and the levels shown are only ever added to. A first try adds its seconds, ten minutes
at most, to its family's: with the insert, so that an answer needs no further query for it.
"""

from django.db import migrations

TABLES = ("evidence_try", "evidence_levelrecord", "evidence_helpopened")


def append_only(table: str) -> migrations.RunSQL:
    name = f"{table}_append_only"
    return migrations.RunSQL(
        f"CREATE TRIGGER {name} BEFORE UPDATE ON {table} "
        f"BEGIN SELECT RAISE(ABORT, '{table} is only ever added to'); END;",
        f"DROP TRIGGER {name};",
    )


FAMILY_TIME = migrations.RunSQL(
    "CREATE TRIGGER evidence_try_family_time AFTER INSERT ON evidence_try WHEN NEW.first "
    "BEGIN UPDATE bank_family SET timed_answers = timed_answers + 1, "
    "timed_seconds = timed_seconds + MIN(NEW.seconds, 600.0) WHERE id = NEW.family_id; END;",
    "DROP TRIGGER evidence_try_family_time;",
)


class Migration(migrations.Migration):
    dependencies = [("evidence", "0001_initial")]
    operations = [*(append_only(table) for table in TABLES), FAMILY_TIME]
