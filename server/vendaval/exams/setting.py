"""Tests as whoever sets them sees them: the bank, what a test would be, who has taken it."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from fractions import Fraction

from vendaval.bank.snapshot import BankFamily, CourseBank, course_bank, version_of
from vendaval.delivery.disclosure import EVERYTHING
from vendaval.delivery.payload import Shown, question_out
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.models import Group
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import NotFound, Unprocessable
from vendaval_core.assessment.points import kept_score, shown
from vendaval_core.assessment.wording import rule_lines
from vendaval_core.scoring.tries import ONE_TRY, QuestionState

from .composing import give, make_test, problems_of
from .models import Assignment, Attempt
from .schemas import LineOut
from .setting_schemas import (
    BankOut,
    FamilyLineOut,
    FamilyPreviewOut,
    GroupTestOut,
    GroupTestsOut,
    SetTestIn,
    StateCountsOut,
    TestCheckOut,
)

FOUND = 40
LEFT_AFTER = timedelta(hours=1)


def group_tests(group: Group) -> GroupTestsOut:
    """Every test of a group with where its learners stand, the newest first."""
    now = clock.now()
    rows = list(Assignment.objects.filter(group=group).select_related("test").order_by("-pk")[:60])
    learners = set(
        group.members.filter(until=None, enrolment__until=None).values_list("enrolment", flat=True)
    )
    attempts: dict[int | None, list[Attempt]] = {}
    for attempt in (
        Attempt.objects.filter(assignment__in=rows, enrolment__in=learners)
        .order_by("number")
        .defer("places")
    ):
        attempts.setdefault(attempt.assignment_id, []).append(attempt)
    return GroupTestsOut(
        group=group.title,
        course=group.course.key,
        tests=[_test_line(row, learners, attempts.get(row.pk, []), now) for row in rows],
        topics=[
            PlaceOut(key=topic.key, title=topic.title) for topic in course_bank(group.course).topics
        ],
    )


def _test_line(
    row: Assignment, learners: set[int], attempts: Sequence[Attempt], now: datetime
) -> GroupTestOut:
    composition = row.test.composition.core()
    return GroupTestOut(
        id=row.pk,
        title=row.test.title,
        questions=composition.questions,
        points=shown(composition.points),
        opens=row.opens,
        due=row.due,
        closes=row.closes,
        states=_counts(learners, attempts, now),
        mean=_mean(row, attempts),
    )


def _counts(learners: set[int], attempts: Sequence[Attempt], now: datetime) -> StateCountsOut:
    latest = {attempt.enrolment_id: attempt for attempt in attempts}
    found = StateCountsOut(not_begun=0, under_way=0, left=0, waiting=0, marked=0)
    for learner in learners:
        attempt = latest.get(learner)
        if attempt is None:
            found.not_begun += 1
        elif attempt.handed_in_at is None:
            intervals = attempt.standing.intervals
            seen = intervals[-1].seen if intervals else attempt.confirmed_at
            if now - seen > LEFT_AFTER:
                found.left += 1
            else:
                found.under_way += 1
        elif attempt.total is None or attempt.total.waiting:
            found.waiting += 1
        else:
            found.marked += 1
    return found


def _mean(row: Assignment, attempts: Sequence[Attempt]) -> str | None:
    shares: dict[int, list[Fraction]] = {}
    for attempt in attempts:
        if attempt.total is not None and not attempt.total.waiting:
            shares.setdefault(attempt.enrolment_id, []).append(attempt.total.core().share)
    kept = [kept_score(row.test.rules.score_kept, own) for own in shares.values()]
    values = [one.share for one in kept if one is not None]
    return f"{shown(100 * sum(values, Fraction(0)) / len(values))} %" if values else None


def search_bank(group: Group, topic: str, words: str) -> BankOut:
    """Families of a topic, and with words in their title; those everyone must manage first."""
    bank = course_bank(group.course)
    wanted = words.lower().split()
    found = [
        item
        for item in bank.families.values()
        if (not topic or item.family.topic == topic)
        and all(word in item.family.title.lower() for word in wanted)
    ]
    found.sort(key=lambda item: (item.topic, not item.family.essential, item.curve.b))
    return BankOut(total=len(found), families=[_family_line(one, bank) for one in found[:FOUND]])


def _family_line(item: BankFamily, bank: CourseBank) -> FamilyLineOut:
    topic = bank.topics[item.topic]
    return FamilyLineOut(
        key=item.family.key,
        title=version_of(item.revision, 1, 0).title,
        topic=PlaceOut(key=topic.key, title=topic.title),
        kinds=[part.kind.replace("_", " ") for part in item.family.parts],
        essential=item.family.essential,
        versions=item.family.versions,
        seconds=round(item.family.seconds),
        difficulty=round(item.curve.b, 1),
    )


def preview_family(group: Group, key: str, seed: int) -> FamilyPreviewOut:
    """A version of a family with everything told; the first again after the last."""
    bank = course_bank(group.course)
    item = bank.families.get(key)
    if item is None:
        raise NotFound("There is no such question in this course.")
    version = version_of(item.revision, 1 + (seed - 1) % item.family.versions, 0)
    as_shown = Shown(
        id=0,
        number=seed,
        closed=True,
        untouched=True,
        hints_shown=len(version.hints),
        answers={},
        can=[],
        swap=None,
        fresh_left=0,
    )
    state = QuestionState.fresh(version.parts)
    return FamilyPreviewOut(
        question=question_out(as_shown, version, item.family, state, ONE_TRY, EVERYTHING, bank)
    )


def check_test(group: Group, wanted: SetTestIn) -> TestCheckOut:
    """What a test would be, and what of it cannot be. Nothing is stored."""
    core, rules = wanted.composition.core(), wanted.rules.core()
    limits = [section.minutes for section in core.sections if section.minutes]
    minutes = rules.minutes if rules.minutes is not None else (sum(limits) if limits else None)
    bank = course_bank(group.course)
    needed = 0.0
    for section in core.sections:
        for entry in section.entries:
            known = [bank.families[k].family.seconds for k in entry.families if k in bank.families]
            needed += entry.count * sum(known) / len(known) if known else 0.0
    found = rule_lines(rules, core, None if minutes is None else 60.0 * minutes)
    dates = {"opens": wanted.opens, "due": wanted.due, "closes": wanted.closes}
    return TestCheckOut(
        lines=[LineOut(about=line.about, says=line.says) for line in found],
        problems=problems_of(group.course, wanted.composition, wanted.rules, dates),
        questions=core.questions,
        points=shown(core.points),
        minutes=max(1, round(needed / 60)) if core.questions else 0,
    )


def set_test(group: Group, wanted: SetTestIn, by: User) -> Assignment:
    """Make a test and give it to a group."""
    dates = {"opens": wanted.opens, "due": wanted.due, "closes": wanted.closes}
    problems = problems_of(group.course, wanted.composition, wanted.rules, dates)
    if problems:
        raise Unprocessable("This test cannot be set as it is.", fields=problems)
    test = make_test(
        group.course,
        wanted.title,
        wanted.composition,
        wanted.rules,
        by,
        directions=wanted.directions,
        materials=wanted.materials,
    )
    return give(
        test,
        group,
        by,
        opens=wanted.opens,
        due=wanted.due,
        closes=wanted.closes,
        pages=wanted.pages,
        pages_minutes=wanted.pages_minutes,
    )
