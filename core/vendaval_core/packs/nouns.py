"""Nouns that learners will type beside a number, because the question itself uses them."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from ..items.kinds.protocol import Key
from ..items.model import Family
from ..items.versions import make_version

_ASKED = re.compile(r"\bhow many\s+([^\W\d_]{2,})(?:[\s-]+([^\W\d_]{2,}))?", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Proposal:
    """A noun that a part of a family should take beside its number."""

    family: str
    part: str
    noun: str


def nouns_proposed(family: Family) -> Iterator[Proposal]:
    """Yield the nouns of a family's question that its parts could not read beside the answer."""
    version = make_version(family, 1)
    for key in version.parts:
        plain = next(key.usual_forms(), "")
        text = f"{version.prompt} {key.label}".replace("*", "")
        for one, other in dict.fromkeys(_ASKED.findall(text.lower())):
            # How many days; how many whole days; how many person days.
            nouns = (one, f"{one} {other}".strip(), other or one)
            if plain and "\n" not in plain and not any(_reads(key, plain, it) for it in nouns):
                plural = next((word for word in (one, other) if word.endswith("s")), one)
                yield Proposal(family.key, key.id, plural)


def _reads(key: Key, plain: str, noun: str) -> bool:
    return key.read_back(f"{plain} {noun}").state == "read"
