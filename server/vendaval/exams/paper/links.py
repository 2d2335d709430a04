"""A phone's way to an attempt: a signed link, good for a short time, and no account.

A new link puts the one before out of use.
"""

from __future__ import annotations

from datetime import datetime

from django.core import signing
from django.utils.translation import gettext, gettext_noop

from vendaval.files.phone import qr_code
from vendaval.files.schemas import PhoneLinkOut, PhoneOut
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.changes import Stale, claimed, until_stored
from vendaval.shared.errors import NotFound
from vendaval_core.assessment.paper import LINK_LASTS, MOST_PAGES, link_until

from ..models import Attempt, Page
from ..taking.state import LOADED, own_attempt
from .pages import refuse_closed

SALT = "pages of paper"  # not said
GONE = gettext_noop("This link doesn’t work any more. Get a new one where you took the test.")


def make_link(person: User, course: str, attempt_id: int, address: str) -> PhoneLinkOut:
    """A new link to add pages from a phone. address: where this application is, to be put before
    the path in the code."""

    def work() -> Attempt:
        attempt = own_attempt(person, course, attempt_id, "make_phone_link")
        refuse_closed(attempt, clock.now())
        attempt.paper.link += 1
        if not claimed(attempt, ("paper",)):
            raise Stale
        return attempt

    attempt = until_stored(work)
    made = int(clock.now().timestamp())
    token = signing.dumps([attempt.pk, attempt.paper.link, made], salt=SALT, compress=False)
    path = f"/phone/{token}"
    return PhoneLinkOut(path=path, until=_until(attempt, made), qr=qr_code(f"{address}{path}"))


def _until(attempt: Attempt, made: int) -> datetime:
    assert attempt.handed_in_at is not None
    began = datetime.fromtimestamp(made, tz=attempt.handed_in_at.tzinfo)
    return link_until(began, attempt.paper.core(), attempt.handed_in_at)


def by_link(token: str) -> Attempt:
    """The attempt that a good link leads to, or NotFound."""
    try:
        attempt_id, number, made = signing.loads(token, salt=SALT)
    except (signing.BadSignature, ValueError):
        raise NotFound(gettext(GONE)) from None
    attempt = Attempt.objects.select_related(*LOADED).filter(pk=attempt_id).first()
    if attempt is None or attempt.paper.link != number or attempt.handed_in_at is None:
        raise NotFound(gettext(GONE))
    age = clock.now().timestamp() - made
    if age >= LINK_LASTS.total_seconds() or clock.now() >= _until(attempt, made):
        raise NotFound(gettext(GONE))
    refuse_closed(attempt, clock.now())
    return attempt


def phone_out(token: str) -> PhoneOut:
    """What a phone shows."""
    attempt = by_link(token)
    _, _, made = signing.loads(token, salt=SALT)
    return PhoneOut(
        test=attempt.test.title,
        learner=attempt.enrolment.person.display_name,
        pages=Page.objects.filter(attempt=attempt).count(),
        until=_until(attempt, made),
        most=MOST_PAGES,
        then=gettext(
            "Now go back to the computer: check the pages, put them in order and say which "
            "question each one answers."
        ),
    )
