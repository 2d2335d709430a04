"""How a family stands: its author's judgement beside what answers say, and whether it needs one."""

from __future__ import annotations

import math
from dataclasses import dataclass

from vendaval_core.language import gettext
from vendaval_core.words import counted

# Ends of the axis that difficulties are drawn on, in logits; beyond them is drawn at the end.
AXIS = 3.0
SURE = 1.96
# A share of few answers says little; one of 20 that is 0 or 1 lies beyond 0.13 or 0.87 (exact 90%).
FEWEST = 20
HARDLY, NEARLY = 0.08, 0.96
SLOW, FAST = 1.8, 0.5
WELL, FAIRLY = 1.2, 0.6


@dataclass(frozen=True, slots=True)
class Figures:
    """What is known of a family. answers, right: first tries, and their share that is right. took:
    time against the estimate. judged, measured, error: difficulties and its standard error in
    logits. a: discrimination. asks: what calibration would have somebody look at. reports: of
    faults that are open. slips: wrong answers in a row that nobody foresaw, in words."""

    answers: int
    right: float | None
    took: float | None
    judged: float
    measured: float | None
    error: float | None
    a: float | None
    asks: tuple[str, ...] = ()
    reports: int = 0
    slips: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Need:
    """Why a family needs its author. urgency: the greater the sooner."""

    urgency: int
    says: str


def needs(figures: Figures) -> tuple[Need, ...]:
    """Why a family needs its author, the most urgent first; empty when it doesn't."""
    found: list[Need] = []
    if figures.reports:
        many = counted(figures.reports, "learner reports", "learners report").capitalize()
        says = gettext("{learners} a problem with it.").format(learners=many)
        found.append(Need(6 if figures.reports > 1 else 4, says))
    found += [Need(5, f"{one[:1].upper()}{one[1:]}.") for one in figures.asks]
    found += [Need(3, one) for one in figures.slips]
    if figures.answers >= FEWEST and figures.right is not None:
        share = round(100 * figures.right)
        if figures.right <= HARDLY:
            says = gettext("Hardly anybody gets it right: {share}% of {many} first tries.")
            found.append(Need(4, says.format(share=share, many=figures.answers)))
        elif figures.right >= NEARLY:
            says = gettext("Nearly everybody gets it right: {share}% of {many} first tries.")
            found.append(Need(2, says.format(share=share, many=figures.answers)))
        if figures.took is not None and not FAST <= figures.took <= SLOW:
            says = gettext("It takes {times:.1f} times as long as you estimated.")
            found.append(Need(1, says.format(times=figures.took)))
    return tuple(sorted(found, key=lambda need: -need.urgency))


def on_axis(difficulty: float) -> float:
    """Where a difficulty in logits is drawn: 0 easiest to 100 hardest."""
    return 50 + 50 * max(-1.0, min(1.0, difficulty / AXIS))


def measured_range(measured: float, error: float) -> tuple[float, float]:
    """The ends of a measured difficulty's bar: 95% by its standard error, both on the axis."""
    return on_axis(measured - SURE * error), on_axis(measured + SURE * error)


def apart(judged: float, measured: float | None, error: float | None) -> float | None:
    """How far judgement and measurement are apart, in standard errors of the latter and of a
    judgement's own half logit."""
    if measured is None or error is None:
        return None
    return abs(measured - judged) / math.hypot(error, 0.5)


def separates(a: float | None) -> str:
    """In a word, how well a family tells strong learners from weak ones. a: per logit."""
    if a is None:
        return ""
    return gettext("well") if a >= WELL else gettext("fairly") if a >= FAIRLY else gettext("little")
