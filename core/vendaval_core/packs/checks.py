"""Proof that every version of a family can be asked and answered."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ..errors import ExpressionError, FamilyError
from ..items.drawn import Picture
from ..items.expressions import evaluate_number
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
from ..items.model import Family
from ..items.parts import NumberEntryPart
from ..items.plane import Axis, PointsKey, ShadingKey
from ..items.reading import folded
from ..items.svg import svg_faults
from ..items.versions import Version, make_version
from ..scoring.examples import right_response, wrong_response
from ..scoring.marking import Verdict, mark_part
from ..scoring.words import right_words
from .copied import copied_faults
from .language import language_faults, texts_of

_NUMBER = re.compile(r"-?[\d.]+")
BLASTS = {"short", "long", "gap", "bell", "gong"}


@dataclass(frozen=True, slots=True)
class Fault:
    """Something wrong with a family: the field, a version's seed, and what is wrong."""

    where: str
    seed: int
    what: str


def _same(texts: Sequence[str]) -> list[str]:
    counted = Counter(text.strip().casefold() for text in texts)
    return sorted(text for text, count in counted.items() if count > 1)


def _near_faults(key: PartKey) -> Iterator[str]:
    """Near misses that are right."""
    match key:
        case OrderKey() | SlotsKey() | AssociateKey():
            yield from _mix_up_faults(key)
        case PointsKey():
            for place in key.near_misses:
                if any(target.away(place.x, place.y) <= 1 for target in key.targets):
                    yield f"near miss {place.x:g}, {place.y:g} is right"
        case NumberKey() | TimeKey() | TextKey() | ExpressionKey() | ShadingKey():
            for miss in key.near_misses:
                if _is_right(key, miss.value):
                    yield f"near miss {miss.value} is right (answer {right_words(key)})"
            slips = [
                round(m.value, 6) if isinstance(m.value, float) else m.value
                for m in key.near_misses
            ]
            if len(set(slips)) < len(slips):
                yield f"two slips give one value: {sorted(map(str, slips))}"


def _is_right(
    key: NumberKey | TimeKey | TextKey | ExpressionKey | ShadingKey, value: float | str
) -> bool:
    match key:
        case TextKey():
            return folded(str(value)) in {folded(text) for text in key.accepted}
        case ExpressionKey():
            return mark_part(key, str(value)).verdict is Verdict.RIGHT
        case ShadingKey():
            return float(value) == key.answer
        case _:
            return abs(float(value) - key.answer) <= key.tolerance + 1e-9


def _mix_up_faults(key: OrderKey | SlotsKey | AssociateKey) -> Iterator[str]:
    """Mix-ups that the right answer makes too."""
    for one in key.mix_ups:
        match key:
            case OrderKey():
                right = key.right.index(one.place) < key.right.index(one.token)
            case SlotsKey():
                right = any(s.id == one.place and s.right == one.token for s in key.slots)
            case AssociateKey():
                right = tuple(sorted((one.place, one.token))) in key.pairs
        if right:
            yield f"the right answer makes a mix-up too: {one.says}"


def _twins(key: PartKey) -> Iterator[str]:
    """Choices, tokens or items that cannot be told apart."""
    texts: list[str] = []
    match key:
        case ChoiceKey():
            texts = [choice.text for choice in key.choices]
        case OrderKey() | AssociateKey():
            texts = [item.text for item in key.items]
        case SlotsKey():
            texts = [token.text for token in key.tokens]
            if key.kind == "match":
                yield from (
                    f"two slots are the same: {t}" for t in _same([s.text for s in key.slots])
                )
    if twice := _same(texts):
        yield f"two choices are the same: {twice}"


def _within(axis: Axis, value: float) -> bool:
    return axis.low <= value <= axis.high


def _snapped(axis: Axis, value: float) -> float:
    """The nearest value that a point can be put at."""
    steps = round((value - axis.low) / axis.step)
    return axis.low + axis.step * min(max(steps, 0), int((axis.high - axis.low) / axis.step + 1e-9))


def _places(key: PartKey) -> Iterator[str]:
    match key:
        case PointsKey():
            for target in key.targets:
                if not _within(key.x, target.x) or not _within(key.y, target.y):
                    yield f"target {target.x:g}, {target.y:g} lies outside the grid"
            for what, places in (("target", key.targets), ("near miss", key.near_misses)):
                for place in places:
                    if place.away(_snapped(key.x, place.x), _snapped(key.y, place.y)) > 1:
                        yield f"no point of the grid comes near to {what} {place.x:g}, {place.y:g}"
        case SlotsKey(kind="inline_choice" | "gap_match") | ChoiceKey(kind="hot_text"):
            count = len(key.slots) if isinstance(key, SlotsKey) else len(key.choices)
            missing = [i for i in range(count) if f"{{{{{i}}}}}" not in key.text]
            if missing:
                yield f"{{{{{missing[0]}}}}} does not stand in the text"
        case ChoiceKey(kind="hotspot"):
            if key.figure is None or any(choice.region is None for choice in key.choices):
                yield "a hotspot wants a figure, and a region for each choice"
        case NumberKey(slider=slider) if slider is not None:
            low, high, step = slider
            nearest = low + round((key.answer - low) / step) * step
            if not low <= key.answer <= high or abs(nearest - key.answer) > key.tolerance + 1e-9:
                yield f"the slider cannot be set to {key.answer:g}"


