"""Marks by persons: criteria, and how far two markers agree."""

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st
from sklearn.metrics import cohen_kappa_score

from vendaval_core.items.kinds.protocol import Criterion
from vendaval_core.measure.agreement import weighted_kappa
from vendaval_core.scoring.criteria import criteria_problems, criteria_share, points_of
from vendaval_core.scoring.moderation import moderated, sample_across

CRITERIA = (Criterion("Names the gear", 2), Criterion("Says how to stop", 1))
PAIRS = st.lists(st.tuples(st.integers(0, 4), st.integers(0, 4)), min_size=2, max_size=30)


class CriteriaTests(unittest.TestCase):
    def test_points_come_to_a_share(self) -> None:
        self.assertEqual(points_of(CRITERIA), 3)
        half = {0: Fraction(3, 2), 1: Fraction(0)}
        self.assertEqual(criteria_share(CRITERIA, half), Fraction(1, 2))
        self.assertEqual(criteria_share(CRITERIA, {}), 0)

    def test_no_more_than_a_criterion_is_worth(self) -> None:
        wrong = {0: Fraction(3), 1: Fraction(-1), 5: Fraction(1)}
        self.assertEqual(set(criteria_problems(CRITERIA, wrong)), {"0", "1", "5"})


class AgreementTests(unittest.TestCase):
    def test_a_table_worked_out_by_hand(self) -> None:
        """Two markers, four answers, points 0 to 2: one of them a point apart.

        Observed: 1 squared step in 4. By chance: rows (1, 1, 2), columns (1, 2, 1) over 4, squared
        steps 1·(1·2) + 4·(1·1) + 1·(1·1) + 1·(1·1) + 4·(2·1) + 1·(2·2) = 20, over 4 is 5.
        """
        found = weighted_kappa([0, 1, 2, 2], [0, 1, 2, 1], 2)
        self.assertAlmostEqual(found, 1 - 1 / 5)  # type: ignore[arg-type]

    def test_all_the_same_points_say_nothing(self) -> None:
        self.assertIsNone(weighted_kappa([2, 2, 2], [2, 2, 2], 3))
        self.assertIsNone(weighted_kappa([], [], 3))

    @given(PAIRS)
    def test_as_scikit_learn_works_it_out(self, pairs: list[tuple[int, int]]) -> None:
        first, second = [a for a, _ in pairs], [b for _, b in pairs]
        found = weighted_kappa(first, second, 4)
        if found is not None:
            labels = list(range(5))
            theirs = cohen_kappa_score(first, second, labels=labels, weights="quadratic")
            self.assertAlmostEqual(found, theirs, places=9)


class ModerationTests(unittest.TestCase):
    def test_a_sample_over_the_whole_range(self) -> None:
        points = [Fraction(n) for n in (5, 1, 9, 3, 7)]
        self.assertEqual(sample_across(points, 3), [0, 1, 2], "the lowest, the middle, the highest")
        self.assertEqual(sample_across(points, 9), [0, 1, 2, 3, 4])
        self.assertEqual((sample_across(points, 1), sample_across(points, 0)), ([0], []))

    @given(
        st.lists(st.tuples(st.integers(0, 8), st.integers(1, 8)), min_size=1, max_size=6),
        st.fractions(-20, 20, max_denominator=4),
    )
    def test_points_move_by_what_was_said_and_no_further(
        self, criteria: list[tuple[int, int]], change: Fraction
    ) -> None:
        most = [Fraction(max(pair)) for pair in criteria]
        before = {n: Fraction(min(pair)) for n, pair in enumerate(criteria)}
        after = moderated(before, most, change)
        whole = sum(most, Fraction(0))
        wanted = min(whole, max(Fraction(0), sum(before.values(), Fraction(0)) + change))
        self.assertEqual(sum(after.values(), Fraction(0)), wanted)
        for number, points in after.items():
            self.assertTrue(0 <= points <= most[number])
