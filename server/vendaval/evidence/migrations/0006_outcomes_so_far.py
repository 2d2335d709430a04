"""First tries that were stored before the log said of how many outcomes: a question then had one
more than it had marked parts."""

from django.db import migrations

NAME = "evidence_try_append_only"
UNMARKED = "('extended_text', 'drawing', 'upload')"
MARKED_PARTS = (
    "(SELECT COUNT(*) FROM evidence_presentation p "
    "JOIN bank_familyrevision r ON r.id = p.revision_id, json_each(r.data, '$.parts') part "
    "WHERE p.id = evidence_try.presentation_id "
    f"AND json_extract(part.value, '$.kind') NOT IN {UNMARKED})"
)


class Migration(migrations.Migration):
    dependencies = [("evidence", "0005_family_time")]
    operations = [
        migrations.RunSQL(
            [
                f"DROP TRIGGER {NAME};",
                f'UPDATE evidence_try SET outcomes = 1 + {MARKED_PARTS} '
                f'WHERE "first" AND outcomes = 2 AND {MARKED_PARTS} > 1;',
                f"CREATE TRIGGER {NAME} BEFORE UPDATE ON evidence_try "
                "BEGIN SELECT RAISE(ABORT, 'evidence_try is only ever added to'); END;",
            ],
            migrations.RunSQL.noop,
        )
    ]
