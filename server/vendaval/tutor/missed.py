"""What a group missed most lately, with the wrong answers given most, and a short lesson of it."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime, timedelta

from django.db.models import Count, F, Q

from vendaval.bank.snapshot import BankFamily, CourseBank, course_bank, version_of
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.models import Group
from vendaval.groups.queries import members_of
from vendaval.levels.models import Observation
from vendaval.shared import clock
from vendaval.work.models import Mark, Try, TryKind
from vendaval_core.mastery.missed import FamilyMissed, WrongAnswer, alike, most_missed

from .schemas import LessonSectionOut, MissedFamilyOut, MissedOut, WrongAnswerOut

LATELY = timedelta(days=28)
MOST_MARKS = 2000


def missed_page(group: Group) -> MissedOut:
    """The families most missed in four weeks, and what to teach about them."""
    bank, since = course_bank(group.course), clock.now() - LATELY
    ids = list(members_of(group).values_list("pk", flat=True))
    seen = Observation.objects.in_force().filter(
        enrolment__in=ids, at__gte=since, outcome__isnull=False
    )
    wrong = Q(outcome__lt=F("of") - 1)
    counts = (
        seen.values("family__key")
        .annotate(
            answered=Count("enrolment", distinct=True),
            missed=Count("enrolment", filter=wrong, distinct=True),
        )
        .order_by()
    )
    found = most_missed(
        FamilyMissed(row["family__key"], row["answered"], row["missed"])
        for row in counts
        if row["family__key"] in bank.families
    )
    answers = _wrong_answers(ids, [one.family for one in found], since)
    families = [_family_out(one, bank, answers[one.family]) for one in found]
    return MissedOut(
        group=group.title,
        course=group.course.key,
        days=LATELY.days,
        families=families,
        read=_sections([bank.families[one.family] for one in found[:3]], bank),
        show=[one.key for one in families[:2]],
        set=[one.key for one in families[:1]],
    )


def _wrong_answers(
    ids: list[int], families: list[str], since: datetime
) -> dict[str, list[WrongAnswer]]:
    """First answers that were wrong, by family; the latest, bounded."""
    rows = (
        Mark.objects.filter(
            tried__enrolment__in=ids,
            tried__family__key__in=families,
            tried__first=True,
            tried__at__gte=since,
            verdict__in=("wrong", "partly"),
        )
        .exclude(tried__in=Try.objects.filter(kind=TryKind.SET_ASIDE).values("undoes"))
        .select_related("tried__presentation__revision__family__topic")
        .order_by("-pk")[:MOST_MARKS]
    )
    found: dict[str, list[WrongAnswer]] = defaultdict(list)
    for mark in rows:
        shown = mark.tried.presentation
        version = version_of(shown.revision, shown.seed, shown.order)
        key = next((part for part in version.parts if part.id == mark.part), None)
        if key is not None:
            given = key.answer_words(mark.tried.response.get(mark.part, ""))
            found[version.family].append(WrongAnswer(mark.tried.enrolment_id, given, mark.says))
    return found


def _family_out(one: FamilyMissed, bank: CourseBank, wrong: list[WrongAnswer]) -> MissedFamilyOut:
    item = bank.families[one.family]
    topic = bank.topics[item.topic]
    return MissedFamilyOut(
        key=one.family,
        title=item.title,
        topic=PlaceOut(key=topic.key, title=topic.title),
        versions=item.family.versions,
        answered=one.answered,
        missed=one.missed,
        answers=[
            WrongAnswerOut(learners=same.learners, given=same.given, says=same.says)
            for same in alike(wrong)
        ],
    )


def _sections(items: list[BankFamily], bank: CourseBank) -> list[LessonSectionOut]:
    """The study sections that explain some families, each once."""
    found: dict[tuple[str, str], LessonSectionOut] = {}
    for item in items:
        topic, section = bank.section(item.family.study, item.family.topic)
        found.setdefault(
            (topic.key, section.key),
            LessonSectionOut(
                topic=PlaceOut(key=topic.key, title=topic.title),
                section=section.key,
                title=section.title,
                minutes=section.minutes,
            ),
        )
    return list(found.values())
