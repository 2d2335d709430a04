"""Steps that more than one learner's standing asks for: diagnostics to begin or to carry on, and
misses to mend."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from vendaval_core.language import gettext

from ..words import counted, sentence_of_share
from .step_words import misses_reason, unknown_reason
from .steps import Step, StepKind, TopicStanding, minutes_for

MINUTES_PER_MISS = 1.5
USUAL_SECONDS = 60.0


@dataclass(frozen=True, slots=True)
class OpenRun:
    """A diagnostic that was left: its number and title, topics settled, keys of all its topics,
    expected questions left, and the fewest and most of them."""

    id: int
    title: str
    settled: int
    topics: frozenset[str]
    questions_left: int
    between: tuple[int, int] | None = None


def carry_on_steps(runs: Sequence[OpenRun], standings: Sequence[TopicStanding]) -> list[Step]:
    """Return a step for each unfinished diagnostic, latest first."""
    steps = []
    for run in runs:
        inside = [standing.seconds for standing in standings if standing.key in run.topics]
        seconds = sum(inside) / len(inside) if inside else USUAL_SECONDS
        still, every = len(run.topics) - run.settled, len(run.topics)
        reason = sentence_of_share(still, every, "topic", "still open")
        left = run.questions_left
        minutes = minutes_for(max(1, left), seconds)
        steps.append(
            Step(
                StepKind.CARRY_ON,
                None,
                run.title,
                reason,
                minutes,
                left,
                1.0,
                run.id,
                run.between,
            )
        )
    return steps


def diagnose_steps(
    standings: Sequence[TopicStanding],
    subjects: Sequence[tuple[str, str, Sequence[str]]],
    runs: Sequence[OpenRun],
    ahead: Callable[[Sequence[str]], tuple[int, tuple[int, int]]],
) -> list[Step]:
    """Return a diagnostic step for each subject in which most topics have no level yet.

    subjects: (key, title, topic keys). runs: unfinished diagnostics, which replace the subjects
    that they cover and no others. ahead: questions expected for topics by their keys, and the
    fewest and most of them.
    """
    by_key = {standing.key: standing for standing in standings}
    steps = []
    for key, title, topics in subjects:
        taught = [by_key[t] for t in topics if t in by_key and by_key[t].taught]
        wide = [standing for standing in taught if not standing.reading.known]
        under_way = any(run.topics.issuperset(s.key for s in taught) for run in runs)
        if under_way or 2 * len(wide) <= len(taught):
            continue
        questions, between = ahead([standing.key for standing in taught])
        steps.append(
            Step(
                StepKind.DIAGNOSE,
                key,
                f"Diagnostic: {title.lower()}",
                unknown_reason(len(wide), len(taught)),
                minutes_for(questions, sum(s.seconds for s in taught) / len(taught)),
                questions,
                0.9,
                between=between,
            )
        )
    return steps


def mend_steps(standings: Sequence[TopicStanding], sure: int, pace: float = 1.0) -> list[Step]:
    """Return a step to mend misses, if there are any. sure: misses answered with a confidence of
    90% or more. pace: the learner's time beside the usual one."""
    misses = sum(standing.misses for standing in standings)
    if not misses:
        return []
    most = max(standings, key=lambda s: s.misses)
    return [
        Step(
            StepKind.REVIEW,
            None,
            gettext("{missed_questions} to correct").format(
                missed_questions=counted(misses, "mistake").capitalize()
            ),
            misses_reason(sure, most.title),
            max(1, round(MINUTES_PER_MISS * pace * misses)),
            misses,
            0.5,
        )
    ]
