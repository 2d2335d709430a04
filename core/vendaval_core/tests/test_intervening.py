"""More time, pauses and reopening: what each gives and takes, to the second."""

from __future__ import annotations

import unittest
from datetime import timedelta

from vendaval_core.assessment.attempt import (
    HandedInBy,
    Refusal,
    as_of,
    entered,
    hand_in,
    left,
    refusal,
    resumed,
    seconds_left,
    signed,
)
from vendaval_core.assessment.clock import BACK_WITHIN, MOST_PAUSED
from vendaval_core.assessment.interventions import allowed_more, extended, paused, reopened
from vendaval_core.assessment.rules import ClockKind, Rules

from .test_attempts import PLACES, at, begun


class InterveningTests(unittest.TestCase):
    def test_more_time_reaches_an_attempt_under_way_and_takes_nothing(self) -> None:
        attempt = begun(Rules(minutes=10), 600, cut_off=1200)
        more = allowed_more(attempt, (900.0,), at(1500), at(500))
        self.assertEqual(seconds_left(more, at(500)), 400)
        self.assertEqual(more.cut_off, at(1500))
        less = allowed_more(more, (60.0,), at(520), at(510))
        self.assertEqual(less, more)
        over = as_of(attempt, at(700))
        self.assertEqual(allowed_more(attempt, (900.0,), None, at(700)), over, "too late")

    def test_a_pause_takes_nothing_and_gives_nothing(self) -> None:
        for clock in ClockKind:
            rules = Rules(clock=clock)
            attempt = paused(begun(rules, 600.0, cut_off=1000), at(40))
            self.assertEqual(attempt, paused(attempt, at(50)), "once is enough")
            self.assertIsNone(refusal(attempt, PLACES[0], 1, at(55)), "made before it began")
            self.assertEqual(refusal(attempt, PLACES[0], 1, at(56)), Refusal.PAUSED)
            self.assertIsNone(as_of(attempt, at(5000)).handed_in, "nothing ends it")
            self.assertEqual(seconds_left(attempt, at(5000)), 560.0)
            again = entered(attempt, 2, at(3000))
            for one, interval in ((attempt, 1), (again, 2)):
                on = signed(resumed(one, at(5040)), interval, at(5050))
                self.assertEqual(seconds_left(on, at(5050)), 550.0, (clock, interval))
                self.assertEqual(on.cut_off, at(6000))
                self.assertIsNone(refusal(on, PLACES[0], interval, at(5050)))

    def test_a_pause_that_nobody_ends_ends_by_itself(self) -> None:
        attempt = paused(begun(Rules(), 600.0), at(100))
        until = at(100) + MOST_PAUSED
        self.assertIsNone(as_of(attempt, until).handed_in)
        over = as_of(attempt, until + timedelta(seconds=500)).handed_in
        assert over is not None
        self.assertEqual((over.at, over.by), (until + timedelta(seconds=500), HandedInBy.CLOCK))

    def test_whoever_leaves_in_a_pause_has_not_handed_in(self) -> None:
        attempt = left(paused(begun(Rules(one_sitting=True), 900.0), at(10)), 1, at(20))
        self.assertIsNone(as_of(resumed(attempt, at(5000)), at(5001)).handed_in)
        stops = left(paused(begun(Rules(clock=ClockKind.STOPS), 900.0), at(10)), 1, at(20))
        on = resumed(stops, at(5000))
        self.assertEqual(seconds_left(on, at(9000)), 890.0, "the clock stands until they are back")

    def test_minutes_more_reach_the_stretch_that_goes_on_and_what_cuts_it_off(self) -> None:
        attempt = extended(begun(Rules(), 300.0, 300.0, cut_off=700), 120.0, at(10))
        self.assertEqual((attempt.limits, attempt.cut_off), ((420.0, 300.0), at(820)))
        over = hand_in(attempt, HandedInBy.LEARNER, at(20))
        self.assertEqual(extended(over, 60.0, at(30)), over)

    def test_reopened_it_goes_on_with_the_time_that_was_left(self) -> None:
        attempt = hand_in(begun(Rules(), 600.0, cut_off=900), HandedInBy.LEARNER, at(200))
        on = entered(reopened(attempt, 0, at(5000)), 2, at(5000))
        self.assertEqual((seconds_left(on, at(5000)), on.cut_off), (400.0, at(5700)))
        self.assertIsNone(refusal(on, PLACES[0], 2, at(5010)))
        over = as_of(begun(Rules(), 600.0), at(700))
        sitting = hand_in(begun(Rules(one_sitting=True)), HandedInBy.LEARNER, at(200))
        on = as_of(reopened(sitting, 0, at(5000)), at(5000) + BACK_WITHIN)
        self.assertEqual(on.handed_in and on.handed_in.at, at(5000) + BACK_WITHIN)
        again = as_of(reopened(over, 0, at(5000)), at(5000)).handed_in
        self.assertEqual((again and again.at), at(5000), "without a minute more it is over at once")
        more = as_of(reopened(over, 60.0, at(5000)), at(5001))
        self.assertEqual((more.handed_in, seconds_left(more, at(5001))), (None, 59.0))
