"""From a family and a seed to a version: the same seed gives the same version, for ever."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import ExpressionError, FamilyError
from .expressions import Value, clock, evaluate, evaluate_number, fixed
from .model import (
    ChoicePart,
    DerivedVariable,
    Family,
    NumberEntryPart,
    Part,
    PickVariable,
    RangeVariable,
    TextEntryPart,
    TimeEntryPart,
    Variable,
)
from .randomness import SeededStream
from .template import fill

DRAWS = 200
CHOICE_IDS = "abcdefghij"


@dataclass(frozen=True, slots=True)
class VersionChoice:
    """A choice as presented. right and says stay on the server."""

    id: str
    text: str
    right: bool
    says: str | None


@dataclass(frozen=True, slots=True)
class ChoiceKey:
    """Key of a choice part: choices in presentation order, exactly one right."""

    id: str
    label: str
    choices: tuple[VersionChoice, ...]

    @property
    def right(self) -> VersionChoice:
        """The right choice."""
        return next(choice for choice in self.choices if choice.right)


@dataclass(frozen=True, slots=True)
class KeyedNearMiss:
    """A foreseen wrong answer of this version: a number, minutes, or a text."""

    value: float | str
    says: str


@dataclass(frozen=True, slots=True)
class NumberKey:
    """Key of a number part. shown: right answer with its decimals and unit."""

    id: str
    label: str
    unit: str
    answer: float
    tolerance: float
    shown: str
    near_misses: tuple[KeyedNearMiss, ...]


@dataclass(frozen=True, slots=True)
class TimeKey:
    """Key of a time part, in minutes after midnight."""

    id: str
    label: str
    answer: float
    tolerance: float
    shown: str
    near_misses: tuple[KeyedNearMiss, ...]


@dataclass(frozen=True, slots=True)
class TextKey:
    """Key of a text part; the first accepted variant is the one shown."""

    id: str
    label: str
    accepted: tuple[str, ...]
    near_misses: tuple[KeyedNearMiss, ...]


PartKey = ChoiceKey | NumberKey | TimeKey | TextKey


@dataclass(frozen=True, slots=True)
class Version:
    """One version: texts in Markdown with TeX between dollar signs, and the keys of its parts."""

    family: str
    seed: int
    title: str
    prompt: str
    parts: tuple[PartKey, ...]
    hints: tuple[str, ...]
    solution: tuple[str, ...]
    variables: dict[str, Value]


def _drawn(
    variable: Variable, family: Family, seed: int, attempt: int, so_far: dict[str, Value]
) -> Value:
    stream = SeededStream(family.key, variable.name, seed, attempt)
    match variable:
        case PickVariable(options=options):
            return options[stream.below(len(options))]
        case RangeVariable(low=low, high=high, step=step):
            start = evaluate_number(low, so_far)
            width = evaluate_number(step, so_far)
            steps = int((evaluate_number(high, so_far) - start) / width + 1e-9)
            if steps < 0:
                raise ExpressionError(f"the range of {variable.name} is empty")
            value = round(start + width * stream.below(steps + 1), 9)
            return int(value) if value == int(value) else value
        case DerivedVariable(expression=expression):
            return evaluate(expression, so_far)


def draw_variables(family: Family, seed: int) -> dict[str, Value]:
    """Values of a version's variables: drawn again until every constraint holds."""
    for attempt in range(DRAWS):
        values: dict[str, Value] = {}
        for variable in family.variables:
            try:
                values[variable.name] = _drawn(variable, family, seed, attempt, values)
            except ExpressionError as error:
                raise FamilyError(f"variables.{variable.name}", str(error)) from error
        try:
            if all(evaluate(constraint, values) for constraint in family.constraints):
                return values
        except ExpressionError as error:
            raise FamilyError("constraints", str(error)) from error
    raise FamilyError("constraints", f"no draw of {DRAWS} for seed {seed} meets them")


def _choice_key(part: ChoicePart, values: dict[str, Value], stream: SeededStream) -> ChoiceKey:
    options = stream.shuffled(part.options) if part.shuffle else list(part.options)
    choices = tuple(
        VersionChoice(
            id=CHOICE_IDS[i],
            text=fill(option.text, values),
            right=option.right
            if isinstance(option.right, bool)
            else bool(evaluate(option.right, values)),
            says=None if option.says is None else fill(option.says, values),
        )
        for i, option in enumerate(options)
    )
    if sum(choice.right for choice in choices) != 1:
        raise ExpressionError("exactly one choice must be right")
    return ChoiceKey(part.id, fill(part.label, values), choices)


def _part_key(part: Part, values: dict[str, Value], stream: SeededStream) -> PartKey:
    label = fill(part.label, values)
    match part:
        case ChoicePart():
            return _choice_key(part, values, stream)
        case NumberEntryPart():
            misses = tuple(
                KeyedNearMiss(evaluate_number(m.answer, values), fill(m.says, values))
                for m in part.near_misses
            )
            answer = evaluate_number(part.answer, values)
            unit = f"\u00a0{part.unit}" if part.unit and part.unit != "°" else part.unit
            shown = fixed(answer, part.digits) + unit
            tolerance = evaluate_number(part.tolerance, values)
            return NumberKey(part.id, label, part.unit, answer, tolerance, shown, misses)
        case TimeEntryPart():
            misses = tuple(
                KeyedNearMiss(evaluate_number(m.answer, values) % 1440, fill(m.says, values))
                for m in part.near_misses
            )
            answer = evaluate_number(part.answer, values) % 1440
            tolerance = evaluate_number(part.tolerance, values)
            return TimeKey(part.id, label, answer, tolerance, clock(answer), misses)
        case TextEntryPart():
            misses = tuple(
                KeyedNearMiss(fill(str(m.answer), values), fill(m.says, values))
                for m in part.near_misses
            )
            accepted = tuple(fill(text, values) for text in part.accepted)
            return TextKey(part.id, label, accepted, misses)


def make_version(family: Family, seed: int, order: int = 0) -> Version:
    """The version of a family for a seed from 1 to `family.versions`.

    order: another number gives the same version with its choices in another order.
    Raises FamilyError with the field at fault.
    """
    if not 1 <= seed <= family.versions:
        raise FamilyError("seed", f"is 1 to {family.versions}, not {seed}")
    values = draw_variables(family, seed)

    def filled(where: str, text: str) -> str:
        try:
            return fill(text, values)
        except ExpressionError as error:
            raise FamilyError(where, str(error)) from error

    parts = []
    for part in family.parts:
        try:
            stream = SeededStream(family.key, part.id, "choices", seed, order)
            parts.append(_part_key(part, values, stream))
        except ExpressionError as error:
            raise FamilyError(f"parts.{part.id}", str(error)) from error
    return Version(
        family=family.key,
        seed=seed,
        title=filled("title", family.title),
        prompt=filled("prompt", family.prompt),
        parts=tuple(parts),
        hints=tuple(filled(f"hints.{i}", text) for i, text in enumerate(family.hints)),
        solution=tuple(filled(f"solution.{i}", text) for i, text in enumerate(family.solution)),
        variables=values,
    )
