"""The diagnostic over a subject or all: each question is the one that tells most."""

from __future__ import annotations

import random
from datetime import datetime

from django.utils.translation import gettext

from vendaval.delivery.schemas import Can
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning, learning_of
from vendaval.levels.observations import unsay_not_taught
from vendaval.levels.presenting import present, present_again
from vendaval.levels.progress import progress_of
from vendaval.shared.changes import Changes
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval.work.activity import Activity
from vendaval.work.columns import Place, Reply, Why
from vendaval.work.grading import Graded
from vendaval.work.models import Closing, Presentation, Purpose, Run, Try, TryKind
from vendaval.work.questions import OpenQuestion, close
from vendaval.work.run_replies import run_out
from vendaval.work.runs import new_run, unfinished_run, withdraw
from vendaval.work.schemas import LeftOut, RunOut, StartIn
from vendaval_core.mastery.diagnostic import (
    Ahead,
    DiagnosticPlan,
    plan_diagnostic,
    stop_suggested,
)
from vendaval_core.mastery.freshening import freshening_due, freshening_questions
from vendaval_core.mastery.steps import minutes_for
from vendaval_core.measure.evidence import UNTRIED

from .queries import faded_topics, freshening_under_way
from .run import AheadNote, DiagnosticNote, StartDiagnosticIn

LONG_PAUSE_SECONDS = 30 * 60
# Longer at one question is a break, and no work.
LONGEST_COUNTED_SECONDS = 600


def note_of(run: Run) -> DiagnosticNote:
    """What the diagnostic keeps about a run."""
    assert isinstance(run.note, DiagnosticNote)
    return run.note


def plan(learning: Learning, run: Run, now: datetime) -> DiagnosticPlan:
    """The run's next step from the learner's present state; a freshening, which is about what time
    did, from the state with the time since the last answer in it."""
    bank, note = learning.bank, note_of(run)
    fresh = note.most is not None
    posterior = learning.posterior_at(now) if fresh else learning.posterior
    readings = learning.readings_at(now) if fresh else learning.readings
    scope = [topic for topic in bank.topics_of(run.scope) if learning.taught(topic)]
    return plan_diagnostic(
        bank.table,
        posterior,
        readings,
        bank.scales,
        learning.importance,
        [topic.number for topic in scope],
        [learning.answers_in(topic.number) for topic in bank.topics],
        note.asked,
        random.Random(f"{learning.enrolment.seed}:{learning.row.presented}"),
        remembered={
            topic.number: Ahead(**note.ahead[topic.key].model_dump())
            for topic in scope
            if topic.key in note.ahead
        },
        left_out=learning.families_in_test(),
    )


