"""Responses of a known kind to any key: right ones, wrong ones, as a learner would give them."""

from __future__ import annotations

from ..items.keys import (
    AssociateKey,
    CellKey,
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
from ..items.plane import PointsKey, ShadingKey


def typed_angle(degrees: float) -> str:
    """An angle as it is typed: 38.625 gives 38 37.5."""
    tenths = round(abs(degrees) * 600)
    sign = "-" if degrees < 0 else ""
    return f"{sign}{tenths // 600} {tenths % 600 / 10:g}"


def _right_cell(key: CellKey) -> str:
    return key.accepted[0] if isinstance(key, TextKey) else key.shown


def _wrong_cell(key: CellKey) -> str:
    match key:
        case NumberKey(angle=True):
            return typed_angle((abs(key.answer) + 37.185) % 90)
        case NumberKey():
            return f"{key.answer + 1000 * max(key.tolerance, 1.0):.3f}"
        case TimeKey():
            away = int(key.answer + 360) % 1440
            return f"{away // 60:02d}:{away % 60:02d}"
        case TextKey():
            return "not " + key.accepted[0]


def right_response(key: PartKey) -> str:
    """A response that must be marked right."""
    match key:
        case ChoiceKey():
            return "\n".join(choice.id for choice in key.right)
        case NumberKey() | TimeKey() | TextKey():
            return _right_cell(key)
        case ExpressionKey():
            return key.answer
        case OrderKey():
            return "\n".join(key.right)
        case SlotsKey():
            return "\n".join(f"{slot.id} {slot.right}" for slot in key.slots)
        case AssociateKey():
            return "\n".join(f"{a} {b}" for a, b in sorted(key.pairs))
        case TableKey():
            return "\n".join(f"{cell.id} {_right_cell(cell)}" for cell in key.cells)
        case PointsKey():
            return "\n".join(f"{target.x:.6g} {target.y:.6g}" for target in key.targets)
        case ShadingKey():
            cells = [(i // key.columns, i % key.columns) for i in range(key.answer)]
            return "\n".join(f"{row} {column}" for row, column in cells)
        case WrittenKey():
            return key.model


def _wrong_choice(key: ChoiceKey) -> str:
    wrong = [choice.id for choice in key.choices if not choice.right]
    if key.choose is None:
        return "\n".join(wrong) if wrong else key.right[0].id
    right = [choice.id for choice in key.right]
    return "\n".join((wrong + right)[: key.choose])


def _wrong_slots(key: SlotsKey) -> str:
    """Every slot another token than its own; tokens go round when each may be used once."""
    if key.reuse or key.kind == "inline_choice":
        offered = {s.id: s.offers or tuple(t.id for t in key.tokens) for s in key.slots}
        return "\n".join(
            f"{slot.id} {next(t for t in offered[slot.id] if t != slot.right)}"
            for slot in key.slots
        )
    right = [slot.right for slot in key.slots]
    spare = [token.id for token in key.tokens if token.id not in right]
    moved = [*right[1:], right[0]] if len(right) > 1 else spare[:1]
    return "\n".join(f"{slot.id} {token}" for slot, token in zip(key.slots, moved, strict=True))


def _wrong_pairs(key: AssociateKey) -> str:
    firsts, seconds = [a for a, _ in sorted(key.pairs)], [b for _, b in sorted(key.pairs)]
    return "\n".join(f"{a} {b}" for a, b in zip(firsts, [*seconds[1:], seconds[0]], strict=True))


def _far_points(key: PointsKey) -> str:
    found = []
    for number, target in enumerate(key.targets):
        right_half = target.x > (key.x.low + key.x.high) / 2
        aside = number * key.x.step
        x = key.x.low + aside if right_half else key.x.high - aside
        y = key.y.low if target.y > (key.y.low + key.y.high) / 2 else key.y.high
        found.append(f"{x:.6g} {y:.6g}")
    return "\n".join(found)


def wrong_response(key: PartKey) -> str:
    """A readable response that must be marked wrong or, for shares, not wholly right."""
    match key:
        case ChoiceKey():
            return _wrong_choice(key)
        case NumberKey(slider=slider) if slider is not None:
            low, high, _ = slider
            return f"{low if key.answer > (low + high) / 2 else high:g}"
        case NumberKey() | TimeKey() | TextKey():
            return _wrong_cell(key)
        case ExpressionKey():
            return f"{key.answer} + 1"
        case OrderKey():
            return "\n".join([*key.right[1:], key.right[0]])
        case SlotsKey():
            return _wrong_slots(key)
        case AssociateKey():
            return _wrong_pairs(key)
        case TableKey():
            return "\n".join(f"{cell.id} {_wrong_cell(cell)}" for cell in key.cells)
        case PointsKey():
            return _far_points(key)
        case ShadingKey():
            count = key.answer + 1 if key.answer < key.rows * key.columns else key.answer - 1
            return "\n".join(f"{i // key.columns} {i % key.columns}" for i in range(count))
        case WrittenKey():
            return "something else"
