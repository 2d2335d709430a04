"""What is placed on a plane, drawn, written at length or sent, as QTI."""

from __future__ import annotations

from collections.abc import Mapping

from ...items.kinds.drawing import DrawingKey
from ...items.kinds.extended_text import WrittenKey
from ...items.kinds.points import PointsKey
from ...items.kinds.upload import UploadKey
from ...items.kinds.written import PersonKey
from ...items.mark import lines
from ...items.processing.nodes import Node, h, q
from ...items.processing.values import BaseType, Cardinality, Container
from . import rules_out as r
from .figures_out import Plane, blank
from .parts_out import Names, PartWritten, labelled, lost_words, part_written
from .prose_out import blocks

Held = Mapping[str, Container]


@part_written.register
def _(key: PointsKey, names: Names) -> PartWritten:
    plane = Plane.of(key)
    alt = key.figure.alt if key.figure is not None else key.label or key.x.name
    on = plane.drawn(alt, key.figure)
    image = on.image()
    responses = [names.response]
    if key.in_order and len(key.targets) > 1:
        responses = [f"{names.response}_{place}" for place in range(1, len(key.targets) + 1)]
    body: list[Node | str] = []
    declared, rules = [], []
    for place, name in enumerate(responses):
        mine = key.targets if len(responses) == 1 else key.targets[place : place + 1]
        areas = []
        for target in mine:
            shape, at = plane.place(target.x, target.y, target.reach)
            areas.append(q("area-map-entry", shape=shape, coords=at, mapped_value="1"))
        many = len(mine)
        many_points = "single" if many == 1 else "multiple"
        points = [_pixels(plane, target.x, target.y) for target in mine]
        declared.append(
            r.response(
                name,
                many_points,
                "point",
                points,
                q("area-mapping", *areas, default_value="0", upper_bound=f"{many}"),
            )
        )
        if len(responses) > 1:
            body.append(h("p", mine[0].said or str(place + 1)))
        body.append(
            q("select-point-interaction", image, response_identifier=name, max_choices=many)
        )
        rules.append(r.adds(names.score, q("map-response-point", identifier=name)))

    def values(response: str) -> Held:
        found = []
        for one in lines(response):
            x, y = (float(number) for number in one.split())
            found.append(plane.pixel(x, y))
        if len(responses) == 1:
            cardinality: Cardinality = "single" if len(key.targets) == 1 else "multiple"
            return {names.response: Container(cardinality, "point", tuple(found))}
        return {
            name: Container("single", "point", (point,))
            for name, point in zip(responses, found, strict=False)
        }

    said = []
    for miss in key.near_misses:
        shape, at = plane.place(miss.x, miss.y, miss.reach)
        there = [q("inside", r.given(name), shape=shape, coords=at) for name in responses]
        said.append((there[0] if len(there) == 1 else q("or", *there), miss.said))
    drawn_too = key.kind == "graph"
    return PartWritten(
        labelled(key.label, *body),
        declared,
        rules,
        len(key.targets),
        values,
        "map_response_point" if len(responses) == 1 else "",
        said,
        [on],
        lost=[lost_words("drawn")] if drawn_too else [],
    )


def _pixels(plane: Plane, x: float, y: float) -> str:
    across, down = plane.pixel(x, y)
    return f"{across:.10g} {down:.10g}"


def _by_person(key: PersonKey, names: Names, body: Node, base: str) -> PartWritten:
    scorer = [*blocks(key.model)]
    if key.criteria:
        scorer.append(h("ul", *(h("li", f"{one.points}: {one.says}") for one in key.criteria)))

    def values(response: str) -> Held:
        kind: BaseType = "string" if base == "string" else "file"
        said = response.strip()
        return {names.response: Container("single", kind, (said,) if said else ())}

    return PartWritten(
        labelled(key.label, body),
        [r.response(names.response, "single", base, [])],
        [],
        max(1, sum(one.points for one in key.criteria)),
        values,
        scorer=scorer,
    )


@part_written.register
def _(key: WrittenKey, names: Names) -> PartWritten:
    said: dict[str, str | int] = {"response_identifier": names.response, "expected_lines": 5}
    return _by_person(key, names, q("extended-text-interaction", **said), "string")


@part_written.register
def _(key: DrawingKey, names: Names) -> PartWritten:
    sheet = blank()
    image = h("img", src=sheet.name, alt="", width=f"{sheet.wide:g}", height=f"{sheet.high:g}")
    body = q("drawing-interaction", image, response_identifier=names.response)
    found = _by_person(key, names, body, "file")
    return PartWritten(
        found.body,
        found.declarations,
        (),
        found.of,
        found.values,
        files=[sheet],
        scorer=found.scorer,
    )


@part_written.register
def _(key: UploadKey, names: Names) -> PartWritten:
    body = q("upload-interaction", response_identifier=names.response)
    return _by_person(key, names, body, "file")
