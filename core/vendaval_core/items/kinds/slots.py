"""Parts of a family file that put things in order, in pairs, or in places."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from .. import drawn
from .. import parts as core
from ..fields import FigureModel, Part, RegionModel, Strict, Text


class MixUpModel(Strict):
    """A token put in a place where it does not belong. `place`: what stands on the left, the
    number of a gap from 0, or the name of a place on the figure."""

    place: Text | int
    token: Text
    says: Text

    def to_core(self) -> drawn.MixUp:
        return drawn.MixUp(self.place, self.token, self.says)


class TooEarlyModel(Strict):
    """An item put before another one that it follows."""

    item: Text
    before: Text
    says: Text

    def to_core(self) -> drawn.MixUp:
        return drawn.MixUp(self.item, self.before, self.says)


class JoinedModel(Strict):
    """Two items joined that do not belong together."""

    pair: tuple[Text, Text]
    says: Text

    def to_core(self) -> drawn.MixUp:
        return drawn.MixUp(*self.pair, self.says)


class OrderPartModel(Part):
    kind: Literal["order"]
    items: list[Text] = Field(min_length=3, max_length=8)
    partial: bool = False
    near_misses: list[TooEarlyModel] = []

    def to_core(self) -> core.OrderPart:
        mix_ups = tuple(miss.to_core() for miss in self.near_misses)
        return core.OrderPart(self.id, tuple(self.items), self.label, self.partial, mix_ups)


class _SlotsPart(Part):
    partial: bool = True
    near_misses: list[MixUpModel] = []

    @property
    def mix_ups(self) -> tuple[drawn.MixUp, ...]:
        return tuple(miss.to_core() for miss in self.near_misses)


class MatchPartModel(_SlotsPart):
    """`pairs`: left and right; `spare`: right ones without a partner."""

    kind: Literal["match"]
    pairs: list[tuple[Text, Text]] = Field(min_length=2, max_length=8)
    spare: list[Text] = []
    reuse: bool = False

    def to_core(self) -> core.SlotsPart:
        tokens = list(dict.fromkeys([right for _, right in self.pairs] + self.spare))
        slots = tuple(core.Slot(left, tokens.index(right)) for left, right in self.pairs)
        reuse = self.reuse or len(tokens) < len(self.pairs)
        return core.SlotsPart(
            self.id,
            slots,
            tuple(tokens),
            "match",
            self.label,
            reuse=reuse,
            partial=self.partial,
            mix_ups=self.mix_ups,
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


class InlineChoicePartModel(_SlotsPart):
    kind: Literal["inline_choice"]
    text: Text
    gaps: list[DropDownModel] = Field(min_length=1, max_length=8)

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
            mix_ups=self.mix_ups,
        )


class GapMatchPartModel(_SlotsPart):
    """`gaps`: the right words in order; `spare`: words that fit nowhere."""

    kind: Literal["gap_match"]
    text: Text
    gaps: list[Text] = Field(min_length=1, max_length=8)
    spare: list[Text] = []

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
            mix_ups=self.mix_ups,
        )


class GraphicGapModel(Strict):
    """`name`: what the place is called for who cannot see the figure."""

    at: RegionModel
    name: Text
    token: Text


class GraphicGapMatchPartModel(_SlotsPart):
    kind: Literal["graphic_gap_match"]
    figure: FigureModel
    gaps: list[GraphicGapModel] = Field(min_length=2, max_length=8)
    spare: list[Text] = []

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
            mix_ups=self.mix_ups,
        )


class AssociatePartModel(Part):
    kind: Literal["associate"]
    pairs: list[tuple[Text, Text]] = Field(min_length=2, max_length=6)
    spare: list[Text] = []
    partial: bool = True
    near_misses: list[JoinedModel] = []

    def to_core(self) -> core.AssociatePart:
        mix_ups = tuple(miss.to_core() for miss in self.near_misses)
        return core.AssociatePart(
            self.id, tuple(self.pairs), tuple(self.spare), self.label, self.partial, mix_ups
        )
