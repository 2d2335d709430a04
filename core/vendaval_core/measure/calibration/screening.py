"""Items that cannot be fitted are found before fitting, each with the reason.

Left in, they make the estimates of all others run away or never come to rest.
"""

from __future__ import annotations

import numpy as np

from vendaval_core.language import gettext

from ...errors import TableInvalid
from .em import Model
from .table import FEWEST_ITEMS, MISSING, ResponseTable

PLAINLY_REVERSED = -2.5
"""Standard errors below 0 that the correlation with the rest has: a judgement."""


def _alike(table: ResponseTable, item: int) -> str | None:
    column = table.scores[:, item]
    seen = column[column != MISSING]
    if len(seen) == 0:
        return gettext("nobody answered it")
    if seen.min() == seen.max():
        return gettext("every answer is {seen}, so it can’t be estimated").format(seen=seen[0])
    given = set(np.unique(seen).tolist())
    missing = [score for score in range(int(seen.max())) if score not in given]
    if missing:
        return gettext("nobody has a score of {missing}, so its steps can’t be estimated").format(
            missing=missing[0]
        )
    return None


def _same_as(table: ResponseTable, item: int, kept: list[int]) -> str | None:
    column = table.scores[:, item]
    for other in kept:
        if np.array_equal(column, table.scores[:, other]):
            name = table.items[other]
            return gettext(
                "its answers are the same as those of {name}: one of the two is left out"
            ).format(name=name)
    return None


def _reversed(table: ResponseTable, item: int, kept: list[int]) -> str | None:
    """Whether those who do well on the other items do worse on this one."""
    column = table.scores[:, item]
    others = [other for other in kept if other != item]
    if not others:
        return None
    rest = table.scores[:, others].astype(float)
    rest[rest == MISSING] = np.nan
    there = (column != MISSING) & np.isfinite(rest).any(axis=1)
    if there.sum() < 4:
        return None
    means, own = np.nanmean(rest[there], axis=1), column[there].astype(float)
    if means.std() == 0 or own.std() == 0:
        return None
    correlation = float(np.corrcoef(own, means)[0, 1])
    if correlation * np.sqrt(there.sum()) < PLAINLY_REVERSED:
        return gettext(
            "learners who do well elsewhere get it wrong more often (r "
            "{correlation:.2f}): is its key right?"
        ).format(correlation=correlation)
    return None


def screened(table: ResponseTable, model: Model) -> tuple[ResponseTable, dict[str, str]]:
    """Return the table without items that can't be fitted, and by item why it was left out.

    A reversed item stays under the Rasch model, because there it can't change the common slope's
    sign. Raises TableInvalid if fewer than two items are left.
    """
    why: dict[str, str] = {}
    kept: list[int] = []
    for item, name in enumerate(table.items):
        reason = _alike(table, item) or _same_as(table, item, kept)
        if reason is None:
            kept.append(item)
        else:
            why[name] = reason
    if model is not Model.RASCH:
        turned = {item: _reversed(table, item, kept) for item in kept}
        why |= {table.items[item]: reason for item, reason in turned.items() if reason}
        kept = [item for item in kept if turned[item] is None]
    if len(kept) < FEWEST_ITEMS:
        lines = [
            gettext("item {name}: {reason}").format(name=name, reason=reason)
            for name, reason in why.items()
        ]
        raise TableInvalid(
            [
                gettext("at least {fewest_items} items that can be fitted are needed").format(
                    fewest_items=FEWEST_ITEMS
                ),
                *lines,
            ]
        )
    items = tuple(table.items[item] for item in kept)
    return ResponseTable(items, table.scores[:, kept]), why
