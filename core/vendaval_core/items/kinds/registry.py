"""The kinds of parts that there are. A new kind gets a line in `KINDS`, and nothing else here.

docs/adding-a-kind.md goes through it with an example; docs/content.md shows how each is written.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, NamedTuple, Union

from pydantic import Field

from ..presented import PartOut
from .associate import AssociateKey, AssociatePart, AssociatePartOut
from .by_rules import ByRulesPart
from .by_rules_key import ByRulesKey, ByRulesPartOut
from .choice import ChoiceKey, ChoicePart, ChoicePartOut
from .drawing import DrawingKey, DrawingPart, DrawingPartOut
from .extended_text import TextPart, TextPartOut, WrittenKey
from .formula import FormulaKey, FormulaPart
from .gap_match import GapMatchKey, GapMatchPart
from .graphic_gap_match import GraphicGapMatchKey, GraphicGapMatchPart
from .grid_shading import ShadingKey, ShadingPart, ShadingPartOut
from .inline_choice import InlineChoiceKey, InlineChoicePart
from .match import MatchKey, MatchPart
from .number import NumberKey, NumberPart
from .odd_one_out import OddOneOutKey, OddOneOutPart, OddOneOutPartOut
from .order import OrderKey, OrderPart, OrderPartOut
from .points import PointsKey, PointsPart, PointsPartOut
from .protocol import Key, Part
from .short_text import TextKey, WordPart
from .slider import SliderKey, SliderPart, SliderPartOut
from .slots import SlotsPartOut
from .table_entry import TableEntryPart, TableKey, TablePartOut
from .tagged import tagged_union
from .time_of_day import TimeKey, TimePart
from .typed import TextEntryPartOut
from .upload import UploadKey, UploadPart, UploadPartOut


class Kind(NamedTuple):
    """A kind: the part as written, its key, and what the browser sees of it."""

    part: type[Part]
    key: type[Key]
    out: type[PartOut]


KINDS = (
    Kind(ChoicePart, ChoiceKey, ChoicePartOut),
    Kind(NumberPart, NumberKey, TextEntryPartOut),
    Kind(TimePart, TimeKey, TextEntryPartOut),
    Kind(WordPart, TextKey, TextEntryPartOut),
    Kind(FormulaPart, FormulaKey, TextEntryPartOut),
    Kind(SliderPart, SliderKey, SliderPartOut),
    Kind(OrderPart, OrderKey, OrderPartOut),
    Kind(OddOneOutPart, OddOneOutKey, OddOneOutPartOut),
    Kind(MatchPart, MatchKey, SlotsPartOut),
    Kind(InlineChoicePart, InlineChoiceKey, SlotsPartOut),
    Kind(GapMatchPart, GapMatchKey, SlotsPartOut),
    Kind(GraphicGapMatchPart, GraphicGapMatchKey, SlotsPartOut),
    Kind(AssociatePart, AssociateKey, AssociatePartOut),
    Kind(TableEntryPart, TableKey, TablePartOut),
    Kind(PointsPart, PointsKey, PointsPartOut),
    Kind(ShadingPart, ShadingKey, ShadingPartOut),
    Kind(TextPart, WrittenKey, TextPartOut),
    Kind(DrawingPart, DrawingKey, DrawingPartOut),
    Kind(UploadPart, UploadKey, UploadPartOut),
    Kind(ByRulesPart, ByRulesKey, ByRulesPartOut),
)

if TYPE_CHECKING:
    AnyPart = Part
    AnyPartOut = PartOut
else:
    _outs = tuple(dict.fromkeys(kind.out for kind in KINDS))
    AnyPart = tagged_union([kind.part for kind in KINDS])
    AnyPartOut = Annotated[Union.__getitem__(_outs), Field(discriminator="kind")]
