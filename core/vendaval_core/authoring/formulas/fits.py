"""Formulas that explain examples: expressions of a space, two of them joined, and either of them
through a last step such as an angle within the circle, or the next whole number."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from .space import ADD, DEAR_JOIN, DIV, JOIN, MUL, SUB, Array, Space, joined, values_of

# A number used again costs more than another one would, and one that is not used at all too.
AGAIN, UNUSED, LAST_STEP = 2, 3, 3
MOST_FITS = 400
ROWS_AT_ONCE = 400
MOST_IN_REACH = 3000
SMALL = 1e-9


@dataclass(frozen=True, slots=True)
class Answers:
    """Answers that were given, each within what its rounding leaves open. low, high: ends of that.
    turn: 360 for directions, 1440 for times of day, 0 for others."""

    low: Array
    high: Array
    turn: int = 0


@dataclass(frozen=True, slots=True)
class Fit:
    """A formula that explains the examples. price: the smaller the likelier. values: on examples
    and versions. uses_all: whether it uses every number."""

    text: str
    price: float
    values: Array
    uses_all: bool


@dataclass(frozen=True, slots=True)
class _Step:
    """A last step. form: around an expression. low, high: what the expression must lie within so
    that the step gives the answers."""

    form: str
    cost: int
    low: Array
    high: Array


def _steps(answers: Answers, whole: bool) -> Iterator[_Step]:
    low, high = answers.low, answers.high
    yield _Step("{}", 0, low, high)
    if answers.turn:
        for turns in (-1, 1):
            off = turns * answers.turn
            yield _Step(f"({{}}) % {answers.turn}", 1, low + off, high + off)
        return
    if whole:
        middle = (low + high) / 2
        yield _Step("ceil({})", LAST_STEP, middle - 1 + SMALL, middle)
        yield _Step("floor({})", LAST_STEP, middle, middle + 1 - SMALL)
    if (low > 0).all():
        yield _Step("sqrt({})", LAST_STEP, low * low, high * high)
    if (np.abs(low) < 90).all() and (np.abs(high) < 90).all() and not whole:
        yield _Step("asin({})", LAST_STEP, np.sin(np.radians(low)), np.sin(np.radians(high)))


def fits(
    space: Space, answers: Answers, whole: bool, numbers: int, stop: Callable[[], bool]
) -> list[Fit]:
    """Formulas that explain the examples, the likeliest first. whole: whether answers are whole
    numbers. numbers: how many numbers of the question there are. stop: see `build`."""
    known = len(answers.low)
    found: dict[bytes, Fit] = {}
    for step in _steps(answers, whole):
        inside = (space.values[:, :known] >= step.low) & (space.values[:, :known] <= step.high)
        for row in map(int, np.flatnonzero(inside.all(axis=1))):
            mask = int(space.mask[row])
            price = _price(int(space.cost[row]), int(space.uses[row]), mask, numbers)
            uses_all = mask.bit_count() == numbers
            _keep(found, space.text(row), space.values[row], price, step, uses_all)
    best = min((fit.price for fit in found.values()), default=np.inf)
    for step in _steps(answers, whole):
        _join(space, step, known, numbers, found, best, stop)
    return sorted(found.values(), key=lambda fit: fit.price)[:MOST_FITS]


def _price(cost: int, uses: int, mask: int, numbers: int) -> float:
    distinct = mask.bit_count()
    return cost + AGAIN * (uses - distinct) + UNUSED * (numbers - distinct)


def _keep(
    found: dict[bytes, Fit], text: str, values: Array, price: float, step: _Step, uses_all: bool
) -> None:
    made = _after(step.form, values)
    key = np.round(made, 6).tobytes()
    if key not in found or found[key].price > price + step.cost:
        found[key] = Fit(step.form.format(text), price + step.cost, made, uses_all)


def _after(form: str, values: Array) -> Array:
    if "%" in form:
        return np.mod(values, float(form.rpartition("% ")[2]))
    name = form.partition("(")[0]
    with np.errstate(all="ignore"):
        if name == "ceil":
            return np.ceil(values - SMALL)
        if name == "floor":
            return np.floor(values + SMALL)
        if name == "sqrt":
            return np.sqrt(values)
        if name == "asin":
            return np.degrees(np.arcsin(values))
    return values


def _join(
    space: Space,
    step: _Step,
    known: int,
    numbers: int,
    found: dict[bytes, Fit],
    best: float,
    stop: Callable[[], bool],
) -> None:
    """Two expressions joined: for each one, what the other must be is looked up."""
    column = _sharpest(space, step)
    order = np.argsort(space.values[:, column], kind="stable")
    line = space.values[order, column]
    for start in range(0, len(space.values), ROWS_AT_ONCE):
        if stop() or len(found) > 4 * MOST_FITS:
            return
        rows = np.arange(start, min(start + ROWS_AT_ONCE, len(space.values)))
        if best < np.inf and space.cost[start] + 2 > best + 4:
            return
        for op in (ADD, SUB, MUL, DIV):
            first = space.values[rows][:, :known]
            low, high = _other(op, first, step.low, step.high)
            begins = np.searchsorted(line, low[:, column] - SMALL)
            ends = np.searchsorted(line, high[:, column] + SMALL)
            for at in map(int, np.flatnonzero(ends > begins)):
                if stop():
                    return
                begin, end = int(begins[at]), int(min(ends[at], begins[at] + MOST_IN_REACH))
                others = order[begin:end]
                values = space.values[others][:, :known]
                fine = ((values >= low[at] - SMALL) & (values <= high[at] + SMALL)).all(axis=1)
                for other in others[fine][:20]:
                    _keep_joined(space, op, int(rows[at]), int(other), step, numbers, found)


def _sharpest(space: Space, step: _Step) -> int:
    """The example whose answer leaves least open, so that least has to be looked at."""
    spread = np.maximum(np.std(space.values[:, : len(step.low)], axis=0), 1e-6)
    return int(np.argmin((step.high - step.low) / spread))


def _other(op: int, first: Array, low: Array, high: Array) -> tuple[Array, Array]:
    """Ends of what has to be joined to a first one: a sum's, what it is taken from, a factor, what
    is divided by it."""
    if op == ADD:
        return low - first, high - first
    if op == SUB:
        return low + first, high + first
    with np.errstate(all="ignore"):
        one, two = (low / first, high / first) if op == MUL else (low * first, high * first)
    fine = np.isfinite(one) & np.isfinite(two)
    return np.where(fine, np.minimum(one, two), 1), np.where(fine, np.maximum(one, two), 0)


def _keep_joined(
    space: Space,
    op: int,
    row: int,
    other: int,
    step: _Step,
    numbers: int,
    found: dict[bytes, Fit],
) -> None:
    # A difference and a quotient begin with what was looked up.
    left, right = (other, row) if op in {SUB, DIV} else (row, other)
    with np.errstate(all="ignore"):
        values = values_of(op, space.values[left], space.values[right])
    if not np.isfinite(values).all():
        return
    mask = int(space.mask[row] | space.mask[other])
    uses = int(space.uses[row] + space.uses[other])
    cost = int(space.cost[row] + space.cost[other]) + (DEAR_JOIN if op in {MUL, DIV} else JOIN)
    text, _ = joined(op, space.bound(left), space.bound(right))
    price = _price(cost, uses, mask, numbers)
    _keep(found, text, values, price, step, mask.bit_count() == numbers)
