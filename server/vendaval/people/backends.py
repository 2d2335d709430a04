"""The account of a session, with its roles in the same query."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.backends import ModelBackend

from .models import User


class AccountBackend(ModelBackend):
    """Django's own way of signing in, and an account that knows its roles."""

    def get_user(self, user_id: Any) -> User | None:
        user = User.objects.with_roles().filter(pk=user_id).first()
        return user if user is not None and self.user_can_authenticate(user) else None
