"""From one try to the next state: the only way evidence moves a learner's levels.

A learner's state is the fold of `advance` over their entries in order, so it can be rebuilt
from the try log alone.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from .change import ChangeSettings, learning_step, time_step
from .grid import THETA
from .posterior import LearnerState, Posterior, Prior, infer
from .response import Outcome, ResponseCurve


@dataclass(frozen=True, slots=True)
class Entry:
    """What one try says.

    topic: number in the course. weight: 0 to 1. days: time since the last answer when this try
    begins a sitting, else 0. learning: whether feedback followed, as in practice.
    """

    topic: int
    curve: ResponseCurve
    outcome: Outcome
    weight: float
    days: float = 0.0
    learning: bool = False


def advance(
    prior: Prior, state: LearnerState, entry: Entry, settings: ChangeSettings
) -> tuple[Posterior, LearnerState]:
    """Posterior and state after one try: time first, then evidence, then learning."""
    if entry.days > 0:
        posterior, state = infer(prior, state)
        state = time_step(prior, state, posterior, entry.days, settings)
    if entry.weight > 0:
        log_likelihood = entry.curve.log_likelihood(entry.outcome, THETA)
        state = state.with_evidence(entry.topic, log_likelihood, entry.weight)
    posterior, state = infer(prior, state)
    if entry.learning:
        state = learning_step(state, posterior, entry.topic, settings)
        posterior, state = infer(prior, state)
    return posterior, state


def rebuild(prior: Prior, entries: Iterable[Entry], settings: ChangeSettings) -> LearnerState:
    """State of a learner from all their entries in order."""
    state = LearnerState.empty(prior.size)
    for entry in entries:
        _, state = advance(prior, state, entry, settings)
    return state
