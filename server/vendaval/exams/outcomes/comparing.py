"""A test beside its other sittings: in other groups of the same tutor, and its mirror."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from statistics import fmean

from django.db.models import Q
from django.utils.translation import gettext

from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.groups.queries import taught_by
from vendaval.people.models import User
from vendaval_core.assessment.rules import ScoreKept
from vendaval_core.measure.analysis.beside import differs
from vendaval_core.measure.analysis.spread import spread_of

from ..assigning.assigned import mirror_of_test
from ..models import Assignment, Attempt
from .gathering import kept_attempt
from .schemas import BesideOut, ComparedQuestionOut, SittingsComparedOut

MOST = 8
READ = ("enrolment", "assignment", "test", "number", "total", "places", "handed_in_at")


@dataclass(slots=True)
class Series:
    """One sitting: shares of the points by family, and results in per cent."""

    title: str
    per_cent: list[float] = field(default_factory=list)
    shares: dict[str, list[float]] = field(default_factory=dict)

    def add(self, attempt: Attempt) -> None:
        """Count the attempt of one more learner."""
        assert attempt.total is not None, "only marked ones are counted"
        self.per_cent.append(float(100 * attempt.total.core().share))
        for number, place in enumerate(attempt.places, 1):
            points = attempt.total.places.get(number)
            if points is not None and points.share is not None:
                self.shares.setdefault(place.family, []).append(float(points.share))


def comparison(assignment: Assignment, person: User) -> SittingsComparedOut:
    """Sittings of the same test that somebody may see, this one first. Four queries."""
    bank = course_bank(assignment.group.course)
    rows = Assignment.objects.filter(test=assignment.test_id, group__in=taught_by(person))
    others = rows.exclude(pk=assignment.pk).select_related("group").order_by("-pk")
    given = [assignment, *others[: MOST - 2]]
    mirror = mirror_of_test(assignment.test)
    series = _series(assignment, given, None if mirror is None else mirror.pk)
    here, rest = series[0], [one for one in series[1:] if one.per_cent]
    return SittingsComparedOut(
        sittings=[_out(one) for one in (here, *rest)],
        questions=_questions(here, rest, bank),
    )


def _series(
    assignment: Assignment, given: Sequence[Assignment], mirror: int | None
) -> list[Series]:
    wanted = Q(assignment__in=given)
    if mirror is not None:
        member = Q(enrolment__groups__group=assignment.group_id, enrolment__groups__until=None)
        wanted |= Q(test=mirror, assignment=None) & member
    rows = Attempt.objects.filter(wanted, marked=True, enrolment__person__practice_for=None)
    tried: dict[int | None, dict[int, list[Attempt]]] = {}
    for one in rows.order_by("number").only(*READ).distinct():
        own = tried.setdefault(one.assignment_id, {})
        own.setdefault(one.enrolment_id, []).append(one)
    rule = assignment.test.rules.core().score_kept
    found = [_counted(_title(one), tried.get(one.pk, {}), rule) for one in given]
    if mirror is not None:
        title = gettext("Its practice version")
        found.append(_counted(title, tried.get(None, {}), ScoreKept.FIRST))
    return found


def _title(assignment: Assignment) -> str:
    return gettext("{group}, {given_at:%-d %b}").format(
        group=assignment.group.title, given_at=assignment.given_at
    )


def _counted(title: str, tried: Mapping[int, list[Attempt]], rule: ScoreKept) -> Series:
    series = Series(title)
    for attempts in tried.values():
        kept, share = kept_attempt(attempts, rule)
        attempt = kept or (attempts[-1] if share is not None else None)
        if attempt is not None:
            series.add(attempt)
    return series


def _out(series: Series) -> BesideOut:
    spread = spread_of(series.per_cent, None)
    return BesideOut(
        title=series.title,
        attempts=len(series.per_cent),
        mean=None if spread is None else round(spread.mean),
        median=None if spread is None else round(spread.median),
        sd=None if spread is None else round(spread.sd),
    )


def _questions(here: Series, rest: Sequence[Series], bank: CourseBank) -> list[ComparedQuestionOut]:
    found = []
    for family, own in here.shares.items():
        item = bank.known(family)
        if item is None:
            continue
        others = [one.shares.get(family, []) for one in rest]
        elsewhere = [share for shares in others for share in shares]
        away = differs(own, elsewhere)
        found.append(
            ComparedQuestionOut(
                family=family,
                title=item.title,
                shares=[round(100 * fmean(s)) if s else None for s in (own, *others)],
                away=None if away is None else round(100 * away),
            )
        )
    return found
