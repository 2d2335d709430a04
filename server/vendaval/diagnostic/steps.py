"""Diagnostics to carry on or to begin, and levels to bring up to date."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.levels.snapshot import Snapshot
from vendaval.work.models import Purpose, Run
from vendaval_core.mastery.freshening import freshening_due, freshening_questions
from vendaval_core.mastery.next_steps import OpenRun, carry_on_steps, diagnose_steps
from vendaval_core.mastery.steps import Step, StepKind, minutes_for
from vendaval_core.words import counted

from .queries import faded_topics, questions_ahead
from .run import DiagnosticNote

MOST_LEFT = 2


def steps(seen: Snapshot) -> list[Step]:
    """Diagnostics under way, those of subjects without levels, and freshening."""
    runs = [_open_run(run) for run in seen.runs_of(Purpose.DIAGNOSTIC)[:MOST_LEFT]]
    bank = seen.learning.bank
    subjects = [
        (key, title, [topic.key for topic in bank.topics if topic.subject == key])
        for key, title in bank.subjects
    ]
    return [
        *carry_on_steps(runs, seen.standings),
        *diagnose_steps(
            seen.standings,
            subjects,
            runs,
            lambda keys: questions_ahead(seen.learning, bank.topics_of(keys)),
        ),
        *_freshen(seen),
    ]


def _open_run(run: Run) -> OpenRun:
    assert isinstance(run.note, DiagnosticNote)
    settled = sum(status != "open" for status in run.note.statuses.values())
    what = "freshening" if run.note.most else f"diagnostic: {run.title.lower()}"
    title = gettext("Continue the {what}").format(what=what)
    note = run.note
    between = note.fewest_left, note.most_left
    return OpenRun(run.pk, title, settled, frozenset(run.scope), note.questions_left, between)


def _freshen(seen: Snapshot) -> list[Step]:
    """Some questions over what has faded, at most once a week."""
    learning = seen.learning
    topics = faded_topics(learning, seen.now)
    if not freshening_due(len(topics), learning.row.freshened_at, seen.now):
        return []
    questions = freshening_questions(len(topics))
    what = gettext("{levels} {verb} become less certain").format(
        levels=counted(len(topics), "level").capitalize(),
        verb="has" if len(topics) == 1 else "have",
    )
    first = topics[0].title.lower()
    reason = (
        gettext("{what}, including {first}.").format(what=what, first=first)
        if len(topics) > 1
        else f"{what}: {first}."
    )
    minutes = minutes_for(questions, seen.seconds_of(topics))
    return [
        Step(StepKind.FRESHEN, None, gettext("Update your levels"), reason, minutes, questions, 0.7)
    ]
