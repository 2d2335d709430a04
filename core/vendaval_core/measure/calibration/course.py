"""Calibration of a topic's families from a course's own log.

One ability per learner, topic and sitting; only tries of weight 1. Adaptive choice is ignorable
for marginal likelihood. Guessing chances stay those of the kind of question. The scale is kept by
linking mean difficulty and mean slope to the present ones (Loyd and Hoover 1980).
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from vendaval_core.language import gettext

from ..response import ResponseCurve
from .itemfit import WIDE_SPREAD, Offset, has_drifted, offset_of, spread
from .marginal import MarginalFit, Model, Priors, fit_marginal
from .report import FEWEST_ANSWERS, ItemReport, item_reports
from .table import MISSING, ResponseTable

FEWEST_UNITS = 40
SLOPE_SD = 0.4
"""Judgement: sd of log slope about the present mean; a few hundred answers outweigh it."""


@dataclass(frozen=True, slots=True)
class LogResponse:
    """One weight-1 first try. unit: learner and sitting. at: any number that grows with time."""

    unit: str
    family: str
    version: int
    outcome: int
    at: float


@dataclass(frozen=True, slots=True)
class Proposal:
    """A family's present and proposed curve.

    proposed: None when it should stay as it is; problems say why. version_spread: σ_b in logits,
    None with too few answers. drifted: whether late answers are plainly harder or easier, with
    the change in logits.
    """

    family: str
    present: ResponseCurve
    proposed: ResponseCurve | None
    errors: dict[str, float | None]
    answers: int
    infit: float | None
    outfit: float | None
    version_spread: float | None
    drifted: bool
    drift: float | None
    problems: tuple[str, ...]

    @property
    def varies(self) -> bool:
        """Whether its versions differ in difficulty so much that the author should look."""
        return self.version_spread is not None and self.version_spread > WIDE_SPREAD


def _unmoved(family: str, present: ResponseCurve, answers: int, problem: str) -> Proposal:
    return Proposal(family, present, None, {}, answers, None, None, None, False, None, (problem,))


def _table(
    families: Sequence[str], responses: Sequence[LogResponse]
) -> tuple[ResponseTable, dict[str, int]]:
    units = {unit: row for row, unit in enumerate(dict.fromkeys(r.unit for r in responses))}
    column = {family: j for j, family in enumerate(families)}
    scores = np.full((len(units), len(families)), MISSING, dtype=np.int16)
    for response in responses:
        scores[units[response.unit], column[response.family]] = response.outcome
    return ResponseTable(tuple(families), scores), units


def _why_not(curve: ResponseCurve, outcomes: Sequence[int]) -> str | None:
    """Why a family cannot be fitted at all."""
    if len(outcomes) < FEWEST_ANSWERS:
        return gettext("only {count} answers, at least {fewest_answers} are needed").format(
            count=len(outcomes), fewest_answers=FEWEST_ANSWERS
        )
    missing = set(range(curve.categories)) - set(outcomes)
    if missing:
        return gettext("nobody had outcome {missing} of {categories}").format(
            missing=min(missing), categories=curve.categories
        )
    return None


def _linked(
    reports: Sequence[ItemReport], present: Mapping[str, ResponseCurve]
) -> dict[str, ResponseCurve]:
    """Curves on the present scale: mean slope and mean difficulty are kept."""
    wide = math.exp(np.mean([math.log(r.a) - math.log(present[r.item].a) for r in reports]))
    shift = float(np.mean([present[r.item].b - wide * r.b for r in reports]))
    return {
        r.item: ResponseCurve(
            r.a / wide,
            wide * r.b + shift,
            present[r.item].c,
            tuple(wide * step + shift for step in r.steps),
        )
        for r in reports
    }


def _parts(
    fit: MarginalFit, family: str, responses: Sequence[LogResponse], units: Mapping[str, int]
) -> tuple[float | None, bool, float | None]:
    """Spread over versions, whether the difficulty drifted, and by how many logits."""
    item = fit.items.index(family)
    scores = np.full((len(fit.pattern), len(fit.items)), MISSING, dtype=np.int16)
    by_version: dict[int, list[int]] = defaultdict(list)
    for response in responses:
        row = units[response.unit]
        scores[row, item] = response.outcome
        by_version[response.version].append(row)

    def offset(rows: Sequence[int]) -> Offset:
        return offset_of(fit, item, scores, np.array(rows))

    rows = [units[r.unit] for r in sorted(responses, key=lambda r: r.at)]
    early, late = offset(rows[: len(rows) // 2]), offset(rows[len(rows) // 2 :])
    versions = spread([offset(found) for found in by_version.values()])
    return versions, has_drifted(early, late), late.offset - early.offset


def propose(
    present: Mapping[str, ResponseCurve],
    responses: Sequence[LogResponse],
    ability_sd: float = 1.3,
) -> list[Proposal]:
    """Return proposed curves for the families of one topic, each with any reasons against it.

    present: current curves by family. ability_sd: of the course's prior, logits; slopes are fitted
    for abilities of sd 1.
    """
    by_family: dict[str, list[LogResponse]] = {family: [] for family in present}
    for response in responses:
        by_family[response.family].append(response)
    why = {f: _why_not(present[f], [r.outcome for r in found]) for f, found in by_family.items()}
    fitted = [family for family in present if why[family] is None]
    used = [r for r in responses if why[r.family] is None]
    units_there = len({r.unit for r in used})
    if len(fitted) < 2 or units_there < FEWEST_UNITS:
        few = gettext(
            "only {units_there} sittings with two or more families, at least "
            "{fewest_units} are needed"
        ).format(units_there=units_there, fewest_units=FEWEST_UNITS)
        return [_unmoved(f, c, len(by_family[f]), why[f] or few) for f, c in present.items()]
    table, units = _table(fitted, used)
    mean_slope = float(np.mean([math.log(ability_sd * present[f].a) for f in fitted]))
    fit = fit_marginal(
        table,
        Model.PARTIAL,
        guess=np.array([present[f].c for f in fitted]),
        priors=Priors(log_slope=(mean_slope, SLOPE_SD)),
    )
    reports = {report.item: report for report in item_reports(fit)}
    curves = _linked([reports[f] for f in fitted], present)
    return [
        _unmoved(family, curve, len(by_family[family]), reason)
        if (reason := why[family]) is not None
        else _proposal(
            reports[family],
            curve,
            curves[family] if fit.settled else None,
            _parts(fit, family, by_family[family], units),
        )
        for family, curve in present.items()
    ]


def _proposal(
    report: ItemReport,
    present: ResponseCurve,
    fitted: ResponseCurve | None,
    parts: tuple[float | None, bool, float | None],
) -> Proposal:
    """What a fit proposes for a family; no curve where its report names problems."""
    versions, drifted, drift = parts
    return Proposal(
        report.item,
        present,
        None if report.problems else fitted,
        report.errors,
        report.fit.answers,
        report.fit.infit,
        report.fit.outfit,
        versions,
        drifted,
        drift,
        report.problems,
    )
