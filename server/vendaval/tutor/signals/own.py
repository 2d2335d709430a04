"""What is worth asking single learners, from the latest of their own answers."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta

from vendaval.bank.models import Family
from vendaval.bank.snapshot import CourseBank
from vendaval.levels.models import Observation
from vendaval.shared import clock
from vendaval.work.models import Mark, TryKind
from vendaval.work.questions import typical_seconds
from vendaval_core.mastery.signal_words import (
    SLACK,
    TERM_ANSWERS,
    Asking,
    SignalKind,
    ask_fast,
    ask_misfit,
    ask_rapid,
    ask_second,
)
from vendaval_core.measure.personfit import Answered, fit_at_mode
from vendaval_core.measure.signals import Counted, Timed

TERM = timedelta(days=120)
FIT_WINDOW = 60
MOST_ROWS = 20_000
# By enrolment and kind, after when only answers are looked at.
Since = Mapping[tuple[int, str], datetime]


@dataclass(frozen=True, slots=True)
class _First:
    """A first answer as it counts now."""

    tried: int
    family: int
    outcome: int
    of: int
    weight: float
    seconds: float
    at: datetime

    @property
    def right(self) -> bool:
        return self.outcome == self.of - 1


@dataclass(slots=True)
class Lately:
    """The latest answers of some learners: first ones, the newest first, and at which
    presentations a second try was right or not, with when."""

    firsts: dict[int, list[_First]] = field(default_factory=lambda: defaultdict(list))
    seconds: dict[int, list[tuple[bool, datetime]]] = field(
        default_factory=lambda: defaultdict(list)
    )
    usual: dict[int, float] = field(default_factory=dict)


def answers_of(enrolments: Iterable[int], bank: CourseBank) -> Lately:
    """What some learners answered in a term; three queries however many they are."""
    ids, since, found = list(enrolments), clock.now() - TERM, Lately()
    seen = Observation.objects.in_force().filter(enrolment__in=ids, tried__at__gte=since)
    rows = seen.exclude(outcome=None).order_by("-tried_id")
    columns = ("tried_id", "family_id", "outcome", "of", "weight", "tried__seconds", "tried__at")
    for enrolment, *row in rows.values_list("enrolment_id", *columns)[:MOST_ROWS]:
        if len(found.firsts[enrolment]) < TERM_ANSWERS:
            found.firsts[enrolment].append(_First(*row))
    found.seconds = _second_tries(ids, since)
    for family in Family.objects.filter(course=bank.course_id).only(
        "key", "timed_answers", "timed_seconds"
    ):
        live = bank.families.get(family.key)
        if live is not None:
            found.usual[family.pk] = typical_seconds(family, live.family.seconds)
    return found


def _second_tries(ids: list[int], since: datetime) -> dict[int, list[tuple[bool, datetime]]]:
    marks = Mark.objects.filter(
        tried__enrolment__in=ids,
        tried__number=2,
        tried__kind=TryKind.ANSWER,
        tried__at__gte=since,
    ).order_by("pk")
    columns = ("tried__enrolment_id", "tried_id", "tried__at", "part", "verdict")
    parts: dict[tuple[int, int, datetime], dict[str, bool]] = defaultdict(dict)
    for enrolment, tried, at, part, verdict in marks.values_list(*columns)[:MOST_ROWS]:
        parts[enrolment, tried, at][part] = verdict == "right"
    found: dict[int, list[tuple[bool, datetime]]] = defaultdict(list)
    for (enrolment, _, at), verdicts in parts.items():
        found[enrolment].append((all(verdicts.values()), at))
    return found


def _others(enrolment: int, lately: Lately) -> Counted:
    """How often others of the group were right at the second try."""
    rows = [
        right for own, tries in lately.seconds.items() if own != enrolment for right, _ in tries
    ]
    return Counted(sum(rows), len(rows))


def asked_of(enrolment: int, lately: Lately, bank: CourseBank, looked: Since) -> list[Asking]:
    """What is worth asking one learner. Answers before a signal was looked at say nothing new."""

    def firsts(kind: SignalKind) -> list[_First]:
        after = looked.get((enrolment, kind))
        rows = lately.firsts.get(enrolment, [])
        return [row for row in rows if after is None or row.at > after]

    def timed(kind: SignalKind) -> list[Timed]:
        return [
            Timed(
                max(row.seconds, 0.05) / lately.usual[row.family],
                row.right,
                bank.past[row.family].curve.c,
            )
            for row in firsts(kind)
            if row.family in lately.usual
        ]

    second = firsts(SignalKind.SECOND)
    after = looked.get((enrolment, SignalKind.SECOND))
    tried = [right for right, at in lately.seconds.get(enrolment, []) if not after or at > after]
    answered = [
        Answered(family.topic, family.curve, row.outcome)
        for row in firsts(SignalKind.MISFIT)[:FIT_WINDOW]
        if row.weight > 0 and not (family := bank.past[row.family]).curve.steps
    ]
    prior = bank.prior
    fit = fit_at_mode(answered, prior.mean, prior.covariance, SLACK) if answered else None
    asked = (
        ask_rapid(timed(SignalKind.RAPID)),
        ask_fast(timed(SignalKind.FAST)),
        ask_second(
            Counted(sum(row.right for row in second), len(second)),
            Counted(sum(tried), len(tried)),
            _others(enrolment, lately),
        ),
        ask_misfit(fit),
    )
    return [one for one in asked if one is not None]
