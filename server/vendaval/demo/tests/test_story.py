"""The demo's story is what the application itself makes of its simulated learners."""

from datetime import timedelta

import numpy as np
from django.core.management import CommandError
from django.test import TestCase, override_settings
from django.utils import timezone

from vendaval.authoring.bank.lines import figures_of
from vendaval.authoring.models import BankLine
from vendaval.bank.models import Course
from vendaval.levels.learning import Learning
from vendaval.levels.rebuild import rebuilt_state
from vendaval.people.models import User
from vendaval.work.models import Run, Try
from vendaval.work.tests.builders import learning_for, run_command
from vendaval_core.authoring.standing import needs

HIDING = ("over-the-ground", "past-midnight", "minutes-to-run")


def met(learning: Learning) -> int:
    return sum(topic.met_at is not None for topic in learning.row.topics.values())


class DemoTests(TestCase):
    told: str

    @classmethod
    def setUpTestData(cls) -> None:
        cls.told = run_command("demo")

    def test_three_learners_at_three_places(self) -> None:
        course, now = Course.objects.get(key="inshore"), timezone.now()
        rita, ines, tomas = (
            learning_for(User.objects.get(username=name), course)
            for name in ("rita", "ines", "tomas")
        )
        self.assertEqual(rita.row.answers, 0)
        self.assertTrue(2 <= met(ines) <= 6)
        self.assertEqual(met(tomas), course.topics.count() - 1)
        self.assertTrue(Run.objects.filter(enrolment=ines.enrolment, ended_at=None).exists())
        here = Try.objects.filter(enrolment__until=None)
        first, last = here.earliest("at").at, here.latest("at").at
        self.assertTrue(now - timedelta(days=24) < first < last < now)
        for learning in (ines, tomas):
            rebuilt = rebuilt_state(learning.enrolment.pk, learning.bank)
            np.testing.assert_allclose(rebuilt.rows, learning.state.rows, atol=1e-9)
        self.assertIn("states equal the log’s", run_command("check_states"))

    def test_the_bank_says_what_three_questions_hide(self) -> None:
        lines = BankLine.objects.filter(course__key="inshore", family__key__in=HIDING)
        found = {line.family.key: needs(figures_of(line))[0].says for line in lines}
        self.assertIn("Able learners get it wrong more often", found["over-the-ground"])
        self.assertIn("versions are not equally hard", found["past-midnight"])
        self.assertIn("unexpected wrong answers are miles * 100 / speed", found["minutes-to-run"])

    def test_a_second_start_keeps_what_was_done(self) -> None:
        self.assertIn("Demo data is loaded.", self.told)
        rita = User.objects.get(username="rita")
        rita.display_name = "Rita, changed by hand"
        rita.save()
        tries = Try.objects.count()
        again = run_command("demo")
        self.assertIn("The course is as it was loaded.", again)
        self.assertIn("kept", again)
        rita.refresh_from_db()
        self.assertEqual(rita.display_name, "Rita, changed by hand")
        self.assertEqual(Try.objects.count(), tries)

    @override_settings(DEMO_ACCOUNTS=False)
    def test_it_does_not_run_where_demo_accounts_are_off(self) -> None:
        with self.assertRaisesMessage(CommandError, "demo accounts are switched off"):
            run_command("demo")
