"""Accounts, found."""

from __future__ import annotations

from django.core.management.base import CommandError

from .models import User


def account_named(username: str) -> User:
    """The account of a name, for a command; CommandError when there is none."""
    found = User.objects.filter(username=username).first()
    if found is None:
        raise CommandError(f"there is no account “{username}”")
    return found
