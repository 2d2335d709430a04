"""QTI's interactions in which something is typed, set, placed, drawn or sent, as our parts."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import cast

from vendaval_core.language import gettext

from ...items.kinds.plane import BOARD_MARGIN, BOARD_WIDE, Axis, board_high
from ...items.processing.declarations import Declaration
from ...items.processing.nodes import Node
from ..sheet_rows import as_text
from .asked import Asked, NotTaken, Plain, Reading, labelled_prompt, most, naming, part_id, said
from .chosen_in import figure
from .pictures_in import Pictured

MOST_DIGITS, MOST_TARGETS, MOST_ACCEPTED = 6, 6, 20
NEAR = 0.02
NUMBERS = frozenset({"float", "integer", "duration"})


def text_entry(reading: Reading, node: Node) -> Asked:
    """A number or a few words."""
    declared = reading.variable(node)
    id_ = part_id(declared.identifier)
    if node.get("pattern-mask"):
        reading.note(gettext("the pattern that an answer has to have while it is typed"))
    if declared.base in NUMBERS:
        part = _number(reading, declared, node)
        return Asked({**part, "id": id_}, naming(declared.identifier))
    if declared.base not in {"string", "identifier", "intOrIdentifier"}:
        raise NotTaken(
            gettext("what is typed is a {base}, which is not taken").format(base=declared.base),
            node.line,
        )
    return Asked({**_words(reading, declared, node), "id": id_}, naming(declared.identifier))


def _number(reading: Reading, declared: Declaration, node: Node) -> dict[str, Plain]:
    value = float(cast(float, reading.right(declared, node)[0]))
    part: dict[str, Plain] = {"kind": "text_entry", "value": "number", "answer": plain(value)}
    if digits := digits_of(value):
        part["digits"] = digits
    return part | tolerance(reading.rules, declared.identifier)


def plain(value: float) -> int | float:
    """A number without a useless point."""
    return int(value) if value.is_integer() and abs(value) < 1e15 else value


def digits_of(value: float) -> int:
    """Decimals in which a number is shown."""
    fits = (n for n in range(MOST_DIGITS) if round(value, n) == value)
    return next(fits, MOST_DIGITS)


def tolerance(rules: Sequence[Node], name: str) -> dict[str, Plain]:
    """How near a number has to come, where the rules compare it so."""
    for one in _comparing(rules, name):
        numbers = [float(text) for text in one.get("tolerance").split() if _is_number(text)]
        mode = one.get("tolerance-mode", "exact")
        if one.name == "qti-equal" and numbers and mode == "absolute":
            return {"tolerance": plain(max(numbers))} if max(numbers) else {}
        if one.name == "qti-equal" and numbers and mode == "relative":
            return {"relative": max(numbers) / 100} if 0 < max(numbers) < 100 else {}
        if one.name == "qti-equal-rounded" and one.get("figures").isdigit():
            figures = int(one.get("figures"))
            if one.get("rounding-mode") == "decimalPlaces":
                return {"tolerance": 0.5 * 10.0**-figures}
            return {"figures": figures} if 1 <= figures <= 6 else {}
    return {}


def _comparing(rules: Sequence[Node], name: str) -> Iterator[Node]:
    for rule in rules:
        for node in rule.walk():
            if node.name in {"qti-equal", "qti-equal-rounded"} and any(
                one.name == "qti-variable" and one.get("identifier") == name for one in node.walk()
            ):
                yield node


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


def _words(reading: Reading, declared: Declaration, node: Node) -> dict[str, Plain]:
    right = [said(one) for one in reading.right(declared, node)]
    mapping = declared.mapping
    case = True
    if mapping is not None:
        full = max([*mapping.points.values(), 0.0])
        right += [said(key) for key, worth in mapping.points.items() if worth == full > 0]
        case = not any(key.casefold() in mapping.any_case for key in right)
    elif any(
        one.name == "qti-string-match" and one.get("case-sensitive", "true") in {"false", "0"}
        for rule in reading.rules
        for one in rule.walk()
    ):
        case = False
    accepted = list(dict.fromkeys(as_text(text) for text in right if text.strip()))
    if not accepted:
        raise NotTaken(gettext("the file doesn’t say what is right"), node.line)
    if len(accepted) > MOST_ACCEPTED:
        reading.note(gettext("accepted answers beyond the first {most}").format(most=MOST_ACCEPTED))
    part: dict[str, Plain] = {
        "kind": "text_entry",
        "value": "text",
        "accepted": accepted[:MOST_ACCEPTED],
    }
    if case:
        part["case"] = True
    return part | {"accents": True, "exact": True}


def extended_text(reading: Reading, node: Node) -> Asked:
    """A text in one's own words, marked by a person; where rules mark it, a few words."""
    declared = reading.variable(node)
    if not declared.correct.null and declared.base == "string" and reading.rules:
        return text_entry(reading, node)
    model = "; ".join(said(one) for one in declared.correct.values) or reading.model
    if not model:
        reading.remark(gettext("No model answer is in the file."))
    part = {
        "kind": "extended_text",
        "id": part_id(declared.identifier),
        "model": as_text(model) or gettext("The file has no model answer."),
    }
    return Asked(part, naming(declared.identifier), labelled_prompt(reading, node))


