"""Small changes shared by the activities: showing, help, ending a run, taking an answer back."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime

from django.db import transaction

from vendaval.bank.snapshot import family_of
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound
from vendaval_core.measure.posterior import infer

from .models import (
    Closing,
    HelpKind,
    HelpOpened,
    Presentation,
    Run,
    Try,
    TryKind,
)
from .opening import OpenQuestion, close
from .rebuild import rebuilt_state
from .state import Learning


@transaction.atomic
def note_shown(learner: User, presentation_id: int) -> None:
    """The learner now sees a question: its time begins. Only the first call counts."""
    updated = Presentation.objects.filter(
        pk=presentation_id, learner=learner, shown_at=None, closed_at=None
    ).update(shown_at=clock.now())
    if (
        not updated
        and not Presentation.objects.filter(pk=presentation_id, learner=learner).exists()
    ):
        raise NotFound("You have no such question.")


def open_help(kind: HelpKind, question: OpenQuestion, detail: str, now: datetime) -> None:
    """Record help for a question. Before the first try it takes the try's weight away."""
    HelpOpened.objects.create(
        learner=question.learning.learner,
        presentation=question.presentation,
        kind=kind,
        detail=detail,
        at=now,
    )
    if not question.state.first_tries_done:
        question.presentation.helped = True


@transaction.atomic
def open_study(learner: User, course_id: int, topic: str, section: str) -> None:
    """A study section was opened: questions waiting for an answer that it explains are helped."""
    now = clock.now()
    HelpOpened.objects.create(
        learner=learner, kind=HelpKind.STUDY, detail=f"{topic}#{section}", at=now
    )
    waiting = Presentation.objects.filter(
        learner=learner, closed_at=None, run__course_id=course_id
    ).select_related("revision__family__topic")
    for presentation in waiting:
        family = presentation.revision.family
        study = presentation.revision.data["study"]
        place = study if "#" in study else f"{family.topic.key}#{study}"
        if place == f"{topic}#{section}":
            presentation.helped = True
            presentation.save(update_fields=["helped"])
    for state in learner.states.filter(course_id=course_id):
        if state.to_study.get(topic, "").rpartition("#")[2] == section:
            del state.to_study[topic]
            state.save(update_fields=["to_study"])


def replace_retired(learning: Learning, run: Run, ask: Callable[[datetime], object]) -> Run:
    """The run, with another question in the place of one that was taken out of the course.

    ask: presents the run's next question at a moment.
    """
    waiting = run.current
    if waiting is None or waiting.closed_at is not None:
        return run
    if family_of(waiting.revision).key in learning.bank.families:
        return run
    now = clock.now()
    close(waiting, Closing.WITHDRAWN, now)
    waiting.save(update_fields=["closed_at", "closing"])
    ask(now)
    run.touched_at = now
    learning.save()
    run.save()
    return run


def end_run(run: Run, now: datetime) -> None:
    """End a run; a question still open in it is withdrawn."""
    if run.ended_at is not None:
        return
    if run.current is not None and run.current.closed_at is None:
        close(run.current, Closing.WITHDRAWN, now)
        run.current.save(update_fields=["closed_at", "closing"])
    run.ended_at = run.touched_at = now
    run.save()


def take_back(
    learner: User, question: OpenQuestion, replay_key: str, now: datetime
) -> Presentation:
    """Undo "I haven't been taught this" within its sitting; the log keeps both.

    The levels are made again from the log without it, and the same version is presented again.
    Returns the new presentation; the caller saves the run.
    """
    undone = next((row for row in question.tries if row.kind == TryKind.NOT_TAUGHT), None)
    learning, presentation = question.learning, question.presentation
    if undone is None:
        raise Conflict("There is nothing to take back here.", code="nothing_to_take_back")
    if len(question.tries) > 1 or undone.sitting != learning.row.sitting:
        raise Conflict("That can only be taken back once, in the same sitting.", code="too_late")
    run = presentation.run
    if run.current is not None and run.current.closed_at is None:
        close(run.current, Closing.WITHDRAWN, now)
        run.current.save(update_fields=["closed_at", "closing"])
    again = Presentation.objects.create(
        learner=learner,
        run=run,
        revision=presentation.revision,
        purpose=presentation.purpose,
        seed=presentation.seed,
        order=presentation.order,
        number=presentation.number,
        why=presentation.why,
        made_at=now,
    )
    Try.objects.create(
        presentation=presentation,
        learner=learner,
        family_id=undone.family_id,
        topic_id=undone.topic_id,
        replay_key=replay_key,
        kind=TryKind.TAKEN_BACK,
        number=2,
        seconds=0.0,
        sitting=undone.sitting,
        takes_back=undone,
        leads_to=again,
        note={"feedback": ["not_counted", "Taken back.", "Here is the question again."]},
        at=now,
    )
    seen = learning.seen(question.version.family)
    seen["count"] -= 1
    if seen["count"] == 0:
        seen["last"], seen["sitting"] = -1, -1
    learning.row.to_study.pop(question.item.family.topic, None)
    rebuilt = rebuilt_state(learner, learning.bank)
    learning.moved(infer(learning.bank.prior, rebuilt)[0], rebuilt)
    learning.save()
    run.current = again
    return again
