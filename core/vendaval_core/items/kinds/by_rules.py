"""Answers that are marked together, by rules of their own in the standard's words.

QTI 3's response processing, where it is more than any of our kinds does by itself. The answers are
given as other kinds take them; `items/processing` runs the rules.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field, model_validator

from vendaval_core.language import gettext

from ...errors import ExpressionError
from ..expressions import evaluate
from ..fields import Expression, PartId, Strict, Text, Values
from ..processing.declarations import Declaration, read_declarations
from ..processing.nodes import Node, XmlError, read_xml
from ..processing.program import rules_of, unknown_names
from ..processing.values import BaseType, Cardinality, Container, ProcessingError, single
from ..randomness import SeededStream
from ..template import fill
from .associate import AssociatePart
from .by_rules_key import ByRulesKey
from .choice import ChoicePart
from .extended_text import TextPart
from .gap_match import GapMatchPart
from .given import Naming, Variable
from .graphic_gap_match import GraphicGapMatchPart
from .inline_choice import InlineChoicePart
from .match import MatchPart
from .number import NumberPart
from .order import OrderPart
from .points import PointsPart
from .protocol import Part
from .short_text import WordPart
from .slider import SliderPart
from .tagged import tagged_union

INNER = (
    ChoicePart,
    NumberPart,
    WordPart,
    SliderPart,
    OrderPart,
    MatchPart,
    InlineChoicePart,
    GapMatchPart,
    GraphicGapMatchPart,
    AssociatePart,
    PointsPart,
    TextPart,
)
if TYPE_CHECKING:
    AnyInner = Part
else:
    AnyInner = tagged_union(INNER)
Identifier = Annotated[str, Field(max_length=100)]


class NamingModel(Strict):
    """How a part's answer becomes variables of the rules. `ids`: identifiers by the text of a
    choice. `places`: identifiers of gaps in order. `turned`: a pair begins with what is put there.
    `height`: of the picture, whose points are counted from above. `each`: identifiers of every
    drop-down."""

    variables: list[Identifier] = Field(min_length=1, max_length=20)
    ids: dict[str, Identifier] = {}
    places: list[Identifier] = []
    turned: bool = False
    height: float = 0.0
    each: list[dict[str, Identifier]] = []

    def filled(self, declared: Mapping[str, Declaration], values: Values) -> Naming:
        """The naming in one version."""

        def shown(ids: Mapping[str, str]) -> dict[str, str]:
            return {fill(text, values): identifier for text, identifier in ids.items()}

        return Naming(
            tuple(_variable(declared[name]) for name in self.variables),
            shown(self.ids),
            tuple(self.places),
            self.turned,
            self.height,
            tuple(shown(ids) for ids in self.each),
        )


class ByRulesPart(Part):
    """`parts`: what is answered. `naming`: of each, by its id. `declared`, `rules`: XML of QTI 3
    (declarations of the variables, response processing). `score`: the outcome that counts, and
    `full` its value for full marks; `partial`: whether an answer can reach a part of it. `values`:
    of template variables, in each version. `says`: what is said when an outcome holds an
    identifier, as `OUTCOME identifier`."""

    kind: Literal["by_rules"]
    parts: list[AnyInner] = Field(min_length=1, max_length=8)
    naming: dict[PartId, NamingModel]
    declared: Annotated[str, Field(max_length=60_000)]
    rules: Annotated[str, Field(max_length=60_000)]
    score: Identifier = "SCORE"
    full: float = Field(gt=0, le=10_000)
    partial: bool = False
    values: dict[Identifier, Expression] = {}
    says: dict[str, Text] = {}

    @model_validator(mode="after")
    def rules_can_run(self) -> ByRulesPart:
        ids = [part.id for part in self.parts]
        if sorted(ids) != sorted(self.naming) or len(set(ids)) < len(ids):
            raise ValueError(gettext("each part needs an id and a naming of its own"))
        try:
            declared, rules = _read(self.declared, self.rules)
        except (XmlError, ProcessingError) as error:
            raise ValueError(str(error)) from None
        named = {name for one in self.naming.values() for name in one.variables}
        named |= {self.score, *self.values}
        if missing := sorted(named - set(declared)):
            raise ValueError(
                gettext("nothing is declared as “{name}”").format(name=", ".join(missing))
            )
        for node in rules:
            if strange := next(unknown_names(node), None):
                raise ValueError(
                    gettext("“{name}” is no rule that is known").format(name=strange.name)
                )
        return self

    def key(self, values: Values, stream: SeededStream) -> ByRulesKey:
        declared, rules = _read(self.declared, self.rules)
        keys = tuple(part.key(values, stream) for part in self.parts)
        made = {
            name: _held(declared[name], evaluate(expression, values))
            for name, expression in self.values.items()
        }
        naming = {id_: one.filled(declared, values) for id_, one in self.naming.items()}
        says = {name: fill(text, values) for name, text in self.says.items()}
        label = fill(self.label, values)
        return ByRulesKey(
            self.id,
            label,
            keys,
            naming,
            declared,
            rules,
            self.score,
            self.full,
            self.partial,
            made,
            says,
        )


@lru_cache(maxsize=32)
def _read(declared: str, rules: str) -> tuple[dict[str, Declaration], tuple[Node, ...]]:
    return read_declarations(read_xml(declared)), tuple(rules_of(read_xml(rules)))


def _variable(declared: Declaration) -> Variable:
    cardinality: Cardinality = declared.cardinality
    base: BaseType = declared.base or "string"
    return Variable(declared.identifier, cardinality, base)


def _held(declared: Declaration, value: object) -> Container:
    base = declared.base or "string"
    if base in {"float", "integer"}:
        if isinstance(value, str | bool) or not isinstance(value, int | float):
            raise ExpressionError(gettext("“{name}” is a number").format(name=declared.identifier))
        return single(base, float(value) if base == "float" else int(value))
    if base == "boolean":
        return single(base, bool(value))
    return single(base, str(value))
