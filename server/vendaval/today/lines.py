"""Topics as lists show them, and what is under way."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from vendaval.bank.snapshot import BankTopic
from vendaval.delivery.payload import reading_out
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning
from vendaval.levels.snapshot import Snapshot, snapshot_of
from vendaval.levels.standing import topic_state
from vendaval.review.order import miss_counts
from vendaval.shared import clock
from vendaval.work.models import Purpose, Run
from vendaval_core.measure.level import FIRST_ANSWERS

from .schemas import SubjectOut, TopicLineOut, UnderWayOut

MOST_UNDER_WAY = 5


def learner_now(enrolment: Enrolment) -> Snapshot:
    """A learner as the pages of this app read one, at this moment."""
    return snapshot_of(enrolment, miss_counts(enrolment), clock.now())


def topic_line(
    learning: Learning,
    topic: BankTopic,
    past: Mapping[int, list[float]],
    misses: Mapping[int, int],
) -> TopicLineOut:
    """A topic with its level and where it stands."""
    readings = learning.readings
    reading, history = readings[topic.number], learning.topic(topic.key)
    covered = learning.coverage(topic.number)
    waits = [learning.bank.topic(k) for k in topic.after]
    return TopicLineOut(
        key=topic.key,
        title=topic.title,
        subject=topic.subject,
        reading=reading_out(reading),
        past=past.get(topic.id, []),
        covered=covered.covered,
        essential=covered.essential,
        misses=misses.get(topic.id, 0),
        answers=learning.answers_in(topic.number),
        state=topic_state(learning, topic, reading),
        first_estimate=reading.known and learning.answers_in(topic.number) < FIRST_ANSWERS,
        met_at=history.met_at,
        recheck_at=history.recheck_at,
        waits_for=[t.title for t in waits if readings[t.number].chance <= 0.1],
    )


def subject_lines(seen: Snapshot) -> list[SubjectOut]:
    """Every topic by subject, in course order."""
    learning = seen.learning
    return [
        SubjectOut(
            key=key,
            title=title,
            topics=[
                topic_line(learning, topic, seen.past, seen.misses)
                for topic in learning.bank.topics
                if topic.subject == key
            ],
        )
        for key, title in learning.bank.subjects
    ]


def all_lines(subjects: Iterable[SubjectOut]) -> list[TopicLineOut]:
    """The topics of some subjects that have been taught so far."""
    return [t for subject in subjects for t in subject.topics if t.state != "not_yet"]


def is_met(line: TopicLineOut) -> bool:
    """Whether a topic's target is met and has not become doubtful."""
    return line.state in {"met", "secure"}


def under_way(runs: Iterable[Run]) -> list[UnderWayOut]:
    """Runs that can be taken up again."""
    return [
        UnderWayOut(
            id=run.pk,
            purpose=Purpose(run.purpose),
            title=run.title,
            answered=run.answered,
            touched_at=run.touched_at,
        )
        for run in runs
    ]
