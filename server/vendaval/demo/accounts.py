"""The demo's accounts and their enrolments."""

from __future__ import annotations

from zlib import crc32

from django.conf import settings

from vendaval.bank.models import Course
from vendaval.groups.actions import enrol
from vendaval.groups.models import Enrolment
from vendaval.people.models import User


def account(username: str, name: str, note: str = "") -> User:
    """An account with the demo's password. note: what the sign-in page says of it; without one, it
    cannot be signed in to by one click."""
    email = f"{username}@molhe.example"
    user = User(username=username, display_name=name, demo_note=note, email=email)
    user.set_password(settings.DEMO_PASSWORD)
    user.save()
    return user


def enrolled(user: User, course: Course) -> Enrolment:
    """An enrolment whose draws are the same at every loading, so that the story is too."""
    enrolment = enrol(user, course)
    enrolment.seed = crc32(f"{user.username}:{course.key}".encode())
    enrolment.save(update_fields=["seed"])
    return enrolment
