"""The wrong answers that a part foresees, in words, with what is said to each."""

from __future__ import annotations

from collections.abc import Iterator

from ..items.expressions import clock
from ..items.keys import (
    AssociateKey,
    ChoiceKey,
    ExpressionKey,
    NumberKey,
    OrderKey,
    PartKey,
    SlotsKey,
    TableKey,
    TextKey,
    TimeKey,
)
from ..items.plane import PointsKey, ShadingKey
from .words import point_words


def foreseen(key: PartKey) -> Iterator[tuple[str, str]]:
    """Pairs of a foreseen wrong answer and what is said to it; nothing for what is not marked."""
    match key:
        case ChoiceKey():
            yield from ((c.text, c.says or "") for c in key.choices if not c.right)
        case TableKey():
            for cell in key.cells:
                yield from foreseen(cell)
        case TimeKey():
            yield from ((clock(float(miss.value)), miss.says) for miss in key.near_misses)
        case NumberKey() | ShadingKey():
            yield from ((f"{float(miss.value):g}", miss.says) for miss in key.near_misses)
        case TextKey() | ExpressionKey():
            yield from ((str(miss.value), miss.says) for miss in key.near_misses)
        case PointsKey():
            yield from ((point_words(key, miss.x, miss.y), miss.said) for miss in key.near_misses)
        case OrderKey() | SlotsKey() | AssociateKey():
            yield from _mix_ups(key)


def _mix_ups(key: OrderKey | SlotsKey | AssociateKey) -> Iterator[tuple[str, str]]:
    if isinstance(key, SlotsKey):
        names = {s.id: s.text or f"gap {number}" for number, s in enumerate(key.slots, start=1)}
        tokens, joint = {token.id: token.text for token in key.tokens}, "with"
    else:
        tokens = names = {item.id: item.text for item in key.items}
        joint = "before" if isinstance(key, OrderKey) else "with"
    for one in key.mix_ups:
        yield f"{names[one.place]} {joint} {tokens[one.token]}", one.says
