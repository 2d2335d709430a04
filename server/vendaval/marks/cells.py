"""Where each learner is with each piece of work of a term.

What counts is the core's `Entry`, which holds nothing that wasn't released; beside it stands what
only those who mark may see.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from fractions import Fraction

from django.db.models import OuterRef, Subquery

from vendaval.assigning.evidence import Evidence, evidence_of
from vendaval.assigning.models import HandIn
from vendaval.assigning.progress import learner_progress
from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.exams.assigning.assigned import AssignedTest, given_to_each
from vendaval.exams.attempts import with_bare_totals
from vendaval.exams.models import Attempt
from vendaval.exams.taking.queries import kept_share
from vendaval.exams.taking.state import settle_all
from vendaval.groups.models import Enrolment
from vendaval_core.assessment.mark_book import CellState, Entry
from vendaval_core.mastery.set_work import Standing as TaskStanding

from .columns_of_term import Column, Columns
from .models import Entered, EnteredKind, Term

NOT_GIVEN = Entry(CellState.NOT_GIVEN)


@dataclass(frozen=True, slots=True)
class Cell:
    """entry: what counts, for everybody. held: a share that isn't released, for those who mark.
    late: handed in or done after it was due. entered: what a tutor entered in its place."""

    entry: Entry
    held: Fraction | None = None
    late: bool = False
    entered: Entered | None = None


Cells = Mapping[str, Cell]


def cells_of(
    term: Term, columns: Columns, members: Sequence[Enrolment], now: datetime
) -> dict[int, Cells]:
    """By learner and column, for learners of the term's group. What is handed in by the clock is
    settled first."""
    every = columns.all()
    tests = _tests(every, members, now)
    tasks = _tasks(every, members, term, now)
    entered = _entered(term, members)
    found: dict[int, Cells] = {}
    for one in members:
        own = {}
        for column in every:
            if column.learners is not None and one.pk not in column.learners:
                cell = Cell(NOT_GIVEN)
            elif column.kind == "outside":
                cell = Cell(Entry(CellState.OPEN))
            else:
                cell = (tests if column.kind == "tests" else tasks)[one.pk, column.key]
            own[column.key] = _with_entered(column, cell, entered.get((one.pk, column.key)))
        found[one.pk] = own
    return found


def closed_cells(cells: Cells) -> Cells:
    """The same once the term is over: what is open is missing."""
    missing = Entry(CellState.MISSING)
    return {
        key: replace(cell, entry=missing) if cell.entry.standing is CellState.OPEN else cell
        for key, cell in cells.items()
    }


def _entered(term: Term, members: Sequence[Enrolment]) -> dict[tuple[int, str], Entered]:
    """The newest of each cell."""
    same = Entered.objects.filter(term=term, enrolment=OuterRef("enrolment"), work=OuterRef("work"))
    newest = Subquery(same.order_by("-pk").values("pk")[:1])
    rows = Entered.objects.filter(term=term, enrolment__in=members, pk=newest)
    return {(row.enrolment_id, row.work): row for row in rows}


def _with_entered(column: Column, cell: Cell, row: Entered | None) -> Cell:
    """What a tutor entered stands in the place of what the work says. A mark for work whose marks
    are held is held too."""
    if row is None or row.kind == EnteredKind.CLEARED:
        return cell
    cell = replace(cell, entered=row)
    if row.kind == EnteredKind.EXCUSED:
        return replace(cell, entry=Entry(CellState.EXCUSED), held=None)
    if row.kind == EnteredKind.MISSING:
        return replace(cell, entry=Entry(CellState.MISSING), held=None)
    hidden = cell.entry.standing in {CellState.HELD, CellState.WAITING}
    if hidden or (column.outside is not None and not column.outside.shown):
        return replace(cell, entry=Entry(CellState.HELD), held=row.share)
    return replace(cell, entry=Entry(CellState.MARKED, row.share), held=None)


def _tests(
    columns: Sequence[Column], members: Sequence[Enrolment], now: datetime
) -> dict[tuple[int, str], Cell]:
    rows = [one.assignment for one in columns if one.assignment is not None]
    if not rows:
        return {}
    mine = Attempt.objects.filter(assignment__in=rows, enrolment__in=members).order_by("number")
    attempts = with_bare_totals(mine)
    if open_ := [one.pk for one in attempts if not one.marked]:
        settle_all(Attempt.objects.filter(pk__in=open_))
        attempts = with_bare_totals(mine)
    given = given_to_each(members, rows, attempts)
    return {
        (enrolment, f"test-{assignment}"): _test_cell(one, now)
        for (assignment, enrolment), one in given.items()
    }


def _test_cell(given: AssignedTest, now: datetime) -> Cell:
    over = [one for one in given.attempts if one.handed_in_at is not None]
    if not over:
        closed = given.cut_off is not None and now >= given.cut_off and given.under_way is None
        return Cell(Entry(CellState.MISSING if closed else CellState.OPEN))
    late = any(given.due and one.handed_in_at and one.handed_in_at > given.due for one in over)
    share = kept_share(over, given.rules.score_kept)
    if share is None or any(one.total is None for one in over):
        return Cell(Entry(CellState.WAITING), late=late)
    if not all(given.released(one, now).score for one in over):
        return Cell(Entry(CellState.HELD), share, late)
    return Cell(Entry(CellState.MARKED, share), late=late)


def _tasks(
    columns: Sequence[Column], members: Sequence[Enrolment], term: Term, now: datetime
) -> dict[tuple[int, str], Cell]:
    mine = [(one, one.task) for one in columns if one.task is not None]
    if not mine:
        return {}
    ids = [one.pk for one in members]
    pointed = [task for one, task in mine if _has_points(one)]
    bank = course_bank(term.group.course)
    done = evidence_of(ids, [task for one, task in mine if not _has_points(one)], bank)
    handed_in = {}
    if pointed:
        rows = HandIn.objects.filter(task__in=pointed, enrolment__in=ids)
        handed_in = {(row.enrolment_id, row.task_id): row for row in rows}
    return {
        (pk, column.key): _pointed(column, handed_in.get((pk, task.pk)), now)
        if _has_points(column)
        else _done(column, done[pk], bank, now)
        for column, task in mine
        for pk in ids
    }


def _has_points(column: Column) -> bool:
    """Whether work counts with the points that a tutor gives."""
    task = column.task
    return task is not None and column.counts == "mark" and task.asks.points is not None


def _over(column: Column, now: datetime) -> bool:
    task = column.task
    last = None if task is None else task.closes or task.due
    return last is not None and now >= last


def _pointed(column: Column, row: HandIn | None, now: datetime) -> Cell:
    """Of work that is marked with points, which are shown as soon as they are given."""
    task = column.task
    assert task is not None, "asked for by the caller"
    assert task.asks.points is not None, "asked for by the caller"
    if row is None or row.handed_in_at is None:
        return Cell(Entry(CellState.MISSING if _over(column, now) else CellState.OPEN))
    late = task.due is not None and row.handed_in_at > task.due
    if row.marked_at is None or row.points is None:
        return Cell(Entry(CellState.WAITING), late=late)
    return Cell(Entry(CellState.MARKED, Fraction(row.points) / task.asks.points), late=late)


def _done(column: Column, own: Evidence, bank: CourseBank, now: datetime) -> Cell:
    """Done or not, or how much of it was done: decided once it is over, or done."""
    assert column.task is not None, "asked for by the caller"
    state, made = learner_progress(column.task, own, bank, now)
    if state in {TaskStanding.DONE, TaskStanding.DONE_LATE}:
        late = state is TaskStanding.DONE_LATE
        return Cell(Entry(CellState.MARKED, Fraction(1)), late=late)
    if not _over(column, now):
        return Cell(Entry(CellState.OPEN))
    part = column.counts == "mark" and made.of > 0
    return Cell(Entry(CellState.MARKED, Fraction(made.done, made.of) if part else Fraction(0)))
