"""How far two markers agree, beyond what chance would make them agree."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np


def weighted_kappa(first: Sequence[int], second: Sequence[int], most: int) -> float | None:
    """Cohen's kappa with quadratic weights.

    first, second (n,): points that each gave the same answers, 0 to most. None for no answers, and
    where both gave everything the same points, so that chance alone would explain all of it.
    Source: Cohen (1968), Weighted kappa, Psychological Bulletin 70, 213-220.
    """
    if len(first) != len(second):
        raise ValueError("each answer was marked by both")
    if not first:
        return None
    table = np.zeros((most + 1, most + 1))
    np.add.at(table, (np.asarray(first), np.asarray(second)), 1.0)
    steps = np.arange(most + 1)
    apart = (steps[:, None] - steps[None, :]) ** 2.0
    by_chance = np.outer(table.sum(axis=1), table.sum(axis=0)) / table.sum()
    expected = float((apart * by_chance).sum())
    if expected == 0:
        return None
    return 1 - float((apart * table).sum()) / expected
