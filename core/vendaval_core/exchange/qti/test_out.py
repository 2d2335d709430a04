"""A test as QTI 3.0: parts, sections, draws, order, weights, time limits and what may be done.

1EdTech, Assessment, Section and Item Information Model 3.0, from memory. What QTI has no words for
(scale, bands, late work, when results are told) goes beside it into the manifest.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, replace
from fractions import Fraction

from ...assessment.composition import Composition, Entry, Section, lay_out
from ...assessment.rules import Rules, Tool, When
from ...items.processing.nodes import Node, q
from . import rules_out as r
from .package_out import ItemsOf, TestToWrite
from .prose_out import blocks

POINTS = "POINTS"
# What QTI knows of the tools, by the names of its companion materials.
COMPANIONS = {
    Tool.CALCULATOR: ("calculator", {"calculator-type": "basic"}),
    Tool.SCIENTIFIC: ("calculator", {"calculator-type": "scientific"}),
    Tool.RULER: ("rule", {}),
    Tool.PROTRACTOR: ("protractor", {}),
}


def companions_of(tools: frozenset[Tool]) -> list[Node]:
    """Return the tools that QTI knows as companion materials."""
    found = []
    for tool in sorted(tools & set(COMPANIONS)):
        name, said = COMPANIONS[tool]
        within = [q("description", tool.value)]
        if name == "calculator":
            within.insert(0, q("calculator-type", said["calculator-type"]))
        found.append(q(name, *within))
    return found


def written_test(
    identifier: str,
    title: str,
    directions: str,
    composition: Composition,
    rules: Rules,
    items: ItemsOf,
    section_directions: Sequence[str] = (),
) -> TestToWrite:
    """Return a test. items: identifiers of a family's items with the points each counts by
    itself; several are versions of which an attempt has one."""
    used: list[str] = []
    parts: list[Node] = []
    texts = [*section_directions, *[""] * len(composition.sections)]
    for place, section in enumerate(composition.sections):
        linear = rules.linear or section.forward_only
        node = _section(place, section, texts[place], items, used)
        mode = "linear" if linear else "nonlinear"
        if parts and parts[-1].get("navigation-mode") == mode:
            last = parts.pop()
            parts.append(Node(last.name, last.space, last.attributes, 0, (*last.within, node)))
        else:
            parts.append(_part(len(parts) + 1, mode, rules, node))
    limits = [_limit(rules.minutes)] if rules.minutes is not None else []
    about = [
        q(
            "rubric-block",
            q("content-body", *blocks(directions)),
            use="instructions",
            view="candidate",
        )
    ]
    root = q(
        "assessment-test",
        r.outcome("SCORE", "float", "0"),
        *limits,
        *(about if directions.strip() else []),
        *parts,
        q(
            "outcome-processing",
            r.sets(
                "SCORE",
                q(
                    "sum",
                    q(
                        "test-variables",
                        variable_identifier="SCORE",
                        weight_identifier=POINTS,
                    ),
                ),
            ),
        ),
        identifier=identifier,
        title=title,
        tool_name="Vendaval",
        tool_version="1",
    )
    ours = {
        "title": title,
        "directions": [directions, *texts[: len(composition.sections)]],
        "rules": _plain(asdict(rules)),
        "composition": _plain(asdict(composition)),
    }
    return TestToWrite(identifier, title, root, tuple(dict.fromkeys(used)), ours)


def _plain(value: object) -> object:
    if isinstance(value, Fraction):
        return str(value)
    if isinstance(value, Mapping):
        return {str(key): _plain(one) for key, one in value.items()}
    if isinstance(value, frozenset):
        return sorted(str(one) for one in value)
    if isinstance(value, list | tuple):
        return [_plain(one) for one in value]
    return value


def _limit(minutes: int) -> Node:
    return q("time-limits", max_time=minutes * 60, allow_late_submission="false")


def _part(number: int, mode: str, rules: Rules, *within: Node) -> Node:
    told = rules.release
    control = q(
        "item-session-control",
        max_attempts=rules.tries if rules.individual else 1,
        show_feedback="true" if rules.individual and told.correctness is When.AT_ONCE else "false",
        allow_review="false" if told.correctness is When.NEVER else "true",
        show_solution="false" if told.solutions is When.NEVER else "true",
        allow_comment="true" if Tool.NOTES in rules.tools else "false",
        allow_skipping="true",
        validate_responses="false",
    )
    return q(
        "test-part",
        control,
        *within,
        identifier=f"part_{number}",
        navigation_mode=mode,
        submission_mode="individual" if rules.individual else "simultaneous",
    )


def _section(
    place: int,
    section: Section,
    directions: str,
    items: ItemsOf,
    used: list[str],
) -> Node:
    within: list[Node] = []
    if section.minutes is not None:
        within.append(_limit(section.minutes))
    if section.shuffled:
        within.append(q("ordering", shuffle="true"))
    if directions.strip():
        body = q("content-body", *blocks(directions))
        within.append(q("rubric-block", body, use="instructions", view="candidate"))
    for number, entry in enumerate(section.entries):
        name = f"section_{place + 1}_{number + 1}"
        refs = [
            _family(family, entry, f"{name}_{i + 1}", items, used)
            for i, family in enumerate(entry.families)
        ]
        if entry.drawn:
            within.append(_draw(name, entry.count, refs))
        else:
            within += refs
    return q(
        "assessment-section",
        *within,
        identifier=f"section_{place + 1}",
        title=section.title or f"{place + 1}",
        visible="true",
        keep_together="true",
    )


def _draw(name: str, count: int, refs: Sequence[Node]) -> Node:
    return q(
        "assessment-section",
        q("selection", select=count),
        q("ordering", shuffle="true"),
        *refs,
        identifier=name,
        title=name,
        visible="false",
    )


def _family(
    family: str,
    entry: Entry,
    name: str,
    items: ItemsOf,
    used: list[str],
) -> Node:
    refs: list[Node] = []
    for identifier, of in items(family):
        used.append(identifier)
        weight = float(entry.points) / of
        refs.append(
            q(
                "assessment-item-ref",
                q("weight", identifier=POINTS, value=f"{weight:.12g}"),
                identifier=f"{name}_{len(refs) + 1}" if refs else name,
                href=f"../items/{identifier}.xml",
            )
        )
    return refs[0] if len(refs) == 1 else _draw(f"{name}_versions", 1, refs)


def seeds_of(composition: Composition, versions: Mapping[str, int]) -> dict[str, int]:
    """Return which version of each family everybody gets, of a test that is the same for all."""
    every = tuple(
        replace(
            section,
            entries=tuple(replace(one, count=len(one.families)) for one in section.entries),
        )
        for section in composition.sections
    )
    places = lay_out(replace(composition, sections=every), versions, "", 1)
    return {place.family: place.seed for place in places}
