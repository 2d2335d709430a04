"""A new family to begin with, for each kind of part: whole, so that its versions show at once, and
plainly still to be written."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from vendaval_core.language import gettext

from .edits import written

Plain = Any
SVG = (Path(__file__).parent / "start.svg").read_text()


def _figure() -> dict[str, Plain]:
    return {"alt": gettext("What the figure shows"), "svg": SVG}


def _plane() -> dict[str, Plain]:
    axis = {"low": 0, "high": 10, "step": 1}
    return {
        "x": axis | {"name": "x"},
        "y": axis | {"name": "y"},
        "targets": [{"x": 4, "y": 6, "tolerance": 0.5, "name": gettext("The point")}],
    }


def _one(text: str, **more: Plain) -> dict[str, Plain]:
    return {"text": text, **more}


def _parts() -> dict[str, dict[str, Plain]]:
    """The first part of each kind, by the name it is chosen by."""
    first, second, third = gettext("First"), gettext("Second"), gettext("Third")
    pairs = [[gettext("One"), gettext("its match")], [gettext("Two"), gettext("the other")]]
    choices = [_one(first, right=True), _one(second, right=False), _one(third, right=False)]
    return {
        "number": {"kind": "text_entry", "value": "number", "digits": 0, "answer": "a + b"},
        "angle": {"kind": "text_entry", "value": "angle", "digits": 1, "answer": "a + 0.5"},
        "time": {"kind": "text_entry", "value": "time", "answer": "600 + a"},
        "text": {"kind": "text_entry", "value": "text", "accepted": [gettext("word")]},
        "expression": {
            "kind": "text_entry",
            "value": "expression",
            "answer": "x + 1",
            "symbols": ["x"],
        },
        "choice": {"kind": "choice", "choices": choices},
        "several": {"kind": "choice", "choose": "any", "partial": True, "choices": choices},
        "hot_text": {
            "kind": "hot_text",
            "text": "{{0}}, {{1}}, {{2}}.",
            "choices": [
                _one(first, right="a < 6"),
                _one(second, right="a >= 6"),
                _one(third, right=False),
            ],
        },
        "hotspot": {
            "kind": "hotspot",
            "figure": _figure(),
            "choices": [
                _one(first, right="a < 6", at={"circle": [80, 80, 20]}),
                _one(second, right="a >= 6", at={"circle": [240, 80, 20]}),
            ],
        },
        "slider": {"kind": "slider", "low": 0, "high": 30, "step": 1, "answer": "a + b"},
        "order": {"kind": "order", "items": [first, second, third]},
        "match": {"kind": "match", "pairs": pairs},
        "associate": {"kind": "associate", "pairs": pairs},
        "inline_choice": {
            "kind": "inline_choice",
            "text": gettext("It is {{0}}."),
            "gaps": [{"choices": [first, second], "right": first}],
        },
        "gap_match": {
            "kind": "gap_match",
            "text": gettext("It is {{0}}."),
            "gaps": [first],
            "spare": [second],
        },
        "graphic_gap_match": {
            "kind": "graphic_gap_match",
            "figure": _figure(),
            "gaps": [
                {"at": {"circle": [80, 80, 20]}, "name": gettext("left"), "token": first},
                {"at": {"circle": [240, 80, 20]}, "name": gettext("right"), "token": second},
            ],
        },
        "table_entry": {
            "kind": "table_entry",
            "columns": ["", gettext("a"), gettext("sum")],
            "rows": [
                {
                    "label": gettext("First row"),
                    "cells": [
                        "[[a]]",
                        {"kind": "text_entry", "id": "sum", "value": "number", "answer": "a + b"},
                    ],
                }
            ],
        },
        "select_point": {"kind": "select_point", **_plane()},
        "graph": {"kind": "graph", "draws": "arrows", "start": [0, 0], **_plane()},
        "position_object": {"kind": "position_object", **_plane()},
        "grid_shading": {"kind": "grid_shading", "rows": 2, "columns": 6, "answer": "a"},
        "odd_one_out": {
            "kind": "odd_one_out",
            "items": [_one(first), _one(second), _one(third, odd=True)],
            "reasons": [_one(gettext("Because"), right=True), _one(gettext("Not because"))],
        },
        "extended_text": {
            "kind": "extended_text",
            "model": gettext("A good answer."),
            "criteria": [{"points": 2, "says": gettext("What a marker looks for")}],
        },
        "drawing": {
            "kind": "drawing",
            "model": gettext("What a good sketch shows."),
            "criteria": [{"points": 2, "says": gettext("What a marker looks for")}],
        },
        "upload": {
            "kind": "upload",
            "model": gettext("What a good piece of work shows."),
            "criteria": [{"points": 2, "says": gettext("What a marker looks for")}],
        },
    }  # fmt: skip


def starts() -> tuple[str, ...]:
    """The names a first part can be chosen by."""
    return tuple(_parts())


def first_part(start: str, part: str = "answer") -> dict[str, Plain]:
    """A part to begin with. start: one of `starts()`. part: its id."""
    chosen = _parts()[start]
    return {"kind": chosen["kind"], "id": part, **{k: v for k, v in chosen.items() if k != "kind"}}


def new_family(title: str, start: str, study: str) -> str:
    """The file of a new family. study: the section that explains it."""
    part = first_part(start)
    drawn = [name for name in ("a", "b") if _uses(part, name)]
    numbers = ", ".join(f"{name} = [[{name}]]" for name in drawn)
    asked = gettext("Write the question here.")
    data: dict[str, Plain] = {
        "title": title,
        "essential": False,
        "difficulty": 3,
        "seconds": 60,
        "source": gettext("Written for this course"),
        "study": study,
    }
    if drawn:
        data["variables"] = {name: {"range": [2, 12, 1]} for name in drawn}
        asked = f"{asked} {numbers}."
    data |= {
        "prompt": f"{asked}\n",
        "parts": [part],
        "solution": [gettext("Write the worked solution here, a line for each step.")],
    }
    return written(data)


def _uses(value: Plain, name: str) -> bool:
    if isinstance(value, dict):
        return any(_uses(one, name) for key, one in value.items() if key not in {"svg", "alt"})
    if isinstance(value, list):
        return any(_uses(one, name) for one in value)
    return isinstance(value, str) and (
        value in {f"[[{name}]]", name} or value.startswith(f"{name} ") or value.endswith(f" {name}")
    )
