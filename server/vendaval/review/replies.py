"""What mending a miss answers with."""

from __future__ import annotations

from vendaval.evidence.models import Run
from vendaval.evidence.replies import (
    answer_out,
    feedback_of,
    presented,
    run_out,
    uncounted_feedback,
)
from vendaval.evidence.schemas import AnswerOut, RunStateOut
from vendaval.evidence.state import load_learning
from vendaval.people.models import User

from .actions import Answered


def run_state(run: Run, learner: User) -> RunStateOut:
    """The fresh version that waits, or that was answered."""
    learning = load_learning(learner, run.course)
    question = presented(run.current, learning.bank) if run.current else None
    return RunStateOut(run=run_out(run, learning.bank), question=question)


def reply(answered: Answered) -> AnswerOut:
    """The reply to an answer, the same again for a replayed key."""
    question, bank = answered.question, answered.question.learning.bank
    if answered.row is None:
        assert answered.judged is not None and answered.judged.submission is not None
        feedback = uncounted_feedback(question, answered.judged.submission)
    else:
        feedback = feedback_of(answered.row, bank)
    run = run_out(question.presentation.run, bank)
    return answer_out(feedback, question, question.tries, None, run)
