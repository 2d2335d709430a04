"""From figures to the pictures of one version, frame by frame where they move."""

from __future__ import annotations

import re
from collections.abc import Mapping

from vendaval_core.language import gettext

from ..errors import ExpressionError
from .drawn import Figure, Frame, Picture, Slider
from .expressions import Value, evaluate, evaluate_number
from .svg import clean_svg
from .template import fill

MOST_FRAMES = 61
_ATTRIBUTE = re.compile(r'"[^"]*"')


def _svg(text: str, values: Mapping[str, Value]) -> str:
    """SVG filled in and written anew. Numbers in attributes get the minus sign that SVG reads."""
    filled = fill(text, values)
    return clean_svg(_ATTRIBUTE.sub(lambda found: found.group().replace("\u2212", "-"), filled))


def _steps(slider: Slider, values: Mapping[str, Value]) -> tuple[list[float], int]:
    """The slider's values, and which is the first."""
    low, high, step, start = (
        evaluate_number(bound, values)
        for bound in (slider.low, slider.high, slider.step, slider.start)
    )
    if step <= 0 or high <= low:
        raise ExpressionError(gettext("a slider must rise from low to high in steps above 0"))
    count = round((high - low) / step) + 1
    if count > MOST_FRAMES:
        raise ExpressionError(
            gettext("a slider has at most {most_frames} steps, not {count}").format(
                most_frames=MOST_FRAMES, count=count
            )
        )
    first = round((start - low) / step)
    if not 0 <= first < count:
        raise ExpressionError(gettext("a slider must start between low and high"))
    return [round(low + i * step, 9) for i in range(count)], first


def make_picture(figure: Figure, values: Mapping[str, Value]) -> Picture:
    """Make the picture of a figure. ExpressionError says what can't be worked out."""
    alt = fill(figure.alt, values)
    if figure.slider is None:
        return Picture(_svg(figure.svg, values), alt)
    steps, start = _steps(figure.slider, values)
    frames = []
    for at in steps:
        here = dict(values) | {figure.slider.name: at}
        for name, expression in figure.values:
            here[name] = evaluate(expression, here)
        frames.append(Frame(_svg(figure.svg, here), fill(figure.says, here)))
    label = fill(figure.slider.label, values)
    return Picture(frames[start].svg, alt, label, start, tuple(frames))