def by_person(reading: Reading, node: Node) -> Asked:
    """A drawing, or a file."""
    declared = reading.variable(node)
    drawing = node.name == "qti-drawing-interaction"
    part = {
        "kind": "drawing" if drawing else "upload",
        "id": part_id(declared.identifier),
        "model": reading.model or gettext("The file has no model answer."),
    }
    if drawing and any(one.name in {"img", "object"} for one in node.walk()):
        on = reading.on_picture(node)
        reading.figures.append(("", on))
    return Asked(part, naming(declared.identifier), labelled_prompt(reading, node))


def slider(reading: Reading, node: Node) -> Asked:
    """A number on a line."""
    declared = reading.variable(node)
    value = float(cast(float, reading.right(declared, node)[0]))

    def bound(name: str, default: str) -> int | float:
        text = node.get(name, default) or default
        if not _is_number(text):
            raise NotTaken(gettext("“{text}” is no number").format(text=text[:20]), node.line)
        return plain(float(text))

    part: dict[str, Plain] = {
        "kind": "slider",
        "id": part_id(declared.identifier),
        "low": bound("lower-bound", "0"),
        "high": bound("upper-bound", "100"),
        "step": bound("step", "1"),
        "answer": plain(value),
    }
    if part["step"] <= 0 or part["high"] <= part["low"]:
        raise NotTaken(gettext("the slider has no room to move"), node.line)
    if digits := digits_of(value):
        part["digits"] = digits
    near = tolerance(reading.rules, declared.identifier)
    if "tolerance" in near:
        part["tolerance"] = near["tolerance"]
    return Asked(part, naming(declared.identifier), labelled_prompt(reading, node))


def points(reading: Reading, node: Node, on_stage: Node | None = None) -> Asked:
    """Points on a picture. on_stage: what holds the picture, where several share it."""
    declared = reading.variable(node)
    on = reading.on_picture(on_stage or node)
    targets: list[dict[str, Plain]] = []
    exact = True
    if declared.areas is not None:
        for shape, numbers, worth in declared.areas.areas:
            if worth > 0:
                targets.append(target(shape, numbers, on.high))
    if not targets:
        exact = False
        reach = round(on.wide * NEAR, 2)
        for x, y in cast(Sequence[tuple[float, float]], reading.right(declared, node)):
            targets.append({"x": x, "y": round(on.high - y, 3), "tolerance": reach})
        reading.remark(gettext("The file wants a single pixel to be met. Near it is right too."))
    most(len(targets), MOST_TARGETS, gettext("points"), node)
    placing = node.name == "qti-position-object-interaction"
    part: dict[str, Plain] = {
        "kind": "position_object" if placing else "select_point",
        "id": part_id(declared.identifier),
        "figure": figure(_on_board(on)),
        "x": _axis(on.wide),
        "y": _axis(on.high),
        "targets": targets,
    }
    return Asked(
        part,
        naming(declared.identifier, height=on.high),
        labelled_prompt(reading, node),
        exact,
    )


def _on_board(on: Pictured) -> Pictured:
    """A picture where the player's board has its plane: a pixel of it is a step of the axes."""
    high = board_high(Axis(0, on.wide, 1, on.wide), Axis(0, on.high, 1, on.high))
    across, down = BOARD_WIDE - 2 * BOARD_MARGIN, high - 2 * BOARD_MARGIN
    scale = f"scale({across / on.wide:.6g} {down / on.high:.6g})"
    moved = f"translate({BOARD_MARGIN:g} {BOARD_MARGIN:g}) {scale}"
    return on.moved(f'<g transform="{moved}">{on.inner}</g>', BOARD_WIDE, high)


def _axis(length: float) -> dict[str, Plain]:
    """An axis of pixels, in steps that arrow keys can go."""
    step = max(1, round(length / 200))
    return {"low": 0, "high": plain(length), "step": step, "mark": plain(length)}


def target(shape: str, numbers: Sequence[float], height: float) -> dict[str, Plain]:
    """A place with its reach: of an outline that is neither circle nor rectangle, its middle."""
    if shape == "circle":
        x, y, reach = numbers
        return {"x": x, "y": round(height - y, 6), "tolerance": reach}
    if shape == "rect":
        left, top, right, bottom = numbers
        wide, high = abs(right - left) / 2, abs(bottom - top) / 2
        x, y = (left + right) / 2, (top + bottom) / 2
        return {"x": x, "y": round(height - y, 6), "tolerance": [wide, high]}
    if shape == "ellipse":
        x, y, wide, high = numbers
        return {"x": x, "y": round(height - y, 6), "tolerance": min(wide, high)}
    xs, ys = numbers[::2], numbers[1::2]
    x, y = sum(xs) / max(1, len(xs)), sum(ys) / max(1, len(ys))
    reach = min([max(xs, default=1) - min(xs, default=0), max(ys, default=1) - min(ys, default=0)])
    return {"x": round(x, 3), "y": round(height - y, 3), "tolerance": round(reach / 4, 3)}
