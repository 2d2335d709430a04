"""What a learner is allowed in every test of a course: set by a tutor, kept with who and why."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.groups.models import Enrolment
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock
from vendaval_core.assessment.wording import accommodation_words

from ..assigning.assigned import accommodations_of
from ..models import Accommodation, Allowance, Attempt
from .allowances import lengthen
from .schemas import AccommodationIn, AccommodationOut


def accommodation_out(row: Accommodation | None) -> AccommodationOut:
    """As a browser gets it; nothing special where there is none."""
    if row is None:
        return AccommodationOut()
    return AccommodationOut(
        times=row.times,
        minutes=row.minutes,
        large_print=row.large_print,
        reader=row.reader,
        separate_room=row.separate_room,
        why=row.why,
        says=says_of(row),
        by="" if row.by is None else row.by.display_name,
        at=row.at,
    )


def says_of(row: Accommodation) -> list[str]:
    """What it allows, in words."""
    return accommodation_words(
        row.times,
        row.minutes,
        large_print=row.large_print,
        reader=row.reader,
        separate_room=row.separate_room,
    )


def accommodation(enrolment: Enrolment) -> AccommodationOut:
    """What a learner is allowed now."""
    return accommodation_out(accommodations_of([enrolment]).get(enrolment.pk))


def accommodate(enrolment: Enrolment, wanted: AccommodationIn, by: User) -> AccommodationOut:
    """Set what a learner is allowed in every test. More time reaches an attempt under way, unless
    that test has an allowance of its own."""
    wanted.why = wanted.why.strip()
    row = Accommodation.objects.create(
        enrolment=enrolment, by=by, at=clock.now(), **wanted.model_dump()
    )
    says = ", ".join(says_of(row)) or gettext("nothing special")
    audit(AuditKind.ALLOWED, account=enrolment.person, by=by, says=f"{says}: {row.why}")
    own = Allowance.objects.filter(enrolment=enrolment).values("assignment")
    going = Attempt.objects.filter(enrolment=enrolment, handed_in_at=None)
    for attempt in going.exclude(assignment__in=own):
        lengthen(attempt.pk)
    return accommodation_out(row)
