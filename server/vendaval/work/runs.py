"""Runs: found, ended, and those whose deadline has passed."""

from __future__ import annotations

from datetime import datetime

from django.db.models import QuerySet
from django.utils.translation import gettext

from vendaval.bank.snapshot import course_bank, family_of
from vendaval.groups.models import Enrolment
from vendaval.groups.queries import own
from vendaval.people.models import User
from vendaval.people.policies import Relation, require
from vendaval.shared import clock
from vendaval.shared.changes import Changes, until_stored
from vendaval.shared.errors import NotFound

from .activity import activities
from .columns import RunNote
from .models import Closing, Presentation, Purpose, Run
from .questions import close, shown_in_test

LOADED = (
    "enrolment__course",
    "enrolment__state",
    "current__revision__family__topic",
)


def loaded_runs() -> QuerySet[Run]:
    """Runs with what their pages need."""
    return Run.objects.select_related(*LOADED).defer("current__revision__data")


def open_runs(enrolment: Enrolment, purpose: Purpose | None = None) -> QuerySet[Run]:
    """Runs that can be taken up again, latest first; a mend is taken up from its miss, a test from
    its own page."""
    runs = Run.objects.filter(enrolment=enrolment, ended_at=None, deadline_at=None)
    if purpose is None:
        runs = runs.exclude(purpose__in=activities().unlisted)
    else:
        runs = runs.filter(purpose=purpose)
    return runs.order_by("-touched_at", "-pk")


def unfinished_run(
    enrolment: Enrolment, purpose: Purpose, scope: list[str], now: datetime, changes: Changes
) -> Run | None:
    """The run of a purpose over just these topics that still goes on, to be taken up again."""
    for kept in open_runs(enrolment, purpose):
        if kept.scope == scope and kept.current_id is not None:
            run = loaded_runs().get(pk=kept.pk)
            run.enrolment = enrolment
            replace_retired(run, now, changes)
            return run
    return None


def new_run(
    enrolment: Enrolment,
    purpose: Purpose,
    title: str,
    scope: list[str],
    note: RunNote,
    now: datetime,
    changes: Changes,
    deadline_at: datetime | None = None,
) -> Run:
    """A new run, without a question yet."""
    run = Run(
        enrolment=enrolment,
        purpose=purpose,
        title=title,
        scope=scope,
        note=note,
        started_at=now,
        touched_at=now,
        deadline_at=deadline_at,
    )
    changes.add(run)
    return run


def own_run(person: User, course: str, run_id: int, operation: str) -> Run:
    """A learner's own run, or NotFound; one past its deadline has ended by then."""
    rows = loaded_runs().filter(own(person, course, "enrolment__"))
    run = rows.filter(pk=run_id).first()
    require(operation, person.roles, Relation.OWN if run is not None else None)
    if run is None:
        raise NotFound(gettext("We can’t find this work."))
    if is_due(run, clock.now()):
        settle_run(run.pk)
        run = rows.get(pk=run_id)
    return run


def is_due(run: Run, now: datetime) -> bool:
    """Whether a run should have ended by itself."""
    return run.ended_at is None and run.deadline_at is not None and run.deadline_at <= now


def end_run(run: Run, now: datetime, changes: Changes) -> None:
    """End a run; a question still open in it is withdrawn."""
    if run.ended_at is not None:
        return
    if run.current is not None:
        withdraw(run.current, now, changes)
    run.ended_at = run.touched_at = now
    changes.touch(run, "ended_at", "touched_at")


def withdraw(waiting: Presentation, now: datetime, changes: Changes) -> None:
    """Close a question that nobody answered, if it is still open."""
    if waiting.closed_at is None:
        close(waiting, Closing.WITHDRAWN, now)
        changes.touch(waiting, "closed_at", "closing")


def replace_retired(run: Run, now: datetime, changes: Changes) -> None:
    """Present another question in the place of one that was taken out of the course, or that is in
    a test that was begun since."""
    waiting = run.current
    if waiting is None or waiting.closed_at is not None:
        return
    live = family_of(waiting.revision).key in course_bank(run.enrolment.course).families
    waiting.run = run
    if live and not shown_in_test(run.enrolment, waiting):
        return
    withdraw(waiting, now, changes)
    activities().of(run).ask(run, now, changes)
    run.touched_at = now
    changes.touch(run, "touched_at")


def settle_run(run_id: int) -> bool:
    """End a run whose deadline has passed, as of its deadline. Whether it was to be ended."""

    def work() -> bool:
        run = loaded_runs().get(pk=run_id)
        if not is_due(run, clock.now()) or run.deadline_at is None:
            return False
        changes = Changes(activities().guard(run.enrolment))
        end_run(run, run.deadline_at, changes)
        changes.store()
        return True

    return until_stored(work)


def settle_due(most: int = 500) -> int:
    """End every run whose deadline has passed. Returns how many; the same again does nothing."""
    due = Run.objects.filter(ended_at=None, deadline_at__lte=clock.now()).order_by("deadline_at")
    return sum(settle_run(pk) for pk in due.values_list("pk", flat=True)[:most])
