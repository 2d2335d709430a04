"""Endpoints of the office about people: found, invited, changed, closed, given out, deleted."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from django.http import FileResponse, HttpRequest, HttpResponse
from django.utils.translation import gettext
from ninja import Query, Router

from vendaval.people.audit import audit
from vendaval.people.link_mails import mail_soon
from vendaval.people.models import AuditKind, Role, School, User
from vendaval.people.permissions import current_user, signed_in
from vendaval.people.second_factor import take_factor_away
from vendaval.privacy.api import file_reply
from vendaval.privacy.copies import latest_copy, open_copy
from vendaval.privacy.jobs import start_copy
from vendaval.privacy.models import Audience
from vendaval.privacy.person import erase_person
from vendaval.privacy.schemas import DataCopyOut, copy_out
from vendaval.shared.editing import editing
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval.shared.tables import Table, as_csv, download
from vendaval.shared.uploads import UPLOAD, uploaded_file

from . import people
from .edits import person_edit
from .lists import COLUMNS, MOST_BYTES, Row, read_list
from .newcomers import Newcomer, take_in
from .people import AccountState
from .reading import people_list, person_out
from .schemas import (
    DeleteIn,
    GoneOut,
    GuardianIn,
    InviteIn,
    ListCheckOut,
    ListRowOut,
    PaperConsentIn,
    PeopleListOut,
    PersonIn,
    PersonOut,
    PlaceIn,
    TakenInOut,
)
from .scope import group_of, person_of, refuse_absent, refuse_of_two_schools, school_of

router = Router(auth=signed_in, tags=["office"])
PERSON = "/office/people/{int:person_id}"
MOST_SHOWN = 200
Text = Annotated[str, Query(max_length=80)]
Page = Annotated[int, Query(ge=1, le=10_000)]


@dataclass(frozen=True, slots=True)
class _Desk:
    """A person on somebody's desk at the office. by: who asks."""

    by: User
    school: School
    person: User

    def shown(self) -> PersonOut:
        """What they are now."""
        self.person.refresh_from_db()
        return person_out(self.person, self.school, self.by)


def _desk(request: HttpRequest, person_id: int, operation: str) -> _Desk:
    """A person of the asker's school, for an operation they may do; else NotFound."""
    user = current_user(request)
    school = school_of(user, operation)
    person = person_of(school, person_id)
    if operation != "get_person":
        refuse_absent(person, school)
    return _Desk(user, school, person)


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
    return _desk(request, person_id, "get_person").shown()


@router.put(PERSON, response=PersonOut, operation_id="change_person")
def change_person(request: HttpRequest, person_id: int, body: PersonIn) -> PersonOut:
    """Name, mail address, day of birth, roles."""
    on = _desk(request, person_id, "change_person")
    with editing(on.person, body, lambda: person_edit(on.person, on.school)):
        people.change_person(on.person, on.school, body, on.by, request)
    return on.shown()


@router.delete(PERSON, response=GoneOut, operation_id="delete_person")
def delete_person(request: HttpRequest, person_id: int, body: DeleteIn) -> GoneOut:
    """Take away whatever tells who somebody is; their answers stay under a number."""
    on = _desk(request, person_id, "delete_person")
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
    on = _desk(request, person_id, "write_person")
    people.write_again(on.person, on.by, request)
    return on.shown()


@router.post(f"{PERSON}/close", response=PersonOut, operation_id="close_person")
def close_person(request: HttpRequest, person_id: int) -> PersonOut:
    """The account opens nothing until it is opened again."""
    on = _desk(request, person_id, "close_person")
    people.close(on.person, on.school, on.by, request)
    return on.shown()


@router.post(f"{PERSON}/reopen", response=PersonOut, operation_id="reopen_person")
def reopen_person(request: HttpRequest, person_id: int) -> PersonOut:
    """The account opens what it did before."""
    on = _desk(request, person_id, "reopen_person")
    refuse_of_two_schools(on.person, on.school)
    people.reopen(on.person, on.by, request)
    return on.shown()


@router.post(f"{PERSON}/sign-out", response=PersonOut, operation_id="sign_out_person")
def sign_out_person(request: HttpRequest, person_id: int) -> PersonOut:
    """End every session of somebody."""
    on = _desk(request, person_id, "sign_out_person")
    people.sign_out(on.person, on.by, request)
    return on.shown()


@router.delete(f"{PERSON}/second-factor", response=PersonOut, operation_id="end_factor_of")
def end_factor_of(request: HttpRequest, person_id: int) -> PersonOut:
    """For who lost their device and their spare codes."""
    on = _desk(request, person_id, "end_factor_of")
    refuse_of_two_schools(on.person, on.school)
    take_factor_away(on.person, on.by, request)
    return on.shown()


@router.put(f"{PERSON}/consent", response=PersonOut, operation_id="note_consent")
def note_consent(request: HttpRequest, person_id: int, body: PaperConsentIn) -> PersonOut:
    """A guardian's word that came on paper."""
    on = _desk(request, person_id, "note_consent")
    people.note_consent(on.person, body.agreed, body.guardian, on.by, request)
    return on.shown()


