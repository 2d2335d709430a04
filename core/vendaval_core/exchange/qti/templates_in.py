"""Template items: an item whose numbers are drawn, as a family with versions.

Its template processing is run many times, and each run is a version: a variable of the family says
which one, and whatever differs between the runs is chosen by it. Runs that draw the same values are
one version.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from vendaval_core.language import gettext

from ...items.processing.declarations import Declaration
from ...items.processing.nodes import Node
from ...items.processing.program import run_template
from ...items.processing.values import Container, written
from ...items.randomness import SeededStream
from .asked import NotTaken, Plain, template_name

WHICH = "which"
MOST_RUNS, TRIES = 20, 60
# Fields in which a family's file has an expression; others are texts.
EXPRESSIONS = frozenset({"answer", "x", "y", "tolerance", "low", "high", "step"})


@dataclass(frozen=True, slots=True)
class TemplateRun:
    """One run: template variables, and right answers that it set."""

    values: Mapping[str, Container] = field(default_factory=dict)
    correct: Mapping[str, Container] = field(default_factory=dict)

    def declared(self, declared: Mapping[str, Declaration]) -> dict[str, Declaration]:
        """The declarations with this run's right answers and values."""
        found = dict(declared)
        for name, held in self.correct.items():
            found[name] = replace(found[name], correct=held)
        for name, held in self.values.items():
            found[name] = replace(found[name], default=held)
        return found


def template_runs(item: Node, declared: Mapping[str, Declaration]) -> list[TemplateRun]:
    """Return the versions of an item: one without values if nothing is drawn in it.

    Raises ProcessingError for a template that can't be run.
    """
    program = item.one("qti-template-processing")
    if program is None:
        return [TemplateRun()]
    found: dict[str, TemplateRun] = {}
    for seed in range(1, TRIES + 1):
        stream = SeededStream("template", item.get("identifier"), seed)
        values, correct = run_template(declared, program, stream)
        held = {**values, **correct}
        name = repr(sorted((n, one.values) for n, one in held.items()))
        found.setdefault(name, TemplateRun(values, correct))
        if len(found) == MOST_RUNS:
            break
    return list(found.values())


def variables_of(runs: Sequence[TemplateRun]) -> list[list[Plain]]:
    """Return the variables of a family: which version, and what each template variable is in it."""
    if len(runs) < 2:
        return []
    found: list[list[Plain]] = [[WHICH, {"pick": list(range(len(runs)))}]]
    for name in runs[0].values:
        column = [plain(run.values[name]) for run in runs]
        if any(one is None for one in column):
            continue
        found.append(
            [template_name(name), {"is": chosen([one for one in column if one is not None])}]
        )
    return found


def plain(held: Container) -> int | float | str | None:
    """Return a value as an expression can hold it, None for one that it can't."""
    if held.null or held.cardinality != "single":
        return None
    value = held.values[0]
    if isinstance(value, bool):
        return int(value)
    if isinstance(value, tuple):
        return written([value])[0]
    return value


def chosen(values: Sequence[int | float | str]) -> str:
    """Return the expression that gives each version its value. NotTaken for a text that can't stand
    in one."""
    if all(one == values[0] for one in values):
        return repr(values[0])
    if any(isinstance(one, str) and ("]]" in one or "[[" in one) for one in values):
        raise NotTaken(gettext("a text that differs between versions has brackets in it"))
    return f"choose({WHICH}, {', '.join(repr(one) for one in values)})"


def woven(versions: Sequence[Plain], name: str = "") -> Plain:
    """Return one value for all versions: where they differ, an expression that chooses.

    versions: the same field in each. name: of the field. NotTaken where they differ in form.
    """
    first = versions[0]
    if all(one == first for one in versions):
        return first
    if all(isinstance(one, dict) for one in versions):
        names = dict.fromkeys(key for one in versions for key in one)
        return {
            key: woven([one[key] if key in one else _missing(key) for one in versions], key)
            for key in names
        }
    if all(isinstance(one, list) and len(one) == len(first) for one in versions):
        return [woven([one[place] for one in versions], name) for place in range(len(first))]
    if name == "right" and all(isinstance(one, bool) for one in versions):
        return f"{chosen([int(one) for one in versions])} == 1"
    if name == "digits":
        return max(versions)
    numbers = all(isinstance(one, int | float) and not isinstance(one, bool) for one in versions)
    if numbers and name in EXPRESSIONS:
        return chosen(versions)
    if all(isinstance(one, str) for one in versions):
        return _texts(versions)
    raise NotTaken(gettext("its versions differ in more than their numbers and texts"))


def _missing(key: str) -> Plain:
    if key == "right":
        return False
    if key == "digits":
        return 0
    raise NotTaken(gettext("its versions differ in more than their numbers and texts"))


def _texts(versions: Sequence[str]) -> str:
    """A text of which only the paragraphs that differ are chosen."""
    pieces = [re.split(r"(\n\n)", one) for one in versions]
    if len({len(one) for one in pieces}) > 1:
        return f"[[{chosen(versions)}]]"
    return "".join(
        column[0] if len(set(column)) == 1 else f"[[{chosen(list(column))}]]"
        for column in zip(*pieces, strict=True)
    )
