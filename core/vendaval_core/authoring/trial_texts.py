"""The texts of a question that can be held against a second version: hints, the worked solution,
and what is said to an expected wrong answer."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from copy import deepcopy
from dataclasses import dataclass
from typing import Any

from vendaval_core.language import gettext

Plain = Any


@dataclass(frozen=True, slots=True)
class TrialText:
    """A text. place: where it stands in the file, as in `parts.0.near_misses.1.says`. name: what it
    is called on a page."""

    place: str
    name: str
    text: str


def texts_in(data: Mapping[str, Plain]) -> list[TrialText]:
    """Return the texts of a question that a trial can be about."""
    return list(_texts(data))


def _texts(data: Mapping[str, Plain]) -> Iterator[TrialText]:
    for number, hint in enumerate(data.get("hints") or []):
        name = gettext("hint {number}").format(number=number + 1)
        yield TrialText(f"hints.{number}", name, hint)
    if data.get("solution"):
        name = gettext("worked solution")
        yield TrialText("solution", name, "\n".join(data["solution"]))
    for at, part in enumerate(data.get("parts") or []):
        for group in ("near_misses", "choices"):
            for number, one in enumerate(part.get(group) or []):
                says = one.get("says") if isinstance(one, dict) else None
                if says:
                    shown = str(one.get("answer", one.get("text", number + 1)))
                    name = gettext("feedback to {answer}").format(answer=shown)
                    yield TrialText(f"parts.{at}.{group}.{number}.says", name, says)


def with_text(data: Mapping[str, Plain], place: str, text: str) -> dict[str, Plain]:
    """Return a question with another text at a place; a worked solution has a step on each line.
    KeyError or IndexError where there is no such place."""
    new = deepcopy(dict(data))
    if place == "solution":
        new["solution"] = [line.strip() for line in text.splitlines() if line.strip()]
        return new
    *path, last = (int(step) if step.isdigit() else step for step in place.split("."))
    node: Plain = new
    for step in path:
        node = node[step]
    _ = node[last]
    node[last] = text.strip()
    return new
