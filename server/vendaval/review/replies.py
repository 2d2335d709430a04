"""What mending a miss answers with."""

from __future__ import annotations

from vendaval.evidence.models import Run
from vendaval.evidence.replies import (
    Answered,
    answer_out,
    feedback_on,
    presented,
    run_out,
)
from vendaval.evidence.schemas import AnswerOut, RunStateOut
from vendaval.evidence.state import load_learning
from vendaval.people.models import User


def run_state(run: Run, learner: User) -> RunStateOut:
    """The fresh version that waits, or that was answered."""
    learning = load_learning(learner, run.course)
    question = presented(run.current, learning.bank) if run.current else None
    return RunStateOut(run=run_out(run, learning.bank), question=question)


def reply(answered: Answered) -> AnswerOut:
    """The reply to an answer, the same again for a replayed key."""
    question, bank = answered.question, answered.question.learning.bank
    feedback = feedback_on(answered)
    run = run_out(question.presentation.run, bank)
    return answer_out(feedback, question, question.tries, None, run)