def _part_faults(key: PartKey) -> Iterator[str]:
    yield from _places(key)
    if not isinstance(key, WrittenKey):
        right = mark_part(key, right_response(key))
        if right.verdict is not Verdict.RIGHT:
            yield f"the answer as shown, {right_response(key)!r}, is not marked right: {right.says}"
        wrong = mark_part(key, wrong_response(key)).verdict
        if wrong not in {Verdict.WRONG, Verdict.PARTLY}:
            yield "an answer far off is not marked wrong"
    yield from _twins(key)
    for one in key.cells if isinstance(key, TableKey) else (key,):
        yield from _near_faults(one)


def picture_faults(picture: Picture | None) -> Iterator[str]:
    """What is wrong with a figure's SVG or its description."""
    if picture is None:
        return
    if not picture.alt.strip():
        yield "has no text alternative"
    for svg in [frame.svg for frame in picture.frames] or [picture.svg]:
        yield from svg_faults(svg)


def _figures(version: Version) -> Iterator[tuple[str, Picture | None]]:
    yield "figure", version.figure
    yield "solution_figure", version.solution_figure
    for key in version.parts:
        if isinstance(key, ChoiceKey | SlotsKey | PointsKey):
            yield f"parts.{key.id}", key.figure


def _moving_faults(version: Version) -> Iterator[tuple[str, str]]:
    for key in version.parts:
        figure = key.figure if isinstance(key, ChoiceKey | SlotsKey | PointsKey) else None
        if figure is not None and figure.frames:
            yield f"parts.{key.id}", "a figure that is answered on stands still"


def _range_faults(family: Family, version: Version) -> Iterator[tuple[str, str]]:
    for part, key in zip(family.parts, version.parts, strict=True):
        if not isinstance(part, NumberEntryPart) or not isinstance(key, NumberKey):
            continue
        try:
            least, most = (
                None if bound is None else evaluate_number(bound, version.variables)
                for bound in (part.least, part.most)
            )
        except ExpressionError as error:
            yield f"parts.{part.id}", str(error)
            continue
        if least is not None and key.answer < least:
            yield f"parts.{part.id}", f"answer {key.answer:g} is below {least:g}"
        if most is not None and key.answer > most:
            yield f"parts.{part.id}", f"answer {key.answer:g} is above {most:g}"


def _whole_faults(family: Family, version: Version) -> Iterator[tuple[str, str]]:
    texts = {"prompt": version.prompt, "title": version.title}
    yield from ((w, "an unfilled [[ ]] is left") for w, text in texts.items() if "[[" in text)
    if family.essential and all(isinstance(key, WrittenKey) for key in version.parts):
        yield (
            "parts",
            "an essential question wants a part that a rule marks",
        )
    if strange := set(version.sound) - BLASTS:
        yield "sound", f"“{min(strange)}” is none of {', '.join(sorted(BLASTS))}"
    for where, picture in _figures(version):
        yield from ((where, what) for what in picture_faults(picture))
    yield from _moving_faults(version)
    yield from _range_faults(family, version)
    yield from copied_faults(family, version)
    for where, text in texts_of(version):
        yield from ((where, what) for what in language_faults(text))


def _always_the_same(family: Family) -> Iterator[tuple[str, str]]:
    """Choices in a text or on a figure are not mixed: which are right has to be drawn."""
    if family.versions == 1:
        return
    try:
        versions = [make_version(family, seed) for seed in range(1, family.versions + 1)]
    except FamilyError:
        return
    for place, key in enumerate(versions[0].parts):
        if isinstance(key, ChoiceKey) and key.kind != "choice":
            right = {
                tuple(c.id for c in other.right)
                for other in (version.parts[place] for version in versions)
                if isinstance(other, ChoiceKey)
            }
            if len(right) == 1:
                yield f"parts.{key.id}", "the same places are right in every version"


def check_family(family: Family) -> list[Fault]:
    """Faults of all versions of a family, the first of each kind."""
    faults: dict[tuple[str, str], Fault] = {
        (where, what): Fault(where, 1, what) for where, what in _always_the_same(family)
    }
    for seed in range(1, family.versions + 1):
        found: list[tuple[str, str]] = []
        try:
            version = make_version(family, seed)
        except FamilyError as error:
            found.append((error.where, error.what))
        else:
            for key in version.parts:
                found += [(f"parts.{key.id}", what) for what in _part_faults(key)]
            found += _whole_faults(family, version)
        for where, what in found:
            faults.setdefault((where, _NUMBER.sub("", what)[:40]), Fault(where, seed, what))
    return list(faults.values())
