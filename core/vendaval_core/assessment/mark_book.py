"""A learner's mark in a term: from the shares of the work in its categories, in exact fractions.

Work counts the same within its category, and categories by their weights. Unreleased work counts
for nobody, in no figure: so that no learner, and nobody who reads over a tutor's shoulder, can
work it out from the difference of two. Common practice, no published source.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from .scale import Scale

NOTHING, ALL = Fraction(0), Fraction(1)


class CellState(StrEnum):
    """Where one learner is with one piece of work. waiting: handed in, not marked. held: marked,
    not released. missing: it can't be handed in any more. not_given: it isn't theirs."""

    MARKED = "marked"
    OPEN = "open"
    WAITING = "waiting"
    HELD = "held"
    MISSING = "missing"
    EXCUSED = "excused"
    NOT_GIVEN = "not_given"


UNDECIDED = frozenset({CellState.OPEN, CellState.WAITING, CellState.HELD})


class MissingWork(StrEnum):
    """What missing work counts as: nothing, so that the rest decides, or zero."""

    NOTHING = "nothing"
    ZERO = "zero"


@dataclass(frozen=True, slots=True)
class Entry:
    """One learner's cell. share: of the points, 0 to 1, where it is marked and released."""

    standing: CellState
    share: Fraction | None = None


@dataclass(frozen=True, slots=True)
class Category:
    """Work that counts together. drop: how many of the lowest don't count. columns: keys of its
    work, in order."""

    key: str
    weight: Fraction
    drop: int
    columns: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Book:
    """How the marks of a term come about. Weights needn't add up to anything."""

    categories: tuple[Category, ...]
    missing: MissingWork = MissingWork.NOTHING


@dataclass(frozen=True, slots=True)
class CategoryPart:
    """What a category brings. mean: share, 0 to 1, None while nothing in it counts."""

    category: str
    weight: Fraction
    mean: Fraction | None
    counted: tuple[str, ...]
    dropped: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Worked:
    """A mark and how it was worked out. share: 0 to 1, None before anything counts."""

    share: Fraction | None
    parts: tuple[CategoryPart, ...]

    @property
    def dropped(self) -> frozenset[str]:
        """Columns that are left out as the lowest."""
        return frozenset(key for part in self.parts for key in part.dropped)


Entries = Mapping[str, Entry]


def worked_out(book: Book, entries: Entries) -> Worked:
    """Return the mark so far. entries: one learner's, by column; work without one isn't theirs."""
    known = {key: _share(one, book) for key, one in entries.items()}
    shares = {key: share for key, share in known.items() if share is not None}
    parts = tuple(_part(category, shares) for category in book.categories)
    return Worked(_weighted(parts), parts)


def possible(book: Book, entries: Entries) -> tuple[Fraction, Fraction] | None:
    """Return the lowest and the highest share the mark can still become, by what is undecided;
    None where nothing counts and nothing will.

    With every undecided piece at 0, and at 1: a mean without its lowest never falls when one of its
    values rises.
    """
    ends = []
    for share in (NOTHING, ALL):
        filled = {
            key: Entry(CellState.MARKED, share) if one.standing in UNDECIDED else one
            for key, one in entries.items()
        }
        ends.append(worked_out(book, filled).share)
    low, high = ends
    return None if low is None or high is None else (low, high)


def needed(
    book: Book, entries: Entries, column: str, goal: Fraction, scale: Scale
) -> Fraction | None:
    """Return the least mark in one undecided column that makes the mark `goal` or better, all else
    as it is now; None where even the highest doesn't."""

    def reaches(mark: Fraction) -> bool:
        filled = {**entries, column: Entry(CellState.MARKED, mark / scale.most)}
        share = worked_out(book, filled).share
        return share is not None and scale.mark(share) >= goal

    marks = scale.marks()
    if not reaches(marks[-1]):
        return None
    low, high = 0, len(marks) - 1
    while low < high:
        middle = (low + high) // 2
        if reaches(marks[middle]):
            high = middle
        else:
            low = middle + 1
    return marks[low]


@dataclass(frozen=True, slots=True)
class Outlook:
    """What one undecided piece of work can change. now: the mark so far. keeps: the least mark in
    it that keeps that. goal, reaches: the next mark worth aiming at, the pass mark or the start of
    a band, and the least mark that reaches it; None where it can't."""

    now: Fraction
    keeps: Fraction
    goal: Fraction | None
    reaches: Fraction | None


def outlook(book: Book, entries: Entries, column: str, scale: Scale) -> Outlook | None:
    """Return what `column` can change; None while there is no mark, or it can change nothing."""
    worked = worked_out(book, entries)
    counts = any(column in one.columns and one.weight > 0 for one in book.categories)
    if worked.share is None or not counts or entries[column].standing not in UNDECIDED:
        return None
    now = scale.mark(worked.share)
    keeps = needed(book, entries, column, now, scale)
    assert keeps is not None, "the highest mark never lowers a mean"
    goals = [band.least for band in scale.bands]
    goals += [] if scale.pass_mark is None else [scale.pass_mark]
    goal = min((one for one in goals if one > now), default=None)
    reaches = None if goal is None else needed(book, entries, column, goal, scale)
    return Outlook(now, keeps, goal if reaches is not None else None, reaches)


def _share(entry: Entry, book: Book) -> Fraction | None:
    if entry.standing is CellState.MISSING:
        return NOTHING if book.missing is MissingWork.ZERO else None
    return entry.share if entry.standing is CellState.MARKED else None


def _part(category: Category, shares: Mapping[str, Fraction]) -> CategoryPart:
    """Of equal lowest ones, the earliest is left out. One piece of work always counts."""
    known = [key for key in category.columns if key in shares]
    drop = min(category.drop, max(0, len(known) - 1))
    dropped = frozenset(sorted(known, key=lambda key: shares[key])[:drop])
    counted = tuple(key for key in known if key not in dropped)
    mean = sum((shares[key] for key in counted), NOTHING) / len(counted) if counted else None
    left_out = tuple(key for key in known if key in dropped)
    return CategoryPart(category.key, category.weight, mean, counted, left_out)


def _weighted(parts: Sequence[CategoryPart]) -> Fraction | None:
    known = [(part.weight, part.mean) for part in parts if part.mean is not None]
    weight = sum((weight for weight, _ in known), NOTHING)
    return sum((w * mean for w, mean in known), NOTHING) / weight if weight else None
