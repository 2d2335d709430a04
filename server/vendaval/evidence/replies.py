"""Replies to answers: feedback, the question as it stands, the next one, and the run."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from vendaval.bank.snapshot import CourseBank, version_of
from vendaval_core.scoring.feedback import (
    NOT_TAUGHT_FEEDBACK,
    Feedback,
    feedback_for,
    level_sentence,
    met_sentence,
)
from vendaval_core.scoring.tries import Submission
from vendaval_core.scoring.words import answer_words

from .models import Presentation, Purpose, Run, Try, TryKind
from .opening import OpenQuestion, question_state
from .questions import question_out, reading_out, study_link
from .record import Judged
from .schemas import (
    AnswerOut,
    FeedbackOut,
    LevelChangeOut,
    PartFeedbackOut,
    PlaceOut,
    QuestionOut,
    RunOut,
    StudyLinkOut,
)
from .state import reading_from


@dataclass(frozen=True, slots=True)
class Answered:
    """An answer taken.

    row: its try, or None when it used none; then `judged` says why. next: what was presented.
    """

    question: OpenQuestion
    row: Try | None
    judged: Judged | None = None
    next: Presentation | None = None


def feedback_on(answered: Answered) -> FeedbackOut:
    """Feedback on an answer, the same again for a replayed key."""
    if answered.row is not None:
        return feedback_of(answered.row, answered.question.learning.bank)
    assert answered.judged is not None
    assert answered.judged.submission is not None
    return uncounted_feedback(answered.question, answered.judged.submission)


NOT_MENDED = {
    "rapid": "It came faster than it can be read, so the miss stays on the list.",
    "helped": "Help was opened first, so the miss stays on the list.",
}


def note_of(judged: Judged) -> dict[str, Any]:
    """What a try keeps so that its reply can be given again."""
    question = judged.question
    feedback = NOT_TAUGHT_FEEDBACK
    if judged.submission is not None:
        feedback = _feedback(question, judged.submission)
    if question.presentation.purpose == Purpose.MISSED and judged.right and not judged.mended:
        feedback = replace(feedback, detail=NOT_MENDED[judged.row.weight_reason])
    note: dict[str, Any] = {"feedback": [feedback.verdict, feedback.headline, feedback.detail]}
    if judged.met and judged.row.after is not None:
        topic = question.learning.bank.topics[question.item.topic]
        covered = question.learning.coverage(topic.number).covered
        note["met_says"] = met_sentence(topic.title, reading_from(judged.row.after), covered)
    return note


def _feedback(question: OpenQuestion, submission: Submission) -> Feedback:
    answers = {
        key.id: answer_words(key, question.sent.get(key.id, "")) for key in question.version.parts
    }
    return feedback_for(submission, answers, question.presentation.purpose != Purpose.DIAGNOSTIC)


def _level_change(row: Try, bank: CourseBank) -> LevelChangeOut | None:
    if row.before is None or row.after is None:
        return None
    topic = next(topic for topic in bank.topics if topic.id == row.topic_id)
    before, after = reading_from(row.before), reading_from(row.after)
    return LevelChangeOut(
        topic=PlaceOut(key=topic.key, title=topic.title),
        before=reading_out(before),
        after=reading_out(after),
        sentence=level_sentence(before, after, row.weight_reason),
    )


def feedback_of(row: Try, bank: CourseBank) -> FeedbackOut:
    """Feedback of a stored try."""
    verdict, headline, detail = row.note["feedback"]
    diagnostic = row.presentation.purpose == Purpose.DIAGNOSTIC
    return FeedbackOut(
        verdict=verdict,
        headline=headline,
        detail=detail,
        parts=[
            PartFeedbackOut(
                id=part,
                result=result,
                says=None if diagnostic else row.marks.get(part, {}).get("says"),
            )
            for part, result in row.results.items()
        ],
        level=_level_change(row, bank),
        met=row.note.get("met_says"),
        mended=row.note.get("mended", False),
        can_take_back=row.kind == TryKind.NOT_TAUGHT,
    )


def uncounted_feedback(question: OpenQuestion, submission: Submission) -> FeedbackOut:
    """Feedback on a submission that used no try; nothing of it is stored."""
    feedback = _feedback(question, submission)
    return FeedbackOut(
        verdict=feedback.verdict,
        headline=feedback.headline,
        detail=feedback.detail,
        parts=[
            PartFeedbackOut(
                id=part,
                result=result.value,
                says=submission.marks[part].says if result == "unreadable" else None,
            )
            for part, result in submission.results.items()
        ],
        level=None,
        met=None,
        mended=False,
        can_take_back=False,
    )


def presented(presentation: Presentation, bank: CourseBank, fresh_used: int = 0) -> QuestionOut:
    """A stored presentation as its learner may see it, its tries read from the log."""
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    tries = list(presentation.tries.order_by("number"))
    state = question_state(version, tries)
    return question_out(presentation, version, state, tries, bank, fresh_used=fresh_used)


def just_presented(
    presentation: Presentation, bank: CourseBank, fresh_used: int = 0
) -> QuestionOut:
    """A presentation nobody can have answered yet: nothing is read."""
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    state = question_state(version, [])
    return question_out(presentation, version, state, [], bank, fresh_used=fresh_used)


def answer_out(
    feedback: FeedbackOut,
    question: OpenQuestion,
    tries: list[Try],
    next_question: QuestionOut | None,
    run: RunOut,
    fresh_used: int = 0,
) -> AnswerOut:
    """The whole reply."""
    return AnswerOut(
        feedback=feedback,
        question=question_out(
            question.presentation,
            question.version,
            question.state,
            tries,
            question.learning.bank,
            fresh_used=fresh_used,
        ),
        next=next_question,
        run=run,
    )


def _study_first(run: Run, bank: CourseBank) -> StudyLinkOut | None:
    """The section to open before the run goes on."""
    owed = run.note.get("study_first")
    if owed is None or run.ended_at is not None or owed["family"] not in bank.families:
        return None
    return study_link(bank, bank.families[owed["family"]].family)


def run_out(
    run: Run,
    bank: CourseBank,
    *,
    questions_left: int | None = None,
    minutes_left: int | None = None,
    suggest_stop: bool = False,
    topics: list[Any] | None = None,
) -> RunOut:
    """A run as shown while answering."""
    return RunOut(
        id=run.pk,
        purpose=Purpose(run.purpose),
        title=run.title,
        scope=[PlaceOut(key=topic.key, title=topic.title) for topic in bank.topics_of(run.scope)],
        answered=run.answered,
        ended=run.ended_at is not None,
        saved_at=run.touched_at,
        questions_left=questions_left,
        minutes_left=minutes_left,
        suggest_stop=suggest_stop,
        miss=run.note.get("miss"),
        study_first=_study_first(run, bank),
        topics=topics or [],
    )
