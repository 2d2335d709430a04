"""The account of a session, with its roles in the same query."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.auth.backends import ModelBackend
from django.db import connection
from django.http import HttpRequest

from .consent import waits_for_consent
from .models import User

# Asked for by every request, so written out: Django would put it together anew each time.
JOINED = {"sqlite": "GROUP_CONCAT(role, ',')", "postgresql": "STRING_AGG(role, ',')"}
ACCOUNT = (
    "SELECT people_user.*, (SELECT {joined} FROM people_membership "
    "WHERE person_id = people_user.id AND until IS NULL) AS role_names "
    "FROM people_user WHERE id = %s"
)


def account_with_roles(user_id: int) -> User | None:
    """An account that knows the roles it holds now; a role held at two schools is named twice."""
    sql = ACCOUNT.format(joined=JOINED[connection.vendor])
    return next(iter(User.objects.raw(sql, [user_id])), None)


class AccountBackend(ModelBackend):
    """Django's own way of signing in, and an account that knows its roles."""

    def authenticate(
        self,
        request: HttpRequest | None,
        username: str | None = None,
        password: str | None = None,
        **more: Any,
    ) -> User | None:
        name = _name_of(username or "")
        user = super().authenticate(request, username=name, password=password, **more)
        known = not settings.DEMO_ACCOUNTS and password == settings.DEMO_PASSWORD
        return user if isinstance(user, User) and not known else None

    def user_can_authenticate(self, user: Any) -> bool:
        """Demo accounts open nothing where they are switched off, whatever the database holds."""
        demo = bool(user.demo_note) and not settings.DEMO_ACCOUNTS
        return super().user_can_authenticate(user) and not demo

    def get_user(self, user_id: Any) -> User | None:
        user = account_with_roles(int(user_id))
        if user is None or not self.user_can_authenticate(user) or waits_for_consent(user):
            return None
        return user


def _name_of(typed: str) -> str:
    """The name that belongs to a mail address, where exactly one account has it; else what was
    typed."""
    if "@" not in typed:
        return typed
    names = User.objects.filter(email__iexact=typed, is_active=True).values_list("username")[:2]
    return str(names[0][0]) if len(names) == 1 else typed
