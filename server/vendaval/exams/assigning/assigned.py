"""What one learner was given: a test with its dates and what they are allowed beside its rules."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import Literal

from django.db.models import QuerySet
from django.utils.translation import gettext

from vendaval.bank.snapshot import CourseBank, course_bank, fixed_parts_of
from vendaval.groups.models import Enrolment
from vendaval.groups.queries import courses_of_staff, given_to_learner
from vendaval.shared import clock
from vendaval.shared.errors import NotFound
from vendaval_core.assessment.attempt import cut_off_of, limits_of
from vendaval_core.assessment.clock import Extra
from vendaval_core.assessment.composition import Composition, without
from vendaval_core.assessment.mirror import MirrorWaits, mirror_waits
from vendaval_core.assessment.paper import PagesWanted
from vendaval_core.assessment.release import Moment, Released, released, still_open
from vendaval_core.assessment.rules import Rules, Tool

from ..columns import PaperData, RulesData
from ..composing.rehearsing import rehearsal_of
from ..models import Accommodation, Allowance, Assignment, Attempt, Test

MOST = 200
RefKind = Literal["given", "mirror", "trial", "rehearsal"]


@dataclass(frozen=True, slots=True)
class AssignedTest:
    """A test as one learner has it. assignment: None for a mirror, the rehearsal, and for what a
    practice learner tries before it is given. attempts: theirs, in order.
    latest_due, latest_closes: of anybody in the group, for what is told by dates. practising: it is
    a practice learner, for whom it is always open. left_out, waits: of a mirror, the families that
    are not in it yet, and why it may not be tried yet. accommodation: what this learner has in
    every test."""

    test: Test
    assignment: Assignment | None
    allowance: Allowance | None = None
    attempts: Sequence[Attempt] = field(default_factory=tuple)
    latest_due: datetime | None = None
    latest_closes: datetime | None = None
    practising: bool = False
    left_out: frozenset[str] = frozenset()
    waits: MirrorWaits | None = None
    accommodation: Accommodation | None = None

    @property
    def composition(self) -> Composition:
        """The test's sections and questions as this learner has them."""
        stopped = course_bank(self.test.course).stopped.keys()
        return without(self.test.composition.core(), self.left_out | stopped)

    def _date(self, name: str) -> datetime | None:
        if self.practising:
            return None
        own: datetime | None = getattr(self.allowance, name) if self.allowance else None
        if own is not None or self.assignment is None:
            return own
        found: datetime | None = getattr(self.assignment, name)
        return found

    @property
    def opens(self) -> datetime | None:
        """When it may be begun."""
        return self._date("opens")

    @property
    def due(self) -> datetime | None:
        """When it is due for this learner."""
        return self._date("due")

    @property
    def closes(self) -> datetime | None:
        """When nothing is taken any more from this learner."""
        return self._date("closes")

    @property
    def rules(self) -> Rules:
        """The test's rules now; an attempt has its own."""
        return self.rules_data.core()

    @property
    def rules_data(self) -> RulesData:
        """The same as they are kept: whoever has a reader may have questions read aloud."""
        rules = self.test.rules
        reads = self.accommodation is not None and self.accommodation.reader
        if not reads or Tool.ALOUD in rules.tools:
            return rules
        return rules.model_copy(update={"tools": [*rules.tools, Tool.ALOUD]})

    @property
    def paper(self) -> PaperData:
        """What is agreed about pages of paper."""
        if self.test.rehearsal:
            return PaperData(wanted=PagesWanted.MAY)
        if self.assignment is None:
            return PaperData()
        return PaperData(
            wanted=PagesWanted(self.assignment.pages), minutes=self.assignment.pages_minutes
        )

    @property
    def extra(self) -> Extra:
        """The learner's extra time: as allowed for this test, else as in every test."""
        found = self.allowance or self.accommodation
        return Extra() if found is None else Extra(found.times, found.minutes)

    @property
    def cut_off(self) -> datetime | None:
        """When an attempt is cut off whatever its clock says."""
        return cut_off_of(self.rules, self.due, self.closes)

    @property
    def limits(self) -> tuple[float | None, ...]:
        """Seconds of each stretch for this learner."""
        return limits_of(self.composition, self.rules, self.extra)

    @property
    def attempts_left(self) -> int | None:
        """Attempts that can still be begun by number; None without a limit."""
        if self.rules.attempts is None or self.practising:
            return None
        more = self.allowance.attempts if self.allowance else 0
        return max(0, self.rules.attempts + more - len(self.attempts))

    @property
    def under_way(self) -> Attempt | None:
        """The attempt that goes on."""
        return next((one for one in self.attempts if one.handed_in_at is None), None)

    def moment(self, attempt: Attempt, now: datetime) -> Moment:
        """What decides what may be told of an attempt now."""
        going = self.under_way
        return Moment(
            now=now,
            handed_in=attempt.handed_in_at is not None,
            due=self.latest_due,
            closes=self.latest_closes,
            attempts_left=self.attempts_left,
            marks_out=attempt.released_at is not None,
            under_way=going is not None and going.pk != attempt.pk,
        )

    def still_open(self, attempt: Attempt, now: datetime) -> bool:
        """Whether nothing about the questions of an attempt may be shown elsewhere yet. What a
        practice learner tries is open only while it is under way."""
        if self.practising:
            return attempt.handed_in_at is None
        return still_open(attempt.rules.core(), self.moment(attempt, now))

    def answers_shown(self, now: datetime) -> bool:
        """Whether the learner has had all right answers and solutions of this test shown."""
        shown = [self.released(attempt, now) for attempt in self.attempts]
        return bool(shown) and all(one.answers and one.solutions for one in shown)

    def mirror_waits(self, now: datetime) -> MirrorWaits | None:
        """Why the mirror of this test may not be tried yet by this learner."""
        return mirror_waits(
            now,
            opens=self.opens,
            cut_off=self.cut_off,
            attempts_left=self.attempts_left,
            under_way=self.under_way is not None,
            early=self.assignment is not None and self.assignment.mirror_early,
        )

    def released(self, attempt: Attempt, now: datetime) -> Released:
        """What may be told of an attempt now, by the rules it was begun with."""
        return released(attempt.rules.core(), self.moment(attempt, now))


