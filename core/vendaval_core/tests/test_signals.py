"""Signals held against what they are worked out from by hand and by going through all cases."""

import unittest
from itertools import product

from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.stats import binom

from vendaval_core.measure.signals import (
    Counted,
    Timed,
    answer_chance,
    at_least,
    fast_and_high,
    for_pairs,
    omega,
    rapid_and_low,
    second_try_only,
)
from vendaval_core.simulate.signals import fast, misfit, rapid, same_answers, second

CHANCES = st.lists(st.floats(0.01, 0.99), min_size=1, max_size=9)


class TimeTests(unittest.TestCase):
    def test_rapid_guesses_are_asked_about_and_rapid_knowledge_is_not(self) -> None:
        slow = [Timed(1.0, True)] * 17
        guesses = [Timed(0.05, False, 0.25)] * 4
        self.assertEqual(rapid_and_low(slow + guesses), Counted(4, 21))
        self.assertIsNone(rapid_and_low(slow + [Timed(0.05, True, 0.25)] * 4))
        self.assertIsNone(rapid_and_low(slow + guesses[:2]), "effort of 0.90 is effort")
        self.assertIsNone(rapid_and_low(guesses), "four answers say nothing")

    def test_fast_and_right_nearly_always(self) -> None:
        self.assertEqual(fast_and_high([Timed(0.3, True)] * 20), Counted(20, 20))
        self.assertIsNone(fast_and_high([Timed(0.4, True)] * 20), "that is a quick learner")
        self.assertIsNone(fast_and_high([Timed(0.3, n % 2 > 0) for n in range(20)]))

    def test_right_at_the_second_try_again_and_again(self) -> None:
        """Twelve of twelve by chance: 0.6 to the twelfth is 0.0022; nine of nine 0.0101."""
        self.assertEqual(second_try_only(Counted(2, 14), Counted(12, 12)), Counted(12, 12))
        self.assertIsNone(second_try_only(Counted(2, 11), Counted(9, 9)))
        self.assertIsNone(second_try_only(Counted(12, 24), Counted(12, 12)))


class SameAnswerTests(unittest.TestCase):
    def test_chances_of_answers(self) -> None:
        wrong = {"b": 3, "c": 0}
        self.assertEqual(answer_chance(0.7, "a", "a", wrong), 0.7)
        self.assertAlmostEqual(answer_chance(0.7, "b", "a", wrong), 0.3 * 4 / 6)
        self.assertAlmostEqual(answer_chance(0.7, "z", "a", wrong), 0.3 * 1 / 6)

    def test_omega_by_hand(self) -> None:
        """Four answers with a half each: two expected, spread one; all four are two spreads."""
        self.assertAlmostEqual(omega(4, [0.5] * 4), 2.0)
        self.assertAlmostEqual(at_least(4, [0.5] * 4), 1 / 16)
        self.assertEqual((for_pairs(0.002, 190), for_pairs(0.1, 190)), (0.38, 1.0))

    @settings(max_examples=40, deadline=None)
    @given(CHANCES, st.integers(0, 9))
    def test_as_all_cases_say(self, chances: list[float], matches: int) -> None:
        total = 0.0
        for case in product((0, 1), repeat=len(chances)):
            if sum(case) >= matches:
                chance = 1.0
                for same, one in zip(case, chances, strict=True):
                    chance *= one if same else 1 - one
                total += chance
        self.assertAlmostEqual(at_least(matches, chances), total, places=9)


class SimulatedTests(unittest.TestCase):
    def test_honest_learners_are_left_alone_and_planted_ones_found(self) -> None:
        """The whole run, with its figures, is in docs/measurement.md. Of a few hundred honest ones
        as many are asked about here as one of a hundred explains."""
        for found in (rapid(300, 1), fast(300, 1), second(300, 1), misfit(200, 1)):
            by_chance = float(binom.ppf(0.99, found.learners, 0.02)) / found.learners
            for crowd, share in found.honest.items():
                self.assertLessEqual(share, by_chance, (found.signal, crowd))
            self.assertGreater(found.planted, 0.75, found.signal)
        found = same_answers(6, 1)
        for crowd, share in found.honest.items():
            self.assertLessEqual(share, 0.04, crowd)
        self.assertGreater(found.planted, 0.0)
