"""An item of QTI as a row of an import: what its author decides about it, and what it becomes."""

from __future__ import annotations

from collections.abc import Mapping
from copy import deepcopy
from dataclasses import dataclass
from typing import Any

from django.utils.translation import gettext

from vendaval_core.exchange.qti.asked import Plain
from vendaval_core.exchange.sheet_rows import difficulty_of, essential_of, seconds_of

from .models import ImportRow

# What can be decided of an item; the rest is as its file has it.
COLUMNS = ("topic", "replaces", "tolerance", "difficulty", "essential", "seconds")
SHOWN = ("question", "right")


def item_cells(row: ImportRow, typed: Mapping[str, str]) -> dict[str, str]:
    """A row's cells with what was decided; what its file says stays as it is."""
    decided = {name: text for name, text in typed.items() if name in COLUMNS}
    return {**{name: row.cells[name] for name in SHOWN if name in row.cells}, **decided}


@dataclass(frozen=True, slots=True)
class ItemRow:
    """data: fields of a family, None for an item that is refused. problems: by column."""

    data: dict[str, Plain] | None
    problems: tuple[tuple[str, str], ...]
    notes: tuple[str, ...]


def read_item_row(cells: Mapping[str, str], item: Mapping[str, Any]) -> ItemRow:
    """Return what an item becomes with what was decided about it."""
    notes = [gettext("Not kept: {what}.").format(what=what) for what in item.get("lost", [])]
    notes += item.get("remarks", [])
    refused = str(item.get("refused", ""))
    if refused or item.get("data") is None:
        where = gettext("line {line}: ").format(line=item["line"]) if item.get("line") else ""
        says = gettext("It can’t be taken in: {where}{why}.")
        problem = ("question", says.format(where=where, why=refused.rstrip(".")))
        return ItemRow(None, (problem,), tuple(notes))
    data: dict[str, Plain] = deepcopy(item["data"])
    problems: list[tuple[str, str]] = []
    difficulty, seconds = (
        difficulty_of(cells.get("difficulty", "")),
        seconds_of(cells.get("seconds", "")),
    )
    if difficulty is None:
        problems.append(("difficulty", gettext("Write 1 (very easy) to 5 (very hard).")))
    if seconds is None:
        problems.append(("seconds", gettext("Write how many seconds it takes, 1800 at most.")))
    data |= {"difficulty": difficulty, "seconds": seconds}
    essential = essential_of(cells.get("essential", ""))
    if essential is None:
        problems.append(("essential", gettext("Write yes or no.")))
    data.pop("essential", None)
    if essential:
        data["essential"] = True
    if wrong := _set_tolerance(data, cells.get("tolerance", "")):
        problems.append(("tolerance", wrong))
    return ItemRow(data, tuple(problems), tuple(notes))


def _numbers(data: Mapping[str, Plain]) -> list[dict[str, Plain]]:
    return [
        part
        for part in data["parts"]
        if part.get("kind") == "slider" or part.get("value") in {"number", "angle"}
    ]


def tolerance_of(data: Mapping[str, Plain]) -> str:
    """The tolerance of its numbers, where they have one and the same."""
    found = {str(part.get("tolerance", 0)) for part in _numbers(data)}
    return next(iter(found)) if len(found) == 1 else ""


def _set_tolerance(data: dict[str, Plain], text: str) -> str:
    """Give all numbers a tolerance; what is wrong with it, "" for nothing."""
    numbers = _numbers(data)
    said = text.strip().replace(",", ".")
    if not said or not numbers or said == tolerance_of(data):
        return ""
    try:
        value = float(said)
    except ValueError:
        return gettext("Write how far an answer may be off, as a number.")
    if not 0 <= value < 1e9:
        return gettext("Write how far an answer may be off, as a number.")
    for part in numbers:
        part.pop("relative", None)
        part.pop("figures", None)
        part["tolerance"] = int(value) if value.is_integer() else value
    return ""
