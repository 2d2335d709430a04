"""Endpoints to compose tests of a course: for its authors, and for tutors with a group in it."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router

from vendaval.bank.models import Course
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import course_of_staff, courses_of_staff, own_group
from vendaval.people.permissions import current_user, signed_in
from vendaval.people.policies import Relation, require

from . import bank as picking
from . import forecast as forecasting
from . import stopping
from . import tests_of_course as composed
from .schemas import (
    BankOut,
    ChangeTestIn,
    ComposedIn,
    ComposedListOut,
    ComposedOut,
    ComposingOut,
    FamilyPreviewOut,
    ForecastOut,
    StopIn,
    StoppingOut,
    TestCheckOut,
)

router = Router(auth=signed_in, tags=["composing"])
TEST = "/composed/{int:test_id}"
Words = Annotated[str, Query(max_length=80)]
Seed = Annotated[int, Query(ge=1, le=10_000)]


everywhere = Router(auth=signed_in, tags=["composing"])


@everywhere.post(
    "/groups/{int:group_id}/tests/forecast", response=ForecastOut, operation_id="forecast_test"
)
def forecast_test(request: HttpRequest, group_id: int, body: ComposedIn) -> ForecastOut:
    """What a test would bring in a group. Nothing is stored."""
    group = own_group(current_user(request), group_id, "forecast_test")
    return forecasting.forecast(group, body)


@everywhere.get("/composing", response=ComposingOut, operation_id="list_composing")
def list_composing(request: HttpRequest) -> ComposingOut:
    """Courses that one composes tests for."""
    person = current_user(request)
    require("list_composing", person.roles, Relation.OWN)
    found = courses_of_staff(person)
    return ComposingOut(courses=[PlaceOut(key=one.key, title=one.title) for one in found])


def _course(request: HttpRequest, key: str, operation: str) -> Course:
    return course_of_staff(current_user(request), key, operation)


@router.get("/bank", response=BankOut, operation_id="search_bank")
def search_bank(
    request: HttpRequest, course: CourseKey, topic: Words = "", words: Words = ""
) -> BankOut:
    """Question families of the course, to pick from."""
    found = _course(request, course, "search_bank")
    return picking.search_bank(found, topic, words, current_user(request))


@router.get("/bank/{slug:family}", response=FamilyPreviewOut, operation_id="preview_family")
def preview_family(
    request: HttpRequest, course: CourseKey, family: str, seed: Seed = 1
) -> FamilyPreviewOut:
    found = _course(request, course, "preview_family")
    return picking.preview_family(found, family, seed, current_user(request))


@router.get("/bank/{slug:family}/stopped", response=StoppingOut, operation_id="get_stopping")
def get_stopping(request: HttpRequest, course: CourseKey, family: str) -> StoppingOut:
    """Whether a question is stopped, and what stopping it would mean."""
    found = _course(request, course, "get_stopping")
    return stopping.stopping(found, family, current_user(request))


@router.post("/bank/{slug:family}/stop", response=StoppingOut, operation_id="stop_question")
def stop_question(
    request: HttpRequest, course: CourseKey, family: str, body: StopIn
) -> StoppingOut:
    """Stop asking a question, at once."""
    found = _course(request, course, "stop_question")
    return stopping.stop(found, family, body.why, current_user(request))


@router.post("/bank/{slug:family}/ask", response=StoppingOut, operation_id="ask_question_again")
def ask_question_again(request: HttpRequest, course: CourseKey, family: str) -> StoppingOut:
    """Ask a question again that was stopped."""
    found = _course(request, course, "ask_question_again")
    return stopping.ask_again(found, family, current_user(request))


@router.get("/composed", response=ComposedListOut, operation_id="list_composed")
def list_composed(request: HttpRequest, course: CourseKey) -> ComposedListOut:
    """Tests of the course, and what there is to pick from."""
    return composed.list_composed(_course(request, course, "list_composed"), current_user(request))


@router.post("/composed/check", response=TestCheckOut, operation_id="check_test")
def check_test(request: HttpRequest, course: CourseKey, body: ComposedIn) -> TestCheckOut:
    """What a test would be, in words, and what of it cannot be. Nothing is stored."""
    found = _course(request, course, "check_test")
    return composed.check_test(found, body, current_user(request))


@router.post("/composed", response=ComposedOut, operation_id="compose_test")
def compose_test(request: HttpRequest, course: CourseKey, body: ComposedIn) -> ComposedOut:
    """Make a test; it is given to nobody yet."""
    owner = current_user(request)
    return composed.compose_test(_course(request, course, "compose_test"), body, owner)


@router.get(TEST, response=ComposedOut, operation_id="get_composed")
def get_composed(request: HttpRequest, course: CourseKey, test_id: int) -> ComposedOut:
    found = _course(request, course, "get_composed")
    return composed.get_composed(found, test_id, current_user(request))


@router.put(TEST, response=ComposedOut, operation_id="change_test")
def change_test(
    request: HttpRequest, course: CourseKey, test_id: int, body: ChangeTestIn
) -> ComposedOut:
    """Change an own test; what cannot be changed any more is said, and for whom."""
    found = _course(request, course, "change_test")
    return composed.change_test(found, test_id, body, current_user(request))


@router.delete(TEST, response=ComposedListOut, operation_id="remove_test")
def remove_test(request: HttpRequest, course: CourseKey, test_id: int) -> ComposedListOut:
    """Take an own test away that was never given."""
    found = _course(request, course, "remove_test")
    composed.remove_test(found, test_id, current_user(request))
    return composed.list_composed(found, current_user(request))
