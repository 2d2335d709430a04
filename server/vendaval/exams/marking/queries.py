"""The marking of a test as markers see it, and as its learner does once marks are out."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction

from django.db.models import F
from django.utils.translation import gettext

from vendaval.bank.snapshot import version_of
from vendaval.delivery.disclosure import EVERYTHING
from vendaval.delivery.rich_html import Stretch, commented_html
from vendaval.groups.queries import taught_by
from vendaval.people.models import User
from vendaval.shared.editing import edit_version
from vendaval.shared.errors import NotFound
from vendaval.work.models import MarkRule
from vendaval.work.questions import Log, logs_of, tries_of
from vendaval.work.replies import shown_to_others, working_area
from vendaval_core.assessment.points import shown
from vendaval_core.items.randomness import SeededStream
from vendaval_core.measure.agreement import weighted_kappa

from ..attempts import handed_in_attempts
from ..by_person import Roles, count_by_hand, given_in
from ..columns import NoteInText
from ..models import AnswerSoFar, Assignment, Attempt, Criteria, MarkerRole, Page, SecondMarker
from .actions import is_changed, role_of, second_edit
from .moderating import markers_of
from .schemas import (
    AnswerToMarkOut,
    MarkedAttemptOut,
    MarkedPartOut,
    MarkedQuestionOut,
    MarkingQueueOut,
    PersonMarkOut,
    QuestionToMarkOut,
    TutorLineOut,
    WaitingMarksOut,
    WaitingTestLineOut,
)
from .to_mark import (
    PartToMark,
    criteria_edit,
    criteria_out,
    one_part,
    own_criteria,
    part_out,
    to_mark,
)

MOST = 30


def marking_queue(assignment: Assignment, person: User) -> MarkingQueueOut:
    """What of a test waits for a person."""
    attempts, role = handed_in_attempts(assignment), role_of(assignment, person)
    parts = list(to_mark(attempts, own_criteria(assignment.test_id)).values())
    second = SecondMarker.objects.filter(assignment=assignment).select_related("person").first()
    if second is not None and role is MarkerRole.SECOND:
        attempts = [one for one in attempts if second.marks(one.pk)]
        parts = [of for of in parts if second.marks(of[0].answer.attempt_id)]
    flat = [part for of in parts for part in of]
    tutors = assignment.group.tutors.filter(until=None).select_related("person").order_by("pk")
    return MarkingQueueOut(
        test=assignment.test.title,
        group=assignment.group.title,
        role=role,
        second=None
        if second is None
        else TutorLineOut(id=second.person_id, name=second.person.display_name),
        sample=second_edit(second).sample,
        markers=[] if role is MarkerRole.SECOND else markers_of(flat),
        second_version=edit_version(second_edit(second)),
        tutors=[TutorLineOut(id=one.person_id, name=one.person.display_name) for one in tutors],
        questions=_question_lines(parts, role),
        attempts=[_attempt_line(one, parts, role) for one in attempts],
    )


def waiting_marks(person: User) -> WaitingMarksOut:
    """Tests of a tutor's groups whose marks are not all out. It stands in every page's bar, so no
    version is made for it, and no answer is read but those that never were counted."""
    held = Attempt.objects.filter(
        assignment__group__in=taught_by(person),
        enrolment__groups__group=F("assignment__group"),
        enrolment__groups__until=None,
        enrolment__until=None,
        enrolment__person__practice_for=None,
        marked=True,
        released_at=None,
    )
    attempts = list(held.only("assignment", "by_hand", "handed_in_at").distinct())
    count_by_hand(attempts)
    given = given_in(one.pk for one in attempts)
    by_assignment: dict[int | None, list[Attempt]] = {}
    for one in attempts:
        by_assignment.setdefault(one.assignment_id, []).append(one)
    rows = Assignment.objects.filter(pk__in=by_assignment).select_related("test", "group")
    columns = rows.only("test__title", "group__title").values_list(
        "pk",
        "group",
        "group__title",
        "test__title",
        "second_marker__person",
        "second_marker__sample",
    )
    tests = []
    for pk, group, title, test, second, sample in columns:
        mine, own = second == person.pk, by_assignment[pk]
        if mine and sample is not None:
            own = [one for one in own if one.pk in sample]
        if own:
            tests.append(_waiting_line((pk, group, title, test), own, given, second=mine))
    return WaitingMarksOut(tests=sorted(tests, key=lambda one: one.since)[:MOST])


def _waiting_line(
    line: tuple[int, int, str, str],
    attempts: Sequence[Attempt],
    given: Mapping[int, Mapping[tuple[int, str], Roles]],
    *,
    second: bool,
) -> WaitingTestLineOut:
    role = MarkerRole.SECOND if second else MarkerRole.FIRST
    parts = {one.pk: given.get(one.pk, {}).values() for one in attempts}
    pk, group, group_title, test = line
    return WaitingTestLineOut(
        group=group,
        group_title=group_title,
        assignment=pk,
        test=test,
        waiting=sum(
            (one.by_hand or 0) - sum(role in part.given for part in parts[one.pk])
            for one in attempts
        ),
        held=sum(
            sum(part.counts is not None for part in parts[one.pk]) >= (one.by_hand or 0)
            for one in attempts
        ),
        since=min(one.handed_in_at for one in attempts if one.handed_in_at is not None),
    )


def _question_lines(parts: Sequence[list[PartToMark]], role: MarkerRole) -> list[MarkedQuestionOut]:
    """How far the asker's own marking is: a second marker sees nothing of how far the first is."""
    by_family: dict[str, list[PartToMark]] = {}
    for of in parts:
        key = of[0].answer.presentation.revision.family.key
        by_family.setdefault(key, []).extend(of)
    return [
        MarkedQuestionOut(
            family=key,
            title=_title(of[0].answer),
            parts=len(of),
            marked=sum(role in one.given for one in of),
            differ=sum(one.differ for one in of),
            agreement=_agreement(of),
        )
        for key, of in by_family.items()
    ]


