"""Endpoints of the office about lists of people to import."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.utils.translation import gettext
from ninja import Router

from vendaval.people.audit import audit
from vendaval.people.link_mails import mail_soon
from vendaval.people.models import AuditKind, School, User
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.errors import Unprocessable
from vendaval.shared.tables import Table, as_csv, download
from vendaval.shared.uploads import UPLOAD, uploaded_file

from .lists import COLUMNS, MOST_BYTES, Row, read_list
from .newcomers import import_people
from .schemas import ImportedOut, ListCheckOut, ListRowOut
from .scope import school_of

router = Router(auth=signed_in, tags=["office"])
MOST_SHOWN = 200


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


@router.post("/office/list", response=ImportedOut, operation_id="import_list", openapi_extra=UPLOAD)
def import_list(request: HttpRequest) -> ImportedOut:
    """Take a list in whole, or not at all."""
    user, school, rows = _list(request, "import_list")
    newcomers = [row.newcomer for row in rows if row.newcomer is not None]
    if len(newcomers) < len(rows):
        says = gettext("Nothing was imported: {count} rows have problems.").format(
            count=len(rows) - len(newcomers)
        )
        raise Unprocessable(says, code="faulty_rows")
    links = import_people(newcomers, school, user, request)
    audit(
        AuditKind.IMPORTED,
        request=request,
        by=user,
        says=gettext("{count} people").format(count=len(newcomers)),
    )
    mail_soon()
    return ImportedOut(people=len(newcomers), mails=len(links))
