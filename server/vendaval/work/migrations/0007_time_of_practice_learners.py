from django.db import migrations

from vendaval.shared.triggers import after_insert, dropped

TIMES = (
    "UPDATE bank_family SET timed_answers = timed_answers + 1, timed_seconds = "
    "timed_seconds + CASE WHEN NEW.seconds > 600.0 THEN 600.0 ELSE NEW.seconds END "
    "WHERE id = NEW.family_id"
)


class Migration(migrations.Migration):
    """How long a question usually takes: what practice learners take says nothing about it."""

    dependencies = [
        ("work", "0006_tests"),
        ("groups", "0001_initial"),
        ("people", "0004_practice_learner"),
    ]

    operations = [
        dropped(after_insert("work_try", "work_try_family_time", 'NEW."first"', TIMES)),
        after_insert(
            "work_try",
            "work_try_family_time",
            'NEW."first"',
            f"{TIMES} AND NOT EXISTS (SELECT 1 FROM groups_enrolment JOIN people_user "
            "ON people_user.id = groups_enrolment.person_id WHERE groups_enrolment.id = "
            "NEW.enrolment_id AND people_user.practice_for_id IS NOT NULL)",
        ),
    ]
