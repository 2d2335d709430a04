"""Parts of a family file that put things in order, in pairs, or in places."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from ..items import parts as core
from .part_base import FigureModel, Part, RegionModel, Strict, Text


class OrderPartModel(Part):
    kind: Literal["order"]
    items: list[Text] = Field(min_length=3, max_length=8)
    partial: bool = False

    def to_core(self) -> core.OrderPart:
        return core.OrderPart(self.id, tuple(self.items), self.label, self.partial)


class MatchPartModel(Part):
    """`pairs`: left and right; `spare`: right ones without a partner."""

    kind: Literal["match"]
    pairs: list[tuple[Text, Text]] = Field(min_length=2, max_length=8)
    spare: list[Text] = []
    reuse: bool = False
    partial: bool = True

    def to_core(self) -> core.SlotsPart:
        tokens = list(dict.fromkeys([right for _, right in self.pairs] + self.spare))
        slots = tuple(core.Slot(left, tokens.index(right)) for left, right in self.pairs)
        reuse = self.reuse or len(tokens) < len(self.pairs)
        return core.SlotsPart(
            self.id, slots, tuple(tokens), "match", self.label, reuse=reuse, partial=self.partial
        )


class DropDownModel(Strict):
    """`right`: text of the right choice."""

    choices: list[Text] = Field(min_length=2, max_length=8)
    right: Text

    @model_validator(mode="after")
    def right_is_there(self) -> DropDownModel:
        if self.right not in self.choices:
            raise ValueError(f"“{self.right}” is not among the choices")
        return self


class InlineChoicePartModel(Part):
    kind: Literal["inline_choice"]
    text: Text
    gaps: list[DropDownModel] = Field(min_length=1, max_length=8)
    partial: bool = True

    def to_core(self) -> core.SlotsPart:
        tokens = list(dict.fromkeys(text for gap in self.gaps for text in gap.choices))
        slots = tuple(
            core.Slot(
                "", tokens.index(gap.right), choices=tuple(tokens.index(c) for c in gap.choices)
            )
            for gap in self.gaps
        )
        return core.SlotsPart(
            self.id,
            slots,
            tuple(tokens),
            "inline_choice",
            self.label,
            self.text,
            reuse=True,
            partial=self.partial,
        )


class GapMatchPartModel(Part):
    """`gaps`: the right words in order; `spare`: words that fit nowhere."""

    kind: Literal["gap_match"]
    text: Text
    gaps: list[Text] = Field(min_length=1, max_length=8)
    spare: list[Text] = []
    partial: bool = True

    def to_core(self) -> core.SlotsPart:
        tokens = list(dict.fromkeys(self.gaps + self.spare))
        slots = tuple(core.Slot("", tokens.index(gap)) for gap in self.gaps)
        return core.SlotsPart(
            self.id,
            slots,
            tuple(tokens),
            "gap_match",
            self.label,
            self.text,
            reuse=len(set(self.gaps)) < len(self.gaps),
            partial=self.partial,
        )


class GraphicGapModel(Strict):
    """`name`: what the place is called for who cannot see the figure."""

    at: RegionModel
    name: Text
    token: Text


class GraphicGapMatchPartModel(Part):
    kind: Literal["graphic_gap_match"]
    figure: FigureModel
    gaps: list[GraphicGapModel] = Field(min_length=2, max_length=8)
    spare: list[Text] = []
    partial: bool = True

    def to_core(self) -> core.SlotsPart:
        tokens = list(dict.fromkeys([gap.token for gap in self.gaps] + self.spare))
        slots = tuple(
            core.Slot(gap.name, tokens.index(gap.token), gap.at.to_core()) for gap in self.gaps
        )
        return core.SlotsPart(
            self.id,
            slots,
            tuple(tokens),
            "graphic_gap_match",
            self.label,
            "",
            self.figure.to_core(),
            reuse=len(tokens) < len(self.gaps),
            partial=self.partial,
        )


class AssociatePartModel(Part):
    kind: Literal["associate"]
    pairs: list[tuple[Text, Text]] = Field(min_length=2, max_length=6)
    spare: list[Text] = []
    partial: bool = True

    def to_core(self) -> core.AssociatePart:
        return core.AssociatePart(
            self.id, tuple(self.pairs), tuple(self.spare), self.label, self.partial
        )
