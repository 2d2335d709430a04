"""Where a learner stands and what comes next."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from django.db.models import QuerySet
from django.utils import timezone

from vendaval.bank.models import Course
from vendaval.bank.queries import study_page
from vendaval.bank.snapshot import BankTopic
from vendaval.delivery.parts_out import figure_out, stored_picture
from vendaval.delivery.payload import reading_out
from vendaval.delivery.schemas import PlaceOut, StudyLinkOut
from vendaval.diagnostic.queries import left_open
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning, learning_of
from vendaval.levels.queries import past_levels, standings
from vendaval.levels.settings import CHANGE
from vendaval.practice.queries import practice_under_way
from vendaval.recheck.queries import days_since, due_topics, recheck_under_way
from vendaval.review.queries import miss_counts, sure_misses
from vendaval.shared import clock
from vendaval.shared.errors import NotFound
from vendaval.shared.markdown import to_html
from vendaval.work.kept import DiagnosticNote, RecheckNote
from vendaval.work.models import Purpose, Run
from vendaval.work.runs import open_runs
from vendaval_core.mastery.practice import to_be_checked
from vendaval_core.mastery.recheck import MOST_TOPICS, QUESTIONS, recheck_reason
from vendaval_core.mastery.recommend import (
    OpenRun,
    Step,
    StepKind,
    counted,
    in_words,
    minutes_for,
    next_steps,
    recommend_practice,
    sentence_of_share,
    share_of,
)

from .schemas import (
    PracticePlanOut,
    StepOut,
    StudyPageOut,
    StudySectionOut,
    StudyTextOut,
    SubjectOut,
    TodayOut,
    TopicLineOut,
    TopicsOut,
    UnderWayOut,
)

MOST_UNDER_WAY = 5


def topic_line(
    learning: Learning, topic: BankTopic, past: dict[int, list[float]], misses: dict[int, int]
) -> TopicLineOut:
    reading = learning.readings[topic.number]
    covered = learning.coverage(topic.number)
    history = learning.topic(topic.key)
    met_at = history.met_at
    state: Literal["unknown", "working", "met", "secure", "check"]
    state = "working" if reading.known else "unknown"
    if met_at:
        doubtful = history.lost or to_be_checked(reading.chance)
        state = "check" if doubtful else "secure" if history.secure else "met"
    readings = learning.readings
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
        state=state,
        met_at=met_at,
        recheck_at=history.recheck_at,
        waits_for=[t.title for t in waits if readings[t.number].chance <= 0.1],
    )


def subject_lines(learning: Learning) -> list[SubjectOut]:
    """Every topic by subject, in course order."""
    past, misses = past_levels(learning.enrolment), miss_counts(learning.enrolment)
    return [
        SubjectOut(
            key=key,
            title=title,
            topics=[
                topic_line(learning, topic, past, misses)
                for topic in learning.bank.topics
                if topic.subject == key
            ],
        )
        for key, title in learning.bank.subjects
    ]


def under_way(runs: QuerySet[Run]) -> list[UnderWayOut]:
    """Runs that can be taken up again, the latest five."""
    return [
        UnderWayOut(
            id=run.pk,
            purpose=Purpose(run.purpose),
            title=run.title,
            answered=run.answered,
            touched_at=run.touched_at,
        )
        for run in runs[:MOST_UNDER_WAY]
    ]


def _study_steps(learning: Learning) -> list[StepOut]:
    """Sections to read first, after "I haven't been taught this"."""
    steps = []
    for key, place in list(learning.row.to_study.items())[:2]:
        topic, section = learning.bank.section_of(place.topic, place.section, key)
        steps.append(
            StepOut(
                kind="study",
                title=f"Read: {section.title[:1].lower()}{section.title[1:]}",
                reason=f"You said you have not been taught this part of {topic.title.lower()}.",
                minutes=section.minutes,
                questions=0,
                topic=topic.key,
                run=None,
                study=StudyLinkOut(
                    topic=topic.key,
                    section=section.key,
                    title=section.title,
                    minutes=section.minutes,
                ),
                reading=None,
                past=[],
            )
        )
    return steps


def _step(step: Step, learning: Learning, past: dict[int, list[float]]) -> StepOut:
    reading, dots = None, []
    if step.kind is StepKind.PRACTISE and step.topic is not None:
        topic = learning.bank.topic(step.topic)
        reading = reading_out(learning.readings[topic.number])
        dots = past.get(topic.id, [])
    return StepOut(
        kind=step.kind.value,
        title=step.title,
        reason=step.reason,
        minutes=step.minutes,
        questions=step.questions,
        topic=step.topic,
        run=step.run,
        study=None,
        reading=reading,
        past=dots,
    )


def _open_diagnostic(run: Run) -> OpenRun:
    assert isinstance(run.note, DiagnosticNote)
    settled = sum(status != "open" for status in run.note.statuses.values())
    title = f"Carry on the diagnostic: {run.title.lower()}"
    return OpenRun(run.pk, title, settled, frozenset(run.scope), run.note.questions_left)


def _recheck_step(learning: Learning, now: datetime) -> Step | None:
    """The recheck that was left, or the one that is due."""
    left = recheck_under_way(learning.enrolment)
    if left is not None:
        questions = len(left.note.left) + 1 if isinstance(left.note, RecheckNote) else 1
        topics = learning.bank.topics_of(left.scope)
        title = "Carry on the recheck"
        reason = f"{counted(questions, 'question').capitalize()} of it are left."
    else:
        topics = due_topics(learning, now)[:MOST_TOPICS]
        if not topics:
            return None
        questions, title = QUESTIONS * len(topics), "Recheck: does it still hold?"
        days = [days_since(learning, topic, now) for topic in topics]
        reason = recheck_reason([topic.title for topic in topics], days)
    seconds = sum(learning.bank.mean_seconds(t.number) for t in topics) / max(1, len(topics))
    minutes = minutes_for(questions, seconds)
    run = left.pk if left is not None else None
    return Step(StepKind.RECHECK, None, title, reason, minutes, questions, 0.95, run)


def steps_for(learning: Learning) -> list[StepOut]:
    """At most five next steps with their reasons."""
    misses, sure = miss_counts(learning.enrolment), sure_misses(learning.enrolment)
    open_ = [_open_diagnostic(run) for run in left_open(learning.enrolment)]
    topics = [
        (key, title, [t.key for t in learning.bank.topics if t.subject == key])
        for key, title in learning.bank.subjects
    ]
    recheck = _recheck_step(learning, clock.now())
    found = next_steps(standings(learning, misses), topics, open_, sure, CHANGE, recheck)
    past = past_levels(learning.enrolment)
    steps = _study_steps(learning) + [_step(step, learning, past) for step in found]
    return steps[:5]


def practice_plan(enrolment: Enrolment) -> PracticePlanOut:
    """Every topic in the order worth practising."""
    learning = learning_of(enrolment)
    found = recommend_practice(standings(learning, miss_counts(enrolment)), CHANGE)
    past = past_levels(enrolment)
    steps = [_step(step, learning, past) for step in found]
    wanted = {step.topic for step in found}
    lines = [line for subject in subject_lines(learning) for line in subject.topics]
    return PracticePlanOut(
        under_way=under_way(practice_under_way(enrolment)),
        steps=steps,
        met=[line for line in lines if line.key not in wanted],
    )


def _greeting(name: str) -> str:
    hour = timezone.localtime(clock.now()).hour
    part = "morning" if hour < 12 else "afternoon" if hour < 18 else "evening"
    return f"Good {part}, {name.split()[0]}"


def _lead(steps: list[StepOut], subjects: list[SubjectOut]) -> str:
    """One true sentence about where the learner is."""
    lines = [line for subject in subjects for line in subject.topics]
    met = sum(line.state in {"met", "secure"} for line in lines)
    if not any(line.answers for line in lines):
        return "A diagnostic shows where you stand, topic by topic."
    if met == len(lines):
        return "Every target is met."
    start = sentence_of_share(met, len(lines), "topic", "at the target")
    return f"{start} {_first_words(steps[0])}" if steps else start


def _first_words(step: StepOut) -> str:
    """What taking the first step would do."""
    match step.kind:
        case "study":
            return "A page to read comes first."
        case "carry_on":
            return f"{step.minutes} min would finish the diagnostic."
        case "recheck":
            return f"{step.minutes} min would show whether what was met still holds."
        case "review":
            return f"{step.minutes} min would mend what was missed."
        case _:
            return f"{step.minutes} min would do most for the next."


def today(enrolment: Enrolment) -> TodayOut:
    """The page a learner arrives on."""
    learning = learning_of(enrolment)
    subjects = subject_lines(learning)
    steps = steps_for(learning)
    return TodayOut(
        greeting=_greeting(enrolment.person.display_name),
        lead=_lead(steps, subjects),
        steps=steps,
        under_way=under_way(open_runs(enrolment)),
        subjects=subjects,
        misses=miss_counts(enrolment).total(),
        course=enrolment.course.title,
    )


def topics(enrolment: Enrolment) -> TopicsOut:
    """Every topic's level."""
    learning = learning_of(enrolment)
    subjects = subject_lines(learning)
    lines = [line for subject in subjects for line in subject.topics]
    met = sum(line.state == "met" for line in lines)
    known = sum(line.reading.level is not None for line in lines)
    headline = f"{share_of(met, len(lines), 'topic').capitalize()} at the target"
    if known < len(lines):
        headline += f", {in_words(len(lines) - known)} not known yet"
    return TopicsOut(
        headline=headline, subjects=subjects, under_way=under_way(open_runs(enrolment))
    )


def study(course: Course, key: str) -> StudyPageOut:
    """A topic's study page: its sections, whose text comes as each is opened."""
    topic = study_page(course, key)
    sections = sorted(topic.sections.all(), key=lambda section: section.position)
    return StudyPageOut(
        topic=PlaceOut(key=topic.key, title=topic.title),
        subject=topic.subject.title,
        sections=[
            StudySectionOut(
                key=s.key,
                title=s.title,
                minutes=s.minutes,
            )
            for s in sections
        ],
    )


def study_text(course: Course, key: str, section: str) -> StudyTextOut:
    """A section's own text; NotFound unless the topic has it."""
    for s in study_page(course, key).sections.all():
        if s.key == section:
            return StudyTextOut(
                key=s.key,
                title=s.title,
                html=to_html(s.markdown),
                figure=figure_out(stored_picture(s.figure)),
            )
    raise NotFound("There is no such section.")
