"""Tests of a package as they would be taken in, and those that Vendaval wrote, as they were."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from ...items.processing.nodes import Node

Plain = Any


@dataclass(slots=True)
class EntryRead:
    """An item, or a draw of `count` from several: paths in the package. weight: what the points of
    an item are multiplied by; points: instead of that, of a test of ours."""

    items: list[str]
    count: int = 1
    weight: float = 1.0
    points: str = ""
    working: bool = False


@dataclass(slots=True)
class SectionRead:
    title: str
    directions: str = ""
    entries: list[EntryRead] = field(default_factory=list)
    minutes: int | None = None
    shuffled: bool = False
    one_page: bool = False
    forward_only: bool = False


@dataclass(slots=True)
class TestRead:
    """A test as it would be taken in. rules, composition: fields that differ from the usual. lost:
    what is not kept. refused: why it can't be taken in, line where."""

    __test__ = False

    path: str
    title: str
    directions: str = ""
    sections: list[SectionRead] = field(default_factory=list)
    rules: dict[str, Plain] = field(default_factory=dict)
    composition: dict[str, Plain] = field(default_factory=dict)
    lost: list[str] = field(default_factory=list)
    refused: str = ""
    line: int = 0


def own_test(
    ours: Node | None, digest: str, path: str, items: Mapping[str, str]
) -> TestRead | None:
    """A test that Vendaval wrote and nobody changed, exactly as it was; None for all others. items:
    paths in the package by the key of the family."""
    if ours is None or ours.get("digest") != digest:
        return None
    try:
        said: Plain = json.loads(ours.text)
        sections = [
            SectionRead(
                str(one["title"]),
                str(directions),
                [
                    EntryRead(
                        [items[key] for key in entry["families"] if key in items],
                        int(entry["count"]),
                        points=str(entry["points"]),
                        working=bool(entry["working"]),
                    )
                    for entry in one["entries"]
                ],
                one["minutes"],
                bool(one["shuffled"]),
                bool(one["one_page"]),
                bool(one["forward_only"]),
            )
            for one, directions in zip(
                said["composition"]["sections"], said["directions"][1:], strict=True
            )
        ]
        whole = {key: value for key, value in said["composition"].items() if key != "sections"}
        title, directions = str(said["title"]), str(said["directions"][0])
        return TestRead(path, title, directions, sections, dict(said["rules"]), whole)
    except (ValueError, KeyError, TypeError, RecursionError):
        return None
