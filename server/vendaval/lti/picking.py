"""Work that a tutor picks inside their platform: it becomes set work of a group here."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, cast

from django.db import transaction
from django.utils.translation import gettext
from pylti1p3.deep_link import DeepLink
from pylti1p3.deep_link_resource import DeepLinkResource
from pylti1p3.lineitem import LineItem

from vendaval.assigning.columns import DiagnosticTask, TargetTask
from vendaval.assigning.models import Task
from vendaval.assigning.schemas import TaskIn
from vendaval.assigning.tasks import set_task
from vendaval.bank.models import Course
from vendaval.bank.snapshot import course_bank
from vendaval.exams.composing.actions import give
from vendaval.exams.models import Assignment, Test
from vendaval.people.models import User
from vendaval.shared.errors import Unprocessable

from .launching import Arrival, group_of, take_in
from .scopes import CLAIM, DEEP_LINKING
from .tool import registration_of

MOST_TESTS = 100
SCORE_MOST = 100.0


@dataclass(frozen=True, slots=True)
class Choice:
    """Something to pick. value: what is sent for it."""

    value: str
    title: str


@dataclass(frozen=True, slots=True)
class Choices:
    """What can be picked of a course."""

    course: str
    tests: list[Choice]
    targets: list[Choice]
    diagnostics: list[Choice]


@dataclass(frozen=True, slots=True)
class Picked:
    """What goes back to the platform."""

    title: str
    address: str
    token: str


def choices(arrival: Arrival) -> list[Choices]:
    """Work of the school's courses that can be set."""
    found = []
    for course in Course.objects.filter(school=arrival.platform.school).order_by("title", "pk"):
        bank = course_bank(course)
        tests = Test.objects.filter(course=course, mirror_of=None, rehearsal=False)
        key = course.key
        found.append(
            Choices(
                course.title,
                [Choice(f"test {one.pk}", one.title) for one in tests.order_by("-pk")[:MOST_TESTS]],
                [Choice(f"target {key} {topic.key}", topic.title) for topic in bank.topics],
                [Choice(f"diagnostic {key} {subject}", title) for subject, title in bank.subjects],
            )
        )
    return found


def pick(arrival: Arrival, by: User, value: str) -> Picked:
    """Set what was picked for the platform's course; Unprocessable for what can't be."""
    settings = arrival.says.get(f"{DEEP_LINKING}deep_linking_settings") or {}
    address = str(settings.get("deep_link_return_url", ""))
    if not address.startswith(("https://", "http://")):
        raise Unprocessable(gettext("The platform doesn’t say where to go back to."))
    kind, _, rest = value.partition(" ")
    with transaction.atomic():
        if kind == "test":
            work: Assignment | Task = _test(arrival, by, rest)
            title = work.test.title if isinstance(work, Assignment) else ""
            named = f"test {work.pk}"
        elif kind in {"target", "diagnostic"}:
            task = _task(arrival, by, kind, *rest.partition(" ")[::2])
            work, title, named = task, task.title, f"task {task.pk}"
        else:
            raise Unprocessable(gettext("Choose what to set."))
    resource = (
        DeepLinkResource()
        .set_title(title)
        .set_custom_params({"work": named})
        .set_lineitem(_column(title, named))
    )
    deep = DeepLink(
        registration_of(arrival.platform),
        str(arrival.says[f"{CLAIM}deployment_id"]),
        cast(Any, settings),
    )
    return Picked(title, address, deep.get_response_jwt([resource]))


def _column(title: str, named: str) -> LineItem:
    """The column of marks that the platform makes for it."""
    return LineItem().set_label(title).set_score_maximum(SCORE_MOST).set_resource_id(named)


def _test(arrival: Arrival, by: User, number: str) -> Assignment:
    tests = Test.objects.select_related("course__school").filter(
        course__school=arrival.platform.school, mirror_of=None, rehearsal=False
    )
    test = tests.filter(pk=int(number) if number.isdigit() else 0).first()
    if test is None:
        raise Unprocessable(gettext("Your school doesn’t have this test."))
    context = group_of(arrival, test.course)
    take_in(arrival, by, context)
    return give(test, context.group, by)


def _task(arrival: Arrival, by: User, kind: str, course: str, key: str) -> Task:
    found = Course.objects.filter(school=arrival.platform.school, key=course).first()
    if found is None:
        raise Unprocessable(gettext("Your school doesn’t have this course."))
    context = group_of(arrival, found)
    take_in(arrival, by, context)
    goal = (
        TargetTask(kind="target", topics=[key])
        if kind == "target"
        else DiagnosticTask(kind="diagnostic", subject=key)
    )
    return set_task(context.group, TaskIn(goal=goal), by)