def assigned_test(enrolment: Enrolment, kind: RefKind, number: int) -> AssignedTest:
    """One test that a learner has; NotFound for what they were not given. A practice learner may
    try any test of a course of whom it belongs to."""
    rows = _assignments(enrolment)
    if kind == "given":
        found = _given(enrolment, list(rows.filter(pk=number)))
    elif kind == "rehearsal":
        test = rehearsal_of(enrolment.course)
        found = [] if test is None else [_alone(enrolment, test)]
    elif _staff(enrolment):
        tests = Test.objects.filter(course=enrolment.course_id, pk=number)
        found = [_alone(enrolment, test) for test in tests.select_related("mirror_of")]
    elif kind == "mirror":
        found = _mirror(enrolment, _given(enrolment, list(rows.filter(test__mirror=number))))
    else:
        found = []
    if not found:
        raise NotFound(gettext("You don’t have this test."))
    return found[0]


def _staff(enrolment: Enrolment) -> bool:
    """Whether it is the practice learner of somebody who composes tests in this course now."""
    owner = enrolment.person.practice_for
    return owner is not None and courses_of_staff(owner).filter(pk=enrolment.course_id).exists()


def assigned_tests(enrolment: Enrolment) -> list[AssignedTest]:
    """Every test that a learner was given."""
    return _given(enrolment, list(_assignments(enrolment)[:MOST]))


def assigned_test_of(attempt: Attempt) -> AssignedTest:
    """What an attempt belongs to, whether or not its learner is still in the group."""
    if attempt.assignment is not None:
        return _given(attempt.enrolment, [attempt.assignment])[0]
    tried = Attempt.objects.filter(enrolment=attempt.enrolment, test=attempt.test_id)
    practising = attempt.enrolment.person.practice_for_id is not None
    found = tuple(tried.order_by("number"))
    return AssignedTest(attempt.test, None, attempts=found, practising=practising)


def _assignments(enrolment: Enrolment) -> QuerySet[Assignment]:
    mine = Assignment.objects.filter(given_to_learner(enrolment))
    return mine.select_related("test", "test__mirror").order_by("-pk").distinct()