def _title(answer: AnswerSoFar) -> str:
    row = answer.presentation
    return version_of(row.revision, row.seed, row.order).title


def _agreement(parts: Sequence[PartToMark]) -> float | None:
    """Agreement of two markers over what both marked, where all of it has the same points."""
    both = [
        (one.given[MarkerRole.FIRST].data.share, one.given[MarkerRole.SECOND].data.share, one.of)
        for one in parts
        if MarkerRole.FIRST in one.given and MarkerRole.SECOND in one.given
    ]
    if not both or len({of for _, _, of in both}) > 1:
        return None
    most = 2 * both[0][2]
    found = weighted_kappa(
        [round(first * most) for first, _, _ in both],
        [round(second * most) for _, second, _ in both],
        most,
    )
    return None if found is None else round(found, 2)


def _attempt_line(
    attempt: Attempt, parts: Sequence[list[PartToMark]], role: MarkerRole
) -> MarkedAttemptOut:
    own = [one for of in parts for one in of if one.answer.attempt_id == attempt.pk]
    return MarkedAttemptOut(
        attempt=attempt.pk,
        name=attempt.enrolment.person.display_name,
        parts=len(own),
        marked=sum(role in one.given for one in own),
        differ=sum(one.differ for one in own),
        out=attempt.released_at is not None,
        changed=is_changed(attempt, own),
    )


