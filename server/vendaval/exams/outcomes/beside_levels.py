"""Results of a test beside what the learners' levels let expect, as these are now."""

from __future__ import annotations

from collections.abc import Mapping

from vendaval.bank.snapshot import CourseBank
from vendaval_core.measure.analysis.expected import Expected, Placed, expected_result

from ..columns import PlacePoints
from ..models import Attempt


def expected_of(
    attempt: Attempt, points: Mapping[int, PlacePoints], bank: CourseBank
) -> Expected | None:
    """What an attempt's questions let expect of its learner; None without levels."""
    state = getattr(attempt.enrolment, "state", None)
    if state is None:
        return None
    placed = []
    for number, place in enumerate(attempt.places, 1):
        item = bank.known(place.family)
        if item is None or number not in points:
            continue
        reading = state.standing.get(bank.topics[item.topic].key)
        if reading is None:
            continue
        level = min(99.0, max(1.0, reading.level))
        ability = bank.scales[item.topic].ability(level)
        placed.append(Placed(item.curve, float(points[number].of), ability, reading.sd))
    return expected_result(placed)
