"""Where set work stands. Common practice, no published source."""

import unittest
from datetime import UTC, datetime, timedelta

from vendaval_core.mastery.pace import Pace, group_ratio
from vendaval_core.mastery.set_work import Progress, Standing, progress, standing

NOON = datetime(2026, 3, 2, 12, tzinfo=UTC)
HOUR = timedelta(hours=1)


class ProgressTests(unittest.TestCase):
    def test_more_of_one_thing_does_not_make_up_for_another(self) -> None:
        wanted = {"a": 2, "b": 2}
        made = progress(wanted, {"a": [NOON] * 5, "b": [NOON]})
        self.assertEqual((made.done, made.of, made.finished), (3, 4, None))

    def test_it_is_finished_with_the_last_of_what_was_wanted(self) -> None:
        times = [NOON + 3 * HOUR, NOON, NOON + HOUR]
        self.assertEqual(progress({"a": 2}, {"a": times}).finished, NOON + HOUR)
        self.assertEqual(progress({"a": 1, "b": 1}, {"a": times, "b": [NOON + HOUR]}).done, 2)


class StandingTests(unittest.TestCase):
    def stands(self, made: Progress, *, begun: bool = False, at: datetime = NOON) -> Standing:
        return standing(
            made,
            begun=begun,
            opens=NOON - HOUR,
            due=NOON + HOUR,
            closes=NOON + 2 * HOUR,
            now=at,
        )

    def test_each_state_in_its_time(self) -> None:
        nothing, all_of_it = Progress(0, 2), lambda at: Progress(2, 2, at)
        self.assertEqual(self.stands(nothing, at=NOON - 2 * HOUR), Standing.NOT_OPEN)
        self.assertEqual(self.stands(nothing), Standing.NOT_BEGUN)
        self.assertEqual(self.stands(nothing, begun=True), Standing.UNDER_WAY)
        self.assertEqual(self.stands(Progress(1, 2), at=NOON + HOUR), Standing.LATE)
        self.assertEqual(self.stands(nothing, at=NOON + 2 * HOUR), Standing.CLOSED)
        self.assertEqual(self.stands(all_of_it(NOON)), Standing.DONE)
        late = self.stands(all_of_it(NOON + 1.5 * HOUR), at=NOON + 1.6 * HOUR)
        self.assertEqual(late, Standing.DONE_LATE)
        after = self.stands(all_of_it(NOON + 3 * HOUR), at=NOON + 4 * HOUR)
        self.assertEqual(after, Standing.CLOSED)


class GroupPaceTests(unittest.TestCase):
    def test_minutes_of_a_group_are_the_mean_of_its_learners(self) -> None:
        ratio, known = group_ratio([Pace(2.0, 30), Pace(0.5, 30), Pace(4.0, 3)])
        self.assertAlmostEqual(ratio, 1.25)
        self.assertEqual(known, 2, "three answers say nothing yet")
        self.assertEqual(group_ratio([]), (1.0, 0))
