"""Endpoints of the office about people: found, invited, changed, closed, deleted."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Query, Router

from vendaval.people.models import Role
from vendaval.people.permissions import current_user, signed_in
from vendaval.people.second_factor import remove_factor
from vendaval.privacy.person import erase_person
from vendaval.shared.editing import editing
from vendaval.shared.errors import Conflict, Unprocessable

from . import people
from .desk import desk_of
from .edits import person_edit
from .newcomers import Newcomer
from .people import AccountState
from .reading import people_list, person_out
from .schemas import (
    DeleteIn,
    GoneOut,
    GuardianIn,
    InviteIn,
    PaperConsentIn,
    PeopleListOut,
    PersonIn,
    PersonOut,
    PlaceIn,
)
from .scope import group_of, refuse_of_two_schools, school_of

router = Router(auth=signed_in, tags=["office"])
PERSON = "/office/people/{int:person_id}"
Text = Annotated[str, Query(max_length=80)]
Page = Annotated[int, Query(ge=1, le=10_000)]


@router.get("/office/people", response=PeopleListOut, operation_id="list_people")
def list_people(
    request: HttpRequest,
    text: Text = "",
    role: Role | None = None,
    state: AccountState | None = None,
    page: Page = 1,
) -> PeopleListOut:
    """People of the school, by name."""
    school = school_of(current_user(request), "list_people")
    return people_list(school, text.strip(), role, state, page)


@router.post("/office/people", response=PersonOut, operation_id="invite_person")
def invite_person(request: HttpRequest, body: InviteIn) -> PersonOut:
    """Invite somebody, and the guardian of a young learner."""
    user = current_user(request)
    school = school_of(user, "invite_person")
    group = group_of(school, body.group) if body.group is not None else None
    given = body.model_dump(exclude={"group"})
    person = people.invite(Newcomer(**given, group=group), school, user, request)
    return person_out(person, school, user)


@router.get(PERSON, response=PersonOut, operation_id="get_person")
def get_person(request: HttpRequest, person_id: int) -> PersonOut:
    return desk_of(request, person_id, "get_person").shown()


@router.put(PERSON, response=PersonOut, operation_id="change_person")
def change_person(request: HttpRequest, person_id: int, body: PersonIn) -> PersonOut:
    """Name, mail address, day of birth, roles."""
    on = desk_of(request, person_id, "change_person")
    with editing(on.person, body, lambda: person_edit(on.person, on.school)):
        people.change_person(on.person, on.school, body, on.by, request)
    return on.shown()


@router.delete(PERSON, response=GoneOut, operation_id="delete_person")
def delete_person(request: HttpRequest, person_id: int, body: DeleteIn) -> GoneOut:
    """Take away whatever tells who somebody is; their answers stay under a number."""
    on = desk_of(request, person_id, "delete_person")
    if on.person.pk == on.by.pk:
        raise Conflict(gettext("Somebody else has to delete your account."), code="own_account")
    refuse_of_two_schools(on.person, on.school)
    if body.name.strip() != on.person.display_name:
        says = gettext("Type the name exactly like this: {person}").format(
            person=on.person.display_name
        )
        raise Unprocessable(says, fields={"name": says})
    erase_person(on.person, by=on.by)
    return GoneOut(number=on.person.pk)


@router.post(f"{PERSON}/letter", response=PersonOut, operation_id="write_person")
def write_person(request: HttpRequest, person_id: int) -> PersonOut:
    """A new link by mail: the invitation again, or for a new password."""
    on = desk_of(request, person_id, "write_person")
    people.write_again(on.person, on.by, request)
    return on.shown()


@router.post(f"{PERSON}/close", response=PersonOut, operation_id="close_person")
def close_person(request: HttpRequest, person_id: int) -> PersonOut:
    """The account opens nothing until it is opened again."""
    on = desk_of(request, person_id, "close_person")
    people.close(on.person, on.school, on.by, request)
    return on.shown()


@router.post(f"{PERSON}/reopen", response=PersonOut, operation_id="reopen_person")
def reopen_person(request: HttpRequest, person_id: int) -> PersonOut:
    """The account opens what it did before."""
    on = desk_of(request, person_id, "reopen_person")
    refuse_of_two_schools(on.person, on.school)
    people.reopen(on.person, on.by, request)
    return on.shown()


@router.post(f"{PERSON}/sign-out", response=PersonOut, operation_id="sign_out_person")
def sign_out_person(request: HttpRequest, person_id: int) -> PersonOut:
    """End every session of somebody."""
    on = desk_of(request, person_id, "sign_out_person")
    people.sign_out(on.person, on.by, request)
    return on.shown()


@router.delete(f"{PERSON}/second-factor", response=PersonOut, operation_id="end_factor_of")
def end_factor_of(request: HttpRequest, person_id: int) -> PersonOut:
    """For who lost their device and their spare codes."""
    on = desk_of(request, person_id, "end_factor_of")
    refuse_of_two_schools(on.person, on.school)
    remove_factor(on.person, on.by, request)
    return on.shown()


@router.put(f"{PERSON}/consent", response=PersonOut, operation_id="note_consent")
def note_consent(request: HttpRequest, person_id: int, body: PaperConsentIn) -> PersonOut:
    """A guardian's word that came on paper."""
    on = desk_of(request, person_id, "note_consent")
    people.note_consent(on.person, body.agreed, body.guardian, on.by, request)
    return on.shown()


@router.post(f"{PERSON}/guardians", response=PersonOut, operation_id="name_guardian")
def name_guardian(request: HttpRequest, person_id: int, body: GuardianIn) -> PersonOut:
    """Link a guardian whom the office knows; one who is new is invited."""
    on = desk_of(request, person_id, "name_guardian")
    people.name_guardian(on.person, on.school, body.name, body.mail, on.by, request)
    return on.shown()


@router.delete(
    f"{PERSON}/guardians/{{int:link_id}}", response=PersonOut, operation_id="end_guardian"
)
def end_guardian(request: HttpRequest, person_id: int, link_id: int) -> PersonOut:
    """A guardian reads no more."""
    on = desk_of(request, person_id, "end_guardian")
    people.end_guardian(on.person, link_id, on.by, request)
    return on.shown()


@router.put(f"{PERSON}/places", response=PersonOut, operation_id="add_to_group")
def add_to_group(request: HttpRequest, person_id: int, body: PlaceIn) -> PersonOut:
    """Let somebody learn in a group, or teach it."""
    on = desk_of(request, person_id, "add_to_group")
    people.add_to(group_of(on.school, body.group), on.person, Role(body.role), on.by, request)
    return on.shown()


@router.delete(
    f"{PERSON}/places/{{int:group_id}}", response=PersonOut, operation_id="remove_from_group"
)
def remove_from_group(request: HttpRequest, person_id: int, group_id: int) -> PersonOut:
    """Somebody learns in a group no more, nor teaches it."""
    on = desk_of(request, person_id, "remove_from_group")
    people.remove_from(group_of(on.school, group_id), on.person, on.by, request)
    return on.shown()
