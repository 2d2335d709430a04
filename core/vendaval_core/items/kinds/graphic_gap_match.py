"""Put words on the places of a figure."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from pydantic import Field

from ..fields import FigureModel, RegionModel, Strict, Text, Values
from ..randomness import SeededStream
from .slots import Slot, SlotsFields, SlotsKey


class GraphicGapModel(Strict):
    """`name`: what the place is called for who cannot see the figure."""

    at: RegionModel
    name: Text
    token: Text


class GraphicGapMatchPart(SlotsFields):
    """`gaps`: places on the figure with their right words; `spare`: words that fit nowhere."""

    kind: Literal["graphic_gap_match"]
    figure: FigureModel
    gaps: list[GraphicGapModel] = Field(min_length=2, max_length=8)
    spare: list[Text] = []

    def key(self, values: Values, stream: SeededStream) -> GraphicGapMatchKey:
        tokens = list(dict.fromkeys([gap.token for gap in self.gaps] + self.spare))
        slots = [Slot(gap.name, tokens.index(gap.token), gap.at.shape(values)) for gap in self.gaps]
        of = self.in_version(slots, tokens, values, stream)
        reuse = len(tokens) < len(self.gaps)
        return GraphicGapMatchKey(of, reuse, figure=self.figure.picture(values))


@dataclass(frozen=True, slots=True)
class GraphicGapMatchKey(SlotsKey):
    """Places on a figure."""

    @property
    def kind(self) -> Literal["graphic_gap_match"]:
        return "graphic_gap_match"
