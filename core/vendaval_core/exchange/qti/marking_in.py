"""Whether our own kinds mark an item's answers as the file's rules do; if not, those rules go
along.

What a kind makes of an answer and what the interpreter makes of it are compared for many answers.
Only where both agree on all of them does the kind mark alone.
"""

from __future__ import annotations

import random
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import islice

from ...items.kinds.by_rules import NamingModel
from ...items.kinds.by_rules_key import share_of
from ...items.kinds.choice import ChoiceKey
from ...items.kinds.given import given_variables
from ...items.kinds.number import NumberKey
from ...items.kinds.order import OrderKey
from ...items.kinds.protocol import Key
from ...items.kinds.slots import SlotsKey
from ...items.kinds.table_entry import TableKey, read_cells
from ...items.mark import as_it_stands
from ...items.processing.declarations import Declaration
from ...items.processing.nodes import Node
from ...items.processing.program import run_responses
from ...items.processing.values import Container

TRIED, MOST_STEPS = 24, 60_000


@dataclass(frozen=True, slots=True)
class Rules:
    """An item's rules with what they are about. templates, correct: of one version."""

    declared: Mapping[str, Declaration]
    rules: Sequence[Node]
    templates: Mapping[str, Container]
    correct: Mapping[str, Container]
    score: str = "SCORE"

    def run(
        self, given: Mapping[str, Container], attempts: int | None = None
    ) -> dict[str, Container]:
        """The outcomes of responses. attempts: how often one has tried."""
        held = dict(given)
        if attempts is not None:
            held["numAttempts"] = Container("single", "integer", (attempts,))
        return run_responses(self.declared, self.rules, held, self.templates, self.correct)

    def points(self, given: Mapping[str, Container]) -> float:
        """The points that responses reach."""
        reached = self.run(given).get(self.score)
        return 0.0 if reached is None or reached.null else reached.number()


def full_marks(rules: Rules, right: Mapping[str, Container]) -> float:
    """Points in all: what the right answer reaches, or what is declared where that is more."""
    reached = rules.points(right)
    declared = rules.declared.get("MAXSCORE")
    said = [rules.declared[rules.score].most or 0.0]
    if declared is not None and not declared.default.null:
        said.append(float(declared.default.number()))
    return max([reached, *said])


def responses_of(key: Key) -> Iterator[str]:
    """Yield many responses to a part: its examples, each single choice, and a few by chance."""
    examples = key.examples
    yield from (one for one in (examples.right, examples.wrong, examples.partly) if one)
    rng = random.Random(20)
    if isinstance(key, ChoiceKey):
        ids = [choice.id for choice in key.choices]
        yield from ids
        if key.choose != 1:
            for _ in range(TRIED):
                count = rng.randint(1, len(ids)) if key.choose is None else key.choose
                yield "\n".join(rng.sample(ids, count))
    elif isinstance(key, OrderKey):
        for _ in range(TRIED):
            yield "\n".join(rng.sample(key.right, len(key.right)))
    elif isinstance(key, SlotsKey):
        tokens = [token.id for token in key.tokens]
        for _ in range(TRIED):
            rng.shuffle(tokens)
            pairs = zip((slot.id for slot in key.slots), tokens, strict=False)
            given = [
                f"{slot} {rng.choice(offers) if offers else token}"
                for (slot, token), offers in zip(
                    pairs, (slot.offers for slot in key.slots), strict=False
                )
            ]
            yield "\n".join(given)
    elif isinstance(key, NumberKey):
        for part in (-3.0, -1.01, -0.99, -0.5, 0.5, 0.99, 1.01, 3.0):
            yield f"{key.answer + part * max(key.tolerance, 1e-6):.9f}"
    elif isinstance(key, TableKey):
        typed = read_cells(examples.right)
        for cell in key.cells:
            others = {id_: text for id_, text in typed.items() if id_ != cell.id}
            for one in [*responses_of(cell), ""]:
                lines = others | ({cell.id: one} if one else {})
                yield "\n".join(f"{id_} {text}" for id_, text in lines.items())
    else:
        # Blanks, a full stop or an article around a word are let pass here: that is meant.
        yield from (slip.response for slip in key.foreseen())


def agree(
    keys: Sequence[Key], naming: Mapping[str, NamingModel], rules: Rules, full: float
) -> bool:
    """Return whether our parts, each worth the same, give what the rules give."""
    names = {key.id: naming[key.id].filled(rules.declared, {}) for key in keys}
    right = {key.id: key.examples.right for key in keys}
    scored = [key for key in keys if key.units]
    if not scored:
        return False

    def ours(answers: Mapping[str, str]) -> Fraction:
        marks = [as_it_stands(key.mark(answers[key.id])) for key in scored]
        return sum((mark.share for mark in marks), Fraction(0)) / len(scored)

    def theirs(answers: Mapping[str, str]) -> Fraction:
        given: dict[str, Container] = {}
        for key in keys:
            for name, one in given_variables(key, names[key.id], answers[key.id]).items():
                given[name] = given[name].with_more(one) if name in given else one
        return share_of(rules.points(given), full)

    size = sum(1 for rule in rules.rules for _ in rule.walk())
    most = max(3, MOST_STEPS // max(1, size))
    for answers in islice(_tried(scored, right), most):
        if abs(ours(answers) - theirs(answers)) > Fraction(1, 1000):
            return False
    return True


def _tried(scored: Sequence[Key], right: Mapping[str, str]) -> Iterator[dict[str, str]]:
    """Each part's responses beside right ones, and beside wrong ones."""
    wrong = {key.id: key.examples.wrong for key in scored}
    for key in scored:
        for response in responses_of(key):
            yield {**right, key.id: response}
            if len(scored) > 1:
                yield {**right, **wrong, key.id: response}
