"""Points of tests. Values marked so are common practice, no published source."""

from __future__ import annotations

import statistics
import unittest
from datetime import UTC, datetime, timedelta
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from vendaval_core.assessment.comparison import compared
from vendaval_core.assessment.points import (
    Adjusted,
    QuestionPoints,
    band_of,
    kept_score,
    late_off,
    pays_from,
    question_points,
    shown,
    total_of,
    wrong_choices,
)
from vendaval_core.assessment.rules import USUAL_BANDS, LateWork, Rules, ScoreKept, SubmissionMode
from vendaval_core.items.kinds.choice import ChoiceKey, VersionChoice
from vendaval_core.items.versions import Version
from vendaval_core.scoring.tries import PartState, QuestionState

DUE = datetime(2026, 3, 2, 18, tzinfo=UTC)
FOUR_TRIES = Rules(submission=SubmissionMode.INDIVIDUAL, tries=4, off_per_miss=Fraction(1, 4))


def right_at(number: int) -> QuestionState:
    """One part, right at this try."""
    shares = (Fraction(0),) * (number - 1) + (Fraction(1),)
    return QuestionState({"a": PartState(tuple(map(str, shares)), shares)})


def points(of: int, reached: Fraction | int | None, section: int = 0) -> QuestionPoints:
    share = None if reached is None else Fraction(reached) / of
    return QuestionPoints(Fraction(of), section, share)


def one_of(choices: int, choose: int | None = 1, right: int = 1) -> Version:
    """A question of so many choices, the first of them right."""
    offered = tuple(VersionChoice(str(i), str(i), i < right, "") for i in range(choices))
    key = ChoiceKey("a", "Which?", offered, choose)
    return Version("f", 0, "", "", (key,), (), (), {})


class ArithmeticTests(unittest.TestCase):
    """Common practice, no published source."""

    def test_a_quarter_off_for_each_miss_of_four_tries(self) -> None:
        found = [
            question_points(Fraction(5), 0, right_at(number), FOUR_TRIES).reached
            for number in range(1, 6)
        ]
        self.assertEqual(found, [5, Fraction(15, 4), Fraction(5, 2), Fraction(5, 4), 0])
        self.assertEqual([shown(p) for p in found if p is not None][1], "3.75")

    def test_kept_scores(self) -> None:
        shares = [Fraction("0.2625"), Fraction(1)]
        found = {rule: kept_score(rule, shares) for rule in ScoreKept}
        self.assertEqual(
            {rule.value: shown(100 * kept.share) for rule, kept in found.items() if kept},
            {"first": "26.25", "best": "100", "latest": "100", "mean": "63.13"},
        )
        mean = found[ScoreKept.MEAN]
        assert mean is not None
        self.assertEqual(100 * mean.share, Fraction("63.125"))
        thirds = kept_score(ScoreKept.BEST, [Fraction(1, 3), Fraction(3, 3)])
        assert thirds is not None
        self.assertEqual((shown(100 * Fraction(1, 3)), shown(100 * thirds.share)), ("33.33", "100"))
        self.assertEqual(
            (thirds.attempt, thirds.says), (2, "of 2 attempts the best counts: the second")
        )
        self.assertIsNone(kept_score(ScoreKept.BEST, []))

    def test_sums_of_points(self) -> None:
        five = total_of([points(4, 4)] * 3 + [points(4, 0)] * 2)
        self.assertEqual((five.reached, five.of), (12, 20))
        ten = total_of([points(10, 10)] + [points(10, None)] * 9)
        self.assertEqual((ten.reached, ten.of, ten.marked, ten.waiting), (10, 100, 10, 9))

    def test_a_point_against_a_quarter_pays_above_a_fifth(self) -> None:
        self.assertEqual(pays_from(Fraction(1, 4)), Fraction(1, 5))
        rules, version = Rules(off_wrong=Fraction(1, 4)), one_of(5)
        earned = []
        for choice in "01234":
            share = Fraction(int(choice == "0"))
            state = QuestionState({"a": PartState((choice,), (share,))})
            wrong = wrong_choices(version, {"a": choice})
            earned.append(
                question_points(Fraction(1), 0, state, rules, wrong).reached or Fraction(0)
            )
        self.assertEqual(sum(earned), 0, "five equal choices without knowledge are worth nothing")


