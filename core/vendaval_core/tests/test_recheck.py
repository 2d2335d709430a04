"""Rechecks: what is asked, when the next one comes, what is said."""

from unittest import TestCase

import numpy as np

from vendaval_core.mastery.practice import PracticeFamily
from vendaval_core.mastery.recheck import (
    has_held,
    is_secure,
    mixed,
    next_after,
    questions_more,
    recheck_families,
    recheck_reason,
    verdict_words,
)
from vendaval_core.measure.grid import THETA, normalised
from vendaval_core.measure.kernels import ChangeSettings
from vendaval_core.measure.rates import Paces


def family(key: str, last_seen: int, essential: bool = True) -> PracticeFamily:
    return PracticeFamily(key, essential, 50, 2, last_seen, 0.8)


class RecheckTests(TestCase):
    def test_four_questions_of_the_essential_families(self) -> None:
        many = [family(f"f{i}", 10 - i) for i in range(6)] + [family("extra", -1, False)]
        self.assertEqual(recheck_families(many), ["f5", "f4", "f3", "f2"])
        self.assertEqual(recheck_families(many[:3]), ["f2", "f1", "f0", "f2"])
        self.assertEqual(recheck_families([family("extra", 0, False)]), [])

    def test_topics_by_turns(self) -> None:
        self.assertEqual(mixed([["a", "b"], ["x", "y", "z"]]), ["a", "x", "b", "y", "z"])

    def next(self, held_for: float | None, above: float, forgets: float) -> float:
        """Days for somebody well measured, so far above their target (logits)."""
        mass = normalised(-0.5 * ((THETA - above) / 0.4) ** 2)
        paces = Paces(np.array([1.0]), np.array([forgets]), np.ones((1, 1)))
        return next_after(held_for, mass, 0.0, paces, ChangeSettings())

    def test_a_week_at_first_and_sooner_for_who_forgets_fast(self) -> None:
        """A week, then growing intervals: common practice, no published source."""
        self.assertEqual(self.next(None, 1.5, 0.0), 7)
        self.assertEqual(self.next(None, 0.6, 0.1), 3)
        self.assertTrue(is_secure(False, 7.0) and is_secure(True, 3.0))
        self.assertFalse(is_secure(False, 3.0))

    def test_intervals_grow_by_what_this_learner_forgets(self) -> None:
        found = [self.next(20, 1.5, forgets) for forgets in (0.0, 0.02, 0.05, 0.1)]
        self.assertEqual(found, sorted(found, reverse=True))
        self.assertEqual((found[0], found[-1]), (56, 10))
        self.assertEqual(self.next(7, 1.5, 0.0), 20, "at most three times as long as it held for")

    def test_in_doubt_two_more_up_to_eight(self) -> None:
        asked = [questions_more(n, 0.5) for n in (3, 4, 6, 7, 8)]
        self.assertEqual(asked, [0, 2, 2, 1, 0])
        self.assertEqual([questions_more(4, chance) for chance in (0.2, 0.9)], [0, 0])
        self.assertEqual([has_held(c) for c in (0.69, 0.7, 0.95)], [False, True, True])

    def test_words(self) -> None:
        self.assertEqual(
            recheck_reason(["Tidal terms"], [8.2], 0.78),
            "Tidal terms: you reached the target eight days ago. By now we’re about 8 in 10 sure "
            "that you still know it. Four questions or a few more will show.",
        )
        several = recheck_reason(["Tidal terms", "Buoyage"], [8, 22], 0.61)
        self.assertTrue(several.startswith("You reached two targets up to 22 days ago."))
        self.assertIn("about 6 in 10 sure of the least certain of them. Eight questions", several)
        self.assertIn(
            "The next check is in 14 days", verdict_words("Buoyage", 14, held=True, secure=True)
        )
        self.assertIn("Practise it again", verdict_words("Buoyage", 0, held=False, secure=False))
