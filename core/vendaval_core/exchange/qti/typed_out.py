"""What is typed, set on a slider and placed on a plane, as QTI."""

from __future__ import annotations

from collections.abc import Mapping

from ...items.kinds.formula import FormulaKey
from ...items.kinds.number import NumberKey
from ...items.kinds.short_text import TextKey
from ...items.kinds.slider import SliderKey
from ...items.kinds.table_entry import TableKey, read_cells
from ...items.kinds.time_of_day import DAY, TimeKey
from ...items.numbers import read_number
from ...items.processing.nodes import Node, h, q
from ...items.processing.values import Container
from ...items.reading import Unreadable
from ...items.times import read_time
from . import rules_out as r
from .parts_out import Names, PartWritten, exactly, labelled, lost_words, part_written
from .prose_out import line

SLACK = 1e-9
Held = Mapping[str, Container]


def _field(name: str, length: int) -> Node:
    return q("text-entry-interaction", response_identifier=name, expected_length=length)


def _scored(condition: Node, names: Names) -> list[Node]:
    return [r.when(condition, r.sets(names.score, r.number(1)))]


def _float(name: str, value: float | None) -> Held:
    return {name: Container("single", "float", () if value is None else (float(value),))}


@part_written.register
def _(key: NumberKey, names: Names) -> PartWritten:
    if key.angle:
        return _angle(key, names)
    condition = r.near(names.response, key.answer, key.tolerance + SLACK)
    if key.figures is not None:
        same = q(
            "equal-rounded",
            r.number(key.answer),
            r.given(names.response),
            rounding_mode="significantFigures",
            figures=key.figures,
        )
        condition = q("or", condition, same)

    def values(response: str) -> Held:
        read = read_number(
            response, key.unit, units=key.units_taken, words=key.words, letter=key.letter
        )
        return _float(names.response, None if isinstance(read, Unreadable) else read.value)

    unit = [f" {key.unit}"] if key.unit else []
    said = [
        (r.near(names.response, float(one.value), key.tolerance + SLACK), one.says)
        for one in key.near_misses
    ]
    return PartWritten(
        labelled(key.label, h("p", _field(names.response, 8), *unit)),
        [r.response(names.response, "single", "float", [exactly(key.answer)])],
        _scored(condition, names),
        1,
        values,
        feedback=said,
        lost=[lost_words("units")] if key.unit else [],
    )


def _angle(key: NumberKey, names: Names) -> PartWritten:
    """Degrees and minutes, a field for each."""
    minutes = f"{names.response}_MIN"
    part = q("divide", r.given(minutes), r.number(60))
    whole = q("subtract" if key.answer < 0 else "sum", r.given(names.response), part)
    known = q("not", q("is-null", r.given(minutes)))
    tenths = round(abs(key.answer) * 60 * 10**6) / 10**6
    sign = "-" if key.answer < 0 else ""

    def values(response: str) -> Held:
        read = read_number(response, key.unit, angle=True, letter=key.letter)
        if isinstance(read, Unreadable):
            return {**_float(names.response, None), **_float(minutes, None)}
        degrees = int(abs(read.value) + 1e-9) * (-1 if read.value < 0 else 1)
        return {
            **_float(names.response, degrees),
            **_float(minutes, (abs(read.value) - abs(degrees)) * 60),
        }

    said = [
        (r.near(whole, float(one.value), key.tolerance + SLACK), one.says)
        for one in key.near_misses
    ]
    fields: list[Node | str] = [_field(names.response, 4), "° ", _field(minutes, 5), "′"]
    return PartWritten(
        labelled(key.label, h("p", *fields)),
        [
            r.response(names.response, "single", "float", [f"{sign}{int(tenths // 60)}"]),
            r.response(minutes, "single", "float", [f"{round(tenths % 60, 6):g}"]),
        ],
        _scored(q("and", known, r.near(whole, key.answer, key.tolerance + SLACK)), names),
        1,
        values,
        feedback=said,
    )


