"""What a learner does in practice."""

from __future__ import annotations

from datetime import datetime
from functools import partial

from django.db import transaction

from vendaval.bank.models import Course
from vendaval.evidence.actions import end_run, open_help, replace_retired
from vendaval.evidence.answer import AnswerRules, take_answer
from vendaval.evidence.models import Closing, HelpKind, Presentation, Purpose, Run
from vendaval.evidence.opening import OpenQuestion, close, open_question, refuse_closed
from vendaval.evidence.present import present
from vendaval.evidence.queries import open_runs, own_run, was_opened
from vendaval.evidence.questions import FRESH_VERSIONS, closing_of
from vendaval.evidence.record import Judged, Sent
from vendaval.evidence.replies import Answered
from vendaval.evidence.state import Learning, load_learning
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Conflict
from vendaval_core.mastery.practice import choose_practice, misses_on_idea, needs_study
from vendaval_core.scoring.tries import PRACTICE_TRIES

RULES = AnswerRules(Purpose.PRACTICE, PRACTICE_TRIES, learning_follows=True, whole=False)


def _ask(learning: Learning, run: Run, now: datetime) -> Presentation:
    """Present the next question of a run."""
    topic = learning.bank.topic(run.scope[0])
    choice = choose_practice(
        learning.practice_families(topic.number), run.note.get("misses", 0), run.note.get("last")
    )
    run.note["last"] = choice.family
    why = {
        "rule": "coverage" if choice.for_coverage else "practice",
        "success": round(choice.success, 4),
        "easier": choice.easier,
    }
    return present(learning, run, choice.family, now, why=why)


@transaction.atomic
def start_run(learner: User, course: Course, topic_key: str) -> Run:
    """Begin practising a topic, or take up the run under way in it."""
    learning = load_learning(learner, course)
    topic = learning.bank.topic(topic_key)
    for run in open_runs(learner, Purpose.PRACTICE).select_related("current__revision"):
        if run.scope == [topic_key] and run.current is not None:
            return replace_retired(learning, run, partial(_ask, learning, run))
    now = clock.now()
    run = Run(
        learner=learner,
        course=course,
        purpose=Purpose.PRACTICE,
        title=topic.title,
        scope=[topic_key],
        started_at=now,
        touched_at=now,
    )
    run.save()
    _ask(learning, run, now)
    learning.save()
    run.save()
    return run


@transaction.atomic
def submit(learner: User, presentation_id: int, sent: Sent) -> Answered:
    """Take a try; when the question closes, present the next one."""
    return take_answer(learner, presentation_id, sent, RULES, _follow)


def _follow(judged: Judged, now: datetime) -> Presentation | None:
    question, row = judged.question, judged.row
    presentation = question.presentation
    run = presentation.run
    if row.first:
        run.note["misses"] = run.note.get("misses", 0) + 1 if judged.missed else 0
    how = closing_of(question.state, presentation)
    if how is not None:
        close(presentation, how, now)
        return _after(question, run, now)
    if "wrong" in row.results.values():
        _offer_hint(judged)
    return None


def _after(question: OpenQuestion, run: Run, now: datetime) -> Presentation | None:
    """What follows a closed question: the next one, unless its idea was missed again and again;
    then nothing does until its study section was opened."""
    family, state = question.version.family, question.state
    right = state.first_tries_right and not question.presentation.helped
    run.note["missed"] = misses_on_idea(run.note.get("missed", {}), family, right)
    if needs_study(run.note["missed"][family]):
        run.note["missed"][family] = 0
        run.note["study_first"] = {"family": family, "since": now.isoformat()}
    return None if "study_first" in run.note else _ask(question.learning, run, now)


def _offer_hint(judged: Judged) -> None:
    """A miss that the family did not foresee brings the next hint."""
    unforeseen = not any(mark["says"] for mark in judged.row.marks.values())
    question = judged.question
    presentation = question.presentation
    if unforeseen and presentation.hints_shown < len(question.version.hints):
        presentation.hints_shown += 1
        presentation.helped = presentation.helped or not question.state.first_tries_done


