"""Response and key to mark: one rule for each kind of part."""

from __future__ import annotations

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
    WrittenKey,
)
from ..items.kinds.choice import mark_associate, mark_choice, mark_order, mark_slots
from ..items.kinds.formula import mark_expression
from ..items.kinds.number import mark_number, mark_table, mark_text, mark_time
from ..items.kinds.points import mark_points, mark_shading
from ..items.mark import PartMark, Verdict
from ..items.plane import PointsKey, ShadingKey

__all__ = ["PartMark", "Verdict", "mark_part"]


def mark_part(key: PartKey, response: str) -> PartMark:
    """Mark a response. Never raises for what a learner sends."""
    match key:
        case ChoiceKey():
            return mark_choice(key, response)
        case NumberKey():
            return mark_number(key, response)
        case TimeKey():
            return mark_time(key, response)
        case TextKey():
            return mark_text(key, response)
        case ExpressionKey():
            return mark_expression(key, response)
        case OrderKey():
            return mark_order(key, response)
        case SlotsKey():
            return mark_slots(key, response)
        case AssociateKey():
            return mark_associate(key, response)
        case TableKey():
            return mark_table(key, response)
        case PointsKey():
            return mark_points(key, response)
        case ShadingKey():
            return mark_shading(key, response)
        case WrittenKey():
            return PartMark(Verdict.NOTED, response.strip())
