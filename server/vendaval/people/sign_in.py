"""Signing in with a name and a password: slowed down, counted in the audit log, bounded.

Failures are counted for an account *and* an address, so that strangers lock nobody out, and for an
address over all accounts. The counts are rows of the database, so every process sees the same ones.
"""

from __future__ import annotations

import fcntl
import hashlib
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta

from django.conf import settings
from django.contrib.auth import authenticate
from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.shared import clock
from vendaval.shared.errors import DomainError, TooMany
from vendaval.shared.requests import client_address

from .audit import audit
from .consent import waits_for_consent
from .models import AuditEntry, AuditKind, User
from .second_factor import factor_of, is_right
from .sessions import begin_session

WINDOW = timedelta(minutes=5)
MOST_HERE = 10
# A whole classroom signs in from one address at the start of a lesson.
MOST_FROM_ADDRESS = 60
# Hashing a password is costly on purpose; who waits longer than this is asked to try again.
HASH_WAIT_SECONDS = 2.0

_waiting = threading.BoundedSemaphore(1)


def sign_in_with(request: HttpRequest, username: str, password: str, code: str = "") -> User:
    """Sign in, by a name or a mail address, or DomainError: too often, too many at once, name and
    password do not agree, the second factor is asked for, or a guardian has still to agree."""
    named = key_of_name(username)
    refuse_if_too_often(request, named)
    with hashing_slot():
        user = authenticate(request, username=username, password=password)
    if not isinstance(user, User):
        known = User.objects.filter(username=username).first()
        audit(AuditKind.SIGN_IN_FAILED, request=request, account=known, named=named)
        raise DomainError(gettext("Wrong user name or password."), code="wrong_credentials")
    ask_second_factor(request, user, named, code)
    if waits_for_consent(user):
        says = gettext(
            "A guardian has to agree before you can use this account. We’ve written to them."
        )
        raise DomainError(says, code="consent_waited")
    begin_session(request, user)
    audit(AuditKind.SIGNED_IN, request=request, account=user, named=named)
    return user


def ask_second_factor(request: HttpRequest, user: User, named: str, code: str) -> None:
    """DomainError unless the account has no second factor or the code is right. A wrong one counts
    as a failure, like a wrong password."""
    factor = factor_of(user)
    if factor is None:
        return
    if not code:
        says = gettext("Type the six-digit code from your device, or one of your spare codes.")
        raise DomainError(says, code="second_factor_wanted")
    if not is_right(factor, code):
        audit(AuditKind.SIGN_IN_FAILED, request=request, account=user, named=named)
        says = gettext("That code is wrong or was already used. Wait for the next one.")
        raise DomainError(says, code="second_factor_wrong")


def key_of_name(username: str) -> str:
    """What a typed name is remembered by: an account's or not, so that neither can be told apart,
    and a password typed in the wrong field is not kept."""
    return hashlib.sha256(username.casefold().encode()).hexdigest()[:32]


def refuse_if_too_often(request: HttpRequest, named: str) -> None:
    """TooMany, with when to come back, after too many failures. Each refusal is in the audit log
    once in its window."""
    now, address = clock.now(), client_address(request)
    failed = AuditEntry.objects.filter(kind=AuditKind.SIGN_IN_FAILED)
    recent = failed.filter(at__gt=now - WINDOW, address=address)
    worked = AuditEntry.objects.filter(kind=AuditKind.SIGNED_IN, named=named, address=address)
    last = worked.order_by("-pk").first()
    here = recent.filter(named=named, pk__gt=last.pk if last else 0)
    for rows, most in ((here, MOST_HERE), (recent, MOST_FROM_ADDRESS)):
        counted = list(rows.order_by("-pk").values_list("at", flat=True)[:most])
        if len(counted) < most:
            continue
        seconds = max(1, round((counted[-1] + WINDOW - now).total_seconds()))
        refused = AuditEntry.objects.filter(
            kind=AuditKind.SIGN_IN_REFUSED, named=named, address=address, at__gt=now - WINDOW
        )
        if not refused.exists():
            audit(AuditKind.SIGN_IN_REFUSED, request=request, named=named)
        raise TooMany(
            gettext("Too many tries. Wait {seconds} min.").format(
                seconds=max(1, round(seconds / 60))
            ),
            code="wait",
            after=seconds,
        )


@contextmanager
def hashing_slot() -> Iterator[None]:
    """One password at a time is worked out on this machine, and one request of a process waits for
    that; whoever comes beside them is asked to come again, and pages go on being served."""
    if not _waiting.acquire(blocking=False):
        raise _busy()
    try:
        settings.VAR.mkdir(parents=True, exist_ok=True)
        with (settings.VAR / "hashing.lock").open("w") as lock:
            until = time.monotonic() + HASH_WAIT_SECONDS
            while not _locked(lock.fileno()):
                if time.monotonic() > until:
                    raise _busy()
                time.sleep(0.02)
            yield
    finally:
        _waiting.release()


def _locked(file: int) -> bool:
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return False
    return True


def _busy() -> TooMany:
    return TooMany(
        gettext("Many people are signing in right now. Try again."), code="busy", after=1
    )
