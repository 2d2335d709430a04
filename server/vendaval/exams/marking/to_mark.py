"""Which answers of a test a person has to mark, and what has been given for them so far."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from fractions import Fraction

from django.utils.translation import gettext

from vendaval.shared.errors import NotFound
from vendaval.work.questions import with_revisions
from vendaval_core.assessment.points import shown
from vendaval_core.items.kinds.protocol import Criterion, Key
from vendaval_core.items.rich_text import words_of
from vendaval_core.scoring.criteria import points_of

from ..attempts import handed_in_attempts
from ..by_person import Roles, parts_by_hand
from ..models import AnswerSoFar, Assignment, Attempt, Criteria, MarkerRole, Marking
from .schemas import CriteriaEdit, CriterionOut, MarkingOut, PartToMarkOut

WITHOUT_CRITERIA = 10
OwnCriteria = Mapping[tuple[str, str], Sequence[Criterion]]


@dataclass(slots=True)
class PartToMark(Roles):
    """A part of an answer for a person. of: points that a marker gives it. given: the newest
    marking of each role; latest: of any."""

    answer: AnswerSoFar
    key: Key
    criteria: Sequence[Criterion]
    latest: int | None = None

    @property
    def of(self) -> int:
        """Points that there are to be given."""
        return points_of(self.criteria) if self.criteria else WITHOUT_CRITERIA

    @property
    def marked_twice(self) -> bool:
        """Whether both markers gave points, and what differed is settled."""
        both = {MarkerRole.FIRST, MarkerRole.SECOND} <= self.given.keys()
        return both and not self.differ

    def changed_since(self, moment: datetime) -> bool:
        """Whether what counts was given after a moment."""
        return self.counts is not None and self.counts.at > moment


def own_criteria(test_id: int) -> OwnCriteria:
    """Criteria that tutors set for a test, by family and part."""
    rows = Criteria.objects.filter(test=test_id)
    return {(row.family, row.part): [one.core() for one in row.criteria] for row in rows}


def criteria_edit(rows: Iterable[Criteria], part: str) -> CriteriaEdit:
    """A tutor's criteria of one part, out of those of its question."""
    kept = next((row.criteria for row in rows if row.part == part), [])
    return CriteriaEdit.model_construct(criteria=kept)


def parts_of(answer: AnswerSoFar, own: OwnCriteria) -> list[PartToMark]:
    """Parts of an answer that a person marks, with what they are marked by."""
    family = answer.presentation.revision.family.key
    return [
        PartToMark(
            answer,
            key,
            own.get((family, key.id), key.by_person.criteria if key.by_person else ()),
        )
        for key in parts_by_hand(answer)
    ]


def to_mark(
    attempts: Iterable[Attempt], own: OwnCriteria, *, until: datetime | None = None
) -> dict[int, list[PartToMark]]:
    """By answer the parts of these attempts for a person, with what was given for them, or had been
    by some moment."""
    by_id = {one.pk: one for one in attempts}
    rows = AnswerSoFar.objects.filter(attempt__in=by_id).select_related("presentation")
    answers = list(rows.order_by("attempt", "number"))
    with_revisions(row.presentation for row in answers)
    for row in answers:
        row.attempt = by_id[row.attempt_id]
    found = {row.pk: parts for row in answers if (parts := parts_of(row, own))}
    places = {(part.answer.pk, part.key.id): part for parts in found.values() for part in parts}
    standing = Marking.objects.filter(answer__in=found, withdrawn_at=None)
    markings = standing.select_related("by").order_by("pk")
    if until is not None:
        markings = markings.filter(at__lte=until)
    for marking in markings:
        part = places.get((marking.answer_id, marking.part))
        if part is not None:
            part.given[MarkerRole(marking.role)] = marking
            part.latest = marking.pk
    return found


def one_part(assignment: Assignment, answer_id: int, part: str) -> PartToMark:
    """A part that a person marks, or NotFound."""
    attempts = handed_in_attempts(assignment, with_answer=answer_id)
    found = to_mark(attempts, own_criteria(assignment.test_id)).get(answer_id, [])
    for one in found:
        if one.key.id == part:
            return one
    raise NotFound(gettext("There’s nothing to mark here."))


def text_of(part: PartToMark) -> str:
    """What was written, as words: comments are anchored in it."""
    return words_of(part.answer.data.responses.get(part.key.id, ""))


def part_out(part: PartToMark, role: MarkerRole) -> PartToMarkOut:
    """A part as a marker of this role sees it: what the other gave only after their own."""
    own = role in part.given
    key = part.key
    text = text_of(part)
    on_paper = part.answer.data.on_paper
    return PartToMarkOut(
        part=key.id,
        label=key.label,
        kind="paper" if on_paper else key.by_person.shown_as if key.by_person else "extended_text",
        text=text,
        length=key.read_back(part.answer.data.responses.get(key.id, "")).says,
        criteria=criteria_out(part.criteria),
        of=part.of,
        first=_marking_out(part, MarkerRole.FIRST) if own else None,
        second=_marking_out(part, MarkerRole.SECOND) if own else None,
        agreed=_marking_out(part, MarkerRole.AGREED),
        latest=part.latest,
        differ=part.differ,
    )


def criteria_out(criteria: Sequence[Criterion]) -> list[CriterionOut]:
    """Criteria as they are shown."""
    return [CriterionOut(says=one.says, points=one.points) for one in criteria]


def _marking_out(part: PartToMark, role: MarkerRole) -> MarkingOut | None:
    row = part.given.get(role)
    if row is None:
        return None
    return MarkingOut(
        id=row.pk,
        role=role,
        by=row.by.display_name if row.by is not None else "",
        points={number: shown(points) for number, points in row.data.points.items()},
        reached=shown(Fraction(part.of) * row.data.share),
        comment=row.data.comment,
        notes=row.data.notes,
        adjusted=row.data.adjusted,
        at=row.at,
    )
