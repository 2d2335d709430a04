"""A person's own account as the browser sees it."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from ninja import Schema
from pydantic import ConfigDict, Field

from .models import LinkKind

Password = Field(min_length=1, max_length=200)


class OwnSessionOut(Schema):
    """A browser that is signed in as me. here: it is this one."""

    since: datetime | None
    address: str | None
    agent: str
    here: bool


class OwnAccountOut(Schema):
    """My account. new_mail: an address that has still to be confirmed. factor: whether a second
    factor is asked for; null where the role has none. spares: spare codes left."""

    username: str
    mail: str
    new_mail: str | None
    sessions: list[OwnSessionOut]
    factor: bool | None
    spares: int


class PasswordIn(Schema):
    model_config = ConfigDict(extra="forbid")
    old: str = Password
    password: str = Password


class MailIn(Schema):
    model_config = ConfigDict(extra="forbid")
    mail: str = Field(min_length=3, max_length=254)


class NewMailIn(MailIn):
    """Another address, and the password of who wants it."""

    old: str = Password


class KnownIn(Schema):
    """The password, for what is asked again before it is changed."""

    model_config = ConfigDict(extra="forbid")
    old: str = Password


class FactorOut(Schema):
    """A secret for a device: as letters to type and as a QR code, an SVG picture."""

    secret: str
    picture: str


class FactorIn(Schema):
    model_config = ConfigDict(extra="forbid")
    code: str = Field(min_length=6, max_length=20)


class SparesOut(Schema):
    """Codes that open once each, when the device is lost. They are shown this once."""

    spares: list[str]


class ConsentOut(Schema):
    """What a guardian is asked about one learner. agreed: their word so far; waits: the account
    does not work before they agree. id is the link's."""

    id: int
    learner: str
    wording: str
    agreed: bool | None
    at: datetime | None
    waits: bool


class ConsentsOut(Schema):
    consents: list[ConsentOut]


class ConsentIn(Schema):
    model_config = ConfigDict(extra="forbid")
    agreed: bool


class LinkOpenOut(Schema):
    """What a mailed link opens. username: a name to sign in with that is free, for an invitation.
    consent: the account works only once a guardian agrees."""

    kind: LinkKind
    name: str
    mail: str
    username: str
    consent: bool


class UseLinkIn(Schema):
    """username: for an invitation. password: for that and for a new password."""

    model_config = ConfigDict(extra="forbid")
    username: str = Field(default="", max_length=60)
    password: str = Field(default="", max_length=200)


class LinkUsedOut(Schema):
    """signed_in: nothing more has to be typed. waits: a guardian has still to agree."""

    kind: LinkKind
    signed_in: bool
    waits: bool


class AskedOut(Schema):
    asked: Literal[True] = True
