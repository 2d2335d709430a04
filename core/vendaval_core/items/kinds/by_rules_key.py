"""One version of answers that are marked together: run through the rules that came with them."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from fractions import Fraction
from itertools import islice, product
from math import isfinite, prod
from typing import TYPE_CHECKING, Annotated, Literal, Union

from pydantic import Field

from vendaval_core.language import gettext

from ..mark import BLANK, PartMark, Piece, ReadBack, Verdict, incomplete, shared, unreadable
from ..presented import Html, PartOut
from ..processing.declarations import Declaration
from ..processing.nodes import Node
from ..processing.program import run_responses
from ..processing.values import Container, ProcessingError
from .associate import AssociatePartOut
from .choice import ChoicePartOut
from .common import NOTHING, MarkedByRule, NoAxes, NoFigure, NotChosen, WrongAsExample
from .extended_text import TextPartOut
from .given import Naming, given_variables
from .order import OrderPartOut
from .points import PointsPartOut
from .protocol import Examples, Foreseen, Key
from .slider import SliderPartOut
from .slots import SlotsPartOut
from .typed import TextEntryPartOut

INNER_OUT = (
    ChoicePartOut,
    TextEntryPartOut,
    SliderPartOut,
    OrderPartOut,
    SlotsPartOut,
    AssociatePartOut,
    PointsPartOut,
    TextPartOut,
)
if TYPE_CHECKING:
    AnyInnerOut = PartOut
else:
    AnyInnerOut = Annotated[Union.__getitem__(INNER_OUT), Field(discriminator="kind")]
MOST_TRIED = 200


@dataclass(frozen=True, slots=True)
class ByRulesKey(WrongAsExample, MarkedByRule, NoFigure, NoAxes, NotChosen):
    """Answers with the rules that mark them. A response of several answers is a line `id answer`
    for each, the answer as a JSON string; of one it is that answer."""

    id: str
    label: str
    keys: tuple[Key, ...]
    naming: Mapping[str, Naming]
    declared: Mapping[str, Declaration]
    rules: tuple[Node, ...]
    score: str
    full: float
    partial: bool
    values: Mapping[str, Container]
    says: Mapping[str, str]

    @property
    def kind(self) -> str:
        return "by_rules"

    @property
    def units(self) -> int:
        return max(2, min(round(self.full), 12)) if self.partial else 1

    @property
    def guess_chance(self) -> float:
        return prod(key.guess_chance for key in self.keys)

    @property
    def examples(self) -> Examples:
        """The right answer is that of the parts. Wrong and partly right ones are sought among
        theirs."""
        right = {key.id: key.examples.right for key in self.keys}
        wrong, partly = "", None
        others = [[e.wrong, *([e.partly] if e.partly else []), e.right] for e in self._each()]
        for tried in islice(product(*others), MOST_TRIED):
            response = self._written(dict(zip(right, tried, strict=True)))
            mark = self.mark(response)
            if mark.verdict is Verdict.WRONG:
                wrong = wrong or response
            elif mark.verdict is Verdict.PARTLY and partly is None:
                partly = response
            if wrong and partly is not None:
                break
        unread = next((e.unreadable for e in self._each() if e.unreadable), None)
        several = len(self.keys) > 1
        first = self.keys[0].id
        incomplete_one = self._written({first: right[first]}) if several else unread
        return Examples(self._written(right), wrong or "-", partly, incomplete_one)

    def _each(self) -> list[Examples]:
        return [key.examples for key in self.keys]

    def _written(self, answers: Mapping[str, str]) -> str:
        if len(self.keys) == 1:
            return next(iter(answers.values()))
        return "\n".join(f"{id_} {json.dumps(text)}" for id_, text in answers.items())

    def _answers(self, response: str) -> dict[str, str]:
        if len(self.keys) == 1:
            return {self.keys[0].id: response}
        return read_answers(response)

    def mark(self, response: str) -> PartMark:
        answers = self._answers(response)
        marks = {key.id: key.mark(answers.get(key.id, "")) for key in self.keys}
        for key in self.keys:
            mark = marks[key.id]
            if answers.get(key.id, "").strip() and mark.verdict is Verdict.UNREADABLE:
                label = f"{key.label}: " if key.label else ""
                return unreadable(f"{label}{mark.says}")
        given = {id_: text for id_, text in answers.items() if text.strip()}
        try:
            outcomes = self._run(given)
        except ProcessingError as error:
            return unreadable(str(error))
        reached = outcomes[self.score]
        share = share_of(0.0 if reached.null else reached.number(), self.full)
        canonical = "\n".join(
            f"{id_} {marks[id_].canonical}" for id_ in sorted(given) if id_ in marks
        )
        of = max(1, round(self.full))
        missing = [key for key in self.keys if key.id not in given] or [
            key for key in self.keys if marks[key.id].verdict is Verdict.INCOMPLETE
        ]
        if missing:
            why = marks[missing[0].id].says if missing[0].id in given else None
            says = why or gettext("{count} of {all} are answered.").format(
                count=len(given), all=len(self.keys)
            )
            return incomplete(says, share, canonical, of)
        return shared(share, canonical, None if share == 1 else self._said(outcomes), of)

    def _run(self, given: Mapping[str, str]) -> dict[str, Container]:
        variables: dict[str, Container] = {}
        for key in self.keys:
            if key.id not in given:
                continue
            for name, one in given_variables(key, self.naming[key.id], given[key.id]).items():
                held = variables.get(name)
                variables[name] = one if held is None else held.with_more(one)
        return run_responses(self.declared, self.rules, variables, self.values)

    def _said(self, outcomes: Mapping[str, Container]) -> str | None:
        for name, text in self.says.items():
            outcome, _, identifier = name.partition(" ")
            held = outcomes.get(outcome)
            if held is not None and identifier in [str(one) for one in held.values]:
                return text
        return None

    def read_back(self, response: str) -> ReadBack:
        answers = self._answers(response)
        read = {key.id: key.read_back(answers.get(key.id, "")) for key in self.keys}
        if all(one.state == "blank" for one in read.values()):
            return BLANK
        for state in ("unreadable", "incomplete"):
            for key in self.keys:
                if read[key.id].state == state:
                    label = f"{key.label}: " if key.label else ""
                    return ReadBack(read[key.id].state, f"{label}{read[key.id].says}")
        if any(one.state == "blank" for one in read.values()):
            done = sum(one.state == "read" for one in read.values())
            says = gettext("{count} of {all} are answered.")
            return ReadBack("incomplete", says.format(count=done, all=len(read)))
        return ReadBack("read", " ".join(one.says for one in read.values() if one.says))

    def right_words(self) -> str:
        return "; ".join(_labelled(key, key.right_words()) for key in self.keys)

    def answer_words(self, response: str) -> str:
        answers = self._answers(response)
        said = [(key, key.answer_words(answers.get(key.id, ""))) for key in self.keys]
        return "; ".join(_labelled(key, text or NOTHING) for key, text in said)

    def pieces(self, response: str) -> list[Piece]:
        answers = self._answers(response)
        if len(self.keys) == 1:
            return self.keys[0].pieces(response)
        return [
            Piece(
                key.label or str(number),
                key.answer_words(answers.get(key.id, "")) or NOTHING,
                key.right_words(),
                key.mark(answers.get(key.id, "")).verdict is Verdict.RIGHT,
            )
            for number, key in enumerate(self.keys, start=1)
        ]

    def same_answer(self, response: str, canonical: str) -> str:
        return self.answer_words(response)

    def right_when_typed(self, text: str) -> bool:
        return any(key.right_when_typed(text) for key in self.keys)

    def usual_forms(self) -> Iterator[str]:
        return iter(())

    def foreseen(self) -> Iterator[Foreseen]:
        right = {key.id: key.examples.right for key in self.keys}
        for key in self.keys:
            for slip in key.foreseen():
                response = self._written(right | {key.id: slip.response})
                yield Foreseen(slip.words, response, self.mark(response).says or "")

    def texts(self) -> Iterator[str]:
        yield self.label
        for key in self.keys:
            yield from key.texts()
        yield from self.says.values()

    def faults(self) -> Iterator[str]:
        for key in self.keys:
            yield from key.faults()
        try:
            outcomes = self._run({key.id: key.examples.right for key in self.keys})
        except ProcessingError as error:
            yield str(error)
            return
        reached = outcomes[self.score]
        if reached.null or share_of(reached.number(), self.full) < 1:
            yield gettext("the rules don’t give full marks to the right answer")

    def presented(self, html: Html) -> PartOut:
        if len(self.keys) == 1:
            return self.keys[0].presented(html).model_copy(update={"id": self.id})
        return ByRulesPartOut(
            kind="by_rules",
            id=self.id,
            label=self.label,
            parts=[key.presented(html) for key in self.keys],
        )


def share_of(score: float, full: float) -> Fraction:
    """Return points as an exact share from 0 to 1: a few parts of a small number."""
    part = score / full
    if not isfinite(part):
        return Fraction(int(part > 0))
    return max(Fraction(0), min(Fraction(1), Fraction(part).limit_denominator(10_000)))


def _labelled(key: Key, text: str) -> str:
    return f"{key.label}: {text}" if key.label else text


def read_answers(response: str) -> dict[str, str]:
    """Return the answers of several parts, by id, from lines of `id "answer"`."""
    found = {}
    for line in response.splitlines():
        id_, _, written = line.partition(" ")
        try:
            text = json.loads(written)
        except (ValueError, RecursionError):
            continue
        if isinstance(text, str) and text.strip():
            found[id_] = text
    return found


class ByRulesPartOut(PartOut):
    """Answers that are marked together."""

    kind: Literal["by_rules"]
    parts: list[AnyInnerOut]

    def any_response(self) -> str:
        return "\n".join(f"{one.id} {json.dumps(one.any_response())}" for one in self.parts)
