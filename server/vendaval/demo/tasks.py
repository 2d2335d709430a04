"""The demo's other work: practice, reading and a diagnostic, set at different times."""

from __future__ import annotations

from datetime import datetime, timedelta

from vendaval.assigning.columns import DiagnosticTask, QuestionsTask, StudyTask, TargetTask
from vendaval.assigning.messages import tell_task_set
from vendaval.assigning.schemas import TaskIn
from vendaval.assigning.tasks import set_task
from vendaval.groups.columns import StudyFirst
from vendaval.groups.models import Enrolment, Group
from vendaval.people.models import User
from vendaval.shared import clock

DATUMS = StudyFirst(topic="tidal-terms", section="datums")


def set_tasks(group: Group, tutor: User, rita: User, now: datetime) -> None:
    """Four pieces of work: one long due, two going on, one for a single learner."""
    evening = now.replace(hour=18, minute=0, second=0, microsecond=0)
    learner = Enrolment.objects.get(person=rita, course=group.course)
    set_at = {
        20: TaskIn(
            goal=QuestionsTask(kind="questions", topics=["tidal-terms"], questions=8),
            first=[DATUMS],
            due=evening - timedelta(days=13),
        ),
        9: TaskIn(
            goal=TargetTask(kind="target", topics=["height-at-a-time", "clearance-windows"]),
            due=evening + timedelta(days=2),
        ),
        3: TaskIn(goal=StudyTask(kind="study", sections=[DATUMS]), due=evening + timedelta(days=1)),
        2: TaskIn(
            goal=DiagnosticTask(kind="diagnostic"),
            title="A first look at everything",
            learners=[learner.pk],
        ),
    }
    for days, wanted in set_at.items():
        at = now - timedelta(days=days)
        with clock.held_by(lambda at=at: at):  # type: ignore[misc]
            tell_task_set(set_task(group, wanted, tutor))
