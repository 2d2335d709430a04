"""The account of a session, with its roles in the same query."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.backends import ModelBackend
from django.db import connection

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

    def get_user(self, user_id: Any) -> User | None:
        user = account_with_roles(int(user_id))
        return user if user is not None and self.user_can_authenticate(user) else None
