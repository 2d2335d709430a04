"""From a version's parts to the response curve of its family, as judged by its author."""

from __future__ import annotations

from ..items.kinds.protocol import Key
from ..items.versions import Version
from ..measure.response import ResponseCurve, judged_curve

# Right by luck, though it is typed: people ask, remember a number, try the obvious. With 0, one
# answer in four guessed right makes 80% intervals hold 70% (docs/measurement.md); a judgement.
LUCK = 0.05


def guess_chance(key: Key) -> float:
    """Return the chance, 0 to 1, of guessing a whole part right. 0 for a part with part credit:
    luck gives it some points so often that one number can't say it."""
    return key.guess_chance if key.units == 1 else 0.0


def family_curve(version: Version, difficulty: int) -> ResponseCurve:
    """Return a family's response curve by its author's judgement, from one version (all versions
    have the same parts). difficulty: 1 easiest to 5 hardest."""
    marked = [key for key in version.parts if key.units]
    one = len(marked) == 1 and marked[0].units == 1
    guess = max(LUCK, guess_chance(marked[0])) if one else 0.0
    return judged_curve(difficulty, max(1, version.units), guess)
