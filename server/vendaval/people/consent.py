"""A guardian's consent, for learners below the age that the school sets."""

from __future__ import annotations

from datetime import date

from django.db import transaction
from django.db.models import Max
from django.http import HttpRequest
from django.utils import timezone
from django.utils.translation import gettext

from vendaval.shared import clock
from vendaval.shared.errors import NotFound
from vendaval.shared.requests import client_address

from .audit import audit
from .models import AuditKind, Consent, Guardianship, Role, School, User


def age_on(born: date, day: date) -> int:
    """Full years of somebody on a day; who was born on 29 February turns on 1 March.

    >>> age_on(date(2010, 6, 15), date(2026, 6, 14)), age_on(date(2010, 6, 15), date(2026, 6, 15))
    (15, 16)
    """
    return day.year - born.year - ((day.month, day.day) < (born.month, born.day))


def consent_until(person: User) -> int:
    """Age in years from which a learner needs no consent, at the strictest of their schools."""
    mine = School.objects.filter(
        memberships__person=person, memberships__role=Role.LEARNER, memberships__until=None
    )
    return mine.aggregate(most=Max("consent_until"))["most"] or 0


def waits_for_consent(person: User) -> bool:
    """Whether an account does not work yet because a guardian has not agreed. An account without
    a day of birth was made for somebody whose age the school vouches for."""
    if person.born is None or person.consented:
        return False
    return age_on(person.born, timezone.localdate(clock.now())) < consent_until(person)


def wording_for(person: User) -> str:
    """What a guardian agrees to, for one learner."""
    held = person.memberships.filter(role=Role.LEARNER, until=None).select_related("school")
    first = held.order_by("pk").first()
    if first is None:
        raise NotFound(gettext("This learner isn’t at a school now."))
    school = first.school
    return school.consent_wording.replace("{learner}", person.display_name).replace(
        "{school}", school.name
    )


def give_consent(
    learner: User,
    agreed: bool,
    *,
    by: User,
    named: str,
    request: HttpRequest | None = None,
    on_paper: bool = False,
) -> Consent:
    """Note a guardian's word: whether they agree, or agree no more."""
    with transaction.atomic():
        row = Consent.objects.create(
            learner=learner,
            agreed=agreed,
            by=by,
            named=named,
            wording=wording_for(learner),
            on_paper=on_paper,
            at=clock.now(),
            address=client_address(request) if request is not None else None,
        )
        User.objects.filter(pk=learner.pk).update(consented=agreed)
        says = ("agreed" if agreed else gettext("withdrew consent")) + (
            gettext(", on paper") if on_paper else ""
        )
        audit(AuditKind.CONSENT, request=request, account=learner, by=by, says=says)
    return row


def ward_of(guardian: User, link_id: int) -> User:
    """The learner of one of a guardian's links that the office vouches for; else NotFound."""
    rows = Guardianship.objects.filter(pk=link_id, guardian=guardian, until=None, vouched=True)
    link = rows.select_related("learner").first()
    if link is None:
        raise NotFound(gettext("You aren’t linked to this learner."))
    return link.learner
