"""The audit log: who did what to accounts, when, and from where. Only ever added to."""

from __future__ import annotations

from django.http import HttpRequest

from vendaval.shared import clock
from vendaval.shared.requests import client_address

from .models import AuditEntry, AuditKind, User


def audit_entry(
    kind: AuditKind,
    *,
    request: HttpRequest | None = None,
    account: User | None = None,
    named: str = "",
    by: User | None = None,
    says: str = "",
) -> AuditEntry:
    """An entry, not stored yet. account: whose it is about. named: key of the name that was typed.
    by: who did it; without a request it was done on the server itself."""
    return AuditEntry(
        at=clock.now(),
        kind=kind,
        account=account,
        named=named,
        by=by,
        address=client_address(request) if request is not None else None,
        says=says[:200],
    )


def audit(
    kind: AuditKind,
    *,
    request: HttpRequest | None = None,
    account: User | None = None,
    named: str = "",
    by: User | None = None,
    says: str = "",
) -> AuditEntry:
    """Add an entry to the log."""
    entry = audit_entry(kind, request=request, account=account, named=named, by=by, says=says)
    entry.save(force_insert=True)
    return entry
