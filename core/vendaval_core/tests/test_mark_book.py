"""The mark of a term. Check values are common practice, no published source."""

from __future__ import annotations

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from vendaval_core.assessment.mark_book import (
    Book,
    Category,
    CellState,
    Entry,
    MissingWork,
    needed,
    outlook,
    possible,
    worked_out,
)
from vendaval_core.assessment.mark_words import outlook_words, sum_words
from vendaval_core.assessment.rules import Band
from vendaval_core.assessment.scale import Scale, scale_problems

SCALE = Scale(
    bands=(Band("not yet", Fraction(0)), Band("good", Fraction(14))), pass_mark=Fraction(10)
)
OPEN, HELD, WAITING = (Entry(one) for one in (CellState.OPEN, CellState.HELD, CellState.WAITING))
MISSING, EXCUSED = Entry(CellState.MISSING), Entry(CellState.EXCUSED)


def marked(per_cent: int) -> Entry:
    return Entry(CellState.MARKED, Fraction(per_cent, 100))


def book(*categories: tuple[int, int, str], missing: MissingWork = MissingWork.NOTHING) -> Book:
    """weight, how many are dropped, and the columns, a letter each."""
    return Book(
        tuple(
            Category(f"c{n}", Fraction(weight), drop, tuple(columns))
            for n, (weight, drop, columns) in enumerate(categories)
        ),
        missing,
    )


def per_cent(book: Book, **entries: Entry) -> Fraction | None:
    share = worked_out(book, entries).share
    return None if share is None else 100 * share


class MarkTests(unittest.TestCase):
    """The check values of the design, and the edges beside them."""

    def test_check_values(self) -> None:
        three = book((50, 0, "a"), (30, 0, "b"), (20, 0, "c"))
        self.assertEqual(per_cent(three, a=marked(80), b=marked(70), c=marked(90)), 79)
        dropping = book((1, 1, "abc"))
        of = {"a": marked(40), "b": marked(60), "c": marked(80)}
        self.assertEqual(per_cent(dropping, **of), 70)
        self.assertEqual(worked_out(dropping, of).dropped, {"a"})
        self.assertEqual(per_cent(book((1, 0, "abc")), a=marked(60), b=EXCUSED, c=marked(80)), 70)
        self.assertEqual(per_cent(book((2, 0, "a"), (1, 0, "b")), a=marked(64), b=OPEN), 64)

    def test_what_counts_for_nothing(self) -> None:
        both = {"a": marked(80), "b": MISSING}
        self.assertEqual(per_cent(book((1, 0, "ab")), **both), 80)
        self.assertEqual(per_cent(book((1, 0, "ab"), missing=MissingWork.ZERO), **both), 40)
        for entry in (OPEN, HELD, WAITING, Entry(CellState.NOT_GIVEN)):
            self.assertEqual(per_cent(book((1, 0, "ab")), a=marked(80), b=entry), 80)
        self.assertIsNone(per_cent(book((1, 0, "ab"), (2, 0, "c")), a=EXCUSED, b=OPEN))
        self.assertIsNone(per_cent(book((0, 0, "a")), a=marked(80)), "a weight of nothing")

    def test_one_piece_of_work_is_always_left(self) -> None:
        self.assertEqual(per_cent(book((1, 3, "ab")), a=marked(40), b=marked(60)), 60)
        self.assertEqual(per_cent(book((1, 1, "ab")), a=marked(40), b=OPEN), 40)

    def test_rounded_once_and_half_up(self) -> None:
        self.assertEqual(Scale().mark(Fraction(29, 40)), 15, "14.5")
        self.assertEqual(Scale(step=Fraction(1, 2)).mark(Fraction(29, 40)), Fraction(29, 2))
        thirds = book((1, 0, "abc"))
        of = {key: Entry(CellState.MARKED, Fraction(29, 40)) for key in "abc"}
        self.assertEqual(Scale().mark(worked_out(thirds, of).share or Fraction(0)), 15)

    def test_scales_that_cannot_be(self) -> None:
        self.assertEqual(list(scale_problems(SCALE)), [])
        bad = Scale(Fraction(201), Fraction(1, 3), (Band("", Fraction(5)),), Fraction(300))
        self.assertEqual(
            [field for field, _ in scale_problems(bad)],
            ["most", "step", "pass_mark", "bands", "bands"],
        )


