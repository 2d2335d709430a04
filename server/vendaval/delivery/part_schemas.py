"""Parts as the browser gets them, one schema for each QTI 3 interaction. No key is in them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field


class FrameOut(BaseModel):
    """A moving figure at one step, and what is read off there."""

    svg: str
    says: str


class MovingOut(BaseModel):
    """What moves a figure: a slider over its frames, first at `start`."""

    label: str
    start: int
    frames: list[FrameOut]


class FigureOut(BaseModel):
    """A drawing with its text alternative. The SVG was checked when the pack was loaded."""

    svg: str
    alt: str
    moving: MovingOut | None


class SoundOut(BaseModel):
    """Blasts to play, and what they are in words where the author allows it."""

    blasts: list[Literal["short", "long", "gap", "bell", "gong"]]
    words: str | None


class PieceOut(BaseModel):
    """One pair, cell, gap or point: given beside right; null where nothing was answered."""

    label: str
    given: str | None
    right: str
    ok: bool | None


class RegionOut(BaseModel):
    """A place on a figure: circle x, y, r or rect x, y, width, height."""

    shape: Literal["circle", "rect"]
    numbers: list[float]


class ChoiceOut(BaseModel):
    id: str
    html: str
    region: RegionOut | None


class ChoicePartOut(BaseModel):
    """`choose`: how many are asked for, null for any number. `text_html`: of hot text."""

    kind: Literal["choice", "hot_text", "hotspot"]
    id: str
    label: str
    choices: list[ChoiceOut]
    choose: int | None
    text: list[str]
    figure: FigureOut | None


class TextEntryPartOut(BaseModel):
    kind: Literal["text_entry"]
    id: str
    label: str
    value: Literal["number", "angle", "time", "text", "expression"]
    unit: str
    symbols: list[str]


class SliderPartOut(BaseModel):
    kind: Literal["slider"]
    id: str
    label: str
    unit: str
    low: float
    high: float
    step: float


class TokenOut(BaseModel):
    id: str
    html: str


class OrderPartOut(BaseModel):
    kind: Literal["order"]
    id: str
    label: str
    items: list[TokenOut]


class SlotOut(BaseModel):
    """A slot. `offers`: ids of the tokens it takes, empty for all."""

    id: str
    html: str
    region: RegionOut | None
    offers: list[str]


class SlotsPartOut(BaseModel):
    """`text`: pieces of text with a slot after each but the last."""

    kind: Literal["match", "inline_choice", "gap_match", "graphic_gap_match"]
    id: str
    label: str
    slots: list[SlotOut]
    tokens: list[TokenOut]
    reuse: bool
    text: list[str]
    figure: FigureOut | None


class AssociatePartOut(BaseModel):
    kind: Literal["associate"]
    id: str
    label: str
    items: list[TokenOut]
    pairs: int


class CellOut(BaseModel):
    """A cell: text, or a field with its id."""

    id: str | None
    html: str
    value: Literal["number", "angle", "time", "text"] | None
    unit: str


class RowOut(BaseModel):
    label: str
    cells: list[CellOut]


class TablePartOut(BaseModel):
    kind: Literal["table_entry"]
    id: str
    label: str
    columns: list[str]
    rows: list[RowOut]


class AxisOut(BaseModel):
    low: float
    high: float
    step: float
    mark: float
    name: str
    clock: bool


class PointOut(BaseModel):
    x: float
    y: float


class HeightOut(BaseModel):
    at: float
    name: str
    unit: str
    digits: int


class PointsPartOut(BaseModel):
    """`count`: points to place. `draws`: what a graph makes of them. `readings`: unit in which an
    arrow's length is read. `heights`: of a line or a curve."""

    kind: Literal["select_point", "position_object", "graph"]
    id: str
    label: str
    x: AxisOut
    y: AxisOut
    count: int
    names: list[str]
    start: PointOut
    draws: Literal["arrows", "line", "tide"]
    readings: str | None
    heights: list[HeightOut]
    object: str
    figure: FigureOut | None


class ShadingPartOut(BaseModel):
    kind: Literal["grid_shading"]
    id: str
    label: str
    rows: int
    columns: int


class WrittenPartOut(BaseModel):
    """Kept and not marked."""

    kind: Literal["extended_text", "drawing", "upload"]
    id: str
    label: str


PartOut = Annotated[
    ChoicePartOut
    | TextEntryPartOut
    | SliderPartOut
    | OrderPartOut
    | SlotsPartOut
    | AssociatePartOut
    | TablePartOut
    | PointsPartOut
    | ShadingPartOut
    | WrittenPartOut,
    Field(discriminator="kind"),
]
