"""The bank as its authors see it: what needs them, and every family, found, filtered and sorted."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, Exists, F, OuterRef, QuerySet, Sum
from django.utils.translation import gettext

from vendaval.authoring.drafts import title_of
from vendaval.authoring.models import BankLine, Draft
from vendaval.authoring.touching import tests_with
from vendaval.bank.models import Course
from vendaval.delivery.schemas import PlaceOut
from vendaval_core.authoring.standing import (
    Need,
    measured_range,
    needs,
    on_axis,
    separates,
)
from vendaval_core.words import counted

from .jobs import refresh_if_old
from .lines import figures_of, lines_of, own_lines_of, sync_lines
from .schemas import (
    BankFilter,
    BankLineOut,
    BankPageOut,
    BegunOut,
    MeasuredOut,
    NeedOut,
    SectionNeedOut,
    Sorting,
    Standing,
)
from .sections import SectionRead, sections_read

PAGE = 50
CARDS = 4
MOST_BEGUN = 12

SORTS: dict[Sorting, Any] = {
    "title": [F("title")],
    "topic": [F("topic__subject__position"), F("topic__position"), F("title")],
    "needs": [F("urgency").desc(), F("apart").desc(nulls_last=True)],
    "apart": [F("apart").desc(nulls_last=True)],
    "answers": [F("answers").desc()],
    "right": [F("right").asc(nulls_last=True)],
    "difficulty": [F("measured").desc(nulls_last=True), F("judged").desc()],
    "took": [F("took").desc(nulls_last=True)],
    "separates": [F("a").asc(nulls_last=True)],
}


def bank_page(course: Course, wanted: BankFilter) -> BankPageOut:
    """A page of a course's bank. At most eight queries, whatever it holds."""
    state = sync_lines(course)
    refresh_if_old(state)
    every = lines_of(course)
    whole = every.aggregate(families=Count("pk"), answers=Sum("answers"))
    listed = own_lines_of(course) if wanted.show == "groups" else every
    found = _found(listed, wanted).annotate(
        drafted=Exists(Draft.objects.filter(course=course, key=OuterRef("family__key"))),
        stopped_at=F("family__stopped__at"),
    )
    total = found.count()
    order = [*SORTS[wanted.sort], F("title"), F("pk")]
    rows = found.select_related("topic", "family__latest__source__by").order_by(*order)
    rows = rows.defer("words", "family__latest__data", "family__latest__source__text")
    start = (wanted.page - 1) * PAGE
    shown, needing = list(rows[start : start + PAGE]), _needing(every)
    tests = tests_with(course) if shown else {}
    weak = [one for one in sections_read(state) if one.figure().helps_little]
    return BankPageOut(
        course=course.title,
        families=whole["families"],
        answers=whole["answers"] or 0,
        figures_at=state.figures_at,
        headline=_headline(needing, len(weak)),
        cards=[_card(line, needs(figures_of(line))) for line in needing[:CARDS]],
        sections=[_section(one) for one in weak[:CARDS]],
        begun=_begun(course),
        total=total,
        page=wanted.page,
        pages=max(1, -(-total // PAGE)),
        lines=[_line(one, len(tests.get(one.family.key, []))) for one in shown],
    )


def _found(lines: QuerySet[BankLine], wanted: BankFilter) -> QuerySet[BankLine]:
    for word in wanted.words.lower().split()[:8]:
        lines = lines.filter(words__contains=word)
    if wanted.topic:
        lines = lines.filter(topic__key=wanted.topic)
    if wanted.kind:
        lines = lines.filter(kind=wanted.kind)
    if wanted.show == "drafts":
        keys = Draft.objects.filter(course=OuterRef("course"), key=OuterRef("family__key"))
        return lines.filter(Exists(keys))
    kept: dict[Standing, dict[str, Any]] = {
        "all": {},
        "groups": {},
        "needs": {"urgency__gt": 0},
        "unmeasured": {"measured": None},
        "stopped": {"family__stopped__isnull": False},
        "essential": {"essential": True},
    }
    return lines.filter(**kept[wanted.show])


def _needing(lines: QuerySet[BankLine]) -> list[BankLine]:
    rows = lines.filter(urgency__gt=0).select_related("family").defer("words")
    return list(rows.order_by("-urgency", "-answers", "pk")[:200])


def _headline(needing: list[BankLine], sections: int) -> str:
    if not needing and not sections:
        return gettext("Nothing needs you now.")
    pages = counted(sections, "study section needs", "study sections need")
    if not needing:
        return gettext("{sections} you.").format(sections=pages.capitalize())
    says = counted(len(needing), "question needs", "questions need").capitalize()
    today = sum(line.urgency > 4 for line in needing)
    words = gettext("{questions} you").format(questions=says)
    if today:
        words += gettext(", {now}").format(now=counted(today, "of them today", "of them today"))
    if sections:
        also = counted(sections, "study section", "study sections")
        one, many = gettext(", and so does {sections}"), gettext(", and so do {sections}")
        words += (one if sections == 1 else many).format(sections=also)
    return f"{words}."


def _section(one: SectionRead) -> SectionNeedOut:
    says = gettext(
        "After reading it learners are hardly better than expected: {right}% right of {many} first "
        "tries, {expected}% expected."
    )
    return SectionNeedOut(
        topic=one.topic,
        section=one.section,
        title=one.title,
        says=says.format(
            right=round(100 * one.right), many=one.answers, expected=round(100 * one.expected)
        ),
    )


def _card(line: BankLine, found: tuple[Need, ...]) -> NeedOut:
    return NeedOut(
        key=line.family.key,
        title=line.title,
        says=[need.says for need in found],
        reports=line.reports,
    )


def _begun(course: Course) -> list[BegunOut]:
    """Questions that were begun and never published."""
    known = BankLine.objects.filter(course=course, family__key=OuterRef("key"))
    rows = Draft.objects.filter(~Exists(known), course=course, collection=None).select_related(
        "topic"
    )
    return [
        BegunOut(key=one.key, title=title_of(one.text) or one.key, topic=one.topic.title, at=one.at)
        for one in rows.order_by("-at")[:MOST_BEGUN]
    ]


def _line(line: Any, tests: int) -> BankLineOut:
    source = getattr(line.family.latest, "source", None)
    bar = None
    if line.measured is not None and line.error is not None:
        low, high = measured_range(line.measured, line.error)
        bar = MeasuredOut(middle=on_axis(line.measured), low=low, high=high)
    found = needs(figures_of(line))
    return BankLineOut(
        key=line.family.key,
        title=line.title,
        topic=PlaceOut(key=line.topic.key, title=line.topic.title),
        kind=line.kind,
        essential=line.essential,
        judged=on_axis(line.judged),
        measured=bar,
        answers=line.answers,
        right=None if line.right is None else round(100 * line.right),
        took=None if line.took is None else round(line.took, 1),
        separates=separates(line.a) if line.measured is not None else "",
        fit=line.fit,
        spread=line.spread,
        needs=[need.says for need in found],
        reports=line.reports,
        tests=tests,
        drafted=line.drafted,
        stopped=line.stopped_at is not None,
        changed_by="" if source is None or source.by is None else source.by.display_name,
        changed_at=None if source is None else source.at,
    )
