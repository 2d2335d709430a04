"""Endpoints of Review."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_enrolment
from vendaval.people.permissions import current_user, signed_in

from . import actions, queries
from .schemas import MissDetailOut, MissListOut

router = Router(auth=signed_in, tags=["review"])


@router.get("/misses", response=MissListOut, operation_id="list_misses")
def misses(request: HttpRequest, course: CourseKey) -> MissListOut:
    return queries.miss_list(own_enrolment(current_user(request), course, "list_misses"))


@router.get("/misses/{int:miss_id}", response=MissDetailOut, operation_id="get_miss")
def miss(request: HttpRequest, course: CourseKey, miss_id: int) -> MissDetailOut:
    enrolment = own_enrolment(current_user(request), course, "get_miss")
    return queries.miss_detail(enrolment, miss_id)


@router.post(
    "/misses/{int:miss_id}/set-aside", response=MissDetailOut, operation_id="set_aside_miss"
)
def set_aside(request: HttpRequest, course: CourseKey, miss_id: int) -> MissDetailOut:
    return queries.miss_detail(actions.set_aside(current_user(request), course, miss_id), miss_id)
