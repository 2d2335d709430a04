"""Replies to answers: feedback, the question as it stands, the next one, and the run."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from vendaval.bank.snapshot import course_bank, family_of, version_of
from vendaval.delivery.disclosure import SILENT, Disclosure
from vendaval.delivery.payload import Answer, Shown, Where, question_out, reading_out
from vendaval.delivery.schemas import PlaceOut, QuestionOut, WorkingAreaOut
from vendaval.shared.markdown import to_html
from vendaval_core.items.versions import Version
from vendaval_core.scoring.feedback import (
    Feedback,
    feedback_for,
    level_sentence,
    not_taught_feedback,
)
from vendaval_core.scoring.tries import QuestionState

from .activity import Activity, activities
from .columns import Reply
from .grading import Graded, Moved
from .models import Mark, Presentation, Run, Try
from .questions import Log, OpenQuestion, question_state, shown_in_test, tries_of
from .schemas import AnswerOut, FeedbackOut, LevelChangeOut, PartFeedbackOut, RunOut, RunStateOut


@dataclass(frozen=True, slots=True)
class Answered:
    """An answer graded. row: its try, None when it used none. says: what is said of each part."""

    question: OpenQuestion
    reply: Reply
    says: Mapping[str, str | None]
    row: Try | None = None
    moved: Moved | None = None
    next: Presentation | None = None


def reply_of(graded: Graded, activity: Activity) -> Reply:
    """What is said to a try, kept with it so that it can be said again."""
    feedback = _feedback(graded, activity)
    submission = graded.submission
    results = {} if submission is None else submission.results
    return Reply(
        verdict=feedback.verdict,
        headline=feedback.headline,
        detail=graded.detail if graded.detail is not None else feedback.detail,
        results={part: result.value for part, result in results.items()},
        met_says=graded.moved.met_says if graded.moved else None,
        mended=graded.mended,
    )


def _feedback(graded: Graded, activity: Activity) -> Feedback:
    if graded.submission is None:
        return not_taught_feedback()
    sent = graded.question.sent
    parts = graded.question.version.parts
    answers = {key.id: key.answer_words(sent.get(key.id, "")) for key in parts}
    disclosure = activity.disclosure(graded.question.presentation, closed=False)
    return feedback_for(graded.submission, answers, disclosure.parts)


def says_of_try(marks: Mapping[str, Mark]) -> dict[str, str | None]:
    """What the marks of a try say of its parts."""
    return {part: mark.says or None for part, mark in marks.items()}


def says_unread(graded: Graded) -> dict[str, str | None]:
    """Why parts could not be read, for a submission that used no try."""
    if graded.submission is None:
        return {}
    return {
        part: graded.submission.marks[part].says
        for part, result in graded.submission.results.items()
        if result in {"unreadable", "incomplete"}
    }


def last_answers(tries: list[Try], marks: Mapping[int, Mapping[str, Mark]]) -> dict[str, Answer]:
    """By part: the last response that used a try and what was said of it."""
    found: dict[str, Answer] = {}
    for row in tries:
        for part, mark in marks.get(row.pk, {}).items():
            found[part] = (row.response.get(part, ""), mark.says or None)
    return found


def shown_question(
    presentation: Presentation,
    version: Version,
    state: QuestionState,
    answers: Mapping[str, Answer],
    *,
    in_review: bool = False,
    open_elsewhere: bool = False,
) -> QuestionOut:
    """A question as its learner may see it now. open_elsewhere: whether the same version waits for
    an answer in another place; it shows no more here than there."""
    activity = activities().of(presentation.run)
    closed = presentation.closed_at is not None
    in_test = shown_in_test(presentation.run.enrolment, presentation)
    disclosure = activity.disclosure(
        presentation, closed=closed and not open_elsewhere, in_review=in_review
    )
    swap = presentation.why.swap_topic
    can = [] if in_review else activity.can(presentation, len(version.hints))
    if not presentation.run.enrolment.aims.asks_sure:
        can = [one for one in can if one != "sure"]
    shown = Shown(
        id=presentation.pk,
        number=presentation.number,
        closed=closed,
        untouched=presentation.tried == 0,
        hints_shown=0 if in_test else presentation.hints_shown,
        answers=answers,
        can=can,
        swap=PlaceOut(key=swap.key, title=swap.title) if swap else None,
        fresh_left=0 if in_review else activity.fresh_left(presentation),
    )
    family = family_of(presentation.revision)
    bank = course_bank(presentation.run.enrolment.course)
    return question_out(
        shown,
        version,
        family,
        state,
        activity.rules_for(presentation.run),
        SILENT if in_test else disclosure,
        Where.of(bank, family),
    )


def shown_to_others(
    presentation: Presentation, disclosure: Disclosure, *, with_answer: bool, log: Log | None = None
) -> tuple[QuestionOut, Version, dict[str, str]]:
    """A question as somebody else sees it, for whom `disclosure` says what may be shown, with the
    version behind it and the first response to each part. Without the answer it is untouched. log:
    its tries and marks, where they were loaded before."""
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    tries, marks = (log or tries_of(presentation)) if with_answer else ([], {})
    state = question_state(version, tries, marks)
    shown = Shown(
        id=presentation.pk,
        number=presentation.number,
        closed=True,
        untouched=not tries,
        hints_shown=len(version.hints) if disclosure.solution else 0,
        answers=last_answers(tries, marks),
        can=[],
        swap=None,
        fresh_left=0,
    )
    enrolment = presentation.run.enrolment
    rules = activities().of(presentation.run).rules_for(presentation.run)
    bank, family = course_bank(enrolment.course), family_of(presentation.revision)
    question = question_out(
        shown, version, family, state, rules, disclosure, Where.of(bank, family)
    )
    return question, version, first_responses(tries, marks)


def working_area(tries: list[Try]) -> WorkingAreaOut | None:
    """The working that was sent last, if any was."""
    note = next((row.working for row in reversed(tries) if row.working is not None), None)
    if note is None:
        return None
    return WorkingAreaOut(html=to_html(note.lines), strokes=note.strokes)


def first_responses(tries: list[Try], marks: Mapping[int, Mapping[str, Mark]]) -> dict[str, str]:
    """By part the response of its first try."""
    found: dict[str, str] = {}
    for row in tries:
        for part in marks.get(row.pk, {}):
            found.setdefault(part, row.response.get(part, ""))
    return found


def presented(presentation: Presentation) -> QuestionOut:
    """A stored presentation as its learner may see it, its tries read from the log."""
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    tries, marks = tries_of(presentation)
    state = question_state(version, tries, marks)
    return shown_question(presentation, version, state, last_answers(tries, marks))


def question_now(question: OpenQuestion) -> QuestionOut:
    """An open question as it stands after something was done with it."""
    answers = last_answers(question.tries, question.marks)
    return shown_question(question.presentation, question.version, question.state, answers)


def run_state(run: Run) -> RunStateOut:
    """A run as it was left, or as it begins."""
    activity = activities().of(run)
    waiting = run.current if run.ended_at is None or activity.shows_last else None
    question = None
    if waiting is not None:
        waiting.run = run
        question = presented(waiting)
    return RunStateOut(run=activity.run_out(run), question=question)


def run_now(run: Run) -> RunOut:
    """A run as its activity shows it."""
    return activities().of(run).run_out(run)


def _level_change(moved: Moved, question: OpenQuestion) -> LevelChangeOut:
    topic = question.bank.topics[question.item.topic]
    return LevelChangeOut(
        topic=PlaceOut(key=topic.key, title=topic.title),
        before=reading_out(moved.before),
        after=reading_out(moved.after),
        sentence=level_sentence(moved.before, moved.after, moved.reason, moved.answers),
    )


def feedback_out(answered: Answered, activity: Activity) -> FeedbackOut:
    """Feedback on an answer, the same again for a replayed key."""
    reply, question = answered.reply, answered.question
    told = activity.disclosure(question.presentation, closed=False).parts
    unread = answered.row is None
    return FeedbackOut.model_validate(
        {
            "verdict": reply.verdict,
            "headline": reply.headline,
            "detail": reply.detail,
            "parts": [
                PartFeedbackOut.model_validate(
                    {
                        "id": part,
                        "result": result,
                        "says": answered.says.get(part) if told or unread else None,
                    }
                )
                for part, result in reply.results.items()
            ],
            "level": _level_change(answered.moved, question) if answered.moved else None,
            "met": reply.met_says,
            "mended": reply.mended,
        }
    )


def answer_out(answered: Answered) -> AnswerOut:
    """The whole reply."""
    run = answered.question.run
    activity = activities().of(run)
    following = answered.next
    if following is not None:
        following.run = run
    return AnswerOut(
        feedback=feedback_out(answered, activity),
        question=question_now(answered.question),
        next=presented(following) if following is not None else None,
        run=activity.run_out(run),
    )
