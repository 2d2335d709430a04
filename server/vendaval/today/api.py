"""Endpoints of Today, Topics and the study pages."""

from __future__ import annotations

from typing import Annotated, Literal

from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import Query, Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_enrolment
from vendaval.people.permissions import current_user, signed_in
from vendaval.work.actions import open_study

from . import calendar, choices, queries, search, study, topic
from .schemas import (
    BringBackIn,
    CalendarOut,
    PracticePlanOut,
    PutAsideIn,
    SearchOut,
    StudyPageOut,
    StudyTextOut,
    TodayOut,
    TopicPageOut,
    TopicsOut,
)

router = Router(auth=signed_in, tags=["today"])


@router.get("/today", response=TodayOut, operation_id="get_today")
def get_today(request: HttpRequest, course: CourseKey) -> TodayOut:
    return queries.today(own_enrolment(current_user(request), course, "get_today"))


@router.post("/steps/put-aside", response=TodayOut, operation_id="put_step_aside")
def put_step_aside(request: HttpRequest, course: CourseKey, body: PutAsideIn) -> TodayOut:
    """Put a step off to a day, or turn it down: it is offered no more until then, or until it is
    brought back."""
    enrolment = own_enrolment(current_user(request), course, "put_step_aside")
    choices.put_aside(enrolment, body.step, body.title, body.until)
    return queries.today(enrolment)


@router.post("/steps/bring-back", response=TodayOut, operation_id="bring_step_back")
def bring_step_back(request: HttpRequest, course: CourseKey, body: BringBackIn) -> TodayOut:
    enrolment = own_enrolment(current_user(request), course, "bring_step_back")
    choices.bring_back(enrolment, body.step)
    return queries.today(enrolment)


@router.get("/practice-plan", response=PracticePlanOut, operation_id="get_practice_plan")
def get_practice_plan(request: HttpRequest, course: CourseKey) -> PracticePlanOut:
    return queries.practice_plan(own_enrolment(current_user(request), course, "get_practice_plan"))


@router.get("/search", response=SearchOut, operation_id="search_course")
def search_course(
    request: HttpRequest, course: CourseKey, words: Annotated[str, Query(max_length=80)]
) -> SearchOut:
    """Topics, study sections and my own questions that have these words in them."""
    enrolment = own_enrolment(current_user(request), course, "search_course")
    return search.search(enrolment, words)


@router.get("/topics", response=TopicsOut, operation_id="list_topics")
def list_topics(request: HttpRequest, course: CourseKey) -> TopicsOut:
    return queries.topics(own_enrolment(current_user(request), course, "list_topics"))


@router.get("/topics/{slug:key}", response=TopicPageOut, operation_id="get_topic")
def get_topic(request: HttpRequest, course: CourseKey, key: str) -> TopicPageOut:
    enrolment = own_enrolment(current_user(request), course, "get_topic")
    return topic.topic_page(enrolment, key, own=True)


@router.get("/study/{slug:key}", response=StudyPageOut, operation_id="get_study")
def get_study(request: HttpRequest, course: CourseKey, key: str) -> StudyPageOut:
    return study.study(own_enrolment(current_user(request), course, "get_study").course, key)


@router.post(
    "/study/{slug:key}/{slug:section}/opened", response=StudyTextOut, operation_id="open_study"
)
def opened(request: HttpRequest, course: CourseKey, key: str, section: str) -> StudyTextOut:
    """A section is opened and read: questions that wait and that it explains are helped from now
    on. Its text comes in no other way."""
    user = current_user(request)
    text = study.study_text(own_enrolment(user, course, "open_study"), key, section)
    open_study(user, course, key, section)
    return text


@router.get("/resources/{int:resource_id}/{what}", operation_id="get_resource")
def get_resource(
    request: HttpRequest, course: CourseKey, resource_id: int, what: Literal["file", "captions"]
) -> HttpResponse | FileResponse:
    """A film, its captions or a file, once its study section was opened."""
    enrolment = own_enrolment(current_user(request), course, "get_resource")
    return study.resource_file(request, enrolment, resource_id, what)


own_calendar = Router(auth=signed_in, tags=["calendar"])


@own_calendar.get("/calendar", response=CalendarOut, operation_id="get_calendar_key")
def get_calendar_key(request: HttpRequest) -> CalendarOut:
    """Where my private calendar is read, if I made one."""
    return CalendarOut.of(calendar.calendar_key(current_user(request)))


@own_calendar.post("/calendar", response=CalendarOut, operation_id="make_calendar_key")
def make_calendar_key(request: HttpRequest) -> CalendarOut:
    """Make an address for my calendar; the one before opens nothing any more."""
    return CalendarOut.of(calendar.make_calendar_key(current_user(request)))


@own_calendar.delete("/calendar", response=CalendarOut, operation_id="end_calendar_key")
def end_calendar_key(request: HttpRequest) -> CalendarOut:
    calendar.end_calendar_key(current_user(request))
    return CalendarOut(address=None)


@own_calendar.get("/calendar/{key}.ics", operation_id="get_calendar", auth=None)
def get_calendar(request: HttpRequest, key: str) -> HttpResponse:
    """The feed itself, for whoever holds its address."""
    return HttpResponse(calendar.feed(key), content_type="text/calendar; charset=utf-8")
