"""Endpoints of set work that is no test: for a group's tutors, and for its learners."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.groups import withdrawing
from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_enrolment, own_group
from vendaval.people.permissions import current_user, signed_in

from . import learner_work, tasks
from .messages import tell_task_set
from .models import Task
from .schemas import (
    ChangeTaskIn,
    GroupTasksOut,
    OwnTaskOut,
    OwnTasksOut,
    TaskCheckOut,
    TaskIn,
    WaitingWorkOut,
)

for_group = Router(auth=signed_in, tags=["assigning"])
own_tasks = Router(auth=signed_in, tags=["assigning"])
TASKS = "/groups/{int:group_id}/tasks"
TASK = f"{TASKS}/{{int:task_id}}"


@for_group.get(TASKS, response=GroupTasksOut, operation_id="list_group_tasks")
def list_group_tasks(request: HttpRequest, group_id: int) -> GroupTasksOut:
    """Practice goals, diagnostics and study sections set for a group, and where each learner
    stands."""
    return tasks.group_tasks(own_group(current_user(request), group_id, "list_group_tasks"))


@for_group.post(f"{TASKS}/check", response=TaskCheckOut, operation_id="check_task")
def check_task(request: HttpRequest, group_id: int, body: TaskIn) -> TaskCheckOut:
    """What setting it would be. Nothing is stored."""
    return tasks.check_task(own_group(current_user(request), group_id, "check_task"), body)


@for_group.post(TASKS, response=GroupTasksOut, operation_id="set_task")
def set_task(request: HttpRequest, group_id: int, body: TaskIn) -> GroupTasksOut:
    """Set work for the group, or some of it."""
    user = current_user(request)
    group = own_group(user, group_id, "set_task")
    tell_task_set(tasks.set_task(group, body, user))
    return tasks.group_tasks(group)


@for_group.put(TASK, response=GroupTasksOut, operation_id="change_task")
def change_task(
    request: HttpRequest, group_id: int, task_id: int, body: ChangeTaskIn
) -> GroupTasksOut:
    group = own_group(current_user(request), group_id, "change_task")
    tasks.change_task(tasks.task_of(group, task_id), body)
    return tasks.group_tasks(group)


@for_group.delete(TASK, response=GroupTasksOut, operation_id="withdraw_task")
def withdraw_task(request: HttpRequest, group_id: int, task_id: int) -> GroupTasksOut:
    """Take work back. What learners did for it stays where it counts: in their record."""
    group = own_group(current_user(request), group_id, "withdraw_task")
    withdrawing.withdraw(tasks.task_of(group, task_id))
    return tasks.group_tasks(group)


@for_group.post(f"{TASK}/restore", response=GroupTasksOut, operation_id="restore_task")
def restore_task(request: HttpRequest, group_id: int, task_id: int) -> GroupTasksOut:
    """Undo that work was withdrawn."""
    group = own_group(current_user(request), group_id, "restore_task")
    withdrawing.restore(Task, group, task_id)
    return tasks.group_tasks(group)


@own_tasks.get("/work", response=OwnTasksOut, operation_id="list_tasks")
def list_tasks(request: HttpRequest, course: CourseKey) -> OwnTasksOut:
    """Work that was set for a learner."""
    return learner_work.own_tasks(own_enrolment(current_user(request), course, "list_tasks"))


@own_tasks.get("/work/waiting", response=WaitingWorkOut, operation_id="list_waiting_work")
def list_waiting_work(request: HttpRequest, course: CourseKey) -> WaitingWorkOut:
    """Work that was set for a learner and can be done now."""
    enrolment = own_enrolment(current_user(request), course, "list_waiting_work")
    return learner_work.waiting_work(enrolment)


@own_tasks.get("/work/{int:task_id}", response=OwnTaskOut, operation_id="get_task")
def get_task(request: HttpRequest, course: CourseKey, task_id: int) -> OwnTaskOut:
    enrolment = own_enrolment(current_user(request), course, "get_task")
    return learner_work.own_task(enrolment, task_id)
