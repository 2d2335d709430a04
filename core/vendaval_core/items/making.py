"""From a part to its key in one version: expressions worked out, texts filled, orders shuffled."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial

from ..errors import ExpressionError
from . import keys, parts
from .drawn import Figure, KeyedMixUp, KeyedNearMiss, MixUp, NearMiss, Picture, Region, Shape
from .expressions import Value, clock, evaluate, evaluate_number, fixed, whole
from .keys import CHOICE_IDS
from .pictures import make_picture
from .plane import PointsPart, ShadingPart, make_points, make_shading
from .randomness import SeededStream
from .template import fill

Values = dict[str, Value]


def _region(region: Region | None, values: Values) -> Shape | None:
    if region is None:
        return None
    return Shape(region.shape, tuple(evaluate_number(n, values) for n in region.numbers))


def _figure(figure: Figure | None, values: Values) -> Picture | None:
    return None if figure is None else make_picture(figure, values)


def _misses(
    misses: Sequence[NearMiss], values: Values, *, text: bool, wrap: float | None = None
) -> tuple[KeyedNearMiss, ...]:
    found = []
    for miss in misses:
        value: float | str
        if text:
            value = fill(str(miss.answer), values)
        else:
            value = evaluate_number(miss.answer, values)
            value = value % wrap if wrap else value
        found.append(KeyedNearMiss(value, fill(miss.says, values)))
    return tuple(found)


def _choice(part: parts.ChoicePart, values: Values, stream: SeededStream) -> keys.ChoiceKey:
    mixed = part.shuffle and part.kind == "choice"
    options = stream.shuffled(part.options) if mixed else list(part.options)
    choices = tuple(
        keys.VersionChoice(
            id=CHOICE_IDS[i],
            text=fill(option.text, values),
            right=option.right
            if isinstance(option.right, bool)
            else bool(evaluate(option.right, values)),
            says=None if option.says is None else fill(option.says, values),
            region=_region(option.region, values),
            points=option.points,
        )
        for i, option in enumerate(options)
    )
    right = sum(choice.right for choice in choices)
    if part.choose == 1 and right != 1:
        raise ExpressionError("exactly one choice must be right")
    if part.choose is not None and right != part.choose:
        raise ExpressionError(f"exactly {part.choose} choices must be right, not {right}")
    if right == 0:
        raise ExpressionError("at least one choice must be right")
    return keys.ChoiceKey(
        part.id,
        fill(part.label, values),
        choices,
        part.choose,
        part.partial,
        part.kind,
        fill(part.text, values),
        _figure(part.figure, values),
        part.bounds,
    )


def _number(part: parts.NumberEntryPart, values: Values) -> keys.NumberKey:
    answer = evaluate_number(part.answer, values)
    unit = f"\u00a0{part.unit}" if part.unit and part.unit not in {"°", "′"} else part.unit
    tolerance = evaluate_number(part.tolerance, values)
    if part.relative is not None:
        tolerance = max(tolerance, abs(answer) * part.relative)
    shown = fixed(answer, part.digits) + unit
    if part.angle:
        shown = _degrees_shown(answer, part.digits)
    slider = None
    if part.slider is not None:
        low, high, step = (evaluate_number(n, values) for n in part.slider)
        slider = (low, high, step)
    return keys.NumberKey(
        part.id,
        fill(part.label, values),
        part.unit,
        answer,
        tolerance,
        shown,
        _misses(part.near_misses, values, text=False),
        part.digits,
        part.figures,
        part.angle,
        slider,
        part.units,
        part.words,
    )


def _degrees_shown(answer: float, digits: int) -> str:
    """Degrees and minutes, rounded before they are parted: never 60 minutes, nor minus nothing."""
    parts_of_degree = 60 * 10**digits
    degrees, rest = divmod(whole(abs(answer) * parts_of_degree), parts_of_degree)
    sign = "\u2212" if answer < 0 and (degrees or rest) else ""
    minutes = fixed(rest / 10**digits, digits).zfill(digits + 3 if digits else 2)
    return f"{sign}{degrees}° {minutes}′"


def _cell(part: parts.CellPart, values: Values) -> keys.CellKey:
    match part:
        case parts.NumberEntryPart():
            return _number(part, values)
        case parts.TimeEntryPart():
            return _time(part, values)
        case parts.TextEntryPart():
            return _text(part, values)


def _time(part: parts.TimeEntryPart, values: Values) -> keys.TimeKey:
    answer = evaluate_number(part.answer, values) % 1440
    tolerance = evaluate_number(part.tolerance, values)
    misses = _misses(part.near_misses, values, text=False, wrap=1440)
    label = fill(part.label, values)
    return keys.TimeKey(part.id, label, answer, tolerance, clock(answer), misses)


def _text(part: parts.TextEntryPart, values: Values) -> keys.TextKey:
    return keys.TextKey(
        part.id,
        fill(part.label, values),
        tuple(fill(text, values) for text in part.accepted),
        _misses(part.near_misses, values, text=True),
        part.case,
        part.accents,
        part.slips,
    )


def _tokens(texts: Sequence[str], stream: SeededStream) -> tuple[tuple[keys.Token, ...], list[str]]:
    """Tokens as presented, and the id of each text in the order given."""
    order = stream.shuffled(range(len(texts)))
    ids = {place: CHOICE_IDS[i] for i, place in enumerate(order)}
    shown = tuple(keys.Token(CHOICE_IDS[i], texts[place]) for i, place in enumerate(order))
    return shown, [ids[place] for place in range(len(texts))]


def _mix_ups(
    mix_ups: Sequence[MixUp],
    places: Mapping[str, str],
    tokens: Mapping[str, str],
    values: Values,
) -> tuple[KeyedMixUp, ...]:
    """Mix-ups by ids. places, tokens: ids by what the author calls them."""
    found = []
    for one in mix_ups:
        place = fill(str(one.place), values)
        token = fill(one.token, values)
        if place not in places or token not in tokens:
            raise ExpressionError(f"there is no “{place}” with “{token}” to mix up")
        found.append(KeyedMixUp(places[place], tokens[token], fill(one.says, values)))
    return tuple(found)


def _order(part: parts.OrderPart, values: Values, stream: SeededStream) -> keys.OrderKey:
    texts = [fill(text, values) for text in part.items]
    for _ in range(20):
        shown, right = _tokens(texts, stream)
        if [token.id for token in shown] != right:
            break
    ids = dict(zip(texts, right, strict=True))
    mix_ups = _mix_ups(part.mix_ups, ids, ids, values)
    label = fill(part.label, values)
    return keys.OrderKey(part.id, label, shown, tuple(right), part.partial, mix_ups)


def _slots(part: parts.SlotsPart, values: Values, stream: SeededStream) -> keys.SlotsKey:
    texts = [fill(text, values) for text in part.tokens]
    shown, ids = _tokens(texts, stream)
    slots = tuple(
        keys.KeySlot(
            f"s{i}",
            fill(slot.text, values),
            ids[slot.right],
            _region(slot.region, values),
            tuple(token.id for token in shown if token.id in {ids[c] for c in slot.choices}),
        )
        for i, slot in enumerate(part.slots)
    )
    places = {slot.text or str(number): slot.id for number, slot in enumerate(slots)}
    return keys.SlotsKey(
        part.id,
        fill(part.label, values),
        part.kind,
        slots,
        shown,
        part.reuse,
        part.partial,
        fill(part.text, values),
        _figure(part.figure, values),
        _mix_ups(part.mix_ups, places, dict(zip(texts, ids, strict=True)), values),
    )


def _associate(
    part: parts.AssociatePart, values: Values, stream: SeededStream
) -> keys.AssociateKey:
    texts = [fill(text, values) for pair in part.pairs for text in pair]
    texts += [fill(text, values) for text in part.spare]
    shown, ids = _tokens(texts, stream)
    paired = 2 * len(part.pairs)
    pairs = frozenset(
        (min(a, b), max(a, b)) for a, b in zip(ids[0:paired:2], ids[1:paired:2], strict=True)
    )
    by_text = dict(zip(texts, ids, strict=True))
    mix_ups = _mix_ups(part.mix_ups, by_text, by_text, values)
    label = fill(part.label, values)
    return keys.AssociateKey(part.id, label, shown, pairs, part.partial, mix_ups)


def _table(part: parts.TableEntryPart, values: Values) -> keys.TableKey:
    rows = tuple(
        (
            fill(label, values),
            tuple(
                fill(cell, values) if isinstance(cell, str) else _cell(cell, values)
                for cell in cells
            ),
        )
        for label, cells in part.rows
    )
    columns = tuple(fill(column, values) for column in part.columns)
    return keys.TableKey(part.id, fill(part.label, values), columns, rows, part.partial)


def make_key(part: parts.Part, values: Values, stream: SeededStream) -> keys.PartKey:
    """The key of a part. ExpressionError says what cannot be worked out."""
    number = partial(evaluate_number, variables=values)
    text = partial(fill, variables=values)
    match part:
        case parts.ChoicePart():
            return _choice(part, values, stream)
        case parts.NumberEntryPart() | parts.TimeEntryPart() | parts.TextEntryPart():
            return _cell(part, values)
        case parts.ExpressionPart():
            return keys.ExpressionKey(
                part.id,
                fill(part.label, values),
                fill(part.answer, values),
                part.symbols,
                part.form,
                _misses(part.near_misses, values, text=True),
            )
        case parts.OrderPart():
            return _order(part, values, stream)
        case parts.SlotsPart():
            return _slots(part, values, stream)
        case parts.AssociatePart():
            return _associate(part, values, stream)
        case parts.TableEntryPart():
            return _table(part, values)
        case PointsPart():
            return make_points(part, number, text, lambda figure: make_picture(figure, values))
        case ShadingPart():
            return make_shading(part, number, text)
        case parts.WrittenPart():
            model = fill(part.model, values)
            label = fill(part.label, values)
            return keys.WrittenKey(part.id, label, part.kind, model, part.criteria)
