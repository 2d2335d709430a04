"""Where a school's learning records are sent: set by its office, which sees how that goes."""

from __future__ import annotations

from datetime import datetime, time

from django.http import HttpRequest
from django.utils.timezone import localdate, make_aware
from django.utils.translation import gettext

from vendaval.outside.jobs import send_records
from vendaval.outside.models import RecordStore, ToTell, ToTellState
from vendaval.outside.records import begin_anew, problem_of
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, School, User
from vendaval.shared import clock
from vendaval.shared.editing import edit_version, editing
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval.shared.jobs import is_going
from vendaval.shared.outgoing import address_fault

from .programs_schemas import (
    RecordStoreEdit,
    RecordStoreIn,
    RecordStoreOut,
    RefusedRecordOut,
)

MOST_REFUSED = 20


def _store(school: School) -> RecordStore | None:
    return RecordStore.objects.filter(school=school).first()


def store_edit(school: School) -> RecordStoreEdit:
    """What of it can be edited."""
    found = _store(school)
    if found is None:
        return RecordStoreEdit(address="", name="", on=False, since=localdate(clock.now()))
    return RecordStoreEdit.model_construct(
        address=found.address, name=found.name, on=found.on, since=localdate(found.since)
    )


def store_out(school: School) -> RecordStoreOut:
    """A school's store as it is sent to its office."""
    found, edit = _store(school), store_edit(school)
    of = ToTell.objects.filter(store=found) if found else ToTell.objects.none()
    due = of.filter(state=ToTellState.DUE)
    refused = of.filter(state=ToTellState.REFUSED)
    return RecordStoreOut(
        **edit.model_dump(),
        version=edit_version(edit),
        has_secret=found is not None and found.secret != "",
        sent=found.sent if found else 0,
        sent_at=found.sent_at if found else None,
        waiting=due.count(),
        held=due.filter(after__gt=clock.now()).count(),
        refused=[
            RefusedRecordOut(what=f"{row.kind} {row.number}", says=row.says)
            for row in refused.order_by("-pk")[:MOST_REFUSED]
        ],
        refused_in_all=refused.count(),
        failures=found.failures if found else 0,
        says=found.says if found else "",
        next_at=found.next_at if found and found.failures else None,
    )


def set_store(school: School, body: RecordStoreIn, by: User, request: HttpRequest) -> None:
    """Say where records go, or that none do any more."""
    address = body.address.strip()
    if fault := address_fault(address) if address or body.on else "":
        raise Unprocessable(fault, fields={"address": fault})
    with editing(school, body, lambda: store_edit(school)):
        since = make_aware(datetime.combine(body.since, time.min))
        fields = {
            "address": address,
            "name": body.name.strip(),
            "on": body.on,
            "since": since,
            "next_at": clock.now(),
            "failures": 0,
            "says": "",
        }
        before = _store(school)
        if before is not None and before.address != address:
            # Another store has none of what this one got, and does not get its secret either.
            before.delete()
        elif before is not None and before.since > since:
            begin_anew(before)
        RecordStore.objects.update_or_create(school=school, defaults=fields)
        says = gettext("Learning records go to {address}") if body.on else ""
        says = says.format(address=address) or gettext("Learning records go nowhere")
        audit(AuditKind.SETTINGS, request=request, account=by, by=by, says=says)


def set_secret(school: School, secret: str, by: User, request: HttpRequest) -> None:
    """The secret that the store knows us by; it is never shown again."""
    _known(school)
    RecordStore.objects.filter(school=school).update(secret=secret)
    says = gettext("The secret of the record store")
    audit(AuditKind.SETTINGS, request=request, account=by, by=by, says=says)


def trial(school: School) -> str:
    """Why the store can't be used, "" where it can."""
    return problem_of(_known(school))


def send_now(school: School) -> None:
    """Send what waits, however long it would have waited after failures, and what was refused."""
    store, now = _known(school), clock.now()
    RecordStore.objects.filter(pk=store.pk).update(next_at=now)
    store.to_tell.filter(state=ToTellState.REFUSED).update(state=ToTellState.DUE, after=now)
    if store.on and not is_going(send_records.module_path, [store.pk]):
        send_records.enqueue(store.pk)


def _known(school: School) -> RecordStore:
    found = _store(school)
    if found is None or not found.address:
        raise Conflict(gettext("Write the store’s address first."), code="no_address")
    return found
