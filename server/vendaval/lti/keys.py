"""Our keys: a new one from time to time, and the one before holds for a day."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.db.models import Q
from jwcrypto.jwk import JWK
from pylti1p3.registration import Registration

from vendaval.shared import clock

from .models import ToolKey

LASTS, HOLDS = timedelta(days=90), timedelta(days=1)
BITS = 2048


def current_key() -> ToolKey:
    """The key that is signed with now."""
    now = clock.now()
    newest = ToolKey.objects.order_by("-pk").first()
    if newest is not None and newest.made_at > now - LASTS:
        return newest
    return new_key()


def new_key() -> ToolKey:
    """A new key from now on; those before hold for a day."""
    now = clock.now()
    made = JWK.generate(kty="RSA", size=BITS)
    private = made.export_to_pem(private_key=True, password=None).decode()
    public = made.export_to_pem().decode()
    with transaction.atomic():
        ToolKey.objects.filter(ends_at=None).update(ends_at=now + HOLDS)
        ToolKey.objects.filter(ends_at__lt=now).delete()
        return ToolKey.objects.create(private=private, public=public, made_at=now)


def public_keys() -> list[Mapping[str, Any]]:
    """Keys that platforms may believe now, as JSON web keys."""
    current_key()
    holding = ToolKey.objects.filter(Q(ends_at=None) | Q(ends_at__gte=clock.now()))
    return [Registration.get_jwk(key.public) for key in holding.order_by("-pk")]
