"""Choose among several: from a list, in a text, or on a figure.

QTI 3 choice, hot text and hotspot interactions. Response processing: match correct, or map
response, with the author's points between bounds, or with each right choice worth a share, each
wrong one minus a share, and 0 the least (1EdTech, Assessment, Section and Item Information Model
3.0, from memory).
"""

from __future__ import annotations

import random
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from math import comb
from typing import Annotated, Literal

from pydantic import BaseModel, Field, model_validator

from vendaval_core.language import gettext

from ...errors import ExpressionError
from ..drawn import Picture, Shape
from ..expressions import evaluate
from ..fields import FigureModel, RegionModel, Strict, Text, Values
from ..mark import PartMark, incomplete, lines, shared, unreadable
from ..presented import (
    FigureOut,
    Html,
    PartOut,
    RegionOut,
    figure_out,
    gaps_missing,
    region_out,
    texts_between,
)
from ..randomness import SeededStream
from ..template import fill
from .common import IDS, MarkedByRule, NoAxes, NotTyped, OnePiece, named, twins
from .protocol import Examples, Foreseen, Part

Kind = Literal["choice", "hot_text", "hotspot"]


class ChoiceOptionModel(Strict):
    """One choice. `right`: true, false or an expression. `says`: feedback when it is chosen.

    `points`: what choosing it is worth, in a part with bounds. `at`: where a hotspot lies. In hot
    text the choices stand in the text in their order.
    """

    text: Text
    right: bool | str = False
    says: Text | None = None
    at: RegionModel | None = None
    points: int = Field(default=0, ge=-10, le=10)


class ChoicePart(Part):
    """`choose`: 1, another number, or any. `partial`: right choices earn a share each, wrong ones
    take one off. `text`: of hot text, with `{{0}}`, `{{1}}` … where the choices stand. `bounds`:
    the least and the most that the choices' points come to; the most is full marks."""

    kind: Kind
    shuffle: bool = True
    choose: Annotated[int, Field(ge=1, le=8)] | Literal["any"] = 1
    partial: bool = False
    text: str = ""
    figure: FigureModel | None = None
    bounds: tuple[Annotated[int, Field(ge=0)], Annotated[int, Field(ge=1, le=10)]] | None = None
    choices: list[ChoiceOptionModel] = Field(min_length=2, max_length=12)

    @model_validator(mode="after")
    def points_have_bounds(self) -> ChoicePart:
        if (self.bounds is not None) != any(choice.points for choice in self.choices):
            raise ValueError(gettext("give both points and bounds, or neither"))
        if self.bounds is not None and (self.partial or self.bounds[0] >= self.bounds[1]):
            raise ValueError(gettext("bounds must rise and can’t be used with partial"))
        return self

    def key(self, values: Values, stream: SeededStream) -> ChoiceKey:
        mixed = self.shuffle and self.kind == "choice"
        options = stream.shuffled(self.choices) if mixed else self.choices
        choices = tuple(
            VersionChoice(
                id=IDS[place],
                text=fill(option.text, values),
                right=option.right
                if isinstance(option.right, bool)
                else bool(evaluate(option.right, values)),
                says=None if option.says is None else fill(option.says, values),
                region=None if option.at is None else option.at.shape(values),
                points=option.points,
            )
            for place, option in enumerate(options)
        )
        choose = None if self.choose == "any" else self.choose
        _refuse_wrong_count(sum(choice.right for choice in choices), choose)
        return ChoiceKey(
            self.id,
            fill(self.label, values),
            choices,
            choose,
            self.partial,
            self.kind,
            fill(self.text, values),
            None if self.figure is None else self.figure.picture(values),
            self.bounds,
        )


def _refuse_wrong_count(right: int, choose: int | None) -> None:
    if choose == 1 and right != 1:
        raise ExpressionError(gettext("exactly one choice must be right"))
    if choose is not None and right != choose:
        raise ExpressionError(
            gettext("exactly {choose} choices must be right, not {right}").format(
                choose=choose, right=right
            )
        )
    if right == 0:
        raise ExpressionError(gettext("at least one choice must be right"))


@dataclass(frozen=True, slots=True)
class VersionChoice:
    """A choice as presented. right and says stay on the server."""

    id: str
    text: str
    right: bool
    says: str | None
    region: Shape | None = None
    points: int = 0


