"""The demo's story is what the application itself makes of its simulated learners."""

from datetime import timedelta

import numpy as np
from django.core.management import CommandError
from django.test import TestCase, override_settings
from django.utils import timezone

from vendaval.bank.queries import default_course
from vendaval.evidence.models import Run, Try
from vendaval.evidence.rebuild import rebuilt_state
from vendaval.evidence.state import load_learning
from vendaval.evidence.tests.builders import run_command
from vendaval.people.models import User


class DemoTests(TestCase):
    told: str

    @classmethod
    def setUpTestData(cls) -> None:
        cls.told = run_command("demo")

    def test_three_learners_at_three_places(self) -> None:
        course, now = default_course(), timezone.now()
        rita, ines, tomas = (
            load_learning(User.objects.get(username=name), course)
            for name in ("rita", "ines", "tomas")
        )
        self.assertEqual(rita.row.answers, 0)
        self.assertTrue(2 <= len(ines.row.met) <= 4)
        self.assertEqual(len(tomas.row.met), course.topics.count() - 1)
        self.assertTrue(Run.objects.filter(learner=ines.learner, ended_at=None).exists())
        first, last = Try.objects.earliest("at").at, Try.objects.latest("at").at
        self.assertTrue(now - timedelta(days=22) < first < last < now)
        for learning in (ines, tomas):
            rebuilt = rebuilt_state(learning.learner, learning.bank)
            np.testing.assert_allclose(rebuilt.rows, learning.state.rows, atol=1e-9)
        self.assertIn("2 learners' states equal the log's", run_command("check_states"))

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
