"""Notes on learners, and tries that count no more."""

from __future__ import annotations

from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.models import Enrolment
from vendaval.groups.queries import own_enrolment, related_enrolment
from vendaval.levels.voiding import count_again, void_try
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.people.permissions import current_user, signed_in
from vendaval.record.schemas import TryOut
from vendaval.record.tries import try_page
from vendaval.shared import clock
from vendaval.shared.errors import NotFound

from .models import Note
from .schemas import NoteIn, NoteOut, NotesOut, VoidIn

router = Router(auth=signed_in, tags=["tutor"])
own_notes = Router(auth=signed_in, tags=["tutor"])
LEARNER = "/learners/{int:enrolment_id}"
TRY = f"{LEARNER}/tries/{{int:try_id}}/void"
MOST = 100


def _notes(enrolment: Enrolment, reader: User, *, shared_only: bool = False) -> NotesOut:
    rows = Note.objects.filter(enrolment=enrolment).select_related("by").order_by("-pk")
    if shared_only:
        rows = rows.filter(shared=True)
    return NotesOut(
        notes=[
            NoteOut(
                id=row.pk,
                text=row.text,
                by=row.by.display_name if row.by is not None else "",
                own=row.by_id == reader.pk,
                shared=row.shared,
                at=row.at,
            )
            for row in rows[:MOST]
        ]
    )


@router.get(f"{LEARNER}/notes", response=NotesOut, operation_id="list_notes")
def list_notes(request: HttpRequest, enrolment_id: int) -> NotesOut:
    """Notes on a learner, the newest first."""
    user = current_user(request)
    return _notes(related_enrolment(user, enrolment_id, "list_notes"), user)


@router.post(f"{LEARNER}/notes", response=NotesOut, operation_id="add_note")
def add_note(request: HttpRequest, enrolment_id: int, body: NoteIn) -> NotesOut:
    """Keep a note; its learner reads it only when it is shared."""
    user = current_user(request)
    found = related_enrolment(user, enrolment_id, "add_note")
    Note.objects.create(
        enrolment=found, by=user, text=body.text.strip(), shared=body.shared, at=clock.now()
    )
    return _notes(found, user)


@router.delete(f"{LEARNER}/notes/{{int:note_id}}", response=NotesOut, operation_id="remove_note")
def remove_note(request: HttpRequest, enrolment_id: int, note_id: int) -> NotesOut:
    """Take an own note away."""
    user = current_user(request)
    found = related_enrolment(user, enrolment_id, "remove_note")
    gone, _ = Note.objects.filter(enrolment=found, pk=note_id, by=user).delete()
    if not gone:
        raise NotFound(gettext("We can’t find this note."))
    return _notes(found, user)


@router.post(TRY, response=TryOut, operation_id="void_try")
def void(request: HttpRequest, enrolment_id: int, try_id: int, body: VoidIn) -> TryOut:
    """Let a first try count for no level: somebody else gave it, or something went wrong."""
    user = current_user(request)
    found = related_enrolment(user, enrolment_id, "void_try")
    void_try(found, try_id, user, body.why)
    audit(
        AuditKind.VOIDED,
        request=request,
        account=found.person,
        by=user,
        says=gettext("try {try_id}").format(try_id=try_id),
    )
    return try_page(related_enrolment(user, enrolment_id, "void_try"), try_id)


@router.delete(TRY, response=TryOut, operation_id="count_try_again")
def count_try_again(request: HttpRequest, enrolment_id: int, try_id: int) -> TryOut:
    user = current_user(request)
    found = related_enrolment(user, enrolment_id, "count_try_again")
    count_again(found, try_id)
    audit(
        AuditKind.VOIDED,
        request=request,
        account=found.person,
        by=user,
        says=gettext("not {try_id}").format(try_id=try_id),
    )
    return try_page(related_enrolment(user, enrolment_id, "count_try_again"), try_id)


@own_notes.get("/notes", response=NotesOut, operation_id="list_own_notes")
def list_own_notes(request: HttpRequest, course: CourseKey) -> NotesOut:
    """Notes that tutors shared with the learner."""
    user = current_user(request)
    return _notes(own_enrolment(user, course, "list_own_notes"), user, shared_only=True)