@transaction.atomic
def open_hint(learner: User, presentation_id: int) -> OpenQuestion:
    """Show the next hint."""
    question = open_question(learner, presentation_id, Purpose.PRACTICE)
    refuse_closed(question)
    presentation = question.presentation
    if presentation.hints_shown >= len(question.version.hints):
        raise Conflict("There is no further hint.", code="no_hint")
    open_help(HelpKind.HINT, question, str(presentation.hints_shown), clock.now())
    presentation.hints_shown += 1
    presentation.save(update_fields=["hints_shown", "helped"])
    return question


@transaction.atomic
def show_working(learner: User, presentation_id: int) -> tuple[OpenQuestion, Presentation | None]:
    """Close a question and show its worked solution; what follows is presented."""
    question = open_question(learner, presentation_id, Purpose.PRACTICE)
    refuse_closed(question)
    now = clock.now()
    run, presentation = question.presentation.run, question.presentation
    open_help(HelpKind.SOLUTION, question, "", now)
    close(presentation, Closing.SHOWN, now)
    presentation.save(update_fields=["closed_at", "closing", "helped"])
    following = _after(question, run, now)
    run.touched_at = now
    question.learning.save()
    run.save()
    return question, following


@transaction.atomic
def go_on(learner: User, run_id: int) -> Run:
    """Present the next question: once the study section that comes first was opened, or in the
    place of one that was taken out of the course."""
    run = own_run(learner, run_id, Purpose.PRACTICE)
    if run.ended_at is not None:
        raise Conflict("This run has ended. Begin another.", code="run_ended")
    learning, now = load_learning(learner, run.course), clock.now()
    owed = run.note.get("study_first")
    if owed is None or (run.current is not None and run.current.closed_at is None):
        return replace_retired(learning, run, partial(_ask, learning, run))
    if owed["family"] in learning.bank.families and not was_opened(
        learner, learning.bank, owed["family"], datetime.fromisoformat(owed["since"])
    ):
        raise Conflict("Open its study section first, then go on.", code="study_first")
    del run.note["study_first"]
    _ask(learning, run, now)
    run.touched_at = now
    learning.save()
    run.save()
    return run


def fresh_used(presentation: Presentation) -> int:
    """Fresh versions already taken of the question that a presentation belongs to."""
    root = presentation.root_id or presentation.pk
    return int(presentation.run.note.get("fresh", {}).get(str(root), 0))


@transaction.atomic
def fresh_version(learner: User, presentation_id: int) -> Run:
    """Same idea, new numbers: another version of the family, up to four for one question."""
    question = open_question(learner, presentation_id, Purpose.PRACTICE)
    presentation, now = question.presentation, clock.now()
    run = own_run(learner, presentation.run_id, Purpose.PRACTICE)
    if run.ended_at is not None:
        raise Conflict("This run has ended. Begin another.", code="run_ended")
    if question.item.family.versions == 1:
        raise Conflict("This question has only one version.", code="one_version")
    if fresh_used(presentation) >= FRESH_VERSIONS:
        raise Conflict("All fresh versions of this question are used.", code="no_fresh_left")
    for waiting in {presentation, run.current}:
        if waiting is not None and waiting.closed_at is None:
            own = waiting == presentation
            close(waiting, Closing.REPLACED if own else Closing.WITHDRAWN, now)
            waiting.save(update_fields=["closed_at", "closing"])
    root = presentation if presentation.root_id is None else presentation.root
    assert root is not None
    run.note.setdefault("fresh", {})[str(root.pk)] = fresh_used(presentation) + 1
    key = question.version.family
    run.note["last"] = key
    present(question.learning, run, key, now, why={"rule": "fresh"}, root=root)
    run.touched_at = now
    question.learning.save()
    run.save()
    return run


@transaction.atomic
def finish(learner: User, run_id: int) -> Run:
    """End a practice run."""
    run = own_run(learner, run_id, Purpose.PRACTICE)
    end_run(run, clock.now())
    return run
