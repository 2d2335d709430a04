"""A learner's whole record as plain rows, for files."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, fields
from datetime import datetime

from vendaval.groups.models import Enrolment
from vendaval.work.models import Try

from .tries import Filter, lines, loaded, tries_in

AT_A_TIME = 500


@dataclass(frozen=True, slots=True)
class RecordRow:
    """One try. share: of the points, 0 to 1. confidence: in per cent, or nothing. seconds_needed:
    that such questions take on the whole. answer: responses by part, as they were sent."""

    try_number: int
    at: datetime
    topic: str
    question: str
    purpose: str
    run: int
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
    """Every try in order, with the row it comes from."""
    after = 0
    while True:
        rows = tries_in(enrolment, Filter()).filter(pk__gt=after)
        page = list(loaded(rows).order_by("pk")[:AT_A_TIME])
        for row, line in zip(page, lines(enrolment, page), strict=True):
            yield _row(row, line.model_dump()), row
        if len(page) < AT_A_TIME:
            return
        after = page[-1].pk


def _row(row: Try, line: dict[str, object]) -> RecordRow:
    topic = line["topic"]
    assert isinstance(topic, dict)
    parts = [
        f"{part}: {text}" if len(row.response) > 1 else text for part, text in row.response.items()
    ]
    return RecordRow(
        try_number=row.pk,
        at=row.at,
        topic=str(topic["title"]),
        question=str(line["title"]),
        purpose=str(line["purpose"]),
        run=row.presentation.run_id,
        attempt=row.number,
        result=str(line["result"]),
        share=float(str(line["share"])),
        seconds=round(row.seconds, 1),
        seconds_needed=int(str(line["needed"])),
        confidence=row.confidence,
        counts=bool(line["counts"]),
        why_not=str(line["why"]),
        answer="; ".join(text.replace("\n", ", ") for text in parts),
    )
