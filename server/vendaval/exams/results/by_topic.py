"""What an attempt brought topic by topic, and what to study after it."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from vendaval.bank.snapshot import course_bank
from vendaval.delivery.schemas import StudyLinkOut
from vendaval_core.assessment.points import Adjusted, shown
from vendaval_core.assessment.release import Released

from ..models import Attempt
from ..points import points_by_number
from .schemas import ResultLineOut, TopicPointsOut

NOT_RIGHT = {"wrong", "partly", "empty"}


def topics_of(
    attempt: Attempt, lines: Sequence[ResultLineOut], told: Released
) -> list[TopicPointsOut]:
    """Points of each topic, in the order of the course; none where there is one topic only, or
    while points or right and wrong may not be told."""
    own = {line.topic.key: line.topic for line in lines if line.topic is not None}
    if not (told.score and told.correctness and attempt.marked) or len(own) < 2:
        return []
    points = points_by_number([attempt])[attempt.pk]
    found = []
    for topic in course_bank(attempt.enrolment.course).topics:
        mine = [line for line in lines if line.topic is not None and line.topic.key == topic.key]
        kept = [points[n] for line in mine if (n := line.number) in points]
        kept = [one for one in kept if one.adjusted is not Adjusted.DROPPED]
        if kept:
            reached = sum((one.reached or Fraction(0) for one in kept), Fraction(0))
            found.append(
                TopicPointsOut(
                    topic=own[topic.key],
                    points=shown(reached),
                    of=shown(sum((one.of for one in kept), Fraction(0))),
                    right=sum(line.result == "right" for line in mine),
                    questions=len(mine),
                    seconds=sum(line.seconds for line in mine),
                )
            )
    return found


def study_after(attempt: Attempt, lines: Sequence[ResultLineOut]) -> list[StudyLinkOut]:
    """The study sections of the questions that were not right, each once, in their order."""
    bank, found = course_bank(attempt.enrolment.course), dict[tuple[str, str], StudyLinkOut]()
    for line in lines:
        item = bank.known(attempt.places[line.number - 1].family)
        if line.result in NOT_RIGHT and item is not None:
            topic, section = bank.section(item.family.study, item.family.topic)
            found[topic.key, section.key] = StudyLinkOut(
                topic=topic.key,
                section=section.key,
                title=section.title,
                minutes=section.minutes,
            )
    return list(found.values())
