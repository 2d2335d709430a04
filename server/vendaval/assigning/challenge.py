"""Whether set work has been too hard or too easy for learners of late, and telling their tutors."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta

from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.exams.models import Attempt
from vendaval.groups.models import Group
from vendaval.groups.queries import members_of
from vendaval.notices.actions import tell
from vendaval.notices.models import Notice, NoticeKind
from vendaval.shared import clock
from vendaval.work.models import Visibility
from vendaval_core.mastery.challenge import Challenge, challenge, challenge_words

from .columns import DiagnosticTask, Goal, HandInTask, IdeasTask, StudyTask
from .evidence import Evidence, answers_since
from .models import Task

LATELY = timedelta(days=120)
FEWEST_ANSWERS = 5
TOLD_FOR = timedelta(days=30)


def challenges(enrolments: Iterable[int], bank: CourseBank) -> dict[int, Challenge]:
    """Of these learners those for whom set work has been too hard or too easy; the number of
    queries does not grow with them."""
    ids, since = list(enrolments), clock.now() - LATELY
    pieces: dict[int, list[tuple[datetime, float]]] = defaultdict(list)
    _add_tests(pieces, ids, since)
    _add_practice(pieces, ids, since, bank)
    found = {}
    for enrolment, made in pieces.items():
        what = challenge([share for _, share in sorted(made)])
        if what is not None:
            found[enrolment] = what
    return found


def _add_tests(
    pieces: dict[int, list[tuple[datetime, float]]], ids: list[int], since: datetime
) -> None:
    """First attempts at given tests whose outcome may be told: nothing is told here earlier."""
    rows = Attempt.objects.filter(
        enrolment__in=ids, assignment__isnull=False, number=1, handed_in_at__gte=since
    ).exclude(run__presentations__visibility=Visibility.NOTHING)
    for row in rows.only("enrolment", "handed_in_at", "total"):
        total = row.total
        if total is not None and total.of and not total.waiting and row.handed_in_at is not None:
            share = float(total.reached / total.of)
            pieces[row.enrolment_id].append((row.handed_in_at, share))


def _add_practice(
    pieces: dict[int, list[tuple[datetime, float]]],
    ids: list[int],
    since: datetime,
    bank: CourseBank,
) -> None:
    """Practice that was set, by the first answers given to it, where there are some."""
    given = Task.objects.filter(
        group__members__enrolment__in=ids, group__members__until=None, given_at__gte=since
    ).distinct()
    rows = given.order_by("-given_at", "pk")
    tasks: dict[int, _Set] = {}
    for pk, goal, at, whole, learner in rows.values_list(
        "pk", "goal", "given_at", "whole_group", "learners"
    ):
        families = _families(goal, bank)
        if families:
            tasks.setdefault(pk, _Set(pk, families, at, whole)).learners.add(learner)
    if not tasks:
        return
    topics = {bank.families[key].family.topic for one in tasks.values() for key in one.families}
    evidence = answers_since(ids, topics, min(one.given_at for one in tasks.values()))
    for enrolment in ids:
        own = [one for one in tasks.values() if one.whole_group or enrolment in one.learners]
        pieces[enrolment] += _pieces(evidence[enrolment], own)


@dataclass(frozen=True, slots=True)
class _Set:
    """Practice that was set: which families it wants, and of whom."""

    task: int
    families: set[str]
    given_at: datetime
    whole_group: bool
    learners: set[int | None] = field(default_factory=set)


def _pieces(own: Evidence, tasks: Sequence[_Set]) -> list[tuple[datetime, float]]:
    """By task when its last answer came and the share that was right. tasks: the newest first; an
    answer belongs to the newest that wants it."""
    found: dict[int, list[tuple[datetime, bool]]] = defaultdict(list)
    for family, times in own.tried.items():
        right = own.right.get(family, ())
        for at in times:
            newest = next((t for t in tasks if family in t.families and t.given_at <= at), None)
            if newest is not None:
                found[newest.task].append((at, at in right))
    return [
        (max(at for at, _ in answers), sum(right for _, right in answers) / len(answers))
        for answers in found.values()
        if len(answers) >= FEWEST_ANSWERS
    ]


def _families(goal: Goal, bank: CourseBank) -> set[str]:
    if isinstance(goal, IdeasTask):
        return bank.families.keys() & set(goal.families)
    if isinstance(goal, DiagnosticTask | StudyTask | HandInTask):
        return set()
    topics = set(goal.topics)
    return {key for key, item in bank.families.items() if item.family.topic in topics}


def note_challenges() -> int:
    """Tell tutors, once a month at the most for a learner, for whom set work is too hard or too
    easy. Returns how many messages."""
    told = 0
    for group in Group.objects.select_related("course"):
        members = {one.pk: one for one in members_of(group)}
        found = challenges(members, course_bank(group.course))
        tutors = [row.person for row in group.tutors.filter(until=None).select_related("person")]
        for enrolment, what in found.items():
            path = f"/tutor/learners/{enrolment}"
            before = Notice.objects.filter(
                kind=NoticeKind.CHALLENGE, path=path, at__gte=clock.now() - TOLD_FOR
            )
            if tutors and not before.exists():
                name = members[enrolment].person.display_name
                tell(tutors, NoticeKind.CHALLENGE, f"{name}: {challenge_words(what)}", path)
                told += len(tutors)
    return told
