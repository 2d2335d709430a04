"""Moderating marks: which attempts a second person looks at, and a marker's points adjusted.

Common practice, no published source.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction


def sample_across(points: Sequence[Fraction], count: int) -> list[int]:
    """Return the places of `count` attempts spread evenly over their ranks, the lowest and the
    highest among them; all of them where there are no more than that."""
    order = sorted(range(len(points)), key=lambda place: (points[place], place))
    if count >= len(order):
        return sorted(order)
    if count <= 1:
        return [order[len(order) // 2]][:count]
    last = len(order) - 1
    return sorted(
        order[(2 * step * last + count - 1) // (2 * (count - 1))] for step in range(count)
    )


def moderated(
    given: Mapping[int, Fraction], most: Sequence[Fraction], change: Fraction
) -> dict[int, Fraction]:
    """Return the points of each criterion once `change` is added to their sum, never below 0 nor
    above what there is. More is added where there is room, in proportion to it; less is taken in
    proportion to what was given. most: points there are, by criterion from 0."""
    points = [given.get(number, Fraction(0)) for number in range(len(most))]
    total = sum(points, Fraction(0))
    room = [top - own for top, own in zip(most, points, strict=True)]
    if change >= 0:
        free = sum(room, Fraction(0))
        part = min(change, free) / free if free else Fraction(0)
        return {n: own + part * room[n] for n, own in enumerate(points)}
    part = max(-change, Fraction(0))
    keep = max(Fraction(0), total - part) / total if total else Fraction(0)
    return {n: own * keep for n, own in enumerate(points)}
