"""What a revision changes of the one before, and whether answers given so far still say how hard
the question is.

A change of wording or of the numbers drawn keeps them; a change of what is right or of what is
asked does not. It is a suggestion: whoever publishes decides.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from vendaval_core.language import gettext, gettext_noop

from .edits import same

Plain = Any


class ChangeKind(StrEnum):
    """What a change is of."""

    WORDING = "wording"
    NUMBERS = "numbers"
    JUDGEMENT = "judgement"
    KEY = "key"
    ASKED = "asked"


@dataclass(frozen=True, slots=True)
class Change:
    """One field that differs. before, after: as they stand in the file, None where there is no
    such field."""

    field: str
    kind: ChangeKind
    before: Plain
    after: Plain


OF_FIELD: Mapping[str, ChangeKind] = {
    "variables": ChangeKind.NUMBERS,
    "constraints": ChangeKind.NUMBERS,
    "difficulty": ChangeKind.JUDGEMENT,
    "seconds": ChangeKind.JUDGEMENT,
    "essential": ChangeKind.JUDGEMENT,
}
# Of a part: how it reads, and what is right. Anything else of it is what is asked.
READS = {"says", "label", "near_misses", "alt", "svg", "model", "name"}
RIGHT = {
    "answer", "tolerance", "relative", "figures", "right", "accepted", "units", "words", "letter",
    "case", "accents", "exact", "form", "partial", "points", "bounds", "criteria", "least", "most",
}  # fmt: skip
KEEPS = {ChangeKind.WORDING, ChangeKind.NUMBERS, ChangeKind.JUDGEMENT}
NAMES = {
    "title": gettext_noop("title"),
    "prompt": gettext_noop("question"),
    "hints": gettext_noop("hints"),
    "solution": gettext_noop("worked solution"),
    "variables": gettext_noop("numbers"),
    "constraints": gettext_noop("conditions for the numbers"),
    "difficulty": gettext_noop("difficulty"),
    "seconds": gettext_noop("time needed"),
    "essential": gettext_noop("essential"),
    "source": gettext_noop("source"),
    "study": gettext_noop("study section"),
    "figure": gettext_noop("figure"),
    "solution_figure": gettext_noop("figure of the solution"),
    "stimulus": gettext_noop("shared text"),
    "near_misses": gettext_noop("foreseen wrong answers"),
    "answer": gettext_noop("right answer"),
    "tolerance": gettext_noop("tolerance"),
    "choices": gettext_noop("choices"),
    "says": gettext_noop("feedback"),
    "text": gettext_noop("text"),
    "right": gettext_noop("which is right"),
    "accepted": gettext_noop("accepted answers"),
    "unit": gettext_noop("unit"),
    "kind": gettext_noop("kind"),
}


def changes(before: Mapping[str, Plain], after: Mapping[str, Plain]) -> list[Change]:
    """Return what differs between two families as their files have them, in the file's order."""
    found: list[Change] = []
    for name in [*before, *(one for one in after if one not in before)]:
        old, new = before.get(name), after.get(name)
        if same(old, new):
            continue
        if name == "parts" and isinstance(old, list) and isinstance(new, list):
            found += _of_parts(old, new)
        else:
            found.append(Change(name, OF_FIELD.get(name, ChangeKind.WORDING), old, new))
    return found


def keep_answers(found: Iterable[Change]) -> bool:
    """Whether answers given so far still count towards the question's difficulty, as a
    suggestion."""
    return all(one.kind in KEEPS for one in found)


def in_words(change: Change) -> str:
    """What a change is of, in words: “parts.0.answer” is the right answer."""
    steps = [step for step in change.field.split(".") if not step.isdigit() and step != "parts"]
    return ", ".join(gettext(NAMES.get(step, step)) for step in steps) or gettext("parts")


def _of_parts(before: Sequence[Plain], after: Sequence[Plain]) -> Iterator[Change]:
    ids = [[p.get("id") if isinstance(p, Mapping) else None for p in x] for x in (before, after)]
    if ids[0] != ids[1]:
        yield Change("parts", ChangeKind.ASKED, list(before), list(after))
        return
    for place, (old, new) in enumerate(zip(before, after, strict=True)):
        yield from _within(f"parts.{place}", old, new, ChangeKind.ASKED)


def _within(path: str, old: Plain, new: Plain, kind: ChangeKind) -> Iterator[Change]:
    if same(old, new):
        return
    if isinstance(old, Mapping) and isinstance(new, Mapping):
        for name in [*old, *(one for one in new if one not in old)]:
            own = _kind_of(name, kind, path)
            yield from _within(f"{path}.{name}", old.get(name), new.get(name), own)
    elif isinstance(old, list) and isinstance(new, list) and len(old) == len(new):
        for place, (one, other) in enumerate(zip(old, new, strict=True)):
            yield from _within(f"{path}.{place}", one, other, kind)
    else:
        yield Change(path, kind, old, new)


def _kind_of(name: str, outer: ChangeKind, path: str) -> ChangeKind:
    if outer is ChangeKind.WORDING or name in READS:
        return ChangeKind.WORDING
    if name in RIGHT:
        return ChangeKind.KEY
    # The text of a choice may be put more clearly without another one being right.
    return ChangeKind.WORDING if name == "text" and "choices" in path else outer
