"""What the course foresees is what it says: each foreseen wrong answer, given as a learner would
give it, is marked as not wholly right and gets words of its own."""

from __future__ import annotations

from collections.abc import Iterator
from unittest import TestCase

from vendaval_core.items.expressions import clock
from vendaval_core.items.keys import (
    AssociateKey,
    ChoiceKey,
    NumberKey,
    OrderKey,
    PartKey,
    SlotsKey,
    TableKey,
    TextKey,
    TimeKey,
)
from vendaval_core.items.plane import PointsKey, ShadingKey
from vendaval_core.items.versions import Version, make_version
from vendaval_core.scoring.examples import right_response, typed_angle
from vendaval_core.scoring.foreseen import foreseen
from vendaval_core.scoring.marking import Verdict, mark_part

from .courses import inshore


def too_early(key: OrderKey, place: str, token: str) -> str:
    """The right order, but for one item put just before another."""
    order = [item for item in key.right if item != place]
    order.insert(order.index(token), place)
    return "\n".join(order)


def in_its_place(key: SlotsKey, place: str, token: str) -> str:
    """The right tokens, but for one: what stood there goes to where the token belongs."""
    given = {slot.id: slot.right for slot in key.slots}
    if not key.reuse:
        other = next((slot for slot, right in given.items() if right == token), None)
        if other is not None:
            given[other] = given[place]
    given[place] = token
    return "\n".join(f"{slot} {right}" for slot, right in given.items())


def joined(key: AssociateKey, one: str, other: str) -> str:
    """The right pairs, but for two whose partners are left to each other."""
    partner = dict(key.pairs) | {b: a for a, b in key.pairs}
    kept = [pair for pair in key.pairs if not {one, other} & set(pair)]
    made = [*kept, (one, other), (partner[one], partner[other])]
    return "\n".join(f"{a} {b}" for a, b in made)


def placed(key: PointsKey, x: float, y: float) -> str:
    """One point where it is foreseen, the others anywhere else."""
    spare = [(key.x.low + i * key.x.step, key.y.low) for i in range(len(key.targets) - 1)]
    return "\n".join(f"{a:.6f} {b:.6f}" for a, b in [(x, y), *spare])


def given(key: PartKey) -> Iterator[tuple[str, str]]:
    """Responses that make the foreseen slips, with what is said to them; formulas aside, which
    are compared in a process of their own (test_workers)."""
    match key:
        case ChoiceKey(choose=1):
            yield from ((c.id, c.says) for c in key.choices if not c.right and c.says)
        case NumberKey(slider=None):
            angle = isinstance(key, NumberKey) and key.angle
            for m in key.near_misses:
                value = float(m.value)
                yield (typed_angle(value) if angle else f"{value:.9f}"), m.says
        case TimeKey():
            yield from ((clock(float(m.value)), m.says) for m in key.near_misses)
        case TextKey():
            yield from ((str(m.value), m.says) for m in key.near_misses)
        case TableKey():
            right = {cell.id: right_response(cell) for cell in key.cells}
            for cell in key.cells:
                for response, says in given(cell):
                    typed = right | {cell.id: response}
                    yield "\n".join(f"{place} {text}" for place, text in typed.items()), says
        case OrderKey():
            yield from ((too_early(key, m.place, m.token), m.says) for m in key.mix_ups)
        case SlotsKey():
            yield from ((in_its_place(key, m.place, m.token), m.says) for m in key.mix_ups)
        case AssociateKey():
            yield from ((joined(key, m.place, m.token), m.says) for m in key.mix_ups)
        case PointsKey():
            yield from ((placed(key, m.x, m.y), m.said) for m in key.near_misses)
        case ShadingKey():
            for miss in key.near_misses:
                cells = (divmod(i, key.columns) for i in range(int(float(miss.value))))
                yield "\n".join(f"{row} {column}" for row, column in cells), miss.says


class ForeseenTests(TestCase):
    pack = inshore()

    def versions(self) -> Iterator[Version]:
        for item in self.pack.families:
            for seed in range(1, item.family.versions + 1, 9):
                yield make_version(item.family, seed)

    def test_each_slip_gets_its_words(self) -> None:
        """The first that fits is said, so the words are those of one of the part's slips."""
        seen: dict[str, int] = {}
        for version in self.versions():
            for key in version.parts:
                said = {says for _, says in foreseen(key)}
                for response, says in given(key):
                    with self.subTest(family=version.family, seed=version.seed, says=says):
                        mark = mark_part(key, response)
                        self.assertIn(mark.verdict, {Verdict.WRONG, Verdict.PARTLY}, response)
                        self.assertIsNotNone(mark.says, response)
                        self.assertTrue(any(text in str(mark.says) for text in said), mark.says)
                    kind = type(key).__name__
                    seen[kind] = seen.get(kind, 0) + 1
        for kind in (NumberKey, TimeKey, TextKey, ChoiceKey, OrderKey, SlotsKey, AssociateKey):
            self.assertGreater(seen[kind.__name__], 1, kind)
        for kind in (PointsKey, ShadingKey, TableKey):
            self.assertGreater(seen[kind.__name__], 3, kind)

    def test_every_family_foresees_a_slip(self) -> None:
        for item in self.pack.families:
            version = make_version(item.family, 1)
            words = [says for key in version.parts for _, says in foreseen(key) if says]
            self.assertTrue(words, item.family.key)

    def test_a_right_answer_hears_of_no_slip(self) -> None:
        for version in self.versions():
            for key in version.parts:
                said = {says for _, says in foreseen(key) if says}
                mark = mark_part(key, right_response(key))
                with self.subTest(family=version.family, part=key.id):
                    self.assertFalse(any(text in str(mark.says) for text in said), mark.says)
