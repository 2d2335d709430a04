"""What the diagnostic answers with."""

from __future__ import annotations

from vendaval.evidence.models import Run
from vendaval.evidence.questions import reading_out
from vendaval.evidence.replies import (
    Answered,
    answer_out,
    feedback_on,
    just_presented,
    presented,
    run_out,
)
from vendaval.evidence.schemas import AnswerOut, RunOut, RunStateOut, TopicProgressOut
from vendaval.evidence.state import Learning, load_learning
from vendaval.people.models import User
from vendaval_core.mastery.diagnostic import SUGGEST_STOP_SECONDS
from vendaval_core.mastery.recommend import minutes_for


def diagnostic_run_out(run: Run, learning: Learning) -> RunOut:
    """A run with its topics settled and open, and about how long is left."""
    bank, readings = learning.bank, learning.readings
    statuses = run.note.get("statuses", {})
    topics = bank.topics_of(run.scope)
    left = int(run.note.get("questions_left", 0))
    seconds = sum(bank.mean_seconds(topic.number) for topic in topics) / len(topics)
    return run_out(
        run,
        bank,
        questions_left=left,
        minutes_left=minutes_for(left, seconds) if left else 0,
        suggest_stop=run.note.get("stretch", 0.0) >= SUGGEST_STOP_SECONDS,
        topics=[
            TopicProgressOut(
                key=topic.key,
                title=topic.title,
                status=statuses.get(topic.key, "open"),
                reading=reading_out(readings[topic.number]),
            )
            for topic in topics
        ],
    )


def run_state(run: Run, learner: User) -> RunStateOut:
    """A run as it was left."""
    learning = load_learning(learner, run.course)
    waiting = run.current if run.ended_at is None else None
    return RunStateOut(
        run=diagnostic_run_out(run, learning),
        question=presented(waiting, learning.bank) if waiting else None,
    )


def reply(answered: Answered) -> AnswerOut:
    """The reply to an answer, the same again for a replayed key."""
    question, bank = answered.question, answered.question.learning.bank
    feedback = feedback_on(answered)
    return answer_out(
        feedback,
        question,
        question.tries,
        just_presented(answered.next, bank) if answered.next else None,
        diagnostic_run_out(question.presentation.run, question.learning),
    )
