"""What learners have done towards the work that was set for them, from the one log there is."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from django.db.models import F

from vendaval.bank.snapshot import CourseBank
from vendaval.diagnostic.run import DiagnosticNote
from vendaval.levels.models import Observation, TargetMet
from vendaval.work.models import HelpKind, HelpOpened, Purpose, Run
from vendaval_core.mastery.set_work import RIGHT_EACH, Progress, Standing, progress, standing

from .columns import DiagnosticTask, Goal, IdeasTask, QuestionsTask, StudyTask, TargetTask
from .models import Task

Times = Mapping[str, Sequence[datetime]]


@dataclass(slots=True)
class Evidence:
    """Of one learner, from some day on. met: targets, by topic. right, tried: first answers by
    family, unhelped and right or all. answered, opened: by topic, and by topic/section. diagnosed:
    runs ended, by subject or "" for all. begun: diagnostics that were."""

    met: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    right: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    tried: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    answered: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    opened: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    diagnosed: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    begun: list[datetime] = field(default_factory=list)


def evidence_of(
    enrolments: Iterable[int], tasks: Sequence[Task], bank: CourseBank
) -> dict[int, Evidence]:
    """What these learners have done since the first of these tasks was given: one query a kind of
    evidence that any of them asks for."""
    found: dict[int, Evidence] = defaultdict(Evidence)
    ids = list(enrolments)
    if not tasks or not ids:
        return found
    since = min(task.given_at for task in tasks)
    goals = [task.goal for task in tasks]
    topics, families = set[str](), set[str]()
    for goal in goals:
        if isinstance(goal, TargetTask | QuestionsTask):
            topics |= set(goal.topics)
        elif isinstance(goal, IdeasTask):
            families |= set(goal.families)
    topics |= {bank.topics[bank.families[k].topic].key for k in families if k in bank.families}
    if topics:
        _add_answers(found, ids, topics, since)
    if any(isinstance(goal, TargetTask) for goal in goals):
        rows = TargetMet.objects.filter(enrolment__in=ids, topic__key__in=topics)
        for enrolment, topic, at in rows.values_list("enrolment", "topic__key", "at"):
            found[enrolment].met[topic].append(at)
    if any(isinstance(goal, StudyTask) for goal in goals):
        opened = HelpOpened.objects.filter(
            enrolment__in=ids, kind=HelpKind.STUDY, at__gte=since
        ).values_list("enrolment", "topic", "section", "at")
        for enrolment, topic, section, at in opened:
            found[enrolment].opened[f"{topic}/{section}"].append(at)
    if any(isinstance(goal, DiagnosticTask) for goal in goals):
        _add_diagnostics(found, ids, since, bank)
    return found


def answers_since(ids: list[int], topics: set[str], since: datetime) -> dict[int, Evidence]:
    """First answers in practice of some topics, by learner; one query."""
    found: dict[int, Evidence] = defaultdict(Evidence)
    _add_answers(found, ids, topics, since)
    return found


def _add_answers(
    found: dict[int, Evidence], ids: list[int], topics: set[str], since: datetime
) -> None:
    """Answers in practice alone: what a test holds back must not be told by set work."""
    rows = Observation.objects.in_force().filter(
        enrolment__in=ids,
        topic__key__in=topics,
        at__gte=since,
        outcome__isnull=False,
        tried__presentation__run__purpose=Purpose.PRACTICE,
    )
    values = rows.annotate(best=F("of") - 1).values_list(
        "enrolment",
        "topic__key",
        "family__key",
        "at",
        "outcome",
        "best",
        "tried__presentation__helped",
    )
    for enrolment, topic, family, at, outcome, best, helped in values:
        found[enrolment].answered[topic].append(at)
        found[enrolment].tried[family].append(at)
        if outcome == best and not helped:
            found[enrolment].right[family].append(at)


def _add_diagnostics(
    found: dict[int, Evidence], ids: list[int], since: datetime, bank: CourseBank
) -> None:
    subjects = {topic.key: topic.subject for topic in bank.topics}
    runs = Run.objects.filter(
        enrolment__in=ids, purpose=Purpose.DIAGNOSTIC, started_at__gte=since
    ).only("enrolment", "scope", "note", "started_at", "ended_at", "answered")
    for run in runs:
        if isinstance(run.note, DiagnosticNote) and run.note.most is not None:
            continue
        own = found[run.enrolment_id]
        own.begun.append(run.started_at)
        if run.ended_at is None or not run.answered:
            continue
        covered = {subjects[key] for key in run.scope if key in subjects}
        whole = {""} if covered == set(subjects.values()) else set()
        for subject in covered | whole:
            own.diagnosed[subject].append(run.ended_at)


def learner_progress(
    task: Task, own: Evidence, bank: CourseBank, now: datetime
) -> tuple[Standing, Progress]:
    """Where one learner stands with a task, and how far they are."""
    made, begun = made_by(task, own, bank)
    state = standing(made, begun=begun, opens=task.opens, due=task.due, closes=task.closes, now=now)
    return state, made


def made_by(task: Task, own: Evidence, bank: CourseBank) -> tuple[Progress, bool]:
    """How far one learner is with a task, and whether they have begun it. A target that was met
    before counts; all else counts from when the task was given."""
    wanted, times = _wanted(task.goal, own, bank)
    since = task.given_at
    later = {
        key: [at for at in found if at >= since or isinstance(task.goal, TargetTask)]
        for key, found in times.items()
    }
    made = progress(wanted, later)
    touched = made.done > 0 or any(at >= since for at in _touched(task.goal, own))
    return made, touched


def _wanted(goal: Goal, own: Evidence, bank: CourseBank) -> tuple[dict[str, int], Times]:
    """What a goal wants and how often, and when each was done. What has left the course is not
    wanted any more."""
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
        case DiagnosticTask():
            return own.begun
        case StudyTask():
            return ()
        case IdeasTask(families=families):
            return [at for family in families for at in own.tried.get(family, ())]
        case _:
            return [at for topic in goal.topics for at in own.answered.get(topic, ())]
