"""Parts of a question as QTI's interactions, each with its right answer and its points."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import singledispatch

from vendaval_core.language import gettext

from ...items.kinds.protocol import Key
from ...items.processing.nodes import Node, h
from ...items.processing.values import Container
from .figures_out import Drawn


@dataclass(frozen=True, slots=True)
class Names:
    """Names in an item. response: of the part's variable. score: of its points."""

    response: str
    score: str


@dataclass(frozen=True, slots=True)
class PartWritten:
    """A part as QTI.

    body: what stands in the item. declarations: of its responses. rules: give `Names.score` its
    value, 0 to `of`; none where a person marks it. standard: the template that does the same, ""
    if none. feedback: conditions with what is said, the first that holds. values: a response of
    ours as QTI's variables. scorer: for who marks. lost: what other programs don't know of it.
    """

    body: Sequence[Node | str]
    declarations: Sequence[Node]
    rules: Sequence[Node]
    of: int
    values: Callable[[str], Mapping[str, Container]]
    standard: str = ""
    feedback: Sequence[tuple[Node, str]] = ()
    files: Sequence[Drawn] = ()
    scorer: Sequence[Node] = ()
    modal: Sequence[Node] = ()
    lost: Sequence[str] = ()


@singledispatch
def part_written(key: Key, names: Names) -> PartWritten:
    """Return a part as QTI. NotImplementedError for a kind that nobody has written."""
    raise NotImplementedError(type(key).__name__)


def labelled(label: str, *body: Node | str) -> list[Node | str]:
    """Return a part's body under its label."""
    return [h("p", h("strong", label)), *body] if label else list(body)


def exactly(value: float) -> str:
    """Return a number as short as it is exact."""
    return repr(int(value)) if value == int(value) and abs(value) < 1e15 else repr(float(value))


def lost_words(what: str) -> str:
    """Return what other programs don't know, in words."""
    return {
        "units": gettext("answers in other units"),
        "forms": gettext("formulas that are equal and written otherwise"),
        "slips": gettext("spelling slips that are let pass"),
        "drawn": gettext("the line, curve or arrows through the points"),
        "moving": gettext("that the figure moves"),
    }[what]
