"""Calibration of a topic's families from a course's own log.

Learners move while they answer, as the model of change says (`moving.py`); guessing chances stay
those of the kind of question. A family whose outcomes go against ability is left out: its key is
probably wrong. The scale is kept by linking to the present curves by trimmed means, so that one bad
family moves no other.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence, Set
from dataclasses import dataclass

import numpy as np
from scipy.stats import trim_mean

from vendaval_core.language import gettext

from ...words import counted
from ..kernels import ChangeSettings
from ..response import ResponseCurve
from .em import Priors
from .itemfit import (
    WIDE_SPREAD,
    Answered,
    Offset,
    Spread,
    agreement,
    has_drifted,
    offset_of,
    spread_of,
)
from .marginal import MarginalFit
from .moving import Given, Moving, fit_moving, normal_start, parameters_of
from .report import FEWEST_ANSWERS, ItemReport, item_reports

FEWEST_LEARNERS = 20
SLOPE_SD = 0.4
"""Judgement: sd of log slope about the present mean; a few hundred answers outweigh it."""
AGAINST_Z = -3.5
"""Standard errors below what the curve expects at which a key is asked about."""
LEAST_SLOPE = 0.3
MOST_ERROR = 1.0
MOST_DIFFICULTY = 5.0
TRIMMED = 0.2


@dataclass(frozen=True, slots=True)
class LogAnswer:
    """One first try of a learner in a topic. outcome: None for one that is no evidence, such as
    "not taught". weight: 0 to 1; curves are fitted to those of weight 1. days: since their answer
    before it in the topic. teaches: whether feedback followed. at: grows with time."""

    family: str
    version: int
    outcome: int | None
    weight: float
    days: float
    teaches: bool
    at: float


@dataclass(frozen=True, slots=True)
class Proposal:
    """A family's present and proposed curve.

    proposed: None when it should stay as it is; problems say why. spread: of its versions, None
    with too few answers. drifted: whether late answers are plainly harder or easier, with the
    change in logits. against: whether outcomes go against ability, so that its key is doubted.
    shift: by how much linking moved the topic's difficulties, as one. weak: whether it tells
    little about learners.
    """

    family: str
    present: ResponseCurve
    proposed: ResponseCurve | None
    errors: dict[str, float | None]
    answers: int
    infit: float | None
    outfit: float | None
    spread: Spread | None
    drifted: bool
    drift: float | None
    problems: tuple[str, ...]
    against: bool = False
    shift: float = 0.0
    weak: bool = False

    @property
    def asks(self) -> tuple[str, ...]:
        """What the author should look at, in words; empty when there is nothing."""
        found = list(self.problems) if self.against or self.weak else []
        if self.drifted and self.drift is not None:
            sentence = (
                gettext("later answers show it harder by {by:.1f} logits")
                if self.drift > 0
                else gettext("later answers show it easier by {by:.1f} logits")
            )
            found.append(sentence.format(by=abs(self.drift)))
        if self.varies and self.spread is not None:
            found.append(
                gettext("its versions are not equally hard (± {sd:.1f} logits)").format(
                    sd=self.spread.sd
                )
            )
        return tuple(found)

    @property
    def varies(self) -> bool:
        """Whether its versions differ in difficulty so much that the author should look."""
        found = self.spread
        return found is not None and found.sure and found.sd > WIDE_SPREAD


def _unmoved(
    family: str, present: ResponseCurve, answers: int, problem: str, *, against: bool = False
) -> Proposal:
    none = (None, None, None, False, None)
    return Proposal(family, present, None, {}, answers, *none, (problem,), against)


def _why_not(curve: ResponseCurve, outcomes: Sequence[int]) -> str | None:
    """Why a family cannot be fitted at all."""
    if len(outcomes) < FEWEST_ANSWERS:
        return gettext("only {answers}, at least {fewest_answers} are needed").format(
            answers=counted(len(outcomes), "answer"), fewest_answers=FEWEST_ANSWERS
        )
    missing = set(range(curve.categories)) - set(outcomes)
    if missing:
        return gettext("nobody had outcome {missing} of {categories}").format(
            missing=min(missing), categories=curve.categories
        )
    return None


def _linked(
    reports: Sequence[ItemReport], present: Mapping[str, ResponseCurve]
) -> tuple[dict[str, ResponseCurve], float]:
    """Curves on the present scale, and the shift that brings them there.

    The unit is that of the abilities that were fitted. Difficulties are moved as one, by the mean
    of the middle ones, a fifth on each side left out."""
    sound = [report for report in reports if not report.problems] or reports
    shift = float(trim_mean([present[r.item].b - r.b for r in sound], TRIMMED))
    curves = {
        r.item: ResponseCurve(
            r.a, r.b + shift, present[r.item].c, tuple(step + shift for step in r.steps)
        )
        for r in reports
    }
    return curves, shift


@dataclass(frozen=True, slots=True)
class _Log:
    """A topic's answers in the order in which they are fitted. rows: numbers of those of weight 1,
    by family."""

    moving: Moving
    answers: list[LogAnswer]
    rows: dict[str, list[int]]


def _log(
    present: Mapping[str, ResponseCurve],
    histories: Sequence[Sequence[LogAnswer]],
    begins: tuple[float, float],
    settings: ChangeSettings,
    left_out: Set[str] = frozenset(),
) -> _Log:
    column = {family: item for item, family in enumerate(present)}
    # The order in which `Moving` puts them: shorter histories first.
    kept = sorted((history for history in histories if history), key=len)

    def given(one: LogAnswer) -> Given:
        curve = present.get(one.family)
        told = curve is not None and one.outcome is not None and one.family not in left_out
        if not told or curve is None or one.outcome is None or one.outcome >= curve.categories:
            return Given(0, 0, 0.0, one.days, one.teaches)
        return Given(column[one.family], one.outcome, one.weight, one.days, one.teaches)

    moving = Moving([[given(one) for one in own] for own in kept], normal_start(*begins), settings)
    answers = [one for own in kept for one in own]
    rows: dict[str, list[int]] = {family: [] for family in present}
    for number, (one, taken) in enumerate(zip(answers, moving.answers, strict=True)):
        if taken.weight == 1.0:
            rows[one.family].append(number)
    return _Log(moving, answers, rows)


def _answered(fit: MarginalFit, log: _Log, family: str, rows: Sequence[int]) -> Answered:
    outcomes = np.array([log.moving.answers[row].outcome for row in rows], dtype=np.int64)
    return Answered.of(fit, fit.items.index(family), np.array(rows, dtype=np.int64), outcomes)


def _parts(
    fit: MarginalFit, log: _Log, report: ItemReport, present: ResponseCurve
) -> tuple[Spread | None, bool, float]:
    """Spread over versions, whether the difficulty drifted, and by how many logits."""
    family = report.item
    own = ResponseCurve(report.a, report.b, present.c, report.steps)
    shape, parameters = parameters_of([own])

    def offset(rows: Sequence[int]) -> Offset:
        return offset_of(_answered(fit, log, family, rows), shape, parameters)

    rows = sorted(log.rows[family], key=lambda row: log.answers[row].at)
    early, late = offset(rows[: len(rows) // 2]), offset(rows[len(rows) // 2 :])
    versions = np.array([log.answers[row].version for row in rows])
    spread = spread_of(_answered(fit, log, family, rows), versions, shape, parameters)
    return spread, has_drifted(early, late), late.offset - early.offset


def _against(
    fit: MarginalFit, log: _Log, present: Mapping[str, ResponseCurve], fitted: Sequence[str]
) -> dict[str, str]:
    """Families whose outcomes fall where ability rises, with the reason."""
    found = {}
    for family in fitted:
        shape, parameters = parameters_of([present[family]])
        agrees = agreement(_answered(fit, log, family, log.rows[family]), shape, parameters)
        if agrees.z < AGAINST_Z and not agrees.rises:
            says = gettext(
                "able learners get it wrong more often (z = {z}): check which answer is right"
            )
            found[family] = says.format(z=f"\u2212{-agrees.z:.1f}")
    return found


def propose(
    present: Mapping[str, ResponseCurve],
    histories: Sequence[Sequence[LogAnswer]],
    begins: tuple[float, float] = (0.0, 1.3),
    settings: ChangeSettings = ChangeSettings(),  # noqa: B008 - frozen
) -> list[Proposal]:
    """Return proposed curves for the families of one topic, each with any reasons against it.

    present: current curves by family. histories: each learner's answers in the topic, in order.
    begins: mean and sd of the ability before any answer, logits.
    """
    log = _log(present, histories, begins, settings)
    outcomes = {
        family: [log.moving.answers[row].outcome for row in rows]
        for family, rows in log.rows.items()
    }
    why = {family: _why_not(curve, outcomes[family]) for family, curve in present.items()}
    fitted = [family for family in present if why[family] is None]
    learners = sum(sum(one.weight == 1.0 for one in own) > 1 for own in histories)
    if len(fitted) < 2 or learners < FEWEST_LEARNERS:
        few = gettext(
            "only {learners} learners with two or more answers, at least {fewest} are needed"
        ).format(learners=learners, fewest=FEWEST_LEARNERS)
        return [_unmoved(f, c, len(outcomes[f]), why[f] or few) for f, c in present.items()]

    def fit(log: _Log, kept: Sequence[str]) -> MarginalFit:
        mean_slope = float(np.mean([math.log(present[family].a) for family in fitted]))
        priors = Priors(log_slope=(mean_slope, SLOPE_SD))
        return fit_moving(dict(present), log.moving, kept, priors=priors)

    kept = [family for family in present if why[family] is not None]
    found = fit(log, kept)
    against = _against(found, log, present, fitted)
    if against:
        why |= against
        fitted = [family for family in fitted if family not in against]
    if not fitted:
        return [
            _unmoved(f, c, len(outcomes[f]), why[f] or "", against=f in against)
            for f, c in present.items()
        ]
    if against:
        log = _log(present, histories, begins, settings, frozenset(against))
        found = fit(log, [*kept, *against])
    reports = {report.item: report for report in item_reports(found)}
    curves, shift = _linked([reports[family] for family in fitted], present)
    return [
        _unmoved(family, curve, len(outcomes[family]), reason, against=family in against)
        if (reason := why[family]) is not None
        else _proposal(
            reports[family],
            curve,
            curves[family] if found.settled else None,
            _parts(found, log, reports[family], curve),
            shift,
        )
        for family, curve in present.items()
    ]


def _weak(report: ItemReport) -> tuple[str, ...]:
    """What a log can't tell of a family."""
    found = []
    if report.a < LEAST_SLOPE:
        found.append(gettext("it hardly tells learners apart (slope {a:.2f})").format(a=report.a))
    error = report.errors["b"]
    if error is not None and error > MOST_ERROR:
        found.append(gettext("its difficulty is too uncertain (± {error:.1f})").format(error=error))
    if abs(report.b) > MOST_DIFFICULTY:
        found.append(gettext("nearly everybody, or nobody, gets it right"))
    return tuple(found)


def _proposal(
    report: ItemReport,
    present: ResponseCurve,
    fitted: ResponseCurve | None,
    parts: tuple[Spread | None, bool, float],
    shift: float,
) -> Proposal:
    """What a fit proposes for a family; no curve where its report names problems."""
    spread, drifted, drift = parts
    weak = _weak(report)
    problems = report.problems + weak
    return Proposal(
        report.item,
        present,
        None if problems else fitted,
        report.errors,
        report.fit.answers,
        report.fit.infit,
        report.fit.outfit,
        spread,
        drifted,
        drift,
        problems,
        shift=shift,
        weak=bool(weak),
    )
