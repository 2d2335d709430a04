"""Question families as authors write them.

A family is a template; `versions.make_version` turns it and a seed into a version.
Expressions are strings for `expressions.evaluate`, texts are templates for `template.fill`.
"""

from __future__ import annotations

from dataclasses import dataclass

from .drawn import Expression, Figure
from .kinds.protocol import Part


@dataclass(frozen=True, slots=True)
class RangeVariable:
    """Drawn from low, low + step, …, high."""

    name: str
    low: Expression
    high: Expression
    step: Expression = 1.0


@dataclass(frozen=True, slots=True)
class PickVariable:
    """Drawn from a list of values."""

    name: str
    options: tuple[int | float | str, ...]


@dataclass(frozen=True, slots=True)
class DerivedVariable:
    """Worked out from the variables before it."""

    name: str
    expression: str


Variable = RangeVariable | PickVariable | DerivedVariable


@dataclass(frozen=True, slots=True)
class Family:
    """One question idea in one topic.

    difficulty: author's judgement, 1 easiest to 5 hardest. seconds: what a prepared learner
    needs. versions: how many seeds it has, 50 for generated families and 1 for fixed ones.
    study: "section" or "topic#section" of the study page that explains the idea. stimulus: a text
    shared with other families. sound: blasts to be played, "short" and "long", a template, and
    sound_words their text alternative, "" when hearing them is what is asked. elsewhere: whether
    it was written elsewhere, for other readers.
    """

    key: str
    topic: str
    title: str
    prompt: str
    parts: tuple[Part, ...]
    solution: tuple[str, ...]
    difficulty: int
    seconds: float
    study: str
    source: str
    essential: bool = False
    hints: tuple[str, ...] = ()
    variables: tuple[Variable, ...] = ()
    constraints: tuple[str, ...] = ()
    figure: Figure | None = None
    solution_figure: Figure | None = None
    stimulus: str = ""
    sound: str = ""
    sound_words: str = ""
    elsewhere: bool = False

    @property
    def versions(self) -> int:
        """Number of versions: 50 when anything is drawn, else 1."""
        drawn = any(not isinstance(variable, DerivedVariable) for variable in self.variables)
        return GENERATED_VERSIONS if drawn else 1


GENERATED_VERSIONS = 50
