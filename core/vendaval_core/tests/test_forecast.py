"""The plan to a date, against paths played one by one and against what must be so."""

from __future__ import annotations

import unittest

import numpy as np

from vendaval_core.mastery.forecast import MOST_DAYS, TopicAhead, forecasts
from vendaval_core.measure.kernels import ChangeSettings
from vendaval_core.measure.posterior import LearnerState, Posterior, Prior, infer
from vendaval_core.measure.rates import Paces, paces_of
from vendaval_core.measure.response import ResponseCurve

CHANGE = ChangeSettings()
PACES = paces_of(None, CHANGE)
CURVES = tuple(ResponseCurve(1.3, b) for b in (-1.2, -0.4, 0.4, 1.2))


def learner(means: list[float], sd: float = 0.6) -> Posterior:
    prior = Prior.of_course([0] * len(means), mean=0, sd=sd, within=0.3, across=0.3)
    shifted = Prior.of(np.array(means), prior.covariance)
    return infer(shifted, LearnerState.of(shifted))[0]


def ahead(target: float = 1.0, left: int = 6, met: bool = False) -> TopicAhead:
    return TopicAhead(target, 60, left, 0.0, met, CURVES)


class ForecastTests(unittest.TestCase):
    def test_more_time_and_a_lower_target_never_hurt(self) -> None:
        posterior = learner([0.0, 0.5, -0.5])
        topics = [ahead(), ahead(), ahead()]
        plans = np.array([[10.0] * 30, [20.0] * 30, [40.0] * 30])
        found = forecasts(posterior, PACES, topics, [0, 1, 2], plans, CHANGE, seed=3)
        met = [float(one.by_topic.sum()) for one in found]
        self.assertEqual(met, sorted(met))
        self.assertLess(met[0], met[2])
        easier = forecasts(
            posterior, PACES, [ahead(-1.0)] * 3, [0, 1, 2], plans[:1], CHANGE, seed=3
        )
        self.assertGreater(float(easier[0].by_topic.sum()), met[0])

    def test_minutes_are_spent_as_planned_and_days_off_are_kept(self) -> None:
        plan = np.array([[20.0, 0.0, 20.0, 0.0, 20.0]])
        (found,) = forecasts(
            learner([-1.0] * 4), PACES, [ahead(2.0)] * 4, [3, 1, 0, 2], plan, CHANGE, 1
        )
        by_day = found.minutes.sum(axis=1)
        np.testing.assert_allclose(by_day[[0, 2, 4]], 20, atol=1.01)
        np.testing.assert_array_equal(by_day[[1, 3]], 0)
        self.assertEqual(int(found.minutes[0].argmax()), 3, "what is recommended first comes first")
        self.assertTrue(np.all(np.diff(found.met_by_day[:, 0]) >= 0))
        self.assertTrue(np.all(found.met_by_day[:, 1] <= found.met_by_day[:, 2]))

    def test_what_is_met_stays_and_no_days_bring_nothing(self) -> None:
        topics = [ahead(met=True), ahead()]
        (found,) = forecasts(learner([0.0, 0.0]), PACES, topics, [1], np.zeros((1, 0)), CHANGE, 1)
        np.testing.assert_array_equal(found.by_topic, [1, 0])
        self.assertEqual(found.deciding(), [1])
        (capped,) = forecasts(learner([0.0, 0.0]), PACES, topics, [1], np.ones((1, 900)), CHANGE, 1)
        self.assertEqual(len(capped.met_by_day), MOST_DAYS)

    def test_the_same_seed_tells_the_same(self) -> None:
        plan = np.full((1, 12), 25.0)
        one, other = (
            forecasts(learner([0.2, 0.0]), PACES, [ahead(), ahead()], [0, 1], plan, CHANGE, 7)[0]
            for _ in range(2)
        )
        np.testing.assert_array_equal(one.by_topic, other.by_topic)
        self.assertEqual(one.all_met, other.all_met)

    def test_rechecks_take_their_minutes_on_days_of_work_and_come_at_growing_intervals(
        self,
    ) -> None:
        met = TopicAhead(1.0, 60, 0, 3.0, True, CURVES, recheck=(2.0, 7.0))
        plan = np.array([[20.0] * 2 + [0.0, 20.0] + [20.0] * 16])
        (found,) = forecasts(learner([3.0, -2.0]), PACES, [met, ahead(30.0)], [1], plan, CHANGE, 1)
        spent = found.minutes.sum(axis=1)
        self.assertEqual(spent[2], 0)
        less = [day for day in (0, 1, *range(3, 20)) if spent[day] < 18]
        self.assertEqual(less, [3, 19], "a day late, after 8 days; then after twice as many")
        np.testing.assert_allclose(spent[less], 16, atol=1.01)

    def test_who_learns_faster_and_forgets_less_is_promised_more(self) -> None:
        plan = np.full((1, 30), 20.0)
        said = []
        for pace, forgets in ((0.0, 0.05), (0.0, 0.0), (1.0, 0.0), (3.2, 0.0)):
            paces = Paces(np.array([pace]), np.array([forgets]), np.ones((1, 1)))
            (found,) = forecasts(
                learner([0.0] * 4), paces, [ahead()] * 4, [0, 1, 2, 3], plan, CHANGE, 5
            )
            said.append(float(found.by_topic.mean()))
        self.assertEqual(said, sorted(said))
        self.assertLess(said[1], 0.4)
        self.assertGreater(said[3], 0.9)

    def test_mending_takes_its_minutes(self) -> None:
        """Four misses are mended before practice begins: less of it fits into the same days."""
        topics = [TopicAhead(1.0, 60, 6, 0.0, False, CURVES, misses=n) for n in (4, 0)]
        plan = np.full((1, 1), 6.0)
        (found,) = forecasts(learner([0.0, 0.0]), PACES, topics, [1, 0], plan, CHANGE, 1)
        np.testing.assert_allclose(found.minutes[0], [4, 2], atol=0.3)

    def test_coverage_is_waited_for(self) -> None:
        """However able, twenty right answers take at least twenty questions of a minute each."""
        plan = np.array([[10.0]])
        (found,) = forecasts(learner([4.0]), PACES, [ahead(0.0, left=20)], [0], plan, CHANGE, 1)
        self.assertEqual(found.all_met, 0.0)
