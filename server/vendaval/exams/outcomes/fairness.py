"""Whether questions of a test are harder for one group of learners than for another of the same
standing. Counts alone leave this module: nobody's answers."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from vendaval.bank.snapshot import CourseBank
from vendaval_core.measure.analysis.fairness import (
    ENOUGH,
    MantelHaenszel,
    mantel_haenszel,
    matched_tables,
)

from ..models import Attempt, Test


@dataclass(frozen=True, slots=True)
class Compared:
    """A question of a test. found: None where it can't be worked out."""

    family: str
    title: str
    found: MantelHaenszel | None


def sat_by(test: Test, groups: Sequence[int]) -> dict[int, Mapping[str, bool]]:
    """Right or wrong by question, of the first marked attempt of everybody in these groups."""
    rows = Attempt.objects.filter(
        test=test,
        marked=True,
        enrolment__groups__group__in=groups,
        enrolment__groups__until=None,
        enrolment__person__practice_for=None,
    )
    found: dict[int, Mapping[str, bool]] = {}
    for one in rows.order_by("number").only("enrolment", "places", "total").distinct():
        if one.enrolment_id in found or one.total is None:
            continue
        places = one.total.places
        found[one.enrolment_id] = {
            place.family: places[number].share == 1
            for number, place in enumerate(one.places, 1)
            if number in places and places[number].share is not None
        }
    return found


def compared(
    reference: Sequence[Mapping[str, bool]], focal: Sequence[Mapping[str, bool]], bank: CourseBank
) -> list[Compared]:
    """Each question that everybody had, matched by how many of them were right."""
    everybody = [*reference, *focal]
    if min(len(reference), len(focal)) < ENOUGH:
        return []
    families = sorted(set.intersection(*(set(one) for one in everybody)))
    right = np.array([[one[family] for family in families] for one in everybody], dtype=float)
    totals = right.sum(axis=1)
    is_focal = (np.arange(len(everybody)) >= len(reference)).astype(float)
    found = []
    for place, family in enumerate(families):
        item = bank.known(family)
        if item is not None:
            tables = matched_tables(right[:, place], totals, is_focal)
            found.append(Compared(family, item.title, mantel_haenszel(tables)))
    return found
