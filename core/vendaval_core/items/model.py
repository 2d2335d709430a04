"""Question families as authors write them. Kinds are named as QTI 3 names interactions.

A family is a template; `versions.make_version` turns it and a seed into a version.
Expressions are strings for `expressions.evaluate`, texts are templates for `template.fill`.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Expression = str | float


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
class ChoiceOption:
    """One choice. right: True, False or an expression. says: feedback when it is chosen."""

    text: str
    right: bool | str = False
    says: str | None = None


@dataclass(frozen=True, slots=True)
class ChoicePart:
    """Choose one of several. Order is shuffled by the version unless `shuffle` is off."""

    id: str
    options: tuple[ChoiceOption, ...]
    label: str = ""
    shuffle: bool = True
    kind: Literal["choice"] = "choice"


@dataclass(frozen=True, slots=True)
class NearMiss:
    """A foreseen wrong answer: an expression for numbers and times, a template for texts."""

    answer: Expression
    says: str


@dataclass(frozen=True, slots=True)
class NumberEntryPart:
    """Type a number.

    unit: shown beside the field, "" for none. tolerance: greatest absolute difference that is
    still right, an expression. digits: decimals in which the right answer is shown.
    """

    id: str
    answer: Expression
    tolerance: Expression
    unit: str = ""
    digits: int = 0
    label: str = ""
    near_misses: tuple[NearMiss, ...] = ()
    least: Expression | None = None
    most: Expression | None = None
    kind: Literal["number"] = "number"


@dataclass(frozen=True, slots=True)
class TimeEntryPart:
    """Type a time of day. answer: minutes after midnight; tolerance: minutes."""

    id: str
    answer: Expression
    tolerance: Expression
    label: str = ""
    near_misses: tuple[NearMiss, ...] = ()
    kind: Literal["time"] = "time"


@dataclass(frozen=True, slots=True)
class TextEntryPart:
    """Type a word or a few. accepted: variants, the first is shown as the right answer."""

    id: str
    accepted: tuple[str, ...]
    label: str = ""
    near_misses: tuple[NearMiss, ...] = ()
    kind: Literal["text"] = "text"


Part = ChoicePart | NumberEntryPart | TimeEntryPart | TextEntryPart


@dataclass(frozen=True, slots=True)
class Family:
    """One question idea in one topic.

    difficulty: author's judgement, 1 easiest to 5 hardest. seconds: what a prepared learner
    needs. versions: how many seeds it has, 50 for generated families and 1 for fixed ones.
    study: "section" or "topic#section" of the study page that explains the idea.
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

    @property
    def versions(self) -> int:
        """Number of versions: 50 when anything is drawn, else 1."""
        drawn = any(not isinstance(variable, DerivedVariable) for variable in self.variables)
        return GENERATED_VERSIONS if drawn else 1


GENERATED_VERSIONS = 50
