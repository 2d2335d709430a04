"""A second factor for staff: time-based one-time passwords, RFC 6238, by pyotp. Optional."""

from __future__ import annotations

import hashlib

import pyotp
from django.db import transaction
from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.shared import clock
from vendaval.shared.codes import new_code, shown_code, typed_code
from vendaval.shared.errors import Conflict, DomainError, NotAllowed

from .audit import audit
from .models import AuditKind, Role, SecondFactor, User
from .one_time_links import end_links

STAFF = frozenset({Role.TUTOR, Role.AUTHOR, Role.OFFICE})
STEP_SECONDS = 30
# A device's clock may be a step off.
STEPS_OFF = (0, -1, 1)
SPARES = 8


def factor_of(person: User) -> SecondFactor | None:
    """The second factor that is asked for at sign-in, where somebody has one."""
    return SecondFactor.objects.filter(person=person).exclude(confirmed_at=None).first()


def begin_factor(person: User) -> tuple[str, str]:
    """A new secret, not asked for until it is confirmed. Returns the secret and the address that a
    device reads from a QR code."""
    if not person.roles & STAFF:
        raise NotAllowed(gettext("Two-step sign-in is for people who see other people’s work."))
    if factor_of(person) is not None:
        raise Conflict(
            gettext("Two-step sign-in is already on. Turn it off first."), code="factor_there"
        )
    secret = pyotp.random_base32()
    SecondFactor.objects.update_or_create(
        person=person,
        defaults={"secret": secret, "confirmed_at": None, "last_step": 0, "spares": []},
    )
    name = person.username
    return secret, pyotp.TOTP(secret).provisioning_uri(name=name, issuer_name="Vendaval")


def confirm_factor(person: User, code: str, request: HttpRequest) -> list[str]:
    """From now on it is asked for. Returns the spare codes, which are shown this once."""
    factor = SecondFactor.objects.filter(person=person, confirmed_at=None).first()
    if factor is None:
        raise Conflict(gettext("There’s nothing to confirm. Start again."), code="no_factor")
    if not is_right(factor, code):
        raise DomainError(gettext("That code is wrong or has expired."), code="second_factor_wrong")
    spares = [new_code() for _ in range(SPARES)]
    factor.confirmed_at, factor.spares = clock.now(), [_digest(code) for code in spares]
    with transaction.atomic():
        factor.save(update_fields=["confirmed_at", "spares"])
        end_links(person)
        audit(
            AuditKind.SECOND_FACTOR,
            request=request,
            account=person,
            by=person,
            says=gettext("turned on"),
        )
    return [shown_code(code) for code in spares]


def remove_factor(person: User, by: User, request: HttpRequest) -> None:
    """It is asked for no more."""
    with transaction.atomic():
        if SecondFactor.objects.filter(person=person).delete()[0]:
            end_links(person)
            audit(
                AuditKind.SECOND_FACTOR,
                request=request,
                account=person,
                by=by,
                says=gettext("turned off"),
            )


def is_right(factor: SecondFactor, typed: str) -> bool:
    """Whether these are the digits of now, give or take a step, or a spare code; none of them
    opens anything twice."""
    code = typed_code(typed)
    with transaction.atomic():
        row = SecondFactor.objects.select_for_update().get(pk=factor.pk)
        if _digest(code) in row.spares:
            row.spares.remove(_digest(code))
            row.save(update_fields=["spares"])
            return True
        now = int(clock.now().timestamp()) // STEP_SECONDS
        for step in (now + off for off in STEPS_OFF):
            right = pyotp.TOTP(row.secret).generate_otp(step)
            if step > row.last_step and pyotp.utils.strings_equal(right, code):
                row.last_step = step
                row.save(update_fields=["last_step"])
                return True
    return False


def _digest(code: str) -> str:
    return hashlib.sha256(code.encode()).hexdigest()
