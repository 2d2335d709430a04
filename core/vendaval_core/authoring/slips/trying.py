"""The search for slips tried on families whose near misses are known: one is taken out, and
wrong answers come from it in part; or from nothing but noise."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from vendaval_core.items.model import Family

from .arithmetic import Array, NotArithmetic, parsed, worked_out
from .families import Numbers, numbers_of
from .search import Wrong, slips

ANSWERS = 40
SHARE = 0.3


@dataclass(frozen=True, slots=True)
class Tried:
    """How a family went. removed: the near miss that was taken out, "" for noise alone. named: what
    was named. right: whether that was it."""

    key: str
    removed: str
    named: tuple[str, ...]
    right: bool


def try_family(
    family: Family, stop: Callable[[], bool], seed: int = 1, *, noise: bool = False
) -> Tried | None:
    """Have one of a family's near misses found, or nothing in noise."""
    found = numbers_of(family)
    if found is None or not (found.misses or noise):
        return None
    random = np.random.default_rng([seed, len(family.key), *family.key.encode()])
    removed = "" if noise else str(random.choice(list(found.misses)))
    kept = tuple(v for miss, v in found.misses.items() if miss != removed)
    wrong = _wrong(found, None if noise else found.misses[removed], kept, random)
    known = replace(found.known, covered=kept)
    named = slips(known, wrong, stop)
    texts = tuple(one.formula for one in named)
    right = not named if noise else any(_is(one, found, removed) for one in texts)
    return Tried(family.key, removed, texts, right)


def _wrong(
    found: Numbers, slip: Array | None, kept: tuple[Array, ...], random: np.random.Generator
) -> Wrong:
    many = len(found.right)
    versions = random.integers(0, many, ANSWERS)
    answers = np.empty(ANSWERS)
    for place, version in enumerate(versions):
        if slip is not None and place < SHARE * ANSWERS:
            answers[place] = round(float(slip[version]), found.digits)
            continue
        while True:
            answer = round(float(found.right[version] * random.uniform(0.3, 2.2)), found.digits)
            taken = [found.right, *kept]
            if all(abs(answer - float(one[version])) > found.known.within for one in taken):
                break
            if random.random() < 0.05:
                answer += 3
                break
        answers[place] = answer
    return Wrong(answers, versions, np.arange(ANSWERS))


def _is(formula: str, found: Numbers, removed: str) -> bool:
    try:
        made = worked_out(parsed(formula), found.known.every, len(found.right))
    except NotArithmetic:
        return False
    return bool((np.abs(made - found.misses[removed]) <= 2 * found.known.within).mean() > 0.9)
