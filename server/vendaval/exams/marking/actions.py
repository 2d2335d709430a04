"""Marks given by persons: kept as they are given, and release to the learner together or one by
one."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from fractions import Fraction

from django.db import transaction
from django.utils.translation import gettext

from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval.shared.changes import until_stored
from vendaval.shared.editing import editing
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval.work.activity import activities
from vendaval.work.marking import Given, mark_by_hand
from vendaval.work.models import MarkRule
from vendaval_core.items.rich_text import length
from vendaval_core.scoring.criteria import criteria_problems, criteria_share
from vendaval_core.words import some_of

from ..attempts import handed_in_attempts
from ..columns import MarkingData, NoteInText
from ..models import (
    AnswerSoFar,
    Assignment,
    Attempt,
    Criteria,
    MarkerRole,
    Marking,
    SecondMarker,
)
from ..points import Placed, opened_places, recount_points
from ..taking.handing_in import release_results
from .moderating import sampled
from .schemas import CriteriaIn, MarkIn, SecondMarkerEdit, SecondMarkerIn
from .to_mark import PartToMark, criteria_edit, one_part, own_criteria, text_of, to_mark


def role_of(assignment: Assignment, person: User) -> MarkerRole:
    """As whom somebody marks a test."""
    second = SecondMarker.objects.filter(assignment=assignment, person=person).exists()
    return MarkerRole.SECOND if second else MarkerRole.FIRST


def mark_answer(
    assignment: Assignment, answer_id: int, part_id: str, wanted: MarkIn, by: User
) -> None:
    """Keep what a marker gives a part. Conflict where another marking came in between that this
    marker has not seen: theirs stands, and this one is not lost in their browser."""
    part = one_part(assignment, answer_id, part_id)
    _refuse_role(assignment, part, wanted, by)
    data = MarkingData(
        points=wanted.points,
        share=_share(part, wanted),
        comment=wanted.comment.strip(),
        notes=_within(part, wanted),
    )
    with transaction.atomic():
        # The answer is locked, not the markings: two first ones have no row yet to meet at.
        AnswerSoFar.objects.select_for_update().get(pk=answer_id)
        newest = _newest(answer_id, part_id, wanted.role)
        if newest is not None and (wanted.after is None or newest.pk > wanted.after):
            who = newest.by.display_name if newest.by is not None else "Somebody"
            raise Conflict(
                (
                    gettext(
                        "{who} marked this meanwhile. Look at their mark, then save yours if "
                        "you still want to."
                    ).format(who=who)
                ),
                code="marked_elsewhere",
            )
        Marking.objects.create(
            answer_id=answer_id, part=part_id, role=wanted.role, by=by, data=data, at=clock.now()
        )


def _newest(answer_id: int, part_id: str, role: MarkerRole) -> Marking | None:
    """The marking of a role that counts."""
    rows = Marking.objects.filter(answer=answer_id, part=part_id, role=role, withdrawn_at=None)
    return rows.order_by("-pk").first()


def undo_mark(
    assignment: Assignment, answer_id: int, part_id: str, marking_id: int, by: User
) -> None:
    """Undo what one gave last, as if it had not been given; the one before counts again. Done
    again it changes nothing. Conflict once somebody has gone on from it."""
    part = one_part(assignment, answer_id, part_id)
    with transaction.atomic():
        AnswerSoFar.objects.select_for_update().get(pk=answer_id)
        rows = Marking.objects.filter(answer=answer_id, part=part_id, by=by)
        marking = rows.filter(pk=marking_id).first()
        if marking is None:
            raise NotFound(gettext("You didn’t give this mark."))
        if marking.withdrawn_at is not None:
            return
        out = part.answer.attempt.released_at
        newest = _newest(answer_id, part_id, MarkerRole(marking.role))
        settled = marking.role != MarkerRole.AGREED and MarkerRole.AGREED in part.given
        if settled or newest != marking or (out is not None and marking.at <= out):
            raise Conflict(
                gettext("This mark has been used since. Give a new one."), code="mark_used"
            )
        marking.withdrawn_at = clock.now()
        marking.save(update_fields=["withdrawn_at"])


def _refuse_role(assignment: Assignment, part: PartToMark, wanted: MarkIn, by: User) -> None:
    role = role_of(assignment, by)
    if wanted.role is MarkerRole.AGREED:
        if not (MarkerRole.FIRST in part.given and MarkerRole.SECOND in part.given):
            raise Conflict(
                gettext("Both markers must mark it before they can agree."), code="not_both"
            )
    elif wanted.role is not role:
        raise Conflict(
            gettext("You mark this as the {role}.").format(role=role.label), code="other_role"
        )


def _share(part: PartToMark, wanted: MarkIn) -> Fraction:
    if part.criteria:
        problems = criteria_problems(part.criteria, wanted.points)
        share = Fraction(0) if problems else criteria_share(part.criteria, wanted.points)
    else:
        given = wanted.points.get(0)
        right = given is not None and len(wanted.points) == 1 and 0 <= given <= part.of
        problems = {} if right else {"0": gettext("0 to {of} points").format(of=part.of)}
        share = given / part.of if right and given is not None else Fraction(0)
    if problems:
        fields = {f"points.{number}": says for number, says in problems.items()}
        raise Unprocessable(gettext("You can’t give these points."), fields=fields)
    return share


def _within(part: PartToMark, wanted: MarkIn) -> list[NoteInText]:
    size = length(text_of(part))
    if any(note.at + note.length > size for note in wanted.notes):
        raise Unprocessable(
            gettext("A comment is outside the text."), fields={"notes": gettext("outside the text")}
        )
    return wanted.notes


def set_criteria(assignment: Assignment, family: str, part: str, wanted: CriteriaIn) -> None:
    """Criteria for a part in the place of its author's. Once something was marked by those before,
    they stay: Conflict."""
    parts = to_mark(handed_in_attempts(assignment), own_criteria(assignment.test_id)).values()
    same = [
        one
        for of in parts
        for one in of
        if one.key.id == part and one.answer.presentation.revision.family.key == family
    ]
    if not same:
        raise NotFound(gettext("There’s nothing to mark here."))
    if any(one.given for one in same):
        raise Conflict(
            gettext("Answers have already been marked with these criteria."), code="marked"
        )
    test = assignment.test
    kept = Criteria.objects.filter(test=test, family=family, part=part)
    with editing(test, wanted, lambda: criteria_edit(kept.all(), part)):
        if wanted.criteria:
            Criteria.objects.update_or_create(
                test=test, family=family, part=part, defaults={"criteria": wanted.criteria}
            )
        else:
            kept.delete()


def second_edit(second: SecondMarker | None) -> SecondMarkerEdit:
    """Who marks a second time, as a change of it would be sent."""
    sample = None if second is None or second.sample is None else len(second.sample)
    return SecondMarkerEdit.model_construct(
        person=second.person_id if second else None, sample=sample
    )


def set_second_marker(assignment: Assignment, wanted: SecondMarkerIn) -> None:
    """Ask another tutor of the group to mark a second time, or nobody any more."""
    rows = SecondMarker.objects.filter(assignment=assignment)
    with editing(assignment, wanted, lambda: second_edit(rows.first())):
        if wanted.person is None:
            rows.delete()
            return
        tutor = assignment.group.tutors.filter(person=wanted.person, until=None).first()
        if tutor is None:
            raise NotFound(gettext("This tutor doesn’t teach this group."))
        asked_before = rows.filter(person=tutor.person_id).exists()
        row, _ = SecondMarker.objects.update_or_create(
            assignment=assignment,
            defaults={
                "person_id": tutor.person_id,
                "sample": None if wanted.sample is None else sampled(assignment, wanted.sample),
            },
        )
    if not asked_before:
        path = f"/tutor/work/{assignment.group_id}/{assignment.pk}/marking"
        for follower in activities().asked_to_mark:
            follower(row.person, assignment.test.title, path)


def is_changed(attempt: Attempt, parts: Iterable[PartToMark]) -> bool:
    """Whether an attempt whose marks are out was marked otherwise since."""
    out = attempt.released_at
    return out is not None and any(part.changed_since(out) for part in parts)


def release_marks(
    assignment: Assignment, wanted: Collection[int] | None, by: User, waived: str = ""
) -> int:
    """Release marks: of the attempts named, or of every one that is wholly marked and not out, or
    marked otherwise since. Where a second marker was asked, that means by both. Returns how many
    attempts it was done for.

    waived: why the attempts named go out without the second marking; kept by name in the log.
    """
    second = SecondMarker.objects.filter(assignment=assignment).first()
    if second is not None and second.person_id == by.pk:
        raise Conflict(gettext("The first marker releases the marks."), code="second_marker")
    attempts = [one for one in handed_in_attempts(assignment) if wanted is None or one.pk in wanted]
    if wanted is not None and len(attempts) < len(set(wanted)):
        raise NotFound(gettext("We can’t find this attempt."))
    parts = to_mark(attempts, own_criteria(assignment.test_id))
    by_attempt: dict[int, list[PartToMark]] = {}
    for of in parts.values():
        by_attempt.setdefault(of[0].answer.attempt_id, []).extend(of)
    lacking = [
        one
        for one in attempts
        if second is not None
        and second.marks(one.pk)
        and not all(p.marked_twice for p in by_attempt.get(one.pk, []))
    ]
    if wanted is not None:
        _refuse_differing(attempts, by_attempt)
        _waive(lacking, waived, by)
    ready = [
        one
        for one in attempts
        if wanted is not None or (one not in lacking and _ready(one, by_attempt.get(one.pk, [])))
    ]
    places = opened_places(ready)
    for attempt in ready:
        _let_out(attempt, by_attempt.get(attempt.pk, []), places[attempt.pk], by)
    return len(ready)


def _waive(lacking: Sequence[Attempt], why: str, by: User) -> None:
    """Conflict for attempts that the second marker has not marked, unless somebody says why they
    go out without; who that was is in the log."""
    if not lacking:
        return
    if not why:
        names = some_of([one.enrolment.person.display_name for one in lacking])
        raise Conflict(
            gettext(
                "The second marker hasn’t marked {names} yet. Say why, to release without it."
            ).format(names=names),
            code="second_missing",
        )
    for one in lacking:
        says = f"{one.test.title}: {why}"
        audit(AuditKind.WAIVED, account=one.enrolment.person, by=by, says=says)


def _ready(attempt: Attempt, parts: Sequence[PartToMark]) -> bool:
    whole = all(part.counts for part in parts)
    return whole and (attempt.released_at is None or is_changed(attempt, parts))


def _refuse_differing(attempts: list[Attempt], parts: dict[int, list[PartToMark]]) -> None:
    names = [
        one.enrolment.person.display_name
        for one in attempts
        if any(part.differ for part in parts.get(one.pk, []))
    ]
    if names:
        raise Conflict(
            gettext("The two markers disagree on {names}. Agree on a mark first.").format(
                names=some_of(names)
            ),
            code="markers_differ",
        )


def _let_out(
    attempt: Attempt, parts: Sequence[PartToMark], places: Sequence[Placed], by: User
) -> None:
    """Bring the markings of an attempt to its marks, its levels and misses, and its points. Each
    question is stored by itself, and what is there already is not stored again."""
    questions = {one.answer.pk: one.question for one in places}
    given: dict[int, dict[str, Given]] = {}
    for part in parts:
        question, marking = questions.get(part.answer.pk), part.counts
        if marking is None or question is None:
            continue
        mark = question.marks[question.tries[-1].pk][part.key.id]
        if mark.rule != MarkRule.PERSON or mark.share != str(marking.data.share):
            one = Given(marking.data.share, marking.data.comment)
            given.setdefault(part.answer.pk, {})[part.key.id] = one
    for answer, new in given.items():
        mark_by_hand(questions[answer].tries[-1], new, by)

    def work() -> Attempt:
        row = Attempt.objects.select_related("enrolment__course", "enrolment__person", "run").get(
            pk=attempt.pk
        )
        row.run.enrolment, row.run.attempt = row.enrolment, row
        was_out = row.released_at is not None
        recount_points(row, clock.now())
        release_results(row, clock.now())
        if not was_out:
            for follower in activities().marks_released:
                follower(row.run)
        return row

    until_stored(work)
