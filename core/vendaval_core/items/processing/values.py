"""Values of QTI 3's variables: typed containers that may hold nothing, which is NULL.

1EdTech, Assessment, Section and Item Information Model 3.0 ("base types", "cardinality", "NULL"),
from memory: an empty container and an empty string are NULL too.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Literal, cast, get_args

from vendaval_core.language import gettext

from ...errors import CoreError

Cardinality = Literal["single", "multiple", "ordered", "record"]
BaseType = Literal[
    "boolean",
    "integer",
    "float",
    "identifier",
    "string",
    "point",
    "pair",
    "directedPair",
    "duration",
    "file",
    "uri",
    "intOrIdentifier",
]
Single = bool | int | float | str | tuple[float, float] | tuple[str, str]
NUMERIC = frozenset({"integer", "float"})
MOST_WHOLE = 2**53


class ProcessingError(CoreError):
    """Processing that can't be done: a name nobody declared, a wrong type, a bound that was met.
    line: in the item's file, 0 if that is not known."""

    def __init__(self, what: str, line: int = 0) -> None:
        self.what, self.line = what, line
        super().__init__(what)


@dataclass(frozen=True, slots=True)
class Container:
    """A value. values: one at most for single cardinality. base: None for a NULL of no type.
    fields: of a record."""

    cardinality: Cardinality
    base: BaseType | None
    values: tuple[Single, ...] = ()
    fields: dict[str, Container] = field(default_factory=dict)

    @property
    def null(self) -> bool:
        """Whether it holds nothing."""
        return not self.fields and (not self.values or self.values == ("",))

    @property
    def size(self) -> int:
        """About how much it takes, in characters."""
        return sum(len(value) if isinstance(value, str) else 8 for value in self.values)

    def with_more(self, other: Container) -> Container:
        """It with what another one holds."""
        return Container(self.cardinality, self.base, (*self.values, *other.values), self.fields)

    def number(self) -> float:
        """The number of a single that is not NULL."""
        return cast(float, self.values[0])


NULL = Container("single", None)


def single(base: BaseType, value: Single | None) -> Container:
    """Return a single value; NULL for None and for a number that is none."""
    if value is None or (isinstance(value, float) and math.isnan(value)):
        return Container("single", base)
    if base == "integer" and isinstance(value, int) and abs(value) > MOST_WHOLE:
        return Container("single", base)
    return Container("single", base, (value,))


def truth(value: bool | None) -> Container:
    """Return a boolean, or NULL."""
    return single("boolean", value)


def read_cardinality(text: str, line: int = 0) -> Cardinality:
    """Return a cardinality by its name. ProcessingError for another one."""
    if text not in get_args(Cardinality):
        raise ProcessingError(gettext("“{text}” is no cardinality").format(text=text), line)
    return cast(Cardinality, text)


def read_base(text: str, line: int = 0) -> BaseType:
    """Return a base type by its name. ProcessingError for another one."""
    named = {"directed-pair": "directedPair", "int-or-identifier": "intOrIdentifier"}
    text = named.get(text, text)
    if text not in get_args(BaseType):
        raise ProcessingError(gettext("“{text}” is no base type").format(text=text), line)
    return cast(BaseType, text)


def read_single(base: BaseType, text: str, line: int = 0) -> Single:
    """Return a value as QTI writes it. ProcessingError for what is none of its type."""
    said = text.strip()
    try:
        match base:
            case "boolean":
                return {"true": True, "1": True, "false": False, "0": False}[said.lower()]
            case "integer":
                return int(said)
            case "float" | "duration":
                return float(said.replace("INF", "inf"))
            case "point":
                x, y = said.replace(",", " ").split()
                place = (float(x), float(y))
                if not all(map(math.isfinite, place)):
                    raise ValueError(said)
                return place
            case "pair":
                one, other = sorted(said.split())
                return (one, other)
            case "directedPair":
                one, other = said.split()
                return (one, other)
            case "intOrIdentifier":
                return int(said) if said.lstrip("+-").isdigit() else said
            case _:
                return said
    except (ValueError, KeyError):
        raise ProcessingError(
            gettext("“{said}” is no {base}").format(said=said[:60], base=base), line
        ) from None


def container(
    cardinality: Cardinality, base: BaseType | None, values: Iterable[Single]
) -> Container:
    """Return a container; of a single its first value."""
    held = tuple(values)
    return Container(cardinality, base, held[:1] if cardinality == "single" else held)


def written(values: Sequence[Single]) -> list[str]:
    """Return values as QTI writes them."""
    return [_written(value) for value in values]


def _written(value: Single) -> str:
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, tuple):
        return " ".join(_written(one) for one in value)
    return f"{value:.12g}" if isinstance(value, float) else str(value)
