"""Every small expression over some numbers, each value once, the cheapest way to write it first.

An expression's values on all examples and on all versions to come are one row: two expressions with
equal rows are the same formula, and only the cheaper is kept.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

# What things cost. A constant is dearer than a number of the question, which every formula needs.
VARIABLE, COMMON, CONSTANT, JOIN, FUNCTION, DEAR_JOIN = 2, 3, 4, 1, 3, 2
COMMON_ONES = {1.0, 2.0, 60.0, 100.0}
MOST_ROWS = 60_000
HUGE = 1e7
DIGITS = 7
NOUGHT = 1e-12

LEAF, ADD, SUB, MUL, DIV, SQRT, SQUARE, SIN, COS, TAN = range(10)
SIGNS = {ADD: "+", SUB: "-", MUL: "*", DIV: "/"}
NAMES = {SQRT: "sqrt", SIN: "sin", COS: "cos", TAN: "tan"}


@dataclass(slots=True)
class Space:
    """Expressions by row. values: rows of examples and versions. cost, uses: of numbers of the
    question with repeats. mask: a bit for each of them that stands in it. made: how: what joins
    which rows; a leaf has its name's place there."""

    names: tuple[str, ...]
    values: Array
    cost: NDArray[np.int64]
    uses: NDArray[np.int64]
    mask: NDArray[np.int64]
    made: NDArray[np.int64]

    def text(self, row: int) -> str:
        """An expression in the language of packs."""
        return self.bound(row)[0]

    def bound(self, row: int) -> tuple[str, int]:
        """An expression with how strongly it binds; see `joined`."""
        op, first, second = (int(one) for one in self.made[row])
        if op == LEAF:
            return self.names[first], 3
        if op == SQUARE:
            inner = bracketed(*self.bound(first), 3)
            return f"{inner} * {inner}", 2
        if op in NAMES:
            return f"{NAMES[op]}({self.text(first)})", 3
        return joined(op, self.bound(first), self.bound(second))


def bracketed(text: str, binds: int, least: int) -> str:
    """A text in brackets where it binds less than it has to."""
    return f"({text})" if binds < least else text


def joined(op: int, first: tuple[str, int], second: tuple[str, int]) -> tuple[str, int]:
    """Two texts joined, each with how strongly it binds: 1 sums, 2 products, 3 anything whole."""
    binds = 1 if op in {ADD, SUB} else 2
    left = bracketed(*first, binds)
    right = bracketed(*second, binds + (op in {SUB, DIV}))
    return f"{left} {SIGNS[op]} {right}", binds


def build(
    variables: Mapping[str, Sequence[float]],
    constants: Sequence[float],
    most_cost: int,
    stop: Callable[[], bool],
) -> Space:
    """Every expression up to a cost, as long as time and room last. variables: values of each
    number on all examples and versions. stop: whether the time for it is over."""
    columns = len(next(iter(variables.values())))
    space, names = _Growing(columns), (*variables, *map(_plain, constants))
    for place, values in enumerate(variables.values()):
        space.keep(np.asarray(values, float), VARIABLE, 1, 1 << place, (LEAF, place, 0))
    for place, constant in enumerate(constants, start=len(variables)):
        cost = COMMON if constant in COMMON_ONES else CONSTANT
        space.keep(np.full(columns, float(constant)), cost, 0, 0, (LEAF, place, 0))
    for cost in range(1, most_cost + 1):
        for row in list(space.functions(cost)):
            space.keep(*row)
        for op in (ADD, MUL, SUB, DIV):
            for first, second in space.pairs(cost - (DEAR_JOIN if op in {MUL, DIV} else JOIN), op):
                space.join(op, first, second, cost)
                if space.full or stop():
                    return space.done(names)
    return space.done(names)


def _plain(constant: float) -> str:
    return f"{constant:g}"


