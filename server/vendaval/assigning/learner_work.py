"""Set work as its learner has it."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from django.utils.translation import gettext

from vendaval.bank.snapshot import course_bank
from vendaval.exams.assigning.study_first import sections_opened, study_steps
from vendaval.exams.taking.open_tests import to_rehearse, waiting_tests
from vendaval.groups.models import Enrolment
from vendaval.groups.queries import given_to_learner
from vendaval.shared import clock
from vendaval.shared.errors import NotFound
from vendaval_core.mastery.set_work import Standing

from .challenge import challenges
from .columns import DiagnosticTask, IdeasTask, QuestionsTask, StudyTask, TargetTask
from .evidence import evidence_of
from .models import Task
from .progress import learner_progress
from .schemas import OwnTaskOut, OwnTasksOut, WaitingWorkOut
from .tasks import MOST
from .wording import goal_says, made_says

OPEN = {Standing.NOT_BEGUN, Standing.UNDER_WAY, Standing.LATE}


def own_tasks(enrolment: Enrolment) -> OwnTasksOut:
    """Work that was set for a learner: what waits first, by when it is due."""
    rows = Task.objects.filter(given_to_learner(enrolment)).order_by("-pk").distinct()[:MOST]
    return OwnTasksOut(tasks=_out(enrolment, list(rows)))


def own_task(enrolment: Enrolment, task_id: int) -> OwnTaskOut:
    """One piece of work; NotFound for what was not set for the learner."""
    rows = Task.objects.filter(given_to_learner(enrolment), pk=task_id).distinct()
    found = _out(enrolment, list(rows))
    if not found:
        raise NotFound(gettext("Your tutor hasn’t set this for you."))
    return found[0]


def waiting_work(enrolment: Enrolment) -> WaitingWorkOut:
    """Return the set work that a learner can do now, for Today."""
    bank = course_bank(enrolment.course)
    tests = waiting_tests(enrolment, clock.now())
    return WaitingWorkOut(
        tests=tests,
        tasks=[one for one in own_tasks(enrolment).tasks if one.can_begin],
        challenge=challenges([enrolment.pk], bank).get(enrolment.pk),
        rehearsal=to_rehearse(enrolment) if tests else None,
    )


def _out(enrolment: Enrolment, rows: Sequence[Task]) -> list[OwnTaskOut]:
    bank, now = course_bank(enrolment.course), clock.now()
    own = evidence_of([enrolment.pk], rows, bank)[enrolment.pk]
    opened: set[tuple[str, str]] = set()
    if any(row.first or isinstance(row.goal, StudyTask) for row in rows):
        opened = sections_opened(enrolment)
    found = []
    for row in rows:
        state, made = learner_progress(row, own, bank, now)
        goal, topics = row.goal, list[str]()
        study = goal.sections if isinstance(goal, StudyTask) else []
        if isinstance(goal, TargetTask | QuestionsTask):
            topics = goal.topics
        elif isinstance(goal, IdeasTask):
            known = [bank.families[key].topic for key in goal.families if key in bank.families]
            topics = [bank.topics[number].key for number in sorted(set(known))]
        found.append(
            OwnTaskOut(
                id=row.pk,
                title=row.title,
                kind=goal.kind,
                says=goal_says(goal, bank),
                made=made_says(goal, made),
                state=state,
                can_begin=state in OPEN,
                opens=row.opens,
                due=row.due,
                closes=row.closes,
                topics=topics,
                families=goal.families if isinstance(goal, IdeasTask) else [],
                questions=goal.questions if isinstance(goal, QuestionsTask) else 0,
                subject=goal.subject if isinstance(goal, DiagnosticTask) else None,
                hands_in=row.asks.core().anything,
                study=study_steps(study, opened, bank),
                first=study_steps(row.first, opened, bank),
            )
        )
    return sorted(found, key=lambda one: _order(one, now))


def _order(one: OwnTaskOut, now: datetime) -> tuple[bool, float]:
    far = datetime.max.replace(tzinfo=now.tzinfo)
    return not one.can_begin, (one.due or one.closes or far).timestamp()