def _given(enrolment: Enrolment, assignments: Sequence[Assignment]) -> list[AssignedTest]:
    attempts = Attempt.objects.filter(enrolment=enrolment, assignment__in=assignments)
    found = given_to_each([enrolment], assignments, attempts.order_by("number"))
    return [found[one.pk, enrolment.pk] for one in assignments]


def given_to_each(
    enrolments: Sequence[Enrolment],
    assignments: Sequence[Assignment],
    attempts: Iterable[Attempt],
) -> dict[tuple[int, int], AssignedTest]:
    """Tests as each of these learners of one course has them, by assignment and enrolment.
    attempts: theirs at these tests, in order."""
    tried: dict[tuple[int | None, int], list[Attempt]] = {}
    for attempt in attempts:
        tried.setdefault((attempt.assignment_id, attempt.enrolment_id), []).append(attempt)
    own: dict[tuple[int, int], Allowance] = {}
    by_assignment: dict[int, list[Allowance]] = {}
    for row in Allowance.objects.filter(assignment__in=assignments).order_by("pk"):
        by_assignment.setdefault(row.assignment_id, []).append(row)
        own[row.assignment_id, row.enrolment_id] = row
    usual = accommodations_of(enrolments)
    found = {}
    for one in assignments:
        others = by_assignment.get(one.pk, [])
        due = _latest(one.due, [*(row.due for row in others), one.prolonged_until])
        closes = _latest(one.closes, [*(row.closes for row in others), one.prolonged_until])
        for enrolment in enrolments:
            one.test.course = enrolment.course
            key = one.pk, enrolment.pk
            found[key] = AssignedTest(
                one.test,
                one,
                own.get(key),
                tuple(tried.get(key, ())),
                due,
                closes,
                accommodation=usual.get(enrolment.pk),
                practising=enrolment.person.practice_for_id is not None,
            )
    return found


def accommodations_of(enrolments: Iterable[Enrolment]) -> dict[int, Accommodation]:
    """What these learners are allowed in every test, by enrolment; one query."""
    rows = Accommodation.objects.filter(enrolment__in=list(enrolments)).select_related("by")
    return {row.enrolment_id: row for row in rows.order_by("pk")}


def _alone(enrolment: Enrolment, test: Test) -> AssignedTest:
    """A mirror, the rehearsal, or a test that a practice learner tries before it is given."""
    test.course = enrolment.course
    tried = Attempt.objects.filter(enrolment=enrolment, test=test.pk).order_by("number")
    return AssignedTest(
        test,
        None,
        attempts=tuple(tried),
        practising=enrolment.person.practice_for_id is not None,
        accommodation=accommodations_of([enrolment]).get(enrolment.pk),
    )


def _mirror(enrolment: Enrolment, originals: Sequence[AssignedTest]) -> list[AssignedTest]:
    """The mirror of a test that was given to a learner, perhaps in several groups."""
    if not originals:
        return []
    now, bank = clock.now(), course_bank(enrolment.course)
    alone = _alone(enrolment, originals[0].test.mirror)
    held = not all(one.answers_shown(now) for one in originals)
    waits = [why for one in originals if (why := one.mirror_waits(now)) is not None]
    return [
        replace(
            alone,
            left_out=unchanging(alone.test, bank) if held else frozenset(),
            waits=waits[0] if waits else None,
        )
    ]


def unchanging(test: Test, bank: CourseBank) -> frozenset[str]:
    """Return the families of a test with a part that is the same in every version: whoever sees one
    version knows the answer to the others."""
    return frozenset(
        key
        for section in test.composition.sections
        for entry in section.entries
        for key in entry.families
        if key in bank.families and fixed_parts_of(bank.families[key].revision)
    )


def mirror_of_test(test: Test) -> Test | None:
    """The mirror of a test, if any of its families has other numbers."""
    try:
        return test.mirror
    except Test.DoesNotExist:
        return None


def _latest(one: datetime | None, others: Sequence[datetime | None]) -> datetime | None:
    if one is None:
        return None
    return max([one, *(at for at in others if at is not None)])
