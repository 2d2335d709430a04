"""Fitted parameters as they are reported: a, b, c, d with standard errors and fit."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from vendaval_core.language import gettext

from ...words import counted
from .conditional import ConditionalFit
from .em import SLOPE_RANGE
from .itemfit import ItemFit, item_fit
from .marginal import MarginalFit
from .sumscores import SumScoreFit

Value = float | None
FEWEST_ANSWERS = 30
TOO_SELDOM = 0.001
FIT_RANGE = (0.7, 1.4)
"""Mean squares outside are looked at: common practice, no published source."""


@dataclass(frozen=True, slots=True)
class ItemReport:
    """One item. a per logit, b in logits, c a chance, d = −ab; steps: step difficulties b_v of an
    item with part credit. errors: standard errors by parameter name, None where there is none.
    problems: why the figures should not be relied on."""

    item: str
    a: float
    b: float
    c: float
    d: float
    steps: tuple[float, ...]
    errors: dict[str, Value]
    fit: ItemFit
    problems: tuple[str, ...]

    def as_json(self) -> dict[str, object]:
        """As `manage.py calibrate` writes it."""
        found: dict[str, object] = {
            "item": self.item,
            "a": round(self.a, 6),
            "b": round(self.b, 6),
            "c": round(self.c, 6),
            "d": round(self.d, 6),
            "se": {k: None if v is None else round(v, 6) for k, v in self.errors.items()},
            "fit": {
                "outfit": round(self.fit.outfit, 4),
                "infit": round(self.fit.infit, 4),
                "answers": self.fit.answers,
            },
        }
        if self.steps:
            found["steps"] = [round(step, 6) for step in self.steps]
        if self.problems:
            found["problems"] = list(self.problems)
        return found


def _finite(value: float) -> Value:
    return float(value) if np.isfinite(value) else None


def _problems(slope: float, errors: dict[str, Value], fit: ItemFit) -> tuple[str, ...]:
    found = []
    if fit.answers < FEWEST_ANSWERS:
        found.append(
            gettext("only {answers}, at least {fewest_answers} are needed").format(
                answers=counted(fit.answers, "answer"), fewest_answers=FEWEST_ANSWERS
            )
        )
    if not SLOPE_RANGE[0] * 1.01 < slope < SLOPE_RANGE[1] * 0.99:
        found.append(gettext("the slope can’t be estimated within its range"))
    if errors["b"] is None:
        found.append(gettext("no standard error: the estimate didn’t converge"))
    if not FIT_RANGE[0] <= fit.infit <= FIT_RANGE[1]:
        found.append(
            gettext("infit {infit:.2f} is outside {fit_range} to {fit_range2}").format(
                infit=fit.infit, fit_range=FIT_RANGE[0], fit_range2=FIT_RANGE[1]
            )
        )
    return tuple(found)


def item_reports(fit: MarginalFit) -> list[ItemReport]:
    """Return a report on every item of a fit, with standard errors of b by the delta method."""
    found = []
    for j, (item, own_fit) in enumerate(zip(fit.items, item_fit(fit), strict=True)):
        count = int(fit.shape.categories[j]) - 1
        slope, intercepts = float(fit.slopes[j]), fit.parameters[j, 1 : count + 1]
        steps = -intercepts / slope
        covariance = fit.covariance[j]
        intercept = float(intercepts.mean())
        toward = np.zeros(fit.shape.parameters)
        toward[0] = intercept / slope**2
        toward[1 : count + 1] = -1 / (slope * count)
        own = np.r_[0 : count + 1]
        part = np.nan_to_num(covariance[np.ix_(own, own)], nan=0.0)
        known = np.isfinite(fit.errors[j, 1])
        variance = float(toward[own] @ part @ toward[own]) if known else float("nan")
        errors = {
            "a": _finite(fit.errors[j, 0]),
            "b": _finite(np.sqrt(variance)) if variance >= 0 else None,
            "d": _finite(np.sqrt(part[1:, 1:].mean())) if known else None,
        }
        guess = float(fit.guesses[j])
        if np.isfinite(fit.errors[j, -1]):
            errors["c"] = _finite(fit.errors[j, -1] * guess * (1 - guess))
        found.append(
            ItemReport(
                item,
                slope,
                float(steps.mean()),
                guess,
                intercept,
                tuple(map(float, steps)) if count > 1 else (),
                errors,
                own_fit,
                _problems(slope, errors, own_fit),
            )
        )
    return found


def _add_sums(item: dict[str, object], found: SumScoreFit) -> None:
    """Put S-X² beside the other figures of fit, and among the problems where it is too great."""
    item["s_x2"] = {
        "value": round(found.value, 3),
        "freedom": found.freedom,
        "chance": round(found.chance, 5),
    }
    if found.chance < TOO_SELDOM:
        says = gettext("S-X² {value:.1f} on {freedom}: it doesn’t follow its curve")
        problem = says.format(value=found.value, freedom=found.freedom)
        before = item.get("problems", [])
        item["problems"] = [*before, problem] if isinstance(before, list) else [problem]


def report_json(
    fit: MarginalFit,
    conditional: ConditionalFit | None = None,
    left_out: Mapping[str, str] = {},
    sums: Sequence[SumScoreFit | None] = (),
) -> dict[str, object]:
    """Return the whole result of a calibration as JSON data, with the conditional cross-check if
    there is one.

    left_out: items that were not fitted, with the reason. sums: S-X² of each item, where known.
    """
    items = [item.as_json() for item in item_reports(fit)]
    for item, found_sum in zip(items, sums or [None] * len(items), strict=True):
        if found_sum is not None:
            _add_sums(item, found_sum)
    found: dict[str, object] = {
        "model": fit.model.value,
        "log_likelihood": round(fit.log_likelihood, 6),
        "persons": len(fit.pattern),
        "steps": fit.steps,
        "settled": fit.settled,
        "items": items + [{"item": item, "problems": [why]} for item, why in left_out.items()],
    }
    if conditional is not None:
        found["conditional"] = {
            "log_likelihood": round(conditional.log_likelihood, 6),
            "items": [
                {"item": item, "b": round(float(b), 6), "se": {"b": round(float(error), 6)}}
                for item, b, error in zip(
                    conditional.items, conditional.difficulties, conditional.errors, strict=True
                )
            ],
        }
    return found