class RulesOfPointsTests(unittest.TestCase):
    def test_an_empty_answer_costs_nothing_and_no_question_falls_below_minus_its_points(
        self,
    ) -> None:
        rules, version = Rules(off_wrong=Fraction(1)), one_of(6, choose=None, right=2)
        empty = QuestionState({"a": PartState()})
        self.assertEqual(wrong_choices(version, {"a": "  "}), 0)
        self.assertEqual(question_points(Fraction(3), 0, empty, rules).reached, 0)
        wrong = wrong_choices(version, {"a": "2\n3\n4"})
        state = QuestionState({"a": PartState(("x",), (Fraction(0),))})
        self.assertEqual(wrong, 3)
        self.assertEqual(question_points(Fraction(3), 0, state, rules, wrong).reached, -3)

    def test_a_section_never_falls_below_0(self) -> None:
        found = total_of([points(2, -2, 0), points(2, 1, 0), points(2, 2, 1)])
        self.assertEqual((found.reached, found.per_cent), (2, Fraction(100, 3)))
        self.assertEqual(shown(found.scaled(20)), "6.67")

    def test_dropped_questions_leave_less_and_full_marks_are_for_everybody(self) -> None:
        dropped = QuestionPoints(Fraction(2), 0, Fraction(0), adjusted=Adjusted.DROPPED)
        full = QuestionPoints(Fraction(2), 0, Fraction(0), adjusted=Adjusted.FULL)
        found = total_of([points(2, 1), dropped, full])
        self.assertEqual((found.reached, found.of), (3, 4))

    def test_late_work_loses_a_part_for_each_day_begun(self) -> None:
        rules = Rules(late=LateWork.LESS, late_off=Fraction(1, 10))
        hours = {0: 0, -5: 0, 1: Fraction(1, 10), 24: Fraction(1, 10), 25: Fraction(2, 10), 999: 1}
        found = {h: late_off(rules, DUE, DUE + timedelta(hours=h)) for h in hours}
        self.assertEqual(found, hours)
        self.assertEqual(total_of([points(10, 8)], Fraction(1, 10)).reached, Fraction("7.2"))
        self.assertEqual(late_off(Rules(), DUE, DUE + timedelta(days=9)), 0)

    def test_what_waits_for_marks_is_neither_right_nor_wrong(self) -> None:
        waiting = QuestionState({"a": PartState(("text",), (None,), marked=False)})
        found = question_points(Fraction(4), 0, waiting, Rules())
        self.assertIsNone(found.reached)
        nothing = QuestionState({"a": PartState(marked=False)})
        self.assertEqual(question_points(Fraction(4), 0, nothing, Rules()).reached, 0)

    def test_an_answer_on_paper_waits_unless_all_of_it_was_typed(self) -> None:
        for typed, share in (
            (Fraction(0), None),
            (Fraction(1, 2), None),
            (Fraction(1), Fraction(1)),
        ):
            state = QuestionState({"a": PartState(("x",), (typed,))})
            found = question_points(Fraction(4), 0, state, Rules(), on_paper=True)
            self.assertEqual((found.share, found.empty), (share, False))

    def test_bands_and_numbers_as_shown(self) -> None:
        per_cents = [Fraction(0), Fraction("59.9"), Fraction(60), Fraction(80), Fraction(100)]
        found = [band_of(USUAL_BANDS, p) for p in per_cents]
        self.assertEqual(found, ["not yet", "not yet", "nearly", "ready", "ready"])
        self.assertEqual(
            [shown(Fraction(x)) for x in ("2", "2.5", "-0.125", "0")], ["2", "2.5", "−0.13", "0"]
        )
        self.assertEqual(shown(Fraction(200, 3)), "66.67")

    @given(
        st.lists(
            st.tuples(st.integers(1, 9), st.integers(0, 12), st.integers(0, 36), st.integers(0, 3)),
            min_size=1,
            max_size=12,
        )
    )
    def test_totals_lie_between_nothing_and_everything(
        self, rows: list[tuple[int, int, int, int]]
    ) -> None:
        found = total_of(
            [
                QuestionPoints(Fraction(of), section, Fraction(share, 12), Fraction(off, 12))
                for of, share, off, section in rows
            ]
        )
        self.assertTrue(0 <= found.reached <= found.of)
        self.assertTrue(0 <= found.per_cent <= 100)


class ComparingTests(unittest.TestCase):
    """Common practice, no published source; the median also by the standard library."""

    def test_fewer_than_ten_are_compared_with_nobody(self) -> None:
        shares = [Fraction(n, 20) for n in range(8)]
        self.assertIsNone(compared(Fraction(1, 2), shares))
        self.assertIsNotNone(compared(Fraction(1, 2), [*shares, Fraction(1)]))

    @given(
        st.fractions(0, 1, max_denominator=40),
        st.lists(st.fractions(0, 1, max_denominator=40), min_size=9, max_size=30),
    )
    def test_ones_own_is_among_all_in_order(self, own: Fraction, others: list[Fraction]) -> None:
        found = compared(own, others)
        assert found is not None
        self.assertEqual(list(found.per_cent), sorted(found.per_cent))
        self.assertEqual(len(found.per_cent), len(others) + 1)
        self.assertLessEqual(abs(found.per_cent[found.own] - 100 * own), Fraction(1, 2))
        middle = 100 * statistics.median([own, *others])
        self.assertLessEqual(abs(found.middle - middle), Fraction(1, 2))
