"""From a family and a seed to a version: the same seed gives the same version, for ever."""

from __future__ import annotations

import math
from dataclasses import dataclass

from vendaval_core.language import gettext

from ..errors import ExpressionError, FamilyError
from .drawn import Figure, Picture
from .expressions import Value, evaluate, evaluate_number
from .kinds.protocol import Key
from .model import DerivedVariable, Family, PickVariable, RangeVariable, Variable
from .pictures import make_picture
from .randomness import SeededStream
from .template import fill

DRAWS = 200


@dataclass(frozen=True, slots=True)
class Version:
    """One version: texts in Markdown with TeX between dollar signs, and the keys of its parts."""

    family: str
    seed: int
    title: str
    prompt: str
    parts: tuple[Key, ...]
    hints: tuple[str, ...]
    solution: tuple[str, ...]
    variables: dict[str, Value]
    figure: Picture | None = None
    solution_figure: Picture | None = None
    stimulus: str = ""
    sound: tuple[str, ...] = ()
    sound_words: str = ""

    @property
    def units(self) -> int:
        """Things scored one by one over all parts, at least 1."""
        return max(1, sum(key.units for key in self.parts))


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
            if width <= 0:
                raise ExpressionError(
                    gettext("the step of {variable} is {width:g}, but must be above 0").format(
                        variable=variable.name, width=width
                    )
                )
            steps = math.floor((evaluate_number(high, so_far) - start) / width + 1e-9)
            if steps < 0:
                raise ExpressionError(
                    gettext("the range of {variable} is empty").format(variable=variable.name)
                )
            value = round(start + width * stream.below(steps + 1), 9)
            return int(value) if value == int(value) else value
        case DerivedVariable(expression=expression):
            return evaluate(expression, so_far)


def draw_variables(family: Family, seed: int) -> dict[str, Value]:
    """Return the values of a version's variables, drawn again until every constraint is met."""
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
    raise FamilyError(
        "constraints",
        gettext("none of {draws} draws for seed {seed} meets the conditions").format(
            draws=DRAWS, seed=seed
        ),
    )


def make_version(family: Family, seed: int, order: int = 0) -> Version:
    """Make the version of a family for a seed from 1 to `family.versions`.

    order: another number gives the same version with its choices in another order. Raises
    FamilyError with the field at fault.
    """
    if not 1 <= seed <= family.versions:
        raise FamilyError(
            "seed",
            gettext("is 1 to {versions}, not {seed}").format(versions=family.versions, seed=seed),
        )
    values = draw_variables(family, seed)

    def filled(where: str, text: str) -> str:
        try:
            return fill(text, values)
        except ExpressionError as error:
            raise FamilyError(where, str(error)) from error

    def picture(where: str, figure: Figure | None) -> Picture | None:
        if figure is None:
            return None
        try:
            return make_picture(figure, values)
        except ExpressionError as error:
            raise FamilyError(where, str(error)) from error

    parts: list[Key] = []
    for part in family.parts:
        try:
            stream = SeededStream(family.key, part.id, "choices", seed, order)
            parts.append(part.key(values, stream))
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
        figure=picture("figure", family.figure),
        solution_figure=picture("solution_figure", family.solution_figure),
        stimulus=family.stimulus,
        sound=tuple(filled("sound", family.sound).split()),
        sound_words=filled("sound", family.sound_words),
    )