class OutlookTests(unittest.TestCase):
    def test_what_the_last_test_can_change(self) -> None:
        two = book((50, 0, "ab"), (50, 0, "c"))
        of = {"a": marked(60), "b": OPEN, "c": marked(60)}
        found = outlook(two, of, "b", SCALE)
        assert found is not None
        self.assertEqual((found.now, found.keeps, found.goal, found.reaches), (12, 10, 14, 18))
        self.assertEqual(
            outlook_words(found, "Docking", SCALE),
            "10 or more in “Docking” keeps it at 12. 18 or more raises it to 14 (“good”).",
        )
        self.assertIsNone(needed(two, of, "b", Fraction(18), SCALE), "out of reach")
        self.assertIsNone(outlook(two, of, "a", SCALE), "it is marked")

    def test_how_it_was_worked_out(self) -> None:
        two = book((50, 0, "a"), (30, 0, "b"))
        worked = worked_out(two, {"a": marked(71), "b": marked(80)})
        titles = {"c0": "Tests", "c1": "Quizzes"}
        self.assertEqual(
            sum_words(worked, SCALE, titles), "(50 × 14.2 + 30 × 16) ÷ 80 = 14.88, rounded to 15"
        )
        alone = worked_out(two, {"a": marked(70), "b": EXCUSED})
        self.assertEqual(sum_words(alone, SCALE, titles), "Tests: 14")


ENTRIES = st.one_of(
    st.integers(0, 100).map(marked), st.sampled_from([OPEN, HELD, WAITING, MISSING, EXCUSED])
)
BOOKS = st.builds(
    lambda weights, drops, missing: book(
        *((w, d, c) for w, d, c in zip(weights, drops, ("abc", "de", "f"), strict=True)),
        missing=missing,
    ),
    st.tuples(*[st.integers(1, 100)] * 3),
    st.tuples(*[st.integers(0, 2)] * 3),
    st.sampled_from(MissingWork),
)


class PropertyTests(unittest.TestCase):
    @given(BOOKS, st.fixed_dictionaries(dict.fromkeys("abcdef", ENTRIES)), st.data())
    def test_whatever_comes_stays_in_the_range(
        self, book: Book, entries: dict[str, Entry], data: st.DataObject
    ) -> None:
        range_ = possible(book, entries)
        filled = {
            key: marked(data.draw(st.integers(0, 100)))
            if one.standing in {CellState.OPEN, CellState.HELD, CellState.WAITING}
            else one
            for key, one in entries.items()
        }
        final = worked_out(book, filled).share
        if range_ is None:
            self.assertIsNone(final)
        else:
            assert final is not None
            self.assertLessEqual(range_[0], final)
            self.assertLessEqual(final, range_[1])

    @given(BOOKS, st.fixed_dictionaries(dict.fromkeys("abcdef", ENTRIES)), st.integers(0, 20))
    def test_the_least_mark_is_the_least(
        self, book: Book, entries: dict[str, Entry], goal: int
    ) -> None:
        """Against trying every mark."""
        entries = {**entries, "a": OPEN}
        every = [
            mark
            for mark in SCALE.marks()
            if SCALE.mark(
                worked_out(book, {**entries, "a": Entry(CellState.MARKED, mark / 20)}).share
                or Fraction(0)
            )
            >= goal
        ]
        found = needed(book, entries, "a", Fraction(goal), SCALE)
        self.assertEqual(found, min(every, default=None))
