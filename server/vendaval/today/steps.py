"""The next steps of a learner, each with its reason and its length at their own pace."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import datetime

from vendaval.bank.snapshot import BankTopic
from vendaval.delivery.payload import reading_out
from vendaval.delivery.schemas import StudyLinkOut
from vendaval.diagnostic.queries import faded_topics, left_open
from vendaval.levels.learning import Learning
from vendaval.levels.queries import past_levels, standings
from vendaval.levels.settings import CHANGE
from vendaval.planning.spells import spell_under_way
from vendaval.recheck.queries import days_since, due_topics, recheck_under_way
from vendaval.review.queries import miss_counts, sure_misses
from vendaval.work.kept import DiagnosticNote, RecheckNote
from vendaval.work.models import Run
from vendaval_core.mastery.freshening import freshening_due, freshening_questions
from vendaval_core.mastery.recheck import MOST_TOPICS, QUESTIONS, recheck_reason
from vendaval_core.mastery.recommend import (
    MOST_STEPS,
    OpenRun,
    Step,
    StepKind,
    counted,
    minutes_for,
    next_steps,
    share_of,
)

from .schemas import StepOut


def step_out(
    step: Step,
    learning: Learning,
    past: dict[int, list[float]],
    study: StudyLinkOut | None = None,
) -> StepOut:
    """A step as it is shown."""
    reading, dots = None, []
    if step.kind is StepKind.PRACTISE and step.topic is not None:
        topic = learning.bank.topic(step.topic)
        reading = reading_out(learning.readings[topic.number])
        dots = past.get(topic.id, [])
    return StepOut(
        key=step.key,
        kind=step.kind.value,
        title=step.title,
        reason=step.reason,
        minutes=step.minutes,
        questions=step.questions,
        topic=step.topic,
        run=step.run,
        study=study,
        reading=reading,
        past=dots,
    )


def _study_steps(learning: Learning) -> dict[str, tuple[Step, StudyLinkOut]]:
    """Sections to read first, after "I haven't been taught this", by the step's key."""
    found = {}
    for key, place in list(learning.row.to_study.items())[:2]:
        topic, section = learning.bank.section_of(place.topic, place.section, key)
        step = Step(
            StepKind.STUDY,
            f"{topic.key}.{section.key}",
            f"Read: {section.title[:1].lower()}{section.title[1:]}",
            f"You said you have not been taught this part of {topic.title.lower()}.",
            section.minutes,
            0,
            1.0,
        )
        link = StudyLinkOut(
            topic=topic.key, section=section.key, title=section.title, minutes=section.minutes
        )
        found[step.key] = (step, link)
    return found


def _open_diagnostic(run: Run) -> OpenRun:
    assert isinstance(run.note, DiagnosticNote)
    settled = sum(status != "open" for status in run.note.statuses.values())
    what = "freshening" if run.note.most else f"diagnostic: {run.title.lower()}"
    title = f"Carry on the {what}"
    return OpenRun(run.pk, title, settled, frozenset(run.scope), run.note.questions_left)


def _seconds(learning: Learning, topics: Sequence[BankTopic]) -> float:
    return sum(learning.seconds(t.number) for t in topics) / max(1, len(topics))


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
    minutes = minutes_for(questions, _seconds(learning, topics))
    run = left.pk if left is not None else None
    return Step(StepKind.RECHECK, None, title, reason, minutes, questions, 0.95, run)


def _spell_step(learning: Learning) -> Step | None:
    """The spell of work that was left."""
    spell = spell_under_way(learning.enrolment)
    if spell is None:
        return None
    left = [note for note in spell.pieces if note.state in {"begun", "waiting"}]
    done = len(spell.pieces) - len(left)
    minutes = max(1, round(sum(note.minutes for note in left)))
    reason = f"{share_of(done, len(spell.pieces), 'piece').capitalize()} behind you."
    if left:
        reason += f" Next: {left[0].title[:1].lower()}{left[0].title[1:]}."
    title = f"Carry on your {spell.minutes} minutes"
    questions = sum(note.questions for note in left)
    return Step(StepKind.SPELL, None, title, reason, minutes, questions, 1.0, spell.pk)


def _freshen_step(learning: Learning, now: datetime) -> Step | None:
    """Some questions over what has faded, at most once a week."""
    topics = faded_topics(learning, now)
    if not freshening_due(len(topics), learning.row.freshened_at, now):
        return None
    questions = freshening_questions(len(topics))
    what = f"{counted(len(topics), 'level').capitalize()} can be told less exactly by now"
    first = topics[0].title.lower()
    reason = f"{what}, {first} among them." if len(topics) > 1 else f"{what}: {first}."
    minutes = minutes_for(questions, _seconds(learning, topics))
    return Step(StepKind.FRESHEN, None, "Freshen the picture", reason, minutes, questions, 0.7)


def steps_for(learning: Learning, now: datetime, aside: Collection[str]) -> list[StepOut]:
    """At most five next steps with their reasons. aside: keys of those put off or turned down."""
    enrolment = learning.enrolment
    misses = miss_counts(enrolment)
    runs = left_open(enrolment)
    topics = [
        (key, title, [t.key for t in learning.bank.topics if t.subject == key])
        for key, title in learning.bank.subjects
    ]
    study = _study_steps(learning)
    first = [step for step, _ in study.values()]
    spell, recheck = _spell_step(learning), _recheck_step(learning, now)
    first = [step for step in (spell, *first, recheck) if step is not None]
    found = next_steps(
        standings(learning, misses),
        topics,
        [_open_diagnostic(run) for run in runs],
        sure_misses(enrolment) if misses else 0,
        CHANGE,
        first,
    )
    fresh = _freshen_step(learning, now)
    if fresh is not None:
        found.insert(len(first), fresh)
    past = past_levels(enrolment)
    shown = [step for step in found if step.key not in aside][:MOST_STEPS]
    return [
        step_out(step, learning, past, study[step.key][1] if step.key in study else None)
        for step in shown
    ]
