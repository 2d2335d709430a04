"""A sketch: kept, and marked by a person if at all."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..fields import Values
from ..presented import Html, PartOut
from ..randomness import SeededStream
from ..template import fill
from .written import PersonKey, PersonPart


class DrawingPart(PersonPart):
    """A sketch with the mouse or a finger, or its description in words."""

    kind: Literal["drawing"]

    def key(self, values: Values, stream: SeededStream) -> DrawingKey:
        model, label = fill(self.model, values), fill(self.label, values)
        return DrawingKey(self.id, label, model, self.criteria_of())


@dataclass(frozen=True, slots=True)
class DrawingKey(PersonKey):
    """A sketch that is kept."""

    @property
    def kind(self) -> Literal["drawing"]:
        return "drawing"

    def presented(self, html: Html) -> DrawingPartOut:
        return DrawingPartOut(kind="drawing", id=self.id, label=self.label)


class DrawingPartOut(PartOut):
    """Kept and not marked."""

    kind: Literal["drawing"]

    def any_response(self) -> str:
        return "A few words."  # not said
