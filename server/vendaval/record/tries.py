"""Tries as the record lists them: filtered, searched and paged on the server."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from django.db.models import Q, QuerySet
from django.utils.translation import gettext, gettext_noop

from vendaval.bank.snapshot import CourseBank, course_bank, version_of
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.models import Enrolment
from vendaval.levels.models import Observation, Voided
from vendaval.shared.errors import NotFound
from vendaval.work.models import UNDOING, Mark, Presentation, Purpose, Try, Visibility
from vendaval.work.questions import (
    hidden_by_tests,
    newest_marks,
    question_state,
    tries_of,
    typical_seconds,
    waits_elsewhere,
)
from vendaval.work.replies import last_answers, shown_question, working_area
from vendaval_core.measure.evidence import WeightReason

from .results import result_of, shown_version, with_result
from .schemas import Result, TriesOut, TryLineOut, TryOut, VoidedOut

PAGE = 50
LOADED = ("presentation__run", "presentation__revision__family__topic")
LEFT_OUT = ("presentation__revision__data", "presentation__run__note", "presentation__why")
USUAL_SECONDS = 60.0
WHY = {
    WeightReason.HELPED: gettext_noop("you opened help first"),
    WeightReason.RAPID: gettext_noop("faster than you can read it"),
    WeightReason.GAVE_UP: gettext_noop("very quick after misses"),
    WeightReason.COLLECTION: gettext_noop("your group’s own question"),
    WeightReason.SAME_FAMILY: "",
    WeightReason.FULL: "",
}


@dataclass(frozen=True, slots=True)
class Filter:
    """Which tries: of a topic (key), a purpose, a result, and with words in the question's title
    or its topic's."""

    topic: str | None = None
    purpose: Purpose | None = None
    result: Result | None = None
    words: str = ""


def tries_in(enrolment: Enrolment, wanted: Filter) -> QuerySet[Try]:
    """The tries that a filter lets through; what was undone is none, and what the rules of a
    test hold back waits."""
    rows: QuerySet[Try] = Try.objects.filter(enrolment=enrolment).standing()
    rows = rows.exclude(presentation__visibility=Visibility.NOTHING)
    rows = rows.exclude(hidden_by_tests(enrolment, "presentation__"))
    if wanted.topic is not None:
        rows = rows.filter(topic__key=wanted.topic)
    if wanted.purpose is not None:
        rows = rows.filter(presentation__run__purpose=wanted.purpose)
    if wanted.result is not None:
        rows = with_result(rows, wanted.result)
    for word in wanted.words.split()[:6]:
        title = Q(presentation__revision__data__title__icontains=word)
        rows = rows.filter(title | Q(topic__title__icontains=word))
    return rows


def loaded(rows: QuerySet[Try]) -> QuerySet[Try]:
    """Tries with what listing them needs."""
    return rows.select_related(*LOADED).defer(*LEFT_OUT)


def tries_page(enrolment: Enrolment, wanted: Filter, older: int | None) -> TriesOut:
    """A page of tries, the latest first."""
    rows = tries_in(enrolment, wanted)
    page = rows if older is None else rows.filter(_before(enrolment, older))
    found = list(loaded(page).order_by("-at", "-pk")[: PAGE + 1])
    return TriesOut(
        total=rows.count(),
        tries=list(lines(enrolment, found[:PAGE])),
        older=found[PAGE - 1].pk if len(found) > PAGE else None,
    )


def _before(enrolment: Enrolment, older: int) -> Q:
    """What comes after a try in a list with the latest first; nothing for one that is not there."""
    last = Try.objects.filter(enrolment=enrolment, pk=older).first()
    if last is None:
        return Q(pk__in=())
    return Q(at__lt=last.at) | Q(at=last.at, pk__lt=last.pk)


def lines(enrolment: Enrolment, rows: Sequence[Try]) -> Iterator[TryLineOut]:
    """Tries in a list, with their marks and what they did, in two queries."""
    ids = [row.pk for row in rows]
    marks = newest_marks(list(Mark.objects.filter(tried__in=ids).order_by("pk")))
    seen = Observation.objects.filter(tried__in=ids).order_by("pk")
    reasons = {tried: (weight, why) for tried, weight, why in seen.values_list(*_SEEN)}
    bank = course_bank(enrolment.course)
    for row in rows:
        yield _line(row, marks.get(row.pk, {}), reasons.get(row.pk), bank)


_SEEN = ("tried_id", "weight", "reason")


def _line(
    row: Try, marks: Mapping[str, Mark], seen: tuple[float, str] | None, bank: CourseBank
) -> TryLineOut:
    shown, version = row.presentation, shown_version(row)
    result, share = result_of(row, marks, version)
    topic = shown.revision.family.topic
    why = gettext("only first tries count") if not row.first else ""
    if seen is not None:
        why = gettext(WHY.get(WeightReason(seen[1]), "")) if seen[0] == 0 else ""
    return TryLineOut(
        id=row.pk,
        at=row.at,
        title=version.title,
        topic=PlaceOut(key=topic.key, title=topic.title),
        purpose=Purpose(shown.run.purpose),
        number=row.number,
        result=result,
        share=round(share, 3),
        seconds=round(row.seconds),
        needed=round(needed_seconds(shown, bank)),
        sure=row.confidence,
        counts=seen is not None and seen[0] > 0,
        why=why,
    )


def needed_seconds(shown: Presentation, bank: CourseBank) -> float:
    """Seconds that such questions take on the whole; the usual ones for what was taken out."""
    item = bank.families.get(shown.revision.family.key)
    guess = item.family.seconds if item is not None else USUAL_SECONDS
    return typical_seconds(shown.revision.family, guess)


def try_page(enrolment: Enrolment, try_id: int) -> TryOut:
    """One try with its question as it was; while the same version waits for an answer, it tells no
    more than that."""
    rows = Try.objects.select_related(*LOADED).filter(enrolment=enrolment)
    rows = rows.exclude(presentation__visibility=Visibility.NOTHING)
    rows = rows.exclude(hidden_by_tests(enrolment, "presentation__"))
    row = rows.exclude(kind__in=UNDOING).filter(pk=try_id).first()
    if row is None:
        raise NotFound(gettext("We can’t find this try."))
    shown = row.presentation
    shown.run.enrolment = enrolment
    version = version_of(shown.revision, shown.seed, shown.order)
    tries, marks = tries_of(shown)
    question = shown_question(
        shown,
        version,
        question_state(version, tries, marks),
        last_answers(tries, marks),
        in_review=True,
        open_elsewhere=waits_elsewhere(enrolment, shown),
    )
    (line,) = lines(enrolment, [row])
    return TryOut(
        line=line,
        voided=_voided(row),
        question=question,
        given=row.response,
        working=working_area([row]),
    )


def _voided(row: Try) -> VoidedOut | None:
    found = Voided.objects.filter(tried=row, until=None).select_related("by").first()
    if found is None:
        return None
    by = found.by.display_name if found.by is not None else ""
    return VoidedOut(by=by, why=found.why, at=found.at)
