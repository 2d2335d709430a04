"""From a part's key to what the browser may see of it before it is answered."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Literal, cast

from vendaval.bank.models import PictureData
from vendaval.shared.markdown import kept_together, to_inline_html
from vendaval_core.items.drawn import Frame, Picture, Shape
from vendaval_core.items.keys import (
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
    Token,
    WrittenKey,
)
from vendaval_core.items.plane import Axis, PointsKey, ShadingKey

from . import part_schemas as out

_GAP = re.compile(r"\{\{\d+\}\}")
Blast = Literal["short", "long", "gap", "bell", "gong"]


def figure_out(picture: Picture | None) -> out.FigureOut | None:
    """A drawing, frame by frame where it moves."""
    if picture is None:
        return None
    moving = None
    if picture.frames:
        frames = [out.FrameOut(svg=f.svg, says=kept_together(f.says)) for f in picture.frames]
        moving = out.MovingOut(label=picture.label, start=picture.start, frames=frames)
    return out.FigureOut(svg=picture.svg, alt=picture.alt, moving=moving)


def stored_picture(data: PictureData | None) -> Picture | None:
    """A picture as the bank keeps it."""
    if data is None:
        return None
    frames = tuple(Frame(frame.svg, frame.says) for frame in data.frames)
    return Picture(data.svg, data.alt, frames=frames, start=data.start, label=data.label)


def sound_out(blasts: Sequence[str], words: str) -> out.SoundOut | None:
    """Blasts and their alternative."""
    if not blasts:
        return None
    return out.SoundOut(blasts=[cast(Blast, blast) for blast in blasts], words=words or None)


def _region(shape: Shape | None) -> out.RegionOut | None:
    return None if shape is None else out.RegionOut(shape=shape.shape, numbers=list(shape.numbers))


def _tokens(tokens: Sequence[Token]) -> list[out.TokenOut]:
    return [out.TokenOut(id=token.id, html=to_inline_html(token.text)) for token in tokens]


def _texts(text: str) -> list[str]:
    """The text between its gaps."""
    return [to_inline_html(piece) if piece else "" for piece in _GAP.split(text)] if text else []


def _axis(axis: Axis) -> out.AxisOut:
    return out.AxisOut(
        low=axis.low,
        high=axis.high,
        step=axis.step,
        mark=axis.mark,
        name=axis.name,
        clock=axis.clock,
    )


def _value(key: CellKey) -> Literal["number", "angle", "time", "text"]:
    match key:
        case NumberKey(angle=True):
            return "angle"
        case NumberKey():
            return "number"
        case TimeKey():
            return "time"
        case TextKey():
            return "text"


def _cell(cell: str | CellKey) -> out.CellOut:
    if isinstance(cell, str):
        return out.CellOut(id=None, html=to_inline_html(cell), value=None, unit="")
    unit = cell.unit if isinstance(cell, NumberKey) else ""
    return out.CellOut(id=cell.id, html="", value=_value(cell), unit=unit)


def _slots(key: SlotsKey) -> out.SlotsPartOut:
    return out.SlotsPartOut(
        kind=key.kind,
        id=key.id,
        label=key.label,
        slots=[
            out.SlotOut(
                id=slot.id,
                html=to_inline_html(slot.text),
                region=_region(slot.region),
                offers=list(slot.offers),
            )
            for slot in key.slots
        ],
        tokens=_tokens(key.tokens),
        reuse=key.reuse,
        text=_texts(key.text),
        figure=figure_out(key.figure),
    )


def _points(key: PointsKey) -> out.PointsPartOut:
    return out.PointsPartOut(
        kind=key.kind,
        id=key.id,
        label=key.label,
        x=_axis(key.x),
        y=_axis(key.y),
        count=len(key.targets),
        names=[target.said for target in key.targets],
        draws=key.draws,
        start=out.PointOut(x=key.start[0], y=key.start[1]),
        readings=key.readings[0] if key.readings else None,
        heights=[
            out.HeightOut(at=r.at, name=r.name, unit=r.unit, digits=r.digits) for r in key.heights
        ],
        object=key.object,
        figure=figure_out(key.figure),
    )


def right_points_out(key: PartKey) -> list[out.PointOut]:
    """Where points belong, to be drawn beside those given; for when that may be told.

    A slider's one point lies on its line, at y 0.
    """
    match key:
        case PointsKey():
            return [out.PointOut(x=round(t.x, 4), y=round(t.y, 4)) for t in key.targets]
        case NumberKey(slider=slider) if slider is not None:
            return [out.PointOut(x=round(key.answer, 4), y=0)]
        case _:
            return []


def _typed(key: NumberKey | TimeKey | TextKey | ExpressionKey) -> out.PartOut:
    if isinstance(key, NumberKey) and key.slider is not None:
        low, high, step = key.slider
        return out.SliderPartOut(
            kind="slider", id=key.id, label=key.label, unit=key.unit, low=low, high=high, step=step
        )
    return out.TextEntryPartOut(
        kind="text_entry",
        id=key.id,
        label=key.label,
        value="expression" if isinstance(key, ExpressionKey) else _value(key),
        unit=key.unit if isinstance(key, NumberKey) else "",
        symbols=list(key.symbols) if isinstance(key, ExpressionKey) else [],
    )


def part_out(key: PartKey) -> out.PartOut:
    """A part to be answered."""
    match key:
        case ChoiceKey():
            return out.ChoicePartOut(
                kind=key.kind,
                id=key.id,
                label=key.label,
                choices=[
                    out.ChoiceOut(id=c.id, html=to_inline_html(c.text), region=_region(c.region))
                    for c in key.choices
                ],
                choose=key.choose,
                text=_texts(key.text),
                figure=figure_out(key.figure),
            )
        case NumberKey() | TimeKey() | TextKey() | ExpressionKey():
            return _typed(key)
        case OrderKey():
            return out.OrderPartOut(
                kind="order", id=key.id, label=key.label, items=_tokens(key.items)
            )
        case SlotsKey():
            return _slots(key)
        case AssociateKey():
            return out.AssociatePartOut(
                kind="associate",
                id=key.id,
                label=key.label,
                items=_tokens(key.items),
                pairs=len(key.pairs),
            )
        case TableKey():
            rows = [
                out.RowOut(label=label, cells=[_cell(c) for c in row]) for label, row in key.rows
            ]
            return out.TablePartOut(
                kind="table_entry",
                id=key.id,
                label=key.label,
                columns=list(key.columns),
                rows=rows,
            )
        case PointsKey():
            return _points(key)
        case ShadingKey():
            return out.ShadingPartOut(
                kind="grid_shading",
                id=key.id,
                label=key.label,
                rows=key.rows,
                columns=key.columns,
            )
        case WrittenKey():
            return out.WrittenPartOut(kind=key.kind, id=key.id, label=key.label)
