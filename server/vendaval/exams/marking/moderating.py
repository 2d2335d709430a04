"""Moderation: a sample of attempts for a second person, and a marker's points adjusted by name."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from statistics import fmean

from django.db import transaction
from django.utils.translation import gettext

from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.errors import Conflict
from vendaval_core.assessment.points import shown
from vendaval_core.scoring.moderation import moderated, sample_across

from ..attempts import handed_in_attempts
from ..columns import MarkingData
from ..models import AnswerSoFar, Assignment, MarkerRole, Marking
from .schemas import AdjustIn, MarkerLineOut
from .to_mark import PartToMark, own_criteria, to_mark


def _parts(assignment: Assignment) -> list[PartToMark]:
    attempts = handed_in_attempts(assignment)
    found = to_mark(attempts, own_criteria(assignment.test_id))
    return [part for parts in found.values() for part in parts]


def sampled(assignment: Assignment, count: int) -> list[int]:
    """Attempts for a second person, over the whole range of what the first marker gave. Conflict
    for fewer attempts than that."""
    reached: dict[int, Fraction] = {}
    for part in _parts(assignment):
        first = part.given.get(MarkerRole.FIRST)
        share = Fraction(0) if first is None else first.data.share
        pk = part.answer.attempt_id
        reached[pk] = reached.get(pk, Fraction(0)) + share * part.of
    if len(reached) < count:
        says = gettext("Only {there} attempts have something to mark.").format(there=len(reached))
        raise Conflict(says, code="too_few_attempts")
    attempts = sorted(reached)
    return [attempts[place] for place in sample_across([reached[pk] for pk in attempts], count)]


def markers_of(parts: Sequence[PartToMark]) -> list[MarkerLineOut]:
    """Whose points count, with how far they are above the other marker where both marked."""
    names: dict[int, str] = {}
    count: dict[int, int] = {}
    above: dict[int, list[float]] = {}
    for part in parts:
        counts = part.counts
        if counts is not None and counts.by is not None:
            names[counts.by.pk] = counts.by.display_name
            count[counts.by.pk] = count.get(counts.by.pk, 0) + 1
        first, second = (part.given.get(role) for role in (MarkerRole.FIRST, MarkerRole.SECOND))
        if first is not None and second is not None and first.by is not None:
            away = float((first.data.share - second.data.share) * part.of)
            above.setdefault(first.by.pk, []).append(away)
    return [
        MarkerLineOut(
            id=pk,
            name=name,
            answers=count[pk],
            above=round(fmean(above[pk]), 2) if pk in above else None,
        )
        for pk, name in sorted(names.items(), key=lambda one: one[1])
    ]


def adjust(assignment: Assignment, wanted: AdjustIn, by: User) -> int:
    """Add points to every answer whose counting points a marker gave. What was given stays in the
    history; marks that are out change once they are released again. Returns how many changed."""
    rows = []
    for part in _parts(assignment):
        marking = part.counts
        if marking is None or marking.by_id != wanted.marker:
            continue
        most = [Fraction(one.points) for one in part.criteria] or [Fraction(part.of)]
        points = moderated(marking.data.points, most, wanted.points)
        share = sum(points.values(), Fraction(0)) / part.of
        if share != marking.data.share:
            rows.append(_adjusted(part, marking, points, share, wanted, by))
    if not rows:
        raise Conflict(gettext("There’s nothing of this marker to adjust."), code="nothing_to_do")
    with transaction.atomic():
        answers = AnswerSoFar.objects.select_for_update().filter(
            pk__in={row.answer_id for row in rows}
        )
        list(answers.values_list("pk"))
        Marking.objects.bulk_create(rows)
        audit(AuditKind.ADJUSTED, by=by, says=f"{assignment.test.title}: {rows[0].data.adjusted}")
    return len(rows)


def _adjusted(
    part: PartToMark,
    marking: Marking,
    points: dict[int, Fraction],
    share: Fraction,
    wanted: AdjustIn,
    by: User,
) -> Marking:
    whose = "" if marking.by is None else marking.by.display_name
    change = ("+" if wanted.points > 0 else "") + shown(wanted.points)
    says = gettext("{change} on what {whose} gave, by {by}: {why}").format(
        change=change, whose=whose, by=by.display_name, why=wanted.why.strip()
    )
    data = marking.data.model_copy(
        update={"points": points, "share": share, "adjusted": says[:300]}
    )
    return Marking(
        answer=part.answer,
        part=part.key.id,
        role=marking.role,
        by=marking.by,
        data=MarkingData.model_validate(data.model_dump()),
        at=clock.now(),
    )
