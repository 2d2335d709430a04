"""A learner's whole record as plain rows, for files."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, fields
from datetime import datetime

from django.db.models import Q

from vendaval.delivery.answer_words import given_words
from vendaval.groups.models import Enrolment
from vendaval.work.models import Try
from vendaval_core.items.markdown import to_words
from vendaval_core.items.versions import Version

from .results import shown_version
from .schemas import TryLineOut
from .tries import Filter, lines, loaded, tries_in

AT_A_TIME = 500


@dataclass(frozen=True, slots=True)
class RecordRow:
    """One try. try_number, work: counted from 1 in the order of time. share: of the points, 0 to 1.
    confidence: in per cent, or nothing. seconds_needed: that such questions usually take. answer:
    what was answered, in words."""

    try_number: int
    at: datetime
    topic: str
    question: str
    purpose: str
    work: int
    attempt: int
    result: str
    share: float
    seconds: float
    seconds_needed: int
    confidence: int | None
    counts: bool
    why_not: str
    answer: str


COLUMNS = tuple(field.name for field in fields(RecordRow))


def record_rows(enrolment: Enrolment) -> Iterator[tuple[RecordRow, Try]]:
    """Every try in the order of time, with the row it comes from."""
    after, number, works = Q(), 0, dict[int, int]()
    while True:
        rows = tries_in(enrolment, Filter()).filter(after)
        page = list(loaded(rows).order_by("at", "pk")[:AT_A_TIME])
        for row, line in zip(page, lines(enrolment, page), strict=True):
            number += 1
            work = works.setdefault(row.presentation.run_id, len(works) + 1)
            yield _row(number, work, row, line), row
        if len(page) < AT_A_TIME:
            return
        last = page[-1]
        after = Q(at__gt=last.at) | Q(at=last.at, pk__gt=last.pk)


def rows_of(enrolment: Enrolment, tries: Collection[int]) -> dict[int, tuple[RecordRow, Try]]:
    """Some of a learner's tries by their ids, without those that may not be told yet; as part of no
    list they are numbered 0."""
    page = list(loaded(tries_in(enrolment, Filter()).filter(pk__in=tries)))
    return {
        row.pk: (_row(0, 0, row, line), row)
        for row, line in zip(page, lines(enrolment, page), strict=True)
    }


def _row(number: int, work: int, row: Try, line: TryLineOut) -> RecordRow:
    return RecordRow(
        try_number=number,
        at=row.at,
        topic=line.topic.title,
        question=line.title,
        purpose=line.purpose.value,
        work=work,
        attempt=row.number,
        result=line.result.replace("_", " "),
        share=line.share,
        seconds=round(row.seconds, 1),
        seconds_needed=line.needed,
        confidence=row.confidence,
        counts=line.counts,
        why_not=line.why,
        answer=answer_in_words(shown_version(row), row.response),
    )


def answer_in_words(version: Version, response: Mapping[str, str]) -> str:
    """What was answered, part by part, as it reads: no letters of an order, and no marks of
    Markdown."""
    given = [key for key in version.parts if response.get(key.id, "").strip()]
    told = []
    for key in given:
        words = given_words(key, response[key.id]).replace("\n", ", ")
        told.append(f"{to_words(key.label)}: {words}" if key.label and len(given) > 1 else words)
    return "; ".join(told)
