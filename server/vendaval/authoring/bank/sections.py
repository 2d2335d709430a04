"""How learners do after they read a study section, found out in the background."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import asdict
from functools import partial

from django.db.models import Count
from pydantic import BaseModel

from vendaval.authoring.models import BankState
from vendaval.authoring.trials.evidence import Read, next_tries
from vendaval.bank.models import Course, StudySection
from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.levels.models import Observation
from vendaval.work.models import HelpKind, HelpOpened
from vendaval_core.measure.after_reading import AfterReading, after_reading

MOST_READERS, MOST_TRIES = 500, 5_000


class SectionRead(BaseModel):
    """A study section that was read, and what came of it."""

    topic: str
    section: str
    title: str
    answers: int
    expected: float
    right: float
    points: float
    low: float
    high: float

    def figure(self) -> AfterReading:
        """As the core has it."""
        return AfterReading(
            self.answers, self.expected, self.right, self.points, self.low, self.high
        )


def refresh_sections(course: Course) -> None:
    """Bring up to date what is known of each section that somebody opened."""
    bank = course_bank(course)
    opened = HelpOpened.objects.filter(enrolment__course=course, kind=HelpKind.STUDY)
    places = opened.values_list("topic", "section").annotate(Count("pk")).order_by()
    read = {(topic, section) for topic, section, _ in places}
    rows = StudySection.objects.filter(topic__course=course).select_related("topic")
    found = [
        made
        for row in rows.order_by("topic__subject__position", "topic__position", "position")
        if (row.topic.key, row.key) in read and (made := _made(bank, row)) is not None
    ]
    BankState.objects.filter(course=course).update(sections=[one.model_dump() for one in found])


def _made(bank: CourseBank, row: StudySection) -> SectionRead | None:
    tries = next_tries(bank, _readers(row), partial(_tried, row.topic_id))
    figure = after_reading((chance, right) for _, chance, right in tries)
    if figure is None:
        return None
    return SectionRead(topic=row.topic.key, section=row.key, title=row.title, **asdict(figure))


def _readers(row: StudySection) -> Iterator[Read]:
    rows = HelpOpened.objects.filter(
        enrolment__course=row.topic.course_id,
        kind=HelpKind.STUDY,
        topic=row.topic.key,
        section=row.key,
    )
    for enrolment, at in rows.order_by("-at").values_list("enrolment", "at")[:MOST_READERS]:
        yield Read(enrolment, at, False, 0)


def _tried(topic: int, learners: Sequence[int]) -> Iterable[Observation]:
    rows = Observation.objects.told().filter(topic=topic, enrolment__in=learners, weight__gt=0)
    return rows.order_by("at", "pk")[:MOST_TRIES]


def sections_read(state: BankState | None) -> list[SectionRead]:
    """What was last found of a course's sections."""
    return [] if state is None else [SectionRead.model_validate(one) for one in state.sections]
