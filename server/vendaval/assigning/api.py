"""Endpoints of set work that is no test: for a group's tutors, and for its learners."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.files.schemas import FileIn, FileOut
from vendaval.groups import withdrawing
from vendaval.groups.addresses import CourseKey
from vendaval.groups.batches import Together, given_together, groups_asked_for
from vendaval.groups.queries import own_enrolment, own_group
from vendaval.people.permissions import current_user, signed_in
from vendaval.people.policies import Relation, require

from . import hand_ins, learner_work, tasks
from .hand_in_schemas import HandInMarkIn, HandInOut, HandInsOut, LinksIn, WaitingHandInsOut
from .messages import tell_task_set
from .models import Task
from .schemas import (
    ChangeTaskIn,
    GroupTasksOut,
    NewTaskIn,
    OwnTaskOut,
    OwnTasksOut,
    TaskCheckOut,
    TaskIn,
    WaitingWorkOut,
)
from .waiting_hand_ins import waiting_hand_ins

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
def set_task(request: HttpRequest, group_id: int, body: NewTaskIn) -> GroupTasksOut:
    """Set work for the group, for some of it, or for several groups."""
    user = current_user(request)
    group = own_group(user, group_id, "set_task")
    groups = groups_asked_for(user, group, body.also, "set_task", some=body.learners is not None)
    for row in tasks.set_tasks(groups, body, user):
        tell_task_set(row)
    return tasks.group_tasks(group)


@for_group.put(TASK, response=GroupTasksOut, operation_id="change_task")
def change_task(
    request: HttpRequest,
    group_id: int,
    task_id: int,
    body: ChangeTaskIn,
    together: Together = False,
) -> GroupTasksOut:
    """Change work; together, for the other groups it was set for as well."""
    user = current_user(request)
    group = own_group(user, group_id, "change_task")
    row = tasks.task_of(group, task_id)
    tasks.change_together(row, body, given_together(row, user) if together else [])
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


HAND_IN = "/work/{int:task_id}/hand-in"


@own_tasks.get(HAND_IN, response=HandInOut, operation_id="get_hand_in")
def get_hand_in(request: HttpRequest, course: CourseKey, task_id: int) -> HandInOut:
    """What a learner hands in with a piece of work."""
    enrolment = own_enrolment(current_user(request), course, "get_hand_in")
    return hand_ins.own_hand_in(enrolment, task_id)


@own_tasks.put(f"{HAND_IN}/links", response=HandInOut, operation_id="set_links")
def set_links(request: HttpRequest, course: CourseKey, task_id: int, body: LinksIn) -> HandInOut:
    enrolment = own_enrolment(current_user(request), course, "set_links")
    return hand_ins.set_links(enrolment, task_id, body.links)


@own_tasks.post(f"{HAND_IN}/files", response=FileOut, operation_id="start_hand_in_file")
def start_hand_in_file(
    request: HttpRequest, course: CourseKey, task_id: int, body: FileIn
) -> FileOut:
    """Announce a file, which then comes in pieces."""
    enrolment = own_enrolment(current_user(request), course, "start_hand_in_file")
    return hand_ins.start_file(enrolment, task_id, body)


@own_tasks.post(HAND_IN, response=HandInOut, operation_id="hand_in_task")
def hand_in_task(request: HttpRequest, course: CourseKey, task_id: int) -> HandInOut:
    """Hand in what is there."""
    enrolment = own_enrolment(current_user(request), course, "hand_in_task")
    return hand_ins.hand_in(enrolment, task_id)


@own_tasks.delete(HAND_IN, response=HandInOut, operation_id="take_back_task")
def take_back_task(request: HttpRequest, course: CourseKey, task_id: int) -> HandInOut:
    """Take back what was handed in, to change it."""
    enrolment = own_enrolment(current_user(request), course, "take_back_task")
    return hand_ins.take_back(enrolment, task_id)


@for_group.get("/hand-ins", response=WaitingHandInsOut, operation_id="list_waiting_hand_ins")
def list_waiting_hand_ins(request: HttpRequest) -> WaitingHandInsOut:
    """What was handed in to a tutor's groups and waits for marks."""
    person = current_user(request)
    require("list_waiting_hand_ins", person.roles, Relation.OWN)
    return waiting_hand_ins(person)


@for_group.get(f"{TASK}/hand-ins", response=HandInsOut, operation_id="list_hand_ins")
def list_hand_ins(request: HttpRequest, group_id: int, task_id: int) -> HandInsOut:
    """What learners handed in for a piece of work."""
    group = own_group(current_user(request), group_id, "list_hand_ins")
    return hand_ins.group_hand_ins(group, task_id)


@for_group.post(
    f"{TASK}/hand-ins/{{int:enrolment_id}}", response=HandInsOut, operation_id="mark_hand_in"
)
def mark_hand_in(
    request: HttpRequest, group_id: int, task_id: int, enrolment_id: int, body: HandInMarkIn
) -> HandInsOut:
    """Mark what a learner handed in."""
    user = current_user(request)
    group = own_group(user, group_id, "mark_hand_in")
    return hand_ins.mark(group, task_id, enrolment_id, body, user)