@dataclass(frozen=True, slots=True)
class ChoiceKey(MarkedByRule, OnePiece, NoAxes, NotTyped):
    """Choices in presentation order. choose: how many are asked for, None for any number."""

    id: str
    label: str
    choices: tuple[VersionChoice, ...]
    choose: int | None = 1
    partial: bool = False
    kind: Kind = "choice"
    text: str = ""
    figure: Picture | None = None
    bounds: tuple[int, int] | None = None

    @property
    def right(self) -> tuple[VersionChoice, ...]:
        """The right choices."""
        return tuple(choice for choice in self.choices if choice.right)

    @property
    def units(self) -> int:
        if self.bounds is not None:
            return self.bounds[1]
        return len(self.right) if self.partial else 1

    @property
    def guess_chance(self) -> float:
        """1 of n is 1/n, exactly m of n 1/C(n, m), any number 2^-n: elementary probability."""
        if self.choose is None:
            return 0.5 ** len(self.choices)
        return 1 / comb(len(self.choices), self.choose)

    @property
    def examples(self) -> Examples:
        right = [choice.id for choice in self.right]
        wrong = [choice.id for choice in self.choices if not choice.right]
        none_right = (wrong + right)[: self.choose]
        if self.choose is None:
            none_right = wrong or right[:1]
        some: list[str] = []
        if self.partial and self.choose is None and len(right) > 1:
            some = right[:1]
        if self.partial and self.choose is not None and len(right) > 2:
            some = right[:-1] + wrong[:1]
        if self.bounds is not None:
            some = [min(self.right, key=lambda choice: choice.points).id]
        return Examples(
            "\n".join(right),
            "\n".join(none_right),
            "\n".join(some) or None,
            gettext("no such choice"),
        )

    def mark(self, response: str) -> PartMark:
        known = {choice.id: choice for choice in self.choices}
        chosen = sorted(set(lines(response)))
        if not chosen or any(id_ not in known for id_ in chosen):
            return unreadable(gettext("Choose one of the answers."))
        says = next((known[c].says for c in chosen if not known[c].right and known[c].says), None)
        share, full = self._share(chosen)
        if self.choose is not None and len(chosen) != self.choose:
            if len(chosen) > self.choose:
                share = min(share, Fraction(full - 1, full))
            why = gettext("Choose exactly {choose}. You have chosen {count}.").format(
                choose=self.choose, count=len(chosen)
            )
            return incomplete(why, share, "\n".join(chosen), full)
        return shared(share, "\n".join(chosen), None if share == 1 else says, full)

    def _share(self, chosen: Sequence[str]) -> tuple[Fraction, int]:
        """Return the share of the mark that these choices earn, and in how many steps it is
        told."""
        if self.bounds is not None:
            least, most = self.bounds
            worth = sum(choice.points for choice in self.choices if choice.id in chosen)
            return Fraction(min(most, max(least, worth)), most), most
        right = {choice.id for choice in self.right}
        hits, misses = len(right & set(chosen)), len(set(chosen) - right)
        share = Fraction(int(hits == len(right) and misses == 0))
        if self.partial and share == 0:
            share = max(Fraction(0), Fraction(hits - misses, len(right)))
            # All the right ones among wrong ones is not full marks, however few are wrong.
            share = min(share, Fraction(len(right) - 1, len(right))) if misses else share
        return share, len(right)

    def right_words(self) -> str:
        return ", ".join(choice.text for choice in self.right)

    def answer_words(self, response: str) -> str:
        return named({choice.id: choice.text for choice in self.choices}, response)

    def same_answer(self, response: str, canonical: str) -> str:
        # Letters belong to one order only, so choices are told apart by what they say.
        return self.answer_words(response)

    def wrong_choices(self, response: str) -> Fraction:
        return Fraction(len(set(lines(response)) - {choice.id for choice in self.right}))

    def right_in_order(self) -> tuple[str, ...] | None:
        return None if self.kind == "choice" else tuple(choice.id for choice in self.right)

    def likely_wrong(self, rng: random.Random) -> str:
        if self.choose != 1:
            return self.examples.wrong
        return rng.choice([choice.id for choice in self.choices if not choice.right])

    def foreseen(self) -> Iterator[Foreseen]:
        right = [choice.id for choice in self.right]
        for choice in self.choices:
            if not choice.right:
                others = [] if self.choose is None else right[: self.choose - 1]
                response = "\n".join([choice.id, *others])
                yield Foreseen(choice.text, response, choice.says or "")

    def texts(self) -> Iterator[str]:
        yield self.label
        yield self.text
        for choice in self.choices:
            yield choice.text
            yield choice.says or ""

    def faults(self) -> Iterator[str]:
        yield from twins([choice.text for choice in self.choices])
        if self.kind == "hot_text":
            for gap in gaps_missing(self.text, len(self.choices))[:1]:
                yield gettext("{gap} isn’t in the text").format(gap=gap)
        if self.kind == "hotspot" and (
            self.figure is None or any(choice.region is None for choice in self.choices)
        ):
            yield gettext("a hotspot needs a figure and a region for each choice")

    def presented(self, html: Html) -> ChoicePartOut:
        return ChoicePartOut(
            kind=self.kind,
            id=self.id,
            label=self.label,
            choices=[
                ChoiceOut(id=c.id, html=html(c.text), region=region_out(c.region))
                for c in self.choices
            ],
            choose=self.choose,
            text=texts_between(self.text, html),
            figure=figure_out(self.figure),
        )


class ChoiceOut(BaseModel):
    id: str
    html: str
    region: RegionOut | None


class ChoicePartOut(PartOut):
    """`choose`: how many are asked for, null for any number. `text_html`: of hot text."""

    kind: Kind
    choices: list[ChoiceOut]
    choose: int | None
    text: list[str]
    figure: FigureOut | None

    def any_response(self) -> str:
        return "\n".join(choice.id for choice in self.choices[: self.choose or 1])
