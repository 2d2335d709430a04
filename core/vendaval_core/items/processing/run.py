"""Runs an item's processing: a small interpreter of QTI 3's rules and expressions, with bounds.

1EdTech, Assessment, Section and Item Information Model 3.0 ("response processing", "template
processing", "expressions"), from memory. Nothing in it reaches outside the item: no files, no
network, no clock; chance comes from a seeded stream.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field

from vendaval_core.language import gettext

from ..randomness import SeededStream
from .declarations import Declaration
from .nodes import Node
from .values import Container, ProcessingError, container

MOST_STEPS, DEEPEST, MOST_SIZE = 10_000, 50, 1_000_000


class Leave(Exception):
    """The program ends here."""


class Again(Exception):
    """A constraint on template variables was not met."""


@dataclass(slots=True)
class Run:
    """One run. values: of all variables so far. stream: for random numbers, None where the program
    may not ask for any."""

    declared: Mapping[str, Declaration]
    values: dict[str, Container]
    stream: SeededStream | None = None
    correct: dict[str, Container] = field(default_factory=dict)
    steps: int = 0
    patterns: int = 0
    size: int = 0

    def value(self, node: Node) -> Container:
        """The value of the variable that a node names."""
        return self.named(node.get("identifier"), node).copy_of(self.values)

    def named(self, name: str, node: Node) -> _Name:
        """A declared variable. ProcessingError for another one."""
        if name not in self.declared:
            raise ProcessingError(
                gettext("nothing is declared as “{name}”").format(name=name), node.line
            )
        return _Name(name, self.declared[name])

    def right(self, name: str, node: Node) -> Container:
        """The right answer of a response."""
        declared = self.named(name, node).declared
        return self.correct.get(name, declared.correct)

    def step(self, node: Node, depth: int) -> None:
        """Count a step. ProcessingError where there are too many."""
        self.steps += 1
        if self.steps > MOST_STEPS:
            raise ProcessingError(
                gettext("it takes more than {most} steps").format(most=MOST_STEPS), node.line
            )
        if depth > DEEPEST:
            raise ProcessingError(
                gettext("it is nested more than {deepest} deep").format(deepest=DEEPEST), node.line
            )

    def taken(self, made: Container, node: Node) -> Container:
        """Count what a value takes. ProcessingError where it is too much."""
        self.size += made.size
        if self.size > MOST_SIZE:
            raise ProcessingError(gettext("its values take more than 1 MB"), node.line)
        return made

    def store(self, node: Node, value: Container, kinds: Sequence[str]) -> None:
        """Give a variable its value. ProcessingError for a kind of variable it may not set."""
        name = self.named(node.get("identifier"), node)
        if name.declared.kind not in kinds:
            raise ProcessingError(
                gettext("“{name}” can’t be set here").format(name=name.name), node.line
            )
        self.values[name.name] = fitted(value, name.declared, node)


@dataclass(frozen=True, slots=True)
class _Name:
    name: str
    declared: Declaration

    def copy_of(self, values: Mapping[str, Container]) -> Container:
        empty = Container(self.declared.cardinality, self.declared.base)
        return values.get(self.name, empty)


def fitted(value: Container, declared: Declaration, node: Node) -> Container:
    """Return a value as a variable holds it: whole numbers become floats where those are wanted.
    ProcessingError for what does not fit."""
    wanted = declared.base
    if value.null:
        return Container(declared.cardinality, wanted)
    if declared.cardinality == "record" or value.cardinality == "record":
        if declared.cardinality != value.cardinality:
            raise _does_not_fit(declared, node)
        return value
    if declared.cardinality == "single" and len(value.values) > 1:
        raise _does_not_fit(declared, node)
    values = value.values
    if wanted != value.base:
        if wanted == "float" and value.base in {"integer", "duration"}:
            values = tuple(float(one) for one in values)  # type: ignore[arg-type]
        elif wanted == "integer" and value.base == "float" and _whole(values):
            values = tuple(int(one) for one in values)  # type: ignore[arg-type]
        elif {wanted, value.base} <= {"identifier", "string", "uri", "intOrIdentifier"}:
            values = tuple(str(one) for one in values)
        elif not (wanted == "duration" and value.base in {"float", "integer"}):
            raise _does_not_fit(declared, node)
    return container(declared.cardinality, wanted, values)


def _whole(values: Sequence[object]) -> bool:
    return all(isinstance(one, float) and one.is_integer() for one in values)


def _does_not_fit(declared: Declaration, node: Node) -> ProcessingError:
    return ProcessingError(
        gettext("a value does not fit “{name}”").format(name=declared.identifier), node.line
    )


Operator = Callable[[Run, Node, Sequence[Container]], Container]


@dataclass(frozen=True, slots=True)
class Of:
    """An operator: what it does, and how many expressions it takes. most: None for any number."""

    does: Operator
    least: int = 0
    most: int | None = 0
