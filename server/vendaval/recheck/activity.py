"""A recheck: fresh questions from the topics that are due, by turns, without help."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.utils.translation import gettext

from vendaval.bank.snapshot import BankTopic
from vendaval.delivery.schemas import Can
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning, learning_of
from vendaval.levels.presenting import present
from vendaval.levels.progress import progress_of
from vendaval.shared.changes import Changes
from vendaval.shared.errors import Conflict
from vendaval.work.activity import Activity
from vendaval.work.columns import Why
from vendaval.work.grading import Graded
from vendaval.work.models import Closing, Presentation, Purpose, Run
from vendaval.work.questions import OpenQuestion, close
from vendaval.work.run_replies import run_out
from vendaval.work.runs import loaded_runs, new_run, replace_retired
from vendaval.work.schemas import LeftOut, RunOut, StartIn, TopicStatusName
from vendaval_core.mastery.recheck import (
    LAPSE_CHANCE,
    MOST_TOPICS,
    has_held,
    is_secure,
    mixed,
    questions_more,
    recheck_families,
    verdict_words,
)
from vendaval_core.mastery.steps import minutes_for

from .models import Recheck
from .queries import days_since, due_topics, recheck_under_way
from .run import RecheckNote, StartRecheckIn


def note_of(run: Run) -> RecheckNote:
    """What a recheck keeps about its run."""
    assert isinstance(run.note, RecheckNote)
    return run.note


class Rechecking(Activity):
    """One try and no help; right or wrong is told at once, and the rest in Review."""

    purpose = Purpose.RECHECK
    note = RecheckNote
    starts = StartRecheckIn
    whole = True
    teaches = False
    answers_in_review = True

    def can(self, presentation: Presentation, hints: int) -> list[Can]:
        return [] if presentation.closed_at is not None else ["answer", "sure"]

    def start(self, enrolment: Enrolment, wanted: StartIn, now: datetime, changes: Changes) -> Run:
        kept = recheck_under_way(enrolment)
        if kept is not None:
            run = loaded_runs().get(pk=kept.pk)
            run.enrolment = enrolment
            replace_retired(run, now, changes)
            return run
        learning = learning_of(enrolment)
        planned = {
            topic.number: recheck_families(learning.families_to_ask(topic.number))
            for topic in due_topics(learning, now)[:MOST_TOPICS]
        }
        topics = [learning.bank.topics[number] for number, plan in planned.items() if plan]
        if not topics:
            raise Conflict(gettext("No topic needs checking right now."), code="nothing_due")
        note = RecheckNote(
            left=mixed([plan for plan in planned.values() if plan]),
            days={topic.key: days_since(learning, topic, now) for topic in topics},
        )
        scope = [topic.key for topic in topics]
        run = new_run(enrolment, self.purpose, "Recheck", scope, note, now, changes)
        self.ask(run, now, changes)
        return run

    def ask(self, run: Run, now: datetime, changes: Changes) -> Presentation | None:
        learning, note = learning_of(run.enrolment), note_of(run)
        while note.left:
            family = note.left.pop(0)
            if learning.askable(family):
                return present(learning, run, family, now, changes, why=Why(rule="recheck"))
        for topic in learning.bank.topics_of(run.scope):
            self._judge(run, learning, topic, now, changes)
        run.ended_at, run.current = now, None
        changes.touch(run, "ended_at", "current", "note")
        return None

    def follow(self, graded: Graded, now: datetime, changes: Changes) -> Presentation | None:
        question = graded.question
        close(question.presentation, Closing.ANSWERED, now)
        learning = learning_of(question.enrolment)
        families, own = learning.bank.families, question.item.topic
        note, topic = note_of(question.run), learning.bank.topics[own]
        note.asked[topic.key] = note.asked.get(topic.key, 0) + 1
        left = [key for key in note.left if key in families]
        if not any(families[key].topic == own for key in left):
            more = self._more(learning, topic, note.asked[topic.key])
            note.left += more
            if more:
                return self.ask(question.run, now, changes)
            graded.detail = self._judge(question.run, learning, topic, now, changes)
        return self.ask(question.run, now, changes)

    def lapse(self, question: OpenQuestion) -> float:
        asked = note_of(question.run).asked
        return 0.0 if asked.get(question.item.family.topic) else LAPSE_CHANCE

    def _more(self, learning: Learning, topic: BankTopic, asked: int) -> list[str]:
        """Families of the questions that a topic still in doubt is asked beyond those planned."""
        more = questions_more(asked, learning.readings[topic.number].chance)
        return recheck_families(learning.families_to_ask(topic.number))[:more] if more else []

    def _judge(
        self, run: Run, learning: Learning, topic: BankTopic, now: datetime, changes: Changes
    ) -> str | None:
        """Whether a topic held, once its questions are through; None when that was said before."""
        note, reading = note_of(run), learning.readings[topic.number]
        if topic.key in note.held:
            return None
        history, days = learning.topic(topic.key), note.days[topic.key]
        held = note.held[topic.key] = has_held(reading.chance)
        history.secure = held and is_secure(history.secure, days)
        history.lost = not held
        if held:
            history.recheck_days = learning.next_check(topic.number, days)
            history.recheck_at = now + timedelta(days=history.recheck_days)
        else:
            history.recheck_at, history.steady = None, 0.0
        changes.touch(run, "note")
        changes.add(
            Recheck(
                enrolment=learning.enrolment,
                topic_id=topic.id,
                held=held,
                level=reading.level,
                chance=reading.chance,
                days=round(days, 3),
                at=now,
            )
        )
        return verdict_words(topic.title, history.recheck_days, held=held, secure=history.secure)

    def run_out(self, run: Run) -> RunOut:
        """A run with what is left of it, and its topics with what held."""
        learning, note = learning_of(run.enrolment), note_of(run)
        topics = learning.bank.topics_of(run.scope)
        seconds = sum(learning.seconds(t.number) for t in topics) / max(1, len(topics))
        left = len(note.left) + (run.current is not None and run.current.closed_at is None)
        status: dict[bool | None, TopicStatusName] = {None: "open", True: "held", False: "lost"}
        minutes = minutes_for(left, seconds) if left else 0
        return run_out(
            run,
            left=LeftOut(questions=left, fewest=left, most=left, minutes=minutes),
            topics=progress_of(learning, topics, lambda t: status[note.held.get(t.key)]),
        )
