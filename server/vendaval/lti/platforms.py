"""Platforms kept: by the office's hand, or when they register us by themselves."""

from __future__ import annotations

from typing import Any

from django.db import IntegrityError, transaction
from django.utils.translation import gettext

from vendaval.people.models import School
from vendaval.shared import clock
from vendaval.shared.errors import Unprocessable
from vendaval.shared.outgoing import address_fault

from .models import Platform

ADDRESSES = ("login_url", "token_url", "keys_url")
MOST = 50


def new_platform(school: School) -> Platform:
    """A platform that is still to be filled. Unprocessable where there are enough."""
    if Platform.objects.filter(school=school).count() >= MOST:
        raise Unprocessable(gettext("There are {most} platforms already.").format(most=MOST))
    return Platform(school=school, made_at=clock.now())


def store_platform(row: Platform, fields: dict[str, Any]) -> None:
    """Keep what is known of a platform. Unprocessable for addresses that can't be used, or one
    that is known already."""
    found = {name: fault for name in ADDRESSES if (fault := address_fault(fields[name]))}
    if found:
        raise Unprocessable(gettext("Some addresses can’t be used."), fields=found)
    for name, value in fields.items():
        setattr(row, name, value)
    try:
        with transaction.atomic():
            row.save()
    except IntegrityError:
        says = gettext("This platform is known already, by this issuer and client id.")
        raise Unprocessable(says, fields={"client_id": says}) from None
