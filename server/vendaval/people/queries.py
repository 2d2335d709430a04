"""Accounts, found."""

from __future__ import annotations

from django.core.management.base import CommandError
from django.utils.translation import gettext

from .models import User


def account_named(username: str) -> User:
    """The account of a name, for a command; CommandError when there is none."""
    found = User.objects.filter(username=username).first()
    if found is None:
        raise CommandError(gettext("there is no account “{username}”").format(username=username))
    return found