@router.post(f"{PERSON}/guardians", response=PersonOut, operation_id="name_guardian")
def name_guardian(request: HttpRequest, person_id: int, body: GuardianIn) -> PersonOut:
    """Link a guardian whom the office knows; one who is new is invited."""
    on = _desk(request, person_id, "name_guardian")
    people.name_guardian(on.person, on.school, body.name, body.mail, on.by, request)
    return on.shown()


@router.delete(
    f"{PERSON}/guardians/{{int:link_id}}", response=PersonOut, operation_id="end_guardian"
)
def end_guardian(request: HttpRequest, person_id: int, link_id: int) -> PersonOut:
    """A guardian reads no more."""
    on = _desk(request, person_id, "end_guardian")
    people.end_guardian(on.person, link_id, on.by, request)
    return on.shown()


@router.put(f"{PERSON}/places", response=PersonOut, operation_id="put_into_group")
def put_into_group(request: HttpRequest, person_id: int, body: PlaceIn) -> PersonOut:
    """Let somebody learn in a group, or teach it."""
    on = _desk(request, person_id, "put_into_group")
    people.put_into(group_of(on.school, body.group), on.person, Role(body.role), on.by, request)
    return on.shown()


@router.delete(
    f"{PERSON}/places/{{int:group_id}}", response=PersonOut, operation_id="take_out_of_group"
)
def take_out_of_group(request: HttpRequest, person_id: int, group_id: int) -> PersonOut:
    """Somebody learns in a group no more, nor teaches it."""
    on = _desk(request, person_id, "take_out_of_group")
    people.take_out_of(group_of(on.school, group_id), on.person, on.by, request)
    return on.shown()


@router.get(f"{PERSON}/data", response=DataCopyOut, operation_id="get_person_data")
def get_person_data(request: HttpRequest, person_id: int) -> DataCopyOut:
    """The copy of what the office manages about somebody that is being made or is ready."""
    on = _desk(request, person_id, "get_person_data")
    return copy_out(latest_copy(on.person, Audience.OFFICE, on.school))


@router.post(f"{PERSON}/data", response=DataCopyOut, operation_id="ask_person_data")
def ask_person_data(request: HttpRequest, person_id: int) -> DataCopyOut:
    """Have such a copy made: the account and what hangs on it, without answers."""
    on = _desk(request, person_id, "ask_person_data")
    return copy_out(start_copy(on.person, on.by, Audience.OFFICE, on.school))


@router.get(f"{PERSON}/data/file", operation_id="get_person_data_file")
def get_person_data_file(request: HttpRequest, person_id: int) -> FileResponse:
    """The copy itself, as a zip."""
    on = _desk(request, person_id, "get_person_data_file")
    found = open_copy(on.person, Audience.OFFICE, on.school)
    return file_reply(found, f"vendaval-data-{on.person.pk}.zip")


def _list(request: HttpRequest, operation: str) -> tuple[User, School, list[Row]]:
    user = current_user(request)
    school = school_of(user, operation)
    return user, school, read_list(uploaded_file(request, MOST_BYTES), school)


@router.get("/office/list/empty", operation_id="get_empty_list")
def get_empty_list(request: HttpRequest) -> HttpResponse:
    """A list with its head alone, to be filled in a spreadsheet."""
    school_of(current_user(request), "get_empty_list")
    return download("people", "csv", as_csv(Table("People", COLUMNS, ())))


@router.post(
    "/office/list/check", response=ListCheckOut, operation_id="check_list", openapi_extra=UPLOAD
)
def check_list(request: HttpRequest) -> ListCheckOut:
    """What a list would bring in, and every row's faults; changes nothing."""
    _, _, rows = _list(request, "check_list")
    shown = sorted(rows, key=lambda row: (not row.faults, row.line))[:MOST_SHOWN]
    mails = {row.newcomer.guardian_mail.casefold() for row in rows if row.newcomer}
    return ListCheckOut(
        rows=[
            ListRowOut(
                line=row.line,
                name=row.cells.get("name", ""),
                mail=row.cells.get("mail", ""),
                role=row.cells.get("role", ""),
                group=row.cells.get("group", ""),
                faults=list(row.faults),
            )
            for row in shown
        ],
        all=len(rows),
        faulty=sum(1 for row in rows if row.faults),
        guardians=len(mails - {""}),
    )


@router.post("/office/list", response=TakenInOut, operation_id="take_list", openapi_extra=UPLOAD)
def take_list(request: HttpRequest) -> TakenInOut:
    """Take a list in whole, or not at all."""
    user, school, rows = _list(request, "take_list")
    newcomers = [row.newcomer for row in rows if row.newcomer is not None]
    if len(newcomers) < len(rows):
        says = gettext("Nothing was imported: {count} rows have problems.").format(
            count=len(rows) - len(newcomers)
        )
        raise Unprocessable(says, code="faulty_rows")
    links = take_in(newcomers, school, user, request)
    audit(
        AuditKind.IMPORTED,
        request=request,
        by=user,
        says=gettext("{count} people").format(count=len(newcomers)),
    )
    mail_soon()
    return TakenInOut(people=len(newcomers), mails=len(links))
