"""What a learner does in a diagnostic."""

from __future__ import annotations

import random
from datetime import datetime
from functools import partial
from typing import Any

from django.db import transaction

from vendaval.bank.models import Course
from vendaval.evidence.actions import end_run, replace_retired, take_back
from vendaval.evidence.answer import AnswerRules, take_answer
from vendaval.evidence.models import Closing, Presentation, Purpose, Run, TryKind
from vendaval.evidence.opening import close, open_question, refuse_closed, replayed
from vendaval.evidence.present import present
from vendaval.evidence.queries import open_runs, own_run
from vendaval.evidence.record import LONGEST_COUNTED_SECONDS, Judged, Sent
from vendaval.evidence.replies import Answered
from vendaval.evidence.state import Learning, load_learning, seconds_between
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval_core.mastery.diagnostic import Ahead, DiagnosticPlan, plan_diagnostic
from vendaval_core.scoring.tries import ONE_TRY

RULES = AnswerRules(Purpose.DIAGNOSTIC, ONE_TRY, learning_follows=False, whole=True)
LONG_PAUSE_SECONDS = 30 * 60


def plan(learning: Learning, run: Run) -> DiagnosticPlan:
    """The run's next step from the learner's present state."""
    bank = learning.bank
    scope = bank.topics_of(run.scope)
    ahead = run.note.get("ahead", {})
    return plan_diagnostic(
        bank.table,
        learning.posterior,
        learning.readings,
        bank.scales,
        [topic.importance for topic in bank.topics],
        [topic.number for topic in scope],
        [learning.answers_in(topic.number) for topic in bank.topics],
        run.note.get("asked", []),
        random.Random(f"{run.pk}:{run.note.get('presented', 0)}"),
        remembered={
            topic.number: Ahead(*ahead[topic.key]) for topic in scope if topic.key in ahead
        },
    )


def _ask(learning: Learning, run: Run, now: datetime) -> Presentation | None:
    """Present the question planned from the present state, or end the run when there is none."""
    planned = plan(learning, run)
    bank = learning.bank
    run.note["statuses"] = {bank.topics[t].key: s.value for t, s in planned.statuses.items()}
    run.note["questions_left"] = planned.questions_left
    run.note["ahead"] = {
        bank.topics[t].key: [round(a.mean, 4), round(a.sd, 4), a.answers, a.left]
        for t, a in planned.ahead.items()
    }
    choice = planned.choice
    if choice is None:
        run.ended_at = now
        run.current = None
        return None
    why: dict[str, Any] = {
        "rule": "diagnostic",
        "gain": round(choice.gain, 6),
        "best_gain": round(choice.best_gain, 6),
        "uncertain": round(planned.uncertain, 6),
        "near": choice.near,
    }
    if choice.swap is not None:
        topic = bank.topics[bank.families[choice.swap].topic]
        why |= {"swap": choice.swap, "swap_topic": {"key": topic.key, "title": topic.title}}
    run.note.setdefault("asked", []).append(choice.family)
    return present(learning, run, choice.family, now, why=why)


@transaction.atomic
def start_run(learner: User, course: Course, subject: str | None) -> Run:
    """Begin a diagnostic over a subject or all; one under way with the same scope is taken up."""
    learning = load_learning(learner, course)
    bank = learning.bank
    titles = dict(bank.subjects)
    if subject is not None and subject not in titles:
        raise Unprocessable("There is no such subject.", fields={"subject": "unknown"})
    scope = [topic.key for topic in bank.topics if subject in {None, topic.subject}]
    for run in open_runs(learner, Purpose.DIAGNOSTIC).select_related("current__revision"):
        if run.scope == scope:
            return replace_retired(learning, run, partial(_ask, learning, run))
    now = clock.now()
    run = Run(
        learner=learner,
        course=course,
        purpose=Purpose.DIAGNOSTIC,
        title=titles[subject] if subject else "All subjects",
        scope=scope,
        started_at=now,
        touched_at=now,
    )
    run.save()
    _ask(learning, run, now)
    learning.save()
    run.save()
    return run


@transaction.atomic
def go_on(learner: User, run_id: int) -> Run:
    """Present another question in the place of one that was taken out of the course."""
    run = own_run(learner, run_id, Purpose.DIAGNOSTIC)
    if run.ended_at is not None:
        raise Conflict("This run has ended. Begin another.", code="run_ended")
    learning = load_learning(learner, run.course)
    return replace_retired(learning, run, partial(_ask, learning, run))


@transaction.atomic
def submit(learner: User, presentation_id: int, sent: Sent) -> Answered:
    """Take an answer or "I haven't been taught this" and present the next question."""
    return take_answer(learner, presentation_id, sent, RULES, _follow)


def _follow(judged: Judged, now: datetime) -> Presentation | None:
    question = judged.question
    run = question.presentation.run
    _lengthen_stretch(run, judged.row.seconds, now)
    not_taught = judged.row.kind == TryKind.NOT_TAUGHT
    close(question.presentation, Closing.NOT_TAUGHT if not_taught else Closing.ANSWERED, now)
    return _ask(question.learning, run, now)


def _lengthen_stretch(run: Run, seconds: float, now: datetime) -> None:
    """Time spent without a long pause; after one it begins anew."""
    gap = seconds_between(run.touched_at, now) or 0.0
    so_far = 0.0 if gap > LONG_PAUSE_SECONDS else run.note.get("stretch", 0.0)
    run.note["stretch"] = so_far + min(seconds, LONGEST_COUNTED_SECONDS)


@transaction.atomic
def swap(learner: User, presentation_id: int) -> Run:
    """Put aside an untouched question for the offered one of another topic, once."""
    question = open_question(learner, presentation_id, Purpose.DIAGNOSTIC)
    refuse_closed(question)
    presentation = question.presentation
    offered = presentation.why.get("swap")
    if not offered or offered not in question.learning.bank.families:
        raise Conflict("There is no other question of nearly the same worth.", code="no_swap")
    now = clock.now()
    run = presentation.run
    close(presentation, Closing.SWAPPED, now)
    presentation.save(update_fields=["closed_at", "closing"])
    run.note["asked"][-1:] = [offered]
    present(question.learning, run, offered, now, why={"rule": "swapped", "from": presentation.pk})
    run.touched_at = now
    question.learning.save()
    run.save()
    return run


@transaction.atomic
def undo_not_taught(learner: User, presentation_id: int, replay_key: str) -> Run:
    """Take "I haven't been taught this" back within the sitting; the question is asked again."""
    question = open_question(learner, presentation_id, Purpose.DIAGNOSTIC)
    run = own_run(learner, question.presentation.run_id, Purpose.DIAGNOSTIC)
    if replayed(question, replay_key) is not None:
        return run
    question.presentation.run = run
    now = clock.now()
    take_back(learner, question, replay_key, now)
    run.answered -= 1
    run.ended_at = None
    run.touched_at = now
    run.save()
    return run


@transaction.atomic
def finish(learner: User, run_id: int) -> Run:
    """End a diagnostic before every topic has stopped."""
    run = own_run(learner, run_id, Purpose.DIAGNOSTIC)
    end_run(run, clock.now())
    return run
