"""Endpoints of Review."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_enrolment
from vendaval.people.permissions import current_user, signed_in

from . import actions, queries
from .revision import revision
from .run import MissOrder
from .schemas import MissDetailOut, MissListOut, RevisionOut, StudiedIn

router = Router(auth=signed_in, tags=["review"])


@router.get("/misses", response=MissListOut, operation_id="list_misses")
def list_misses(request: HttpRequest, course: CourseKey, order: MissOrder = "topic") -> MissListOut:
    """What was missed, by topic, the surest first or the newest first."""
    return queries.miss_list(own_enrolment(current_user(request), course, "list_misses"), order)


@router.get("/misses/{int:miss_id}", response=MissDetailOut, operation_id="get_miss")
def get_miss(request: HttpRequest, course: CourseKey, miss_id: int) -> MissDetailOut:
    enrolment = own_enrolment(current_user(request), course, "get_miss")
    return queries.miss_detail(enrolment, miss_id)


@router.post(
    "/misses/{int:miss_id}/set-aside", response=MissDetailOut, operation_id="set_aside_miss"
)
def set_aside_miss(request: HttpRequest, course: CourseKey, miss_id: int) -> MissDetailOut:
    return queries.miss_detail(actions.set_aside(current_user(request), course, miss_id), miss_id)


@router.post("/misses/{int:miss_id}/take-up", response=MissDetailOut, operation_id="take_up_miss")
def take_up_miss(request: HttpRequest, course: CourseKey, miss_id: int) -> MissDetailOut:
    """Put a miss that was set aside on the list again."""
    return queries.miss_detail(actions.take_up(current_user(request), course, miss_id), miss_id)


@router.get("/revision", response=RevisionOut, operation_id="get_revision")
def get_revision(request: HttpRequest, course: CourseKey) -> RevisionOut:
    """What to study for the misses."""
    return revision(own_enrolment(current_user(request), course, "get_revision"))


@router.post("/revision/studied", response=RevisionOut, operation_id="note_studied")
def note_studied(request: HttpRequest, course: CourseKey, body: StudiedIn) -> RevisionOut:
    """Mark a section as studied, or take that back; it counts as nothing else."""
    user = current_user(request)
    enrolment = actions.note_studied(user, course, body.topic, body.section, studied=body.studied)
    return revision(enrolment)
