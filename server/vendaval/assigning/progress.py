"""How far one learner is with a task, by the evidence of the log."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime

from vendaval.bank.snapshot import CourseBank
from vendaval_core.mastery.set_work import RIGHT_EACH, Progress, Standing, progress, standing

from .columns import (
    DiagnosticTask,
    Goal,
    HandInTask,
    IdeasTask,
    QuestionsTask,
    StudyTask,
    TargetTask,
)
from .evidence import Evidence
from .models import Task

Times = Mapping[str, Sequence[datetime]]


def learner_progress(
    task: Task, own: Evidence, bank: CourseBank, now: datetime
) -> tuple[Standing, Progress]:
    """Where one learner stands with a task, and how far they are."""
    made, begun = made_by(task, own, bank)
    state = standing(
        _whole(task, own, made),
        begun=begun,
        opens=task.opens,
        due=task.due,
        closes=task.closes,
        now=now,
    )
    return state, made


def _whole(task: Task, own: Evidence, made: Progress) -> Progress:
    """How far they are with handing in, where the work is done only then."""
    if isinstance(task.goal, HandInTask) or not task.asks.core().needed:
        return made
    handed_in = own.handed_in.get(task.pk, ())
    finished = max(made.finished, *handed_in) if made.finished and handed_in else None
    return Progress(made.done + len(handed_in), made.of + 1, finished)


def made_by(task: Task, own: Evidence, bank: CourseBank) -> tuple[Progress, bool]:
    """How far one learner is with a task, and whether they have begun it. A target that was met
    before counts; all else counts from when the task was given."""
    wanted, times = _wanted(task, own, bank)
    since = task.given_at
    later = {
        key: [at for at in found if at >= since or isinstance(task.goal, TargetTask)]
        for key, found in times.items()
    }
    made = progress(wanted, later)
    touched = made.done > 0 or any(at >= since for at in _touched(task.goal, own))
    return made, touched


def _wanted(task: Task, own: Evidence, bank: CourseBank) -> tuple[dict[str, int], Times]:
    """What a goal wants and how often, and when each was done. What has left the course is not
    wanted any more."""
    goal = task.goal
    if isinstance(goal, HandInTask):
        return {"": 1}, {"": own.handed_in.get(task.pk, ())}
    if isinstance(goal, TargetTask):
        known = {topic.key for topic in bank.topics}
        return {key: 1 for key in goal.topics if key in known}, own.met
    if isinstance(goal, IdeasTask):
        return {key: RIGHT_EACH for key in goal.families if key in bank.families}, own.right
    if isinstance(goal, QuestionsTask):
        all_of = [at for topic in goal.topics for at in own.answered.get(topic, ())]
        return {"": goal.questions}, {"": all_of}
    if isinstance(goal, DiagnosticTask):
        subject = goal.subject or ""
        return {subject: 1}, own.diagnosed
    known = {f"{topic.key}/{section.key}" for topic in bank.topics for section in topic.sections}
    keys = [f"{one.topic}/{one.section}" for one in goal.sections]
    return {key: 1 for key in keys if key in known}, own.opened


def _touched(goal: Goal, own: Evidence) -> Iterable[datetime]:
    """When anything of a goal was answered at all, right or wrong."""
    match goal:
        case DiagnosticTask(subject=subject):
            return own.begun[subject or ""]
        case StudyTask() | HandInTask():
            return ()
        case IdeasTask(families=families):
            return [at for family in families for at in own.tried.get(family, ())]
        case _:
            return [at for topic in goal.topics for at in own.answered.get(topic, ())]
