"""The audit log: who did what to accounts, when, and from where. Only ever added to."""

from __future__ import annotations

from django.http import HttpRequest

from vendaval.shared import clock
from vendaval.shared.requests import client_address

from .models import AuditEntry, AuditKind, User


def audit(
    kind: AuditKind,
    *,
    request: HttpRequest | None = None,
    account: User | None = None,
    named: str = "",
    by: User | None = None,
    says: str = "",
    stored: bool = True,
) -> AuditEntry:
    """Add an entry to the log. account: whose it is about. named: key of the name that was typed.
    by: who did it; without a request it was done on the server itself. stored: whether it is put
    away at once, or with many others."""
    entry = AuditEntry(
        at=clock.now(),
        kind=kind,
        account=account,
        named=named,
        by=by,
        address=client_address(request) if request is not None else None,
        says=says[:200],
    )
    if stored:
        entry.save(force_insert=True)
    return entry
