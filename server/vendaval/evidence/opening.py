"""A presentation loaded with all that an answer to it meets."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from fractions import Fraction

from vendaval.bank.models import Family
from vendaval.bank.snapshot import BankFamily, version_of
from vendaval.people.models import User
from vendaval.shared.errors import Conflict, NotFound
from vendaval_core.items.versions import Version
from vendaval_core.scoring.tries import USED_A_TRY, QuestionState

from .models import Closing, Presentation, Purpose, Try
from .state import Learning, load_learning

FEWEST_TIMED = 30


@dataclass(slots=True)
class OpenQuestion:
    """A presentation with all that an answer to it meets. mean_seconds: what its family takes."""

    presentation: Presentation
    tries: list[Try]
    learning: Learning
    version: Version
    item: BankFamily
    state: QuestionState
    mean_seconds: float
    sent: Mapping[str, str] = field(default_factory=dict)


def question_state(version: Version, tries: list[Try]) -> QuestionState:
    """Where a question stands after its tries."""
    parts = dict(QuestionState.fresh(version.parts).parts)
    for row in tries:
        for part, result in row.results.items():
            if result in USED_A_TRY:
                mark = row.marks[part]
                parts[part] = parts[part].with_answer(mark["canonical"], Fraction(mark["share"]))
    return QuestionState(parts)


def find_presentation(learner: User, presentation_id: int, purpose: Purpose) -> Presentation:
    """A learner's own presentation, or NotFound; another learner's does not exist for them."""
    found = (
        Presentation.objects.select_related("run__course", "revision__family")
        .defer("run__course__rehearsal")
        .filter(pk=presentation_id, learner=learner, purpose=purpose)
        .first()
    )
    if found is None:
        raise NotFound("You have no such question.")
    return found


def bank_family(learning: Learning, version: Version) -> BankFamily:
    """The bank's entry for a version's family; one no longer live cannot be answered."""
    item = learning.bank.families.get(version.family)
    if item is None:
        raise Conflict(
            "This question was taken out of the course. Nothing was counted.", code="not_live"
        )
    return item


def open_question(learner: User, presentation_id: int, purpose: Purpose) -> OpenQuestion:
    """Load a presentation for an answer. NotFound unless it is this learner's."""
    presentation = find_presentation(learner, presentation_id, purpose)
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    tries = list(presentation.tries.order_by("number"))
    learning = load_learning(learner, presentation.run.course)
    item = bank_family(learning, version)
    state = question_state(version, tries)
    mean_seconds = typical_seconds(presentation.revision.family, item.family.seconds)
    return OpenQuestion(presentation, tries, learning, version, item, state, mean_seconds)


def typical_seconds(family: Family, guess: float) -> float:
    """Mean seconds of a family's first tries; the author's guess until 30 are in."""
    if family.timed_answers < FEWEST_TIMED:
        return guess
    return family.timed_seconds / family.timed_answers


def replayed(question: OpenQuestion, replay_key: str) -> Try | None:
    """The try that a replay key already made, if any."""
    return next((row for row in question.tries if row.replay_key == replay_key), None)


def refuse_closed(question: OpenQuestion) -> None:
    """Conflict when the presentation was closed before."""
    if question.presentation.closed_at is not None:
        raise Conflict("This question is closed. Nothing was changed.", code="question_closed")


def close(presentation: Presentation, how: Closing, now: datetime) -> None:
    """Close a presentation; the caller saves it."""
    presentation.closed_at = now
    presentation.closing = how
