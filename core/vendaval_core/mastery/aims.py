"""What somebody works towards in a course: targets, importance, what was taught, and by when.

A group says it for its members, and a learner for themselves where every group of theirs allows
it. Common practice, no published source.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from fractions import Fraction


@dataclass(frozen=True, slots=True)
class GroupAims:
    """What a group works towards.

    targets: per cent, and importance: 1 is ordinary, by topic key where they are not the course's.
    not_taught: topics that have not been taught so far. tries, miss_takes: in practice, what each
    miss takes off (0 to 1). asks_sure: whether confidence is asked. own: whether members may set
    targets and a date of their own.
    """

    targets: Mapping[str, float] = field(default_factory=dict)
    importance: Mapping[str, float] = field(default_factory=dict)
    not_taught: frozenset[str] = frozenset()
    exam_on: date | None = None
    tries: int = 3
    miss_takes: Fraction = Fraction(1, 3)
    asks_sure: bool = True
    own: bool = True


@dataclass(frozen=True, slots=True)
class OwnAims:
    """What a learner set for themselves. minutes: that they mean to work, from Monday to Sunday;
    empty when they have not said."""

    targets: Mapping[str, float] = field(default_factory=dict)
    exam_on: date | None = None
    minutes: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class Aims:
    """What holds for a learner, all groups and their own wishes together. exams: every date that
    was named, earliest first. own: whether their own wishes count."""

    targets: Mapping[str, float] = field(default_factory=dict)
    importance: Mapping[str, float] = field(default_factory=dict)
    not_taught: frozenset[str] = frozenset()
    exams: tuple[date, ...] = ()
    minutes: tuple[int, ...] = ()
    tries: int = 3
    miss_takes: Fraction = Fraction(1, 3)
    asks_sure: bool = True
    own: bool = True


def _highest(values: Sequence[Mapping[str, float]]) -> dict[str, float]:
    found: dict[str, float] = {}
    for one in values:
        for key, value in one.items():
            found[key] = max(value, found.get(key, value))
    return found


def combined(groups: Sequence[GroupAims], own: OwnAims) -> Aims:
    """Return the aims of a learner in these groups.

    Of several groups, the higher target and importance, the more tries and the smaller penalty
    apply; what one group has been taught, its learner has been taught. The learner's own targets
    and date count where every group allows them. The minutes a day are always the learner's.
    """
    allowed = all(group.own for group in groups)
    targets = _highest([group.targets for group in groups])
    dates = {group.exam_on for group in groups if group.exam_on is not None}
    if allowed:
        targets |= own.targets
        dates |= {own.exam_on} if own.exam_on is not None else set()
    return Aims(
        targets=targets,
        importance=_highest([group.importance for group in groups]),
        not_taught=frozenset.intersection(*(g.not_taught for g in groups))
        if groups
        else frozenset(),
        exams=tuple(sorted(dates)),
        minutes=own.minutes,
        tries=max((group.tries for group in groups), default=3),
        miss_takes=min((group.miss_takes for group in groups), default=Fraction(1, 3)),
        asks_sure=any(group.asks_sure for group in groups) or not groups,
        own=allowed,
    )


def next_exam(exams: Sequence[date], today: date) -> date | None:
    """Return the earliest date that has not passed, or None."""
    return min((day for day in exams if day >= today), default=None)
