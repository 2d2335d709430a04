"""A first try adds its seconds, ten minutes at most, to its family's: with the insert, so that an
answer needs no further query for it. What was tried before is added up here.

SQLite makes a table that is altered anew, without its triggers, so these are put back.
"""

from django.db import migrations

TABLES = ("evidence_try", "evidence_levelrecord", "evidence_helpopened")


def append_only(table: str) -> migrations.RunSQL:
    name = f"{table}_append_only"
    return migrations.RunSQL(
        [
            f"DROP TRIGGER IF EXISTS {name};",
            f"CREATE TRIGGER {name} BEFORE UPDATE ON {table} "
            f"BEGIN SELECT RAISE(ABORT, '{table} is only ever added to'); END;",
        ],
        migrations.RunSQL.noop,
    )


FAMILY_TIME = migrations.RunSQL(
    "CREATE TRIGGER evidence_try_family_time AFTER INSERT ON evidence_try WHEN NEW.first "
    "BEGIN UPDATE bank_family SET timed_answers = timed_answers + 1, "
    "timed_seconds = timed_seconds + MIN(NEW.seconds, 600.0) WHERE id = NEW.family_id; END;",
    "DROP TRIGGER evidence_try_family_time;",
)
SO_FAR = migrations.RunSQL(
    'UPDATE bank_family SET timed_answers = (SELECT COUNT(*) FROM evidence_try t '
    'WHERE t.family_id = bank_family.id AND t."first"), timed_seconds = (SELECT '
    'COALESCE(SUM(MIN(t.seconds, 600.0)), 0) FROM evidence_try t '
    'WHERE t.family_id = bank_family.id AND t."first");',
    migrations.RunSQL.noop,
)


class Migration(migrations.Migration):
    dependencies = [
        ("evidence", "0004_outcomes_and_reasons"),
        ("bank", "0002_calibration_and_figures"),
    ]
    operations = [*(append_only(table) for table in TABLES), FAMILY_TIME, SO_FAR]
