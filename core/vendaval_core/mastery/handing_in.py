"""Handing in work that was set: what it may or must come with, and when it can still be changed.

Common practice, no published source.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from urllib.parse import urlsplit

from vendaval_core.language import gettext

MOST_LINKS = 5
LONGEST_LINK = 500
_HOST = re.compile(r"[^\s/@\\]+\.[^\s/@\\]+")


class Wanted(StrEnum):
    """Whether something may or must be handed in."""

    NONE = "none"
    MAY = "may"
    MUST = "must"


@dataclass(frozen=True, slots=True)
class Asked:
    """What is handed in with a piece of work."""

    files: Wanted = Wanted.NONE
    links: Wanted = Wanted.NONE

    @property
    def anything(self) -> bool:
        """Whether there is something to hand in."""
        return self.files is not Wanted.NONE or self.links is not Wanted.NONE

    @property
    def needed(self) -> bool:
        """Whether the work is done only once it is handed in."""
        return self.files is Wanted.MUST or self.links is Wanted.MUST


def lacking(asked: Asked, files: int, links: int) -> str | None:
    """Return what must still be added before handing in, or None. files, links: how many there
    are."""
    if asked.files is Wanted.MUST and not files:
        return gettext("Add a file first: your tutor asks for one.")
    if asked.links is Wanted.MUST and not links:
        return gettext("Add a link first: your tutor asks for one.")
    if not files and not links:
        return gettext("Add a file or a link first.")
    return None


def link_problem(link: str) -> str | None:
    """Return why a link is not taken, or None: only addresses of web pages are."""
    if len(link) > LONGEST_LINK:
        return gettext("This link is too long.")
    try:
        parts = urlsplit(link)
    except ValueError:
        parts = None
    if parts is None or parts.scheme not in {"http", "https"} or not _HOST.fullmatch(parts.netloc):
        return gettext("This isn’t the address of a web page. It begins with https://.")
    if re.search(r"\s", link):
        return gettext("There is a space in this link.")
    return None


def unchangeable(
    *,
    handed_in: datetime | None,
    marked: bool,
    opens: datetime | None,
    closes: datetime | None,
    now: datetime,
) -> str | None:
    """Return why what is handed in can't be changed now, or None."""
    if marked:
        return gettext("Your tutor has marked this.")
    if handed_in is not None:
        return gettext("You’ve handed this in. Take it back first to change it.")
    if opens is not None and now < opens:
        return gettext("This work isn’t open yet.")
    if closes is not None and now >= closes:
        return gettext("This work is closed.")
    return None
