"""The demo's story is what the application itself makes of its simulated learners."""

from datetime import timedelta

import numpy as np
from django.test import TestCase
from django.utils import timezone

from vendaval.bank.actions import load_pack
from vendaval.demo.story import tell
from vendaval.evidence.models import Run, Try
from vendaval.evidence.rebuild import rebuilt_state
from vendaval.evidence.state import load_learning
from vendaval.evidence.tests.builders import inshore
from vendaval.people.models import User


class StoryTests(TestCase):
    def test_three_learners_at_three_places(self) -> None:
        course = load_pack(inshore())
        now = timezone.now()
        tell(course, now, lambda what: None)
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
