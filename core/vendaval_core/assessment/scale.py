"""The scale of a group's marks: how a share of the points becomes a mark.

Common practice, no published source.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from vendaval_core.language import gettext

from .rules import Band

MOST = 100
STEPS = (Fraction(1), Fraction(1, 2), Fraction(1, 10))


@dataclass(frozen=True, slots=True)
class Scale:
    """From 0 to `most`. step: what a mark is rounded to. bands: each from a mark of this scale on,
    the lowest from 0. pass_mark: a mark of this scale, None without one."""

    most: Fraction = Fraction(20)
    step: Fraction = Fraction(1)
    bands: tuple[Band, ...] = ()
    pass_mark: Fraction | None = None

    def exact(self, share: Fraction) -> Fraction:
        """Return a share, 0 to 1, on this scale, not rounded."""
        return share * self.most

    def mark(self, share: Fraction) -> Fraction:
        """Return the mark for a share, 0 to 1: rounded once, half a step up."""
        steps = self.exact(share) / self.step
        return self.step * ((2 * steps + 1) // 2)

    def marks(self) -> list[Fraction]:
        """Return every mark there is, the lowest first."""
        return [self.step * number for number in range(int(self.most / self.step) + 1)]


def scale_problems(scale: Scale) -> Iterator[tuple[str, str]]:
    """Yield what can't be, as a field and a reason."""
    if not 1 <= scale.most <= MOST or scale.most.denominator != 1:
        yield "most", gettext("Choose a whole number from 1 to {most}.").format(most=MOST)
    if scale.step not in STEPS:
        yield "step", gettext("Choose whole marks, halves or tenths.")
    if scale.pass_mark is not None and not 0 <= scale.pass_mark <= scale.most:
        yield "pass_mark", gettext("The pass mark has to be on the scale.")
    leasts = [band.least for band in scale.bands]
    if leasts and (leasts[0] != 0 or leasts != sorted(set(leasts)) or leasts[-1] > scale.most):
        yield "bands", gettext("Let the first band start at 0 and each one above the last.")
    if any(not band.name.strip() for band in scale.bands):
        yield "bands", gettext("Give every band a name.")
