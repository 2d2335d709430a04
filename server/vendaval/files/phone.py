"""A phone's way to a question's working on paper: a signed link, good for a short time, and no
account."""

from __future__ import annotations

import io
from collections.abc import Callable
from datetime import UTC, datetime

import segno
from django.core import signing
from django.utils.translation import gettext, gettext_noop

from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval.work.models import Presentation
from vendaval.work.questions import LOADED, find_presentation
from vendaval_core.assessment.paper import LINK_LASTS
from vendaval_core.items.files import A_PHOTOGRAPH

from .answers import WORKING, room_for_working
from .models import StoredFile
from .schemas import FileIn, PhoneLinkOut, PhoneOut
from .storing import announce, take_photograph

SALT = "working on paper"  # not said
BEGINS = "w."  # not said
GONE = gettext_noop("This link doesn’t work any more. Get a new one at the question.")


def qr_code(address: str) -> str:
    """An address as a QR code in SVG."""
    drawn = io.BytesIO()
    segno.make(address, error="m").save(
        drawn, kind="svg", scale=5, border=2, xmldecl=False, svgns=True, nl=False, omitsize=True
    )
    return drawn.getvalue().decode()


def is_for_working(token: str) -> bool:
    """Whether a phone's link is one of these."""
    return token.startswith(BEGINS)


def make_link(person: User, course: str, question_id: int, address: str) -> PhoneLinkOut:
    """A new link to photograph working. address: where this application is."""
    presentation = find_presentation(person, course, question_id, "make_working_link")
    room_for_working(presentation)
    made = int(clock.now().timestamp())
    token = signing.dumps([presentation.pk, made], salt=SALT, compress=False)
    path = f"/phone/{BEGINS}{token}"
    return PhoneLinkOut(path=path, until=_until(made), qr=qr_code(f"{address}{path}"))


def _until(made: int) -> datetime:
    return datetime.fromtimestamp(made, tz=UTC) + LINK_LASTS


def _by_link(token: str) -> tuple[Presentation, datetime]:
    try:
        question, made = signing.loads(token.removeprefix(BEGINS), salt=SALT)
    except (signing.BadSignature, ValueError):
        raise NotFound(gettext(GONE)) from None
    found = Presentation.objects.select_related(*LOADED).filter(pk=question).first()
    if found is None or clock.now() >= _until(made):
        raise NotFound(gettext(GONE))
    room_for_working(found)
    return found, _until(made)


def _beside(presentation: Presentation) -> list[StoredFile]:
    return list(StoredFile.objects.filter(presentation=presentation, part=WORKING))


def phone_out(token: str) -> PhoneOut:
    """What a phone shows."""
    presentation, until = _by_link(token)
    return PhoneOut(
        test=gettext("Working on paper"),
        learner=presentation.run.enrolment.person.display_name,
        pages=sum(one.arrived_at is not None for one in _beside(presentation)),
        until=until,
        most=A_PHOTOGRAPH.most,
        then=gettext("Your photographs stand beside the question now. Go back to the computer."),
    )


def add_photograph(token: str, read: Callable[[], bytes]) -> PhoneOut:
    """A photograph of working, from a phone."""
    presentation, _ = _by_link(token)
    data = read()
    wanted = FileIn(name="photograph.jpg", size=len(data))
    enrolment, row = presentation.run.enrolment, StoredFile(presentation=presentation)
    row = announce(enrolment, wanted, A_PHOTOGRAPH, lambda: _beside(presentation), row)
    try:
        take_photograph(row, data)
    except (Unprocessable, Conflict):
        row.delete()
        raise
    return phone_out(token)