class _Growing:
    def __init__(self, columns: int) -> None:
        self._seen: set[bytes] = set()
        self.values: Array = np.empty((MOST_ROWS, columns))
        self.cost = np.zeros(MOST_ROWS, np.int64)
        self.uses = np.zeros(MOST_ROWS, np.int64)
        self.mask = np.zeros(MOST_ROWS, np.int64)
        self.made = np.zeros((MOST_ROWS, 3), np.int64)
        self.count = 0
        self._by_cost: dict[int, list[int]] = {}

    @property
    def full(self) -> bool:
        return self.count >= MOST_ROWS

    def done(self, names: tuple[str, ...]) -> Space:
        end = self.count
        of_rows = self.cost[:end], self.uses[:end], self.mask[:end], self.made[:end]
        return Space(names, self.values[:end], *of_rows)

    def keep(
        self, values: Array, cost: int, uses: int, mask: int, made: tuple[int, int, int]
    ) -> None:
        if self.full or not _usable(values):
            return
        key = _key(values)
        if key in self._seen:
            return
        self._seen.add(key)
        row = self.count
        self.values[row], self.cost[row], self.uses[row] = values, cost, uses
        self.mask[row], self.made[row] = mask, made
        self._by_cost.setdefault(cost, []).append(row)
        self.count += 1

    def functions(self, cost: int) -> Iterator[tuple[Array, int, int, int, tuple[int, int, int]]]:
        for row in self._by_cost.get(cost - FUNCTION, []):
            if self.mask[row] == 0:
                continue
            values, own = self.values[row], (cost, int(self.uses[row]), int(self.mask[row]))
            if (values >= 0).all():
                yield np.sqrt(values), *own, (SQRT, row, 0)
            yield values * values, *own, (SQUARE, row, 0)
            if np.abs(values).max() > 3:
                turned = np.radians(values)
                for op, of in ((SIN, np.sin), (COS, np.cos), (TAN, np.tan)):
                    # What is nought but for the machine's rounding would divide everything.
                    yield np.where(np.abs(of(turned)) < NOUGHT, 0.0, of(turned)), *own, (op, row, 0)

    def pairs(self, cost: int, op: int) -> Iterator[tuple[int, NDArray[np.int64]]]:
        """A row with all those whose costs make up a sum; either way round where that matters."""
        for left in sorted(self._by_cost):
            right = cost - left
            if right not in self._by_cost or (op in {ADD, MUL} and left > right):
                continue
            others = np.asarray(self._by_cost[right])
            for row in list(self._by_cost[left]):
                yield row, others

    def join(self, op: int, first: int, others: NDArray[np.int64], cost: int) -> None:
        with np.errstate(all="ignore"):
            made = values_of(op, self.values[first], self.values[others])
        fine = np.isfinite(made).all(axis=1) & (np.abs(made).max(axis=1) < HUGE)
        plain = (self.mask[first] == 0) & (self.mask[others] == 0)
        for at in np.flatnonzero(fine & ~plain):
            other = int(others[at])
            self.keep(
                made[at],
                cost,
                int(self.uses[first] + self.uses[other]),
                int(self.mask[first] | self.mask[other]),
                (op, first, other),
            )
            if self.full:
                return


def values_of(op: int, first: Array, second: Array) -> Array:
    """What joining gives; not finite where it can't be worked out."""
    if op == ADD:
        return first + second
    if op == SUB:
        return first - second
    if op == MUL:
        return first * second
    return np.divide(first, second)


def apart(one: Array, other: Array, turn: int) -> Array:
    """How far values are apart; around the circle or the clock where `turn` is not nought."""
    off = np.abs(one - other)
    return np.minimum(np.mod(off, turn), turn - np.mod(off, turn)) if turn else off


def _usable(values: Array) -> bool:
    return bool(np.isfinite(values).all() and np.abs(values).max() < HUGE)


def _key(values: Array) -> bytes:
    scale = 10.0 ** (DIGITS - 1 - np.floor(np.log10(np.maximum(np.abs(values), 1e-12))))
    return bytes((np.round(values * scale) / scale + 0.0).astype(np.float32).tobytes())