def question_to_mark(
    assignment: Assignment, family: str, person: User, *, hidden: bool
) -> QuestionToMarkOut:
    """Every answer to one question. hidden: without names, and in an order that tells nobody."""
    second = SecondMarker.objects.filter(assignment=assignment).first()
    is_second = second is not None and second.person_id == person.pk
    role = MarkerRole.SECOND if is_second else MarkerRole.FIRST
    every = handed_in_attempts(assignment)
    if second is not None and is_second:
        every = [one for one in every if second.marks(one.pk)]
    attempts = {one.pk: one for one in every}
    found = [
        of
        for of in to_mark(attempts.values(), own_criteria(assignment.test_id)).values()
        if of[0].answer.presentation.revision.family.key == family
    ]
    if not found:
        raise NotFound(gettext("There’s nothing to mark in this question."))
    if hidden:
        found = SeededStream("marking", assignment.pk, family).shuffled(found)
    else:
        found.sort(key=lambda of: of[0].answer.attempt.enrolment.person.display_name)
    pages: dict[int, list[Page]] = {}
    for page in Page.objects.filter(attempt__in=attempts).order_by("place"):
        pages.setdefault(page.attempt_id, []).append(page)
    own = list(Criteria.objects.filter(test=assignment.test, family=family))
    logs = logs_of([of[0].answer.presentation for of in found])
    return QuestionToMarkOut(
        test=assignment.test.title,
        group=assignment.group.title,
        family=family,
        title=_title(found[0][0].answer),
        role=role,
        own_criteria=[row.part for row in own],
        criteria_versions={
            one.key.id: edit_version(criteria_edit(own, one.key.id)) for of in found for one in of
        },
        answers=[
            _answer_out(
                of,
                attempts[of[0].answer.attempt_id],
                pages,
                logs[of[0].answer.presentation_id],
                role,
                hidden=hidden,
            )
            for of in found
        ],
    )


def marked_part(assignment: Assignment, answer_id: int, part: str, person: User) -> MarkedPartOut:
    """One part of one answer as a marker sees it; nothing else of the test is read."""
    found = one_part(assignment, answer_id, part)
    return MarkedPartOut(answer=answer_id, part=part_out(found, role_of(assignment, person)))


def _noted_html(part: PartToMark, notes: Sequence[NoteInText]) -> str | None:
    if not notes:
        return None
    placed = sorted(notes, key=lambda note: note.at)
    stretches = [Stretch(note.at, note.length, n) for n, note in enumerate(placed, 1)]
    return commented_html(part.answer.data.responses.get(part.key.id, ""), stretches)


def _answer_out(
    parts: list[PartToMark],
    attempt: Attempt,
    pages: dict[int, list[Page]],
    log: Log,
    role: MarkerRole,
    *,
    hidden: bool,
) -> AnswerToMarkOut:
    answer = parts[0].answer
    row = answer.presentation
    row.run = attempt.run
    row.run.enrolment, row.run.attempt = attempt.enrolment, attempt
    question, _, responses = shown_to_others(row, EVERYTHING, with_answer=True, log=log)
    own = pages.get(attempt.pk, [])
    about = [page.pk for page in own if answer.number in page.questions]
    return AnswerToMarkOut(
        answer=answer.pk,
        attempt=attempt.pk,
        enrolment=attempt.enrolment_id,
        name=None if hidden else attempt.enrolment.person.display_name,
        out=attempt.released_at is not None,
        sheet=answer.data.sheet,
        pages=about or [page.pk for page in own if answer.data.on_paper and not page.questions],
        question=question,
        responses=responses,
        working=working_area(log[0]),
        parts=[part_out(one, role) for one in parts],
    )


def marks_of_person(attempt: Attempt, answer: AnswerSoFar) -> list[PersonMarkOut]:
    """What persons gave the parts of an answer, as far as it is among its marks: once it is out."""
    _, marks = tries_of(answer.presentation)
    out = {
        part for of in marks.values() for part, mark in of.items() if mark.rule == MarkRule.PERSON
    }
    if not out:
        return []
    own = own_criteria(attempt.test_id)
    parts = to_mark([attempt], own, until=attempt.released_at).get(answer.pk, [])
    found = []
    for part in parts:
        marking = part.counts
        if part.key.id in out and marking is not None:
            points = {number: shown(one) for number, one in marking.data.points.items()}
            found.append(
                PersonMarkOut(
                    part=part.key.id,
                    label=part.key.label,
                    noted_html=_noted_html(part, marking.data.notes),
                    criteria=criteria_out(part.criteria),
                    points=points,
                    reached=shown(Fraction(part.of) * marking.data.share),
                    of=part.of,
                    comment=marking.data.comment,
                    notes=sorted(marking.data.notes, key=lambda note: note.at),
                )
            )
    return found
