"""Rechecks: what is asked, when the next one comes, what is said."""

from unittest import TestCase

from vendaval_core.mastery.practice import PracticeFamily
from vendaval_core.mastery.recheck import (
    has_held,
    mixed,
    next_after,
    recheck_families,
    recheck_reason,
    verdict_words,
)


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

    def test_seven_days_then_twice_as_long(self) -> None:
        """Growing intervals after seven days: common practice, no published source."""
        days = [7.0]
        for _ in range(3):
            days.append(next_after(days[-1]))
        self.assertEqual(days, [7, 14, 28, 56])
        self.assertEqual([has_held(c) for c in (0.69, 0.7, 0.95)], [False, True, True])

    def test_words(self) -> None:
        self.assertEqual(
            recheck_reason(["Tidal terms"], [8.2]),
            "Tidal terms: you reached the target eight days ago. "
            "Four questions will show if you still know it.",
        )
        several = recheck_reason(["Tidal terms", "Buoyage"], [8, 22])
        self.assertTrue(several.startswith("You reached two targets up to 22 days ago."))
        self.assertIn("Eight questions will show if you still know them. We’re less sure", several)
        self.assertIn("The next check is in 14 days", verdict_words("Buoyage", True, 14))
        self.assertIn("Practise it again", verdict_words("Buoyage", False, 0))
