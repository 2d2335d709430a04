"""Twelve versions of a family side by side: numbers, answers, slips, and what is wrong with each.

Faults keep a family from being published. A doubt is a version that can be asked and will puzzle
somebody: a foreseen slip that is a number of the prompt, or comes to nothing.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from vendaval_core.language import gettext

from ..items.expressions import Value
from ..items.kinds.number import NumberKey, NumberPart
from ..items.model import DerivedVariable, Family
from ..items.template import shown
from ..items.versions import Version
from ..packs.checks import faults_of_seed
from ..packs.language import ENGLISH, Language

ROWS = 12
_NUMBER = re.compile(r"[-\u2212]?\d+(?:\.\d+)?")


@dataclass(frozen=True, slots=True)
class Doubt:
    """Something that will puzzle learners of a version. constraint: what a family could demand so
    that this version is drawn anew; "" where there is no such demand."""

    says: str
    constraint: str = ""


@dataclass(frozen=True, slots=True)
class SlipShown:
    """A foreseen wrong answer of a version, in words, and the response that makes it."""

    words: str
    response: str


@dataclass(frozen=True, slots=True)
class PartShown:
    """A part of a version: its right answer in words, and foreseen slips."""

    id: str
    right: str
    slips: tuple[SlipShown, ...]


@dataclass(frozen=True, slots=True)
class VersionRow:
    """A version in one line. values: what was drawn, as it is read. faults: (field, what)."""

    seed: int
    values: tuple[str, ...]
    parts: tuple[PartShown, ...]
    faults: tuple[tuple[str, str], ...]
    doubts: tuple[Doubt, ...]


@dataclass(frozen=True, slots=True)
class VersionsTable:
    """The first versions of a family, and how many of those looked at have something wrong.

    names: of the variables whose values the rows have. versions: how many there are. looked_at:
    how many were. faulty, doubted: seeds. differing: how many of those looked at differ in what
    was drawn. constraints: that would have every doubted version drawn anew.
    """

    names: tuple[str, ...]
    versions: int
    rows: tuple[VersionRow, ...]
    looked_at: int
    faulty: tuple[int, ...]
    doubted: tuple[int, ...]
    differing: int
    constraints: tuple[str, ...]


def versions_table(
    family: Family, rules: Language = ENGLISH, enough: Callable[[int], bool] = lambda _: False
) -> VersionsTable:
    """Look at a family's versions one after the other.

    enough: asked after each version with its seed; once it says so no other one is looked at.
    """
    names = tuple(v.name for v in family.variables if not isinstance(v, DerivedVariable))
    rows: list[VersionRow] = []
    faulty, doubted, drawn, seed = list[int](), list[int](), set[tuple[str, ...]](), 0
    wanted: dict[str, None] = {}
    for seed in range(1, family.versions + 1):
        version, faults = faults_of_seed(family, seed, rules)
        doubts = [] if version is None else list(_doubts(family, version))
        row = _row(seed, names, version, faults, doubts)
        drawn.add(row.values)
        wanted |= {doubt.constraint: None for doubt in doubts if doubt.constraint}
        if seed <= ROWS:
            rows.append(row)
        if faults:
            faulty.append(seed)
        if doubts:
            doubted.append(seed)
        if enough(seed):
            break
    return VersionsTable(
        names,
        family.versions,
        tuple(rows),
        seed,
        tuple(faulty),
        tuple(doubted),
        len(drawn),
        tuple(wanted),
    )


def _row(
    seed: int,
    names: tuple[str, ...],
    version: Version | None,
    faults: list[tuple[str, str]],
    doubts: list[Doubt],
) -> VersionRow:
    if version is None:
        return VersionRow(seed, (), (), tuple(faults), ())
    parts = tuple(
        PartShown(
            key.id,
            key.right_words(),
            tuple(SlipShown(one.words, one.response) for one in key.foreseen()),
        )
        for key in version.parts
    )
    values = tuple(shown(version.variables[name]) for name in names)
    return VersionRow(seed, values, parts, tuple(faults), tuple(doubts))


def _doubts(family: Family, version: Version) -> Iterator[Doubt]:
    """What will puzzle learners of numbers: slips that say nothing."""
    in_prompt = {float(found.replace("\u2212", "-")) for found in _NUMBER.findall(version.prompt)}
    for part, key in zip(family.parts, version.parts, strict=True):
        if not isinstance(key, NumberKey) or not isinstance(part, NumberPart):
            continue
        for written, miss in zip(part.near_misses, key.near_misses, strict=True):
            value = float(miss.value)
            near = max(key.tolerance, 1e-9)
            if str(written.answer).isidentifier():
                # Foreseen to be copied from the prompt, so that it is always one of its numbers.
                continue
            if abs(value) <= near:
                says = gettext("a slip comes to nothing")
                yield Doubt(says, f"abs({written.answer}) > {near:g}")
            elif any(abs(value - number) < 1e-9 for number in in_prompt):
                name = _drawn_as(value, version.variables)
                constraint = f"abs({written.answer} - {name}) > {near:g}" if name else ""
                yield Doubt(gettext("a slip is a number of the prompt"), constraint)


def _drawn_as(value: float, variables: dict[str, Value]) -> str:
    """The variable with a value, "" if none has it."""
    numbers = ((n, v) for n, v in variables.items() if not isinstance(v, str | bool))
    return next((name for name, own in numbers if abs(own - value) < 1e-9), "")
