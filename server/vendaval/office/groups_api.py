"""Endpoints of the office about groups."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.editing import editing

from . import groups
from .edits import group_edit
from .reading import group_list, office_group
from .schemas import GroupIn, GroupListOut, NewGroupIn, OfficeGroupOut
from .scope import group_of, school_of

router = Router(auth=signed_in, tags=["office"])


@router.get("/office/groups", response=GroupListOut, operation_id="list_office_groups")
def list_office_groups(request: HttpRequest) -> GroupListOut:
    return group_list(school_of(current_user(request), "list_office_groups"))


@router.post("/office/groups", response=OfficeGroupOut, operation_id="make_group")
def make_group(request: HttpRequest, body: NewGroupIn) -> OfficeGroupOut:
    user = current_user(request)
    school = school_of(user, "make_group")
    group = groups.make_group(school, body.course, body.title.strip(), user, request)
    return office_group(group, school)


@router.get(
    "/office/groups/{int:group_id}", response=OfficeGroupOut, operation_id="get_office_group"
)
def get_office_group(request: HttpRequest, group_id: int) -> OfficeGroupOut:
    school = school_of(current_user(request), "get_office_group")
    return office_group(group_of(school, group_id), school)


@router.put("/office/groups/{int:group_id}", response=OfficeGroupOut, operation_id="name_group")
def name_group(request: HttpRequest, group_id: int, body: GroupIn) -> OfficeGroupOut:
    """Another name, and who teaches it."""
    user = current_user(request)
    school = school_of(user, "name_group")
    group = group_of(school, group_id)
    with editing(group, body, lambda: group_edit(group)):
        groups.name_group(group, school, body.title.strip(), body.tutors, user, request)
    return office_group(group_of(school, group_id), school)
