"""Some weeks of the whole circle: what must be so; the figures are read from `simulate`."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np

from vendaval_core.measure.posterior import Prior
from vendaval_core.measure.response import ResponseCurve
from vendaval_core.simulate.circle import (
    Choice,
    Circle,
    CircleFamily,
    Told,
)
from vendaval_core.simulate.circle_summary import (
    circle_summary,
    forecasts_by_tenths,
    mean_error,
    share,
)
from vendaval_core.simulate.pupil import Crowd, crowd_of
from vendaval_core.simulate.weeks import run_circle

TOPICS = 3


def circle(**more: object) -> Circle:
    families = tuple(
        CircleFamily(f"{topic}-{n}", topic, ResponseCurve(1.3, b), n < 3, 50, 60)
        for topic in range(TOPICS)
        for n, b in enumerate((-1.2, -0.4, 0.4, 1.2))
    )
    kept: dict[str, object] = {
        "prior": Prior.of_course([0] * TOPICS, mean=0.8, sd=1.0, within=0.5, across=0.3),
        "families": families,
        "targets": (75.0,) * TOPICS,
        "importance": (1.0,) * TOPICS,
        "learners": 9,
        "days": 18,
    }
    return Circle(**(kept | more))  # type: ignore[arg-type]


class WeeksTests(unittest.TestCase):
    def test_a_third_is_not_as_the_model_thinks_and_all_is_told_again_the_same(self) -> None:
        kinds = [crowd_of(Crowd.MIXED, number) for number in range(30)]
        self.assertEqual(kinds.count(Crowd.LIKE), 20)
        self.assertEqual(len(set(kinds)), 6)
        one, other = (run_circle(circle(), np.arange(9)) for _ in range(2))
        self.assertEqual(one, other)

    def test_days_are_as_long_as_they_are_and_what_was_met_is_rechecked(self) -> None:
        courses = run_circle(circle(days=18), np.arange(9))
        for course in courses:
            self.assertEqual(len(course.met_by_day), 18)
            self.assertEqual(course.met_by_day, sorted(course.met_by_day))
            self.assertLessEqual(course.answered, 18 * (20 * 60 / 78 + 1))
            early = [topic for topic, (day, _) in course.met.items() if day <= 9]
            self.assertGreaterEqual(course.held + course.lost, len(early))
        self.assertGreater(sum(len(course.met) for course in courses), 5)
        self.assertGreater(sum(course.mended for course in courses), 0)

    def test_what_is_recommended_beats_chance(self) -> None:
        met = {}
        for choice in Choice:
            courses = run_circle(circle(choice=choice, minutes=8.0, days=16), np.arange(16))
            met[choice] = sum(sum(course.met_by_day) for course in courses)
        self.assertGreater(met[Choice.RECOMMENDED], met[Choice.RANDOM])

    def test_the_figures(self) -> None:
        wanted = circle(crowd=Crowd.GIVE_UP)
        found: Any = circle_summary(wanted, {"give_up": run_circle(wanted, np.arange(9))})
        own = found["crowds"]["give_up"]
        self.assertEqual((own["learners"], len(own["met_by_day"])), (9, 18))
        self.assertEqual(own["interval_80_holds"]["end"]["of"], 9 * TOPICS)
        self.assertEqual(set(own["recheck_finds_held_at"]), {"90", "60", "50"})
        tenths = forecasts_by_tenths([Told(7, 0.62, True), Told(7, 0.68, False)])
        self.assertEqual(tenths, [{"said": 0.65, "came": 0.5, "count": 2}])
        self.assertAlmostEqual(mean_error(tenths), 0.15)

    def test_the_error_of_a_share_is_over_people(self) -> None:
        """Two people of ten answers each who are always right and always wrong know no more than
        two coins: the ratio estimator's error (Cochran 1977, chapter 2, from memory)."""
        self.assertEqual(share([10, 0], [10, 10]), {"share": 0.5, "se": 0.354, "of": 20})
        self.assertIsNone(share([0], [0]))
