"""What is known of how fast somebody learns and forgets, in words for them and for their tutor.

Nothing here compares people. Nothing is said before it is known: a pace counts as known when its
spread is small beside it and it rests on enough answers, for a few odd ones can look like anything
(judgements).
"""

from __future__ import annotations

from dataclasses import dataclass

from scipy.special import expit, logit

from vendaval_core.language import gettext

from ..measure.kernels import ChangeSettings
from ..measure.rates import Paces

KNOWN_SPREAD, LEAST_PACE = 0.5, 0.4
KNOWN_FORGETTING = 0.015
ENOUGH_ANSWERS = 100
# Below this, practice alone has hardly moved somebody.
HARDLY = 0.2
FORTNIGHT = 14.0
WELL_KNOWN, SLOPE = 0.8, 1.3
NEARLY_ALL, MOST = 0.76, 0.68
# For a tutor: sure enough that somebody learns little from practice, or was due for a step up.
SURE, SLOW_PACE = 0.6, 0.3


@dataclass(frozen=True, slots=True)
class OwnPace:
    """questions: that bring a clear step up in a topic, None where practice has hardly brought any.
    kept: chance, 0 to 1, of what came right eight times in ten, after two weeks without practice.
    Neither is told before it is known: `learning_known`, `forgetting_known`.
    """

    learning_known: bool
    questions: int | None
    forgetting_known: bool
    kept: float


def own_pace(paces: Paces, answers: int, change: ChangeSettings) -> OwnPace:
    """Return what is known of somebody's paces. answers (0 or more): they have given."""
    mean, forgets = paces.learning_mean, paces.forgetting_mean
    spread = float(paces.learns @ (paces.learning - mean) ** 2) ** 0.5
    doubt = float(paces.forgets @ (paces.forgetting - forgets) ** 2) ** 0.5
    questions = None if mean < HARDLY else round(1 / (change.jump_chance * mean))
    kept = float(expit(logit(WELL_KNOWN) - SLOPE * forgets * FORTNIGHT))
    enough = answers >= ENOUGH_ANSWERS
    known = enough and spread <= KNOWN_SPREAD * max(mean, LEAST_PACE)
    return OwnPace(known, questions, enough and doubt <= KNOWN_FORGETTING, kept)


def pace_words(pace: OwnPace, *, own: bool = True) -> str:
    """Return what is known of somebody's pace; "" while that is nothing. own: said to them, and not
    to somebody who reads along."""
    parts = []
    if pace.learning_known and pace.questions is not None:
        said = (
            gettext("you usually need about {questions} questions for a clear step up")
            if own
            else gettext("they usually need about {questions} questions for a clear step up")
        )
        parts.append(said.format(questions=pace.questions))
    elif pace.learning_known:
        parts.append(
            gettext(
                "practice alone has moved you little so far, so try a study page or ask for help"
            )
            if own
            else gettext("practice alone has moved them little so far")
        )
    if pace.forgetting_known:
        parts.append(_kept_words(pace.kept, own=own))
    said = "; ".join(parts)
    return f"{said[:1].upper()}{said[1:]}." if said else ""


def _kept_words(kept: float, *, own: bool) -> str:
    if kept >= NEARLY_ALL:
        return (
            gettext("after two weeks without practice you keep nearly all of it")
            if own
            else gettext("after two weeks without practice they keep nearly all of it")
        )
    if kept >= MOST:
        return (
            gettext("after two weeks without practice you keep most of it")
            if own
            else gettext("after two weeks without practice they keep most of it")
        )
    return gettext(
        "after two weeks without practice, what came right 8 times in 10 comes right about "
        "{times} times in 10"
    ).format(times=round(10 * kept))


def no_rise_words(paces: Paces, answers: int, change: ChangeSettings) -> str | None:
    """Return why so many answers (0 or more) in a topic without a rise are worth a tutor's eye, and
    how sure that is; None when that happens often to somebody of this pace."""
    slow = float(paces.learns @ (paces.learning <= SLOW_PACE))
    if slow >= SURE:
        return gettext("practice alone teaches them little ({chance} in 10 sure)").format(
            chance=_tenths(slow)
        )
    due = 1 - float(paces.learns @ (1 - change.jump_chance * paces.learning) ** answers)
    if due >= SURE:
        return gettext("at their own pace a step up was due ({chance} in 10 sure)").format(
            chance=_tenths(due)
        )
    return None


def _tenths(chance: float) -> int:
    return min(9, round(10 * chance))