class Diagnosing(Activity):
    """One try; right or wrong is told at once, and no more before Review."""

    purpose = Purpose.DIAGNOSTIC
    note = DiagnosticNote
    starts = StartDiagnosticIn
    whole = True
    teaches = False
    answers_in_review = True

    def can(self, presentation: Presentation, hints: int) -> list[Can]:
        found: list[Can] = ["finish"] if presentation.run.ended_at is None else []
        if presentation.closing == Closing.NOT_TAUGHT:
            return [*found, "undo"]
        if presentation.closed_at is not None:
            return found
        found += ["answer", "not_taught", "sure"]
        return [*found, "swap"] if presentation.why.swap else found

    def start(self, enrolment: Enrolment, wanted: StartIn, now: datetime, changes: Changes) -> Run:
        assert isinstance(wanted, StartDiagnosticIn)
        learning = learning_of(enrolment)
        bank = learning.bank
        titles = dict(bank.subjects)
        if wanted.subject is not None and wanted.subject not in titles:
            raise Unprocessable(
                gettext("We can’t find this subject."), fields={"subject": "unknown"}
            )
        if wanted.fresh:
            return self._freshen(learning, now, changes)
        inside = [topic for topic in bank.topics if wanted.subject in {None, topic.subject}]
        scope = [topic.key for topic in inside if learning.taught(topic)]
        if not scope:
            raise Conflict(
                gettext("Your group hasn’t been taught any of these topics yet."), code="not_yet"
            )
        run = unfinished_run(enrolment, self.purpose, scope, now, changes)
        if run is None:
            title = titles[wanted.subject] if wanted.subject else gettext("All subjects")
            note = DiagnosticNote(subject=wanted.subject or "")
            run = new_run(enrolment, self.purpose, title, scope, note, now, changes)
            self.ask(run, now, changes)
        return run

    def _freshen(self, learning: Learning, now: datetime, changes: Changes) -> Run:
        """Some questions over the topics that were known and have faded."""
        enrolment = learning.enrolment
        kept = freshening_under_way(enrolment)
        run = unfinished_run(enrolment, self.purpose, kept.scope, now, changes) if kept else None
        if run is not None:
            return run
        topics = faded_topics(learning, now)
        if not freshening_due(len(topics), learning.row.freshened_at, now):
            raise Conflict(gettext("Your levels are up to date."), code="nothing_due")
        note = DiagnosticNote(most=freshening_questions(len(topics)))
        scope = [topic.key for topic in topics]
        run = new_run(enrolment, self.purpose, "Freshening", scope, note, now, changes)
        learning.row.freshened_at = now
        self.ask(run, now, changes)
        return run

    def ask(self, run: Run, now: datetime, changes: Changes) -> Presentation | None:
        learning, note = learning_of(run.enrolment), note_of(run)
        planned = plan(learning, run, now)
        bank = learning.bank
        note.statuses = {bank.topics[t].key: s.value for t, s in planned.statuses.items()}
        note.questions_left = planned.questions_left
        note.fewest_left, note.most_left = planned.range_left
        note.ahead = {
            bank.topics[t].key: AheadNote(
                mean=round(a.mean, 4),
                sd=round(a.sd, 4),
                answers=a.answers,
                left=a.left,
                spread=a.spread,
            )
            for t, a in planned.ahead.items()
        }
        choice = planned.choice
        if note.most is not None:
            over = note.most - len(note.asked)
            choice = choice if over > 0 else None
            note.questions_left, note.most_left = min(planned.questions_left, over), over
            note.fewest_left = min(note.fewest_left, over)
        if choice is None:
            run.ended_at, run.current = now, None
            changes.touch(run, "ended_at", "current", "note")
            return None
        why = Why(
            rule="diagnostic",
            gain=round(choice.gain, 6),
            best_gain=round(choice.best_gain, 6),
            uncertain=round(planned.uncertain, 6),
            near=choice.near,
        )
        if choice.swap is not None:
            topic = bank.topics[bank.families[choice.swap].topic]
            why.swap, why.swap_topic = choice.swap, Place(key=topic.key, title=topic.title)
        note.asked.append(choice.family)
        return present(learning, run, choice.family, now, changes, why=why)

    def follow(self, graded: Graded, now: datetime, changes: Changes) -> Presentation | None:
        question, row = graded.question, graded.row
        self._lengthen_stretch(question, row.seconds, now)
        note = note_of(question.run)
        rapid = graded.moved is not None and graded.moved.reason in UNTRIED
        note.rapid = note.rapid + 1 if rapid else 0
        not_taught = row.kind == TryKind.NOT_TAUGHT
        close(question.presentation, Closing.NOT_TAUGHT if not_taught else Closing.ANSWERED, now)
        return self.ask(question.run, now, changes)

    def _lengthen_stretch(self, question: OpenQuestion, seconds: float, now: datetime) -> None:
        """Time spent without a long pause; after one it begins anew."""
        note = note_of(question.run)
        gap = (now - question.presentation.made_at).total_seconds()
        so_far = 0.0 if gap > LONG_PAUSE_SECONDS else note.stretch
        note.stretch = so_far + min(seconds, LONGEST_COUNTED_SECONDS)

    def swap(self, question: OpenQuestion, now: datetime, changes: Changes) -> None:
        offered, run = question.presentation.why.swap, question.run
        if not offered or not learning_of(question.enrolment).askable(offered):
            raise Conflict(
                gettext("No other question would tell us nearly as much."), code="no_swap"
            )
        close(question.presentation, Closing.SWAPPED, now)
        changes.touch(question.presentation, "closed_at", "closing")
        note_of(run).asked[-1:] = [offered]
        why = Why(rule="swapped")
        present(learning_of(question.enrolment), run, offered, now, changes, why=why)

    def undo(
        self, question: OpenQuestion, replay_key: str, now: datetime, changes: Changes
    ) -> None:
        undone = next((row for row in question.tries if row.kind == TryKind.NOT_TAUGHT), None)
        learning, run = learning_of(question.enrolment), question.run
        if undone is None:
            raise Conflict(gettext("There’s nothing to undo here."), code="nothing_to_undo")
        seen = undone.observations.earliest("pk")
        if len(question.tries) > 1 or seen.sitting != learning.row.sitting:
            raise Conflict(
                gettext("You can undo this only once, and only in the same sitting."),
                code="too_late",
            )
        if run.current_id is not None and run.current is not None:
            withdraw(run.current, now, changes)
        presentation = question.presentation
        again = present_again(presentation, now, changes)
        row = Try(
            enrolment=question.enrolment,
            presentation=presentation,
            family_id=undone.family_id,
            topic_id=undone.topic_id,
            replay_key=replay_key,
            kind=TryKind.UNDONE,
            number=2,
            seconds=0.0,
            undoes=undone,
            leads_to=again,
            reply=Reply(
                verdict="not_counted",
                headline=gettext("Undone."),
                detail=gettext("Here’s the question again."),
            ),
            at=now,
        )
        presentation.tried += 1
        changes.touch(presentation, "tried")
        changes.add(row)
        unsay_not_taught(question, row, undone, now, changes)
        run.answered -= 1
        run.ended_at = None

    def run_out(self, run: Run) -> RunOut:
        """A run with its topics settled and open, and about how long is left."""
        learning, note = learning_of(run.enrolment), note_of(run)
        bank = learning.bank
        topics = bank.topics_of(run.scope)
        seconds = sum(learning.seconds(topic.number) for topic in topics) / len(topics)
        left = note.questions_left
        return run_out(
            run,
            left=LeftOut(
                questions=left,
                fewest=note.fewest_left,
                most=note.most_left,
                minutes=minutes_for(left, seconds) if left else 0,
            ),
            suggest_stop=stop_suggested(note.stretch, note.rapid),
            topics=progress_of(learning, topics, lambda t: note.statuses.get(t.key, "open")),
        )
