"""Where a learner stands and what comes next."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from django.utils import timezone

from vendaval.bank.models import Course, Topic
from vendaval.bank.queries import study_page
from vendaval.bank.snapshot import BankTopic
from vendaval.evidence.models import (
    MissState,
    Purpose,
    Run,
)
from vendaval.evidence.parts_out import figure_out, stored_picture
from vendaval.evidence.queries import (
    miss_counts,
    open_runs,
    past_levels,
    standings,
)
from vendaval.evidence.questions import reading_out
from vendaval.evidence.schemas import PlaceOut, StudyLinkOut
from vendaval.evidence.settings import CHANGE
from vendaval.evidence.state import Learning, load_learning
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import NotFound
from vendaval.shared.markdown import to_html
from vendaval_core.mastery.practice import target_met
from vendaval_core.mastery.recommend import (
    OpenRun,
    Step,
    StepKind,
    in_words,
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
    SubjectOut,
    TodayOut,
    TopicLineOut,
    TopicsOut,
    UnderWayOut,
)

SURE = 90
MOST_UNDER_WAY = 5


def topic_line(
    learning: Learning, topic: BankTopic, past: dict[int, list[float]], misses: dict[int, int]
) -> TopicLineOut:
    reading = learning.readings[topic.number]
    covered = learning.coverage(topic.number)
    met_at = learning.row.met.get(topic.key)
    state: Literal["unknown", "working", "met"] = "working" if reading.known else "unknown"
    if met_at or target_met(reading.chance, covered):
        state = "met"
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
        met_at=datetime.fromisoformat(met_at) if met_at else None,
        waits_for=[t.title for t in waits if readings[t.number].chance <= 0.1],
    )


def subject_lines(learning: Learning) -> list[SubjectOut]:
    """Every topic by subject, in course order."""
    past, misses = past_levels(learning.learner), miss_counts(learning.learner)
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


def under_way(learner: User) -> list[UnderWayOut]:
    """Runs that can be taken up again."""
    return [
        UnderWayOut(
            id=run.pk,
            purpose=Purpose(run.purpose),
            title=run.title,
            answered=run.answered,
            touched_at=run.touched_at,
        )
        for run in open_runs(learner)[:MOST_UNDER_WAY]
    ]


def _study_steps(learning: Learning) -> list[StepOut]:
    """Sections to read first, after "I haven't been taught this"."""
    steps = []
    for key, study in list(learning.row.to_study.items())[:2]:
        topic, section = learning.bank.section(study, key)
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


def _step(step: Step, learning: Learning, run: Run | None, past: dict[int, list[float]]) -> StepOut:
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
        run=run.pk if run is not None and step.kind is StepKind.CARRY_ON else None,
        study=None,
        reading=reading,
        past=dots,
    )


def _open_diagnostic(run: Run | None) -> OpenRun | None:
    if run is None:
        return None
    statuses = run.note.get("statuses", {})
    settled = sum(status != "open" for status in statuses.values())
    left = int(run.note.get("questions_left", 0))
    return OpenRun(f"Carry on the diagnostic: {run.title.lower()}", settled, len(run.scope), left)


def steps_for(learning: Learning) -> list[StepOut]:
    """At most five next steps with their reasons."""
    misses = miss_counts(learning.learner)
    sure = learning.learner.misses.filter(state=MissState.OPEN, confidence__gte=SURE).count()
    run = open_runs(learning.learner, Purpose.DIAGNOSTIC).first()
    topics = [
        (key, title, [t.key for t in learning.bank.topics if t.subject == key])
        for key, title in learning.bank.subjects
    ]
    found = next_steps(standings(learning, misses), topics, _open_diagnostic(run), sure, CHANGE)
    past = past_levels(learning.learner)
    steps = _study_steps(learning) + [_step(step, learning, run, past) for step in found]
    return steps[:5]


def practice_plan(learner: User, course: Course) -> PracticePlanOut:
    """Every topic in the order worth practising."""
    learning = load_learning(learner, course)
    found = recommend_practice(standings(learning, miss_counts(learner)), CHANGE)
    past = past_levels(learner)
    steps = [_step(step, learning, None, past) for step in found]
    wanted = {step.topic for step in found}
    lines = [line for subject in subject_lines(learning) for line in subject.topics]
    return PracticePlanOut(
        under_way=[run for run in under_way(learner) if run.purpose == "practice"],
        steps=steps,
        met=[line for line in lines if line.key not in wanted],
    )


def _greeting(learner: User) -> str:
    hour = timezone.localtime(clock.now()).hour
    part = "morning" if hour < 12 else "afternoon" if hour < 18 else "evening"
    return f"Good {part}, {learner.display_name.split()[0]}"


def _lead(steps: list[StepOut], subjects: list[SubjectOut]) -> str:
    """One true sentence about where the learner is."""
    lines = [line for subject in subjects for line in subject.topics]
    met = sum(line.state == "met" for line in lines)
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
        case "review":
            return f"{step.minutes} min would mend what was missed."
        case _:
            return f"{step.minutes} min would do most for the next."


def today(learner: User, course: Course) -> TodayOut:
    """The page a learner arrives on."""
    learning = load_learning(learner, course)
    subjects = subject_lines(learning)
    steps = steps_for(learning)
    return TodayOut(
        greeting=_greeting(learner),
        lead=_lead(steps, subjects),
        steps=steps,
        under_way=under_way(learner),
        subjects=subjects,
        misses=sum(miss_counts(learner).values()),
        course=course.title,
    )


def topics(learner: User, course: Course) -> TopicsOut:
    """Every topic's level."""
    learning = load_learning(learner, course)
    subjects = subject_lines(learning)
    lines = [line for subject in subjects for line in subject.topics]
    met = sum(line.state == "met" for line in lines)
    known = sum(line.reading.level is not None for line in lines)
    headline = f"{share_of(met, len(lines), 'topic').capitalize()} at the target"
    if known < len(lines):
        headline += f", {in_words(len(lines) - known)} not known yet"
    return TopicsOut(headline=headline, subjects=subjects, under_way=under_way(learner))


def study(course: Course, key: str) -> StudyPageOut:
    """A topic's study page."""
    try:
        topic = study_page(course, key)
    except Topic.DoesNotExist as error:
        raise NotFound("There is no such study page.") from error
    sections = sorted(topic.sections.all(), key=lambda section: section.position)
    return StudyPageOut(
        topic=PlaceOut(key=topic.key, title=topic.title),
        subject=topic.subject.title,
        sections=[
            StudySectionOut(
                key=s.key,
                title=s.title,
                minutes=s.minutes,
                html=to_html(s.markdown),
                figure=figure_out(stored_picture(s.figure)),
            )
            for s in sections
        ],
    )


def require_section(page: StudyPageOut, section: str) -> None:
    """NotFound unless the page has the section."""
    if section not in {s.key for s in page.sections}:
        raise NotFound("There is no such section.")
