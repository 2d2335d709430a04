"""What learners have done since work was set, read from the log."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from django.db.models import F

from vendaval.bank.snapshot import CourseBank
from vendaval.diagnostic.run import DiagnosticNote
from vendaval.levels.models import Observation, TargetMet
from vendaval.work.models import HelpKind, HelpOpened, Purpose, Run

from .columns import DiagnosticTask, IdeasTask, QuestionsTask, StudyTask, TargetTask
from .models import HandIn, Task


@dataclass(slots=True)
class Evidence:
    """Of one learner, from some day on. met: targets, by topic. right, tried: first answers by
    family, unhelped and right or all. answered, opened: by topic, and by topic/section. diagnosed,
    begun: diagnostics ended and begun, by subject or "" for all. handed_in: by piece of work."""

    met: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    right: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    tried: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    answered: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    opened: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    diagnosed: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    begun: dict[str, list[datetime]] = field(default_factory=lambda: defaultdict(list))
    handed_in: dict[int, list[datetime]] = field(default_factory=lambda: defaultdict(list))


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
    asking = [task.pk for task in tasks if task.asks.core().anything]
    if asking:
        came = HandIn.objects.filter(task__in=asking, enrolment__in=ids).exclude(handed_in_at=None)
        for row in came:
            assert row.handed_in_at is not None, "those are left out"
            found[row.enrolment_id].handed_in[row.task_id].append(row.handed_in_at)
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
        own, covered = found[run.enrolment_id], _covered(run, subjects)
        for subject in covered:
            own.begun[subject].append(run.started_at)
            if run.ended_at is not None and run.answered:
                own.diagnosed[subject].append(run.ended_at)


def _covered(run: Run, subjects: dict[str, str]) -> set[str]:
    """What a diagnostic is about: its subjects, and "" for all. One of a single subject is none of
    all, however many topics were taught. subjects: by topic."""
    covered = {subjects[key] for key in run.scope if key in subjects}
    said = run.note.subject if isinstance(run.note, DiagnosticNote) else None
    whole = covered == set(subjects.values()) if said is None else not said
    return covered | {""} if whole else covered
