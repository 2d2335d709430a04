"""Which slip explains wrong answers that no near miss covers: first small changes to the right
formula, then any small formula; named only where it explains far more than chance would."""

from __future__ import annotations

import ast
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.stats import binom

from vendaval_core.authoring.formulas.space import apart, build

from .arithmetic import Array, Node, NotArithmetic, worked_out
from .changes import changes

# So many wrong answers at least, from so many versions, and such a share of all.
FEWEST, FEWEST_VERSIONS, LEAST_SHARE = 4, 2, 0.1
CHANCE = 0.1
ABOUT_AS_LIKELY = 60
MOST_LOOKED_AT = 60
SHUFFLES = 40
JITTERS = np.array([-0.45, -0.32, -0.21, -0.13, -0.07, 0.07, 0.13, 0.21, 0.32, 0.45])
MOST_NAMED = 3
SMALL_COST = 12
_CALLED = re.compile(r"([a-z_]+)\(")
CONSTANTS = (1.0, 2.0, 10.0, 60.0, 100.0, 180.0, 360.0)


@dataclass(frozen=True, slots=True)
class Wrong:
    """Wrong answers that no near miss covers. versions: of each, by place; learners: of each."""

    answers: Array
    versions: NDArray[np.int64]
    learners: NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class Known:
    """A family's formula on its versions. every: values of each variable by version. shown: of what
    the question shows, by the expression. within: what rounding leaves open. covered: values that
    near misses have. turn: see `Answers`."""

    node: Node
    every: Mapping[str, Array]
    shown: Mapping[str, Array]
    within: float
    covered: Sequence[Array]
    turn: int = 0

    @property
    def versions(self) -> int:
        """How many there are."""
        return len(next(iter(self.every.values())))


@dataclass(frozen=True, slots=True)
class Slip:
    """A slip and what it explains. formula: in the language of packs. how: what goes wrong, in
    words, "" for a formula of its own. also: others that fit about as well. fails: versions where
    it would be right, so that it tells nothing there."""

    formula: str
    how: str
    answers: int
    learners: int
    versions: int
    of: int
    also: tuple[str, ...] = ()
    fails: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class _Candidates:
    """Formulas that might be the slip. rows: what each gives by version. tried: how many are about
    as simple, which chance has to be held against."""

    texts: list[str]
    hows: list[str]
    rows: Array
    tried: NDArray[np.int64]


def slips(known: Known, wrong: Wrong, stop: Callable[[], bool]) -> list[Slip]:
    """Slips that explain wrong answers, the one that explains most first; none where wrong answers
    are noise. stop: whether the time for any formula is over; see `build`."""
    if len(wrong.answers) < FEWEST:
        return []
    changed, any_ = _changed(known), _any_formula(known, stop)
    both = _Candidates(
        [*changed.texts, *any_.texts],
        [*changed.hows, *any_.hows],
        np.concatenate([changed.rows, any_.rows]),
        np.concatenate([changed.tried, any_.tried]),
    )
    return _named(known, wrong, both)


def _changed(known: Known) -> _Candidates:
    texts, hows, rows = [], [], []
    for one in changes(known.node, list(known.shown)):
        try:
            rows.append(worked_out(one.node, known.every, known.versions))
        except NotArithmetic:
            continue
        texts.append(one.text)
        hows.append(one.how)
    made = np.array(rows).reshape(len(rows), known.versions)
    return _Candidates(texts, hows, made, np.full(len(rows), ABOUT_AS_LIKELY))


def _any_formula(known: Known, stop: Callable[[], bool]) -> _Candidates:
    varying = {name: v for name, v in known.shown.items() if np.ptp(v) > 0}
    if not varying:
        none = np.empty((0, known.versions))
        return _Candidates([], [], none, np.empty(0, np.int64))
    space = build({k: list(v) for k, v in varying.items()}, CONSTANTS, SMALL_COST, stop)
    texts = [space.text(row) for row in range(len(space.cost))]
    as_simple = np.searchsorted(np.sort(space.cost), space.cost, side="right")
    return _Candidates(texts, [""] * len(texts), space.values, 2 * as_simple + 20)


def _named(known: Known, wrong: Wrong, all_: _Candidates) -> list[Slip]:
    """The candidates that explain more than chance, each only what those before it don't."""
    right = worked_out(known.node, known.every, known.versions)
    # What else would fit is only worth saying if somebody might think of it.
    own = _functions(ast.unparse(known.node))
    fine = np.isfinite(all_.rows).all(axis=1) & ~_same(all_.rows, right, known)
    for covered in known.covered:
        fine &= ~_same(all_.rows, covered, known)
    places = np.flatnonzero(fine)
    hits = _near(all_.rows[places][:, wrong.versions], wrong.answers, known)
    least = max(FEWEST, LEAST_SHARE * len(wrong.answers))
    places, hits = places[hits.sum(axis=1) >= least], hits[hits.sum(axis=1) >= least]
    found: list[Slip] = []
    left = np.ones(len(wrong.answers), bool)
    for _ in range(MOST_LOOKED_AT):
        counts = (hits & left).sum(axis=1)
        if len(found) == MOST_NAMED or not len(counts) or counts.max() < least:
            break
        # Of those that explain as much, the simplest.
        best = min(np.flatnonzero(counts == counts.max()), key=lambda i: all_.tried[places[i]])
        row, mine = all_.rows[places[best]], hits[best] & left
        chance = _chance(row, wrong, known, int(counts[best])) * all_.tried[places[best]]
        if chance > CHANCE or len(set(wrong.versions[mine].tolist())) < FEWEST_VERSIONS:
            hits[best] = False
            continue
        also = [
            i
            for i in np.flatnonzero(counts >= 0.8 * counts[best])
            if i != best and _functions(all_.texts[places[i]]) <= own
        ]
        also.sort(key=lambda i: (all_.tried[places[i]], -counts[i]))
        found.append(
            Slip(
                all_.texts[places[best]],
                all_.hows[places[best]],
                int(mine.sum()),
                len(set(wrong.learners[mine].tolist())),
                len(set(wrong.versions[mine].tolist())),
                len(wrong.answers),
                tuple(all_.texts[places[i]] for i in also[:3]),
                tuple(int(v) + 1 for v in np.flatnonzero(_near(row, right, known))),
            )
        )
        left &= ~hits[best]
    return found


def _functions(formula: str) -> set[str]:
    return set(_CALLED.findall(formula))


def _near(one: Array, other: Array, known: Known) -> NDArray[np.bool_]:
    return np.asarray(apart(one, other, known.turn) <= known.within + 1e-9)


def _same(made: Array, other: Array, known: Known) -> NDArray[np.bool_]:
    """Which candidates are all but the same as something else: nothing tells them apart."""
    return np.asarray(_near(made, other, known).mean(axis=1) > 0.7)


def _chance(row: Array, wrong: Wrong, known: Known, hits: int) -> float:
    """How likely so many hits are for a slip nobody made: by the answers' own density around what
    it gives, and by the same answers given to other versions."""
    given = row[wrong.versions]
    beside = given[None, :] * (1 + JITTERS[:, None])
    nearby = _near(beside, wrong.answers, known).mean()
    random = np.random.default_rng(len(given))
    shuffled = np.mean(
        [_near(given, random.permutation(wrong.answers), known).mean() for _ in range(SHUFFLES)]
    )
    rate = max(float(nearby), float(shuffled), 0.5 / len(given))
    return float(binom.sf(hits - 1, len(given), min(rate * 1.1, 1.0)))
