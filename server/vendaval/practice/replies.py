"""What practice answers with."""

from __future__ import annotations

from vendaval.evidence.models import Presentation, Run
from vendaval.evidence.opening import OpenQuestion
from vendaval.evidence.questions import question_out, reading_out
from vendaval.evidence.replies import (
    Answered,
    answer_out,
    feedback_on,
    just_presented,
    presented,
    run_out,
)
from vendaval.evidence.schemas import AnswerOut, QuestionOut, RunOut, RunStateOut, TopicProgressOut
from vendaval.evidence.state import Learning, load_learning
from vendaval.people.models import User
from vendaval_core.mastery.practice import target_met

from .actions import fresh_used


def practice_run_out(run: Run, learning: Learning) -> RunOut:
    """A run with the level of its topic."""
    topic = learning.bank.topic(run.scope[0])
    reading = learning.readings[topic.number]
    met = target_met(reading.chance, learning.coverage(topic.number))
    progress = TopicProgressOut(
        key=topic.key,
        title=topic.title,
        status="settled" if met else "open",
        reading=reading_out(reading),
    )
    return run_out(run, learning.bank, topics=[progress])


def run_state(run: Run, learner: User) -> RunStateOut:
    """A run as it was left."""
    learning = load_learning(learner, run.course)
    waiting = run.current if run.ended_at is None else None
    question = presented(waiting, learning.bank, fresh_used(waiting)) if waiting else None
    return RunStateOut(run=practice_run_out(run, learning), question=question)


def question_now(question: OpenQuestion) -> QuestionOut:
    """The question after help was opened."""
    return question_out(
        question.presentation,
        question.version,
        question.state,
        question.tries,
        question.learning.bank,
        fresh_used=fresh_used(question.presentation),
    )


def after_working(
    question: OpenQuestion, following: Presentation | None
) -> tuple[RunOut, QuestionOut, QuestionOut | None]:
    """The run, the closed question with its solution, and the next."""
    learning = question.learning
    return (
        practice_run_out(question.presentation.run, learning),
        question_now(question),
        just_presented(following, learning.bank) if following else None,
    )


def reply(answered: Answered) -> AnswerOut:
    """The reply to a try, the same again for a replayed key."""
    question, bank = answered.question, answered.question.learning.bank
    feedback = feedback_on(answered)
    return answer_out(
        feedback,
        question,
        question.tries,
        just_presented(answered.next, bank) if answered.next else None,
        practice_run_out(question.presentation.run, question.learning),
        fresh_used=fresh_used(question.presentation),
    )
