"""Mending: one fresh version of a missed family, answered once."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.utils.translation import gettext

from vendaval.delivery.schemas import Can
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning, learning_of
from vendaval.levels.presenting import present
from vendaval.shared.changes import Changes
from vendaval.shared.errors import Conflict, NotFound
from vendaval.work.activity import Activity
from vendaval.work.columns import Why
from vendaval.work.grading import Graded
from vendaval.work.jobs import end_at_deadline
from vendaval.work.models import Closing, Presentation, Purpose, Run
from vendaval.work.questions import close, in_open_test
from vendaval.work.run_replies import run_out
from vendaval.work.runs import loaded_runs, new_run
from vendaval.work.schemas import RunOut, StartIn

from .models import Miss, MissState
from .order import misses_after
from .run import MendNote, MissOrder, StartMendIn

MENDS_OFFERED = 2
WAITS = timedelta(days=1)


def own_miss(enrolment: Enrolment, miss_id: int) -> Miss:
    """A learner's own miss in a course, or NotFound."""
    miss = (
        Miss.objects.select_related(
            "family", "topic", "presentation__revision__family__topic", "presentation__run"
        )
        .filter(pk=miss_id, enrolment=enrolment)
        .first()
    )
    if miss is None:
        raise NotFound(gettext("We can’t find this mistake."))
    miss.enrolment = miss.presentation.run.enrolment = enrolment
    return miss


def mends_left(miss: Miss, learning: Learning) -> int:
    """Fresh versions still offered: two in a sitting, and two more after its study section."""
    graded = miss.mends if miss.mends_sitting == learning.row.sitting else 0
    return max(0, MENDS_OFFERED - graded)


def needs_another_first(miss: Miss, learning: Learning) -> bool:
    """A fixed question comes again only after at least one other answer."""
    family = learning.bank.families[miss.family.key].family
    return family.versions == 1 and learning.family(miss.family.key).last == learning.row.answers


class Mending(Activity):
    """One try; right at it mends the miss, and the run is over either way."""

    purpose = Purpose.MISSED
    note = MendNote
    starts = StartMendIn
    whole = True
    teaches = True
    shows_last = True
    mends = True

    def can(self, presentation: Presentation, hints: int) -> list[Can]:
        if presentation.closed_at is not None:
            return ["read"]
        return ["answer", "read", "sure"] if not presentation.tried else ["answer", "read"]

    def start(self, enrolment: Enrolment, wanted: StartIn, now: datetime, changes: Changes) -> Run:
        assert isinstance(wanted, StartMendIn)
        miss = own_miss(enrolment, wanted.miss)
        if miss.state != MissState.OPEN:
            raise Conflict(gettext("You’ve already dealt with this mistake."), code="miss_closed")
        learning = learning_of(enrolment)
        if miss.family.key not in learning.bank.families:
            raise Conflict(gettext("This question was removed from the course."), code="not_live")
        note = MendNote(miss=miss.pk, order=wanted.order)
        waiting = self._waiting(miss, now)
        if waiting is not None:
            waiting.note = note
            changes.touch(waiting, "note")
            return waiting
        if needs_another_first(miss, learning):
            raise Conflict(
                gettext("This question has only one version. Answer another question first."),
                code="another_first",
            )
        if mends_left(miss, learning) == 0:
            raise Conflict(
                gettext("Read its study section first. Then you get two more."), code="study_first"
            )
        if not learning.askable(miss.family.key):
            raise Conflict(
                gettext("This question is {in_open_test}.").format(in_open_test=in_open_test()),
                code="open_in_test",
            )
        title, scope = miss.topic.title, [miss.topic.key]
        due = now + WAITS
        run = new_run(enrolment, self.purpose, title, scope, note, now, changes, due)
        miss.mend = present(learning, run, miss.family.key, now, changes, why=Why(rule="mend"))
        changes.touch(miss, "mend")
        changes.then(lambda: end_at_deadline.using(run_after=due).enqueue(run.pk))
        return run

    def _next(self, enrolment: Enrolment, miss: int, order: MissOrder) -> int | None:
        """The next miss of the list that can be mended now."""
        learning = learning_of(enrolment)
        for one in misses_after(enrolment, miss, order):
            ready = one.family.key in learning.bank.families and learning.askable(one.family.key)
            if ready and mends_left(one, learning) and not needs_another_first(one, learning):
                return one.pk
        return None

    def _waiting(self, miss: Miss, now: datetime) -> Run | None:
        """The run of a fresh version that still waits."""
        if miss.mend_id is None:
            return None
        runs = loaded_runs().filter(current_id=miss.mend_id, ended_at=None, deadline_at__gt=now)
        run = runs.filter(current__closed_at=None).first()
        if run is not None:
            run.enrolment = miss.enrolment
        return run

    def ask(self, run: Run, now: datetime, changes: Changes) -> Presentation | None:
        run.ended_at = now
        changes.touch(run, "ended_at")
        return None

    def follow(self, graded: Graded, now: datetime, changes: Changes) -> Presentation | None:
        close(graded.question.presentation, Closing.ANSWERED, now)
        graded.question.run.ended_at = now
        return None

    def run_out(self, run: Run) -> RunOut:
        note = run.note
        assert isinstance(note, MendNote)
        upcoming = None
        if note.order is not None and run.ended_at is not None:
            upcoming = self._next(run.enrolment, note.miss, note.order)
        return run_out(run, miss=note.miss, next_miss=upcoming, miss_order=note.order)