@part_written.register
def _(key: TimeKey, names: Names) -> PartWritten:
    minutes = f"{names.response}_MIN"
    total = q("sum", q("product", r.given(names.response), r.number(60)), r.given(minutes))

    def about(time: float) -> Node:
        reach = key.tolerance + SLACK
        around = [time]
        if time - reach < 0:
            around.append(time + DAY)
        if time + reach >= DAY:
            around.append(time - DAY)
        near = [r.near(total, one, reach) for one in around]
        return near[0] if len(near) == 1 else q("or", *near)

    def values(response: str) -> Held:
        read = read_time(response)
        if isinstance(read, Unreadable):
            return {**_float(names.response, None), **_float(minutes, None)}
        return {**_float(names.response, read // 60), **_float(minutes, read % 60)}

    hours, rest = divmod(round(key.answer), 60)
    fields: list[Node | str] = [_field(names.response, 2), " : ", _field(minutes, 2)]
    return PartWritten(
        labelled(key.label, h("p", *fields)),
        [
            r.response(names.response, "single", "float", [f"{hours}"]),
            r.response(minutes, "single", "float", [f"{rest}"]),
        ],
        _scored(about(key.answer), names),
        1,
        values,
        feedback=[(about(float(one.value)), one.says) for one in key.near_misses],
    )


def _words(name: str, accepted: list[str], case: bool) -> Node:
    rows = [
        q(
            "map-entry",
            map_key=text,
            mapped_value="1",
            case_sensitive="true" if case else "false",
        )
        for text in accepted
    ]
    return r.response(
        name, "single", "string", accepted[:1], q("mapping", *rows, default_value="0")
    )


@part_written.register
def _(key: TextKey, names: Names) -> PartWritten:
    longest = max(len(text) for text in key.accepted)

    def values(response: str) -> Held:
        said = response.strip()
        return {names.response: Container("single", "string", (said,) if said else ())}

    said = [
        (
            q(
                "string-match",
                r.word(str(one.value), "string"),
                r.given(names.response),
                case_sensitive="false",
            ),
            one.says,
        )
        for one in key.near_misses
    ]
    return PartWritten(
        labelled(key.label, h("p", _field(names.response, max(longest, 8)))),
        [_words(names.response, list(key.accepted), key.case)],
        [r.sets(names.score, q("map-response", identifier=names.response))],
        1,
        values,
        "map_response",
        said,
        lost=[] if key.exact else [lost_words("slips")],
    )


@part_written.register
def _(key: FormulaKey, names: Names) -> PartWritten:
    plain = key.answer.replace("**", "^")
    accepted = list(dict.fromkeys([key.answer, plain, plain.replace(" ", "").replace("*", "")]))

    def values(response: str) -> Held:
        said = response.strip()
        return {names.response: Container("single", "string", (said,) if said else ())}

    return PartWritten(
        labelled(key.label, h("p", _field(names.response, max(12, len(key.answer))))),
        [_words(names.response, accepted, case=True)],
        [r.sets(names.score, q("map-response", identifier=names.response))],
        1,
        values,
        "map_response",
        lost=[lost_words("forms")],
    )


@part_written.register
def _(key: SliderKey, names: Names) -> PartWritten:
    number = key.number
    body = q(
        "slider-interaction",
        response_identifier=names.response,
        lower_bound=exactly(key.low),
        upper_bound=exactly(key.high),
        step=exactly(key.step),
        step_label="true",
    )

    def values(response: str) -> Held:
        read = read_number(response, number.unit)
        return _float(names.response, None if isinstance(read, Unreadable) else read.value)

    reach = number.tolerance + SLACK
    unit = [h("p", number.unit)] if number.unit else []
    return PartWritten(
        labelled(key.label, body, *unit),
        [r.response(names.response, "single", "float", [exactly(number.answer)])],
        _scored(r.near(names.response, number.answer, reach), names),
        1,
        values,
        feedback=[
            (r.near(names.response, float(one.value), reach), one.says)
            for one in number.near_misses
        ],
    )


@part_written.register
def _(key: TableKey, names: Names) -> PartWritten:
    written = {
        cell.id: part_written(
            cell, Names(f"{names.response}_{cell.id}", f"{names.score}_{cell.id}")
        )
        for cell in key.cells
    }
    rows = []
    for label, cells in key.rows:
        row = [h("th", *line(label), scope="row")]
        for cell in cells:
            within = line(cell) if isinstance(cell, str) else _without_label(written[cell.id])
            row.append(h("td", *within))
        rows.append(h("tr", *row))
    head = h("tr", *(h("th", *line(column), scope="col") for column in key.columns))
    table = h("table", h("thead", head), h("tbody", *rows))
    scores = [r.given(f"{names.score}_{cell.id}") for cell in key.cells]
    total = scores[0] if len(scores) == 1 else q("sum", *scores)
    rules = [rule for one in written.values() for rule in one.rules]
    if key.partial:
        rules.append(r.sets(names.score, total))
    else:
        whole = q("equal", total, r.number(len(scores)), tolerance_mode="exact")
        rules.append(r.when(whole, r.sets(names.score, r.number(1))))

    def values(response: str) -> Held:
        typed = read_cells(response)
        return {
            name: held
            for id_, one in written.items()
            for name, held in one.values(typed.get(id_, "")).items()
        }

    return PartWritten(
        labelled(key.label, table),
        [
            *(node for one in written.values() for node in one.declarations),
            *(r.outcome(f"{names.score}_{cell.id}", "float", "0") for cell in key.cells),
        ],
        rules,
        len(scores) if key.partial else 1,
        values,
        feedback=[case for one in written.values() for case in one.feedback],
        lost=list(dict.fromkeys(what for one in written.values() for what in one.lost)),
    )


def _without_label(part: PartWritten) -> list[Node | str]:
    """What stands in a cell: the field and its unit."""
    last = part.body[-1]
    return list(last.within) if isinstance(last, Node) else [last]
