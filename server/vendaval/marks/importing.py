"""Marks from a table: the same that is exported, with the columns from outside filled in."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction

from django.db import transaction
from django.utils.translation import gettext

from vendaval.groups.models import Enrolment
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Unprocessable
from vendaval.shared.sheets import sheet_rows
from vendaval_core.assessment.points import shown

from .actions import enter
from .cells import Cell, cells_of
from .columns_of_term import Column, columns_of
from .files import LEARNER
from .models import EnteredKind, Term
from .queries import learners_of
from .schemas import EntriesIn, EntryIn, MarksFileOut

MOST_BYTES, MOST_ROWS, MOST_SHOWN = 1_000_000, 600, 60
WORDS = {"excused": EnteredKind.EXCUSED, "missing": EnteredKind.MISSING}


@dataclass(frozen=True, slots=True)
class Change:
    """What a cell of the table enters. share: of the points, for a mark."""

    learner: Enrolment
    column: Column
    kind: EnteredKind
    share: Fraction | None


@dataclass(frozen=True, slots=True)
class Reading:
    """What a table says. faults: in words. ignored: titles of columns."""

    changes: Sequence[Change]
    faults: Sequence[str]
    ignored: Sequence[str]


def check_file(term: Term, content: bytes) -> MarksFileOut:
    """What a table would change. Nothing is stored."""
    return _out(_read(term, content), term)


def import_file(term: Term, content: bytes, by: User) -> MarksFileOut:
    """Enter what a table says, all of it or, where a cell can't be read, nothing."""
    found = _read(term, content)
    if found.faults:
        says = gettext("Nothing was imported: {fault}").format(fault=found.faults[0])
        raise Unprocessable(says, fields={"file": says})
    by_column: dict[str, list[EntryIn]] = {}
    for one in found.changes:
        assert one.column.outside is not None, "others are ignored"
        mark = None if one.share is None else one.share * one.column.outside.of
        entry = EntryIn(learner=one.learner.pk, kind=one.kind, mark=mark)
        by_column.setdefault(one.column.key, []).append(entry)
    with transaction.atomic():
        for key, entries in by_column.items():
            why = gettext("Imported from a table.")
            enter(term, EntriesIn(column=key, entries=entries, why=why), by)
    return _out(found, term)


def _out(found: Reading, term: Term) -> MarksFileOut:
    return MarksFileOut(
        count=len(found.changes),
        changes=[_says(one, term) for one in found.changes[:MOST_SHOWN]],
        faults=list(found.faults[:MOST_SHOWN]),
        ignored=list(found.ignored),
    )


def _says(one: Change, term: Term) -> str:
    said = one.kind.value if one.share is None else shown(one.share * term.book.most)
    return f"{one.learner.person.display_name}, {one.column.title}: {said}"


def _read(term: Term, content: bytes) -> Reading:
    who = gettext("group {pk}").format(pk=term.group_id)
    rows = sheet_rows(content, MOST_ROWS + 2, who)
    if len(rows) > MOST_ROWS + 1:
        raise Unprocessable(gettext("The table has more than {most} rows.").format(most=MOST_ROWS))
    head = [cell.strip() for cell in rows[0]] if rows else []
    if LEARNER not in [name.lower() for name in head]:
        says = gettext("The table needs a column “{name}”.").format(name=LEARNER)
        raise Unprocessable(says, fields={"file": says})
    columns = columns_of(term)
    outside = [one for one in columns.all() if one.kind == "outside"]
    often = Counter(one.title for one in outside)
    by_title = {one.title: one for one in outside if often[one.title] == 1}
    members = learners_of(term.group)
    cells = cells_of(term, columns, members, clock.now())
    names = Counter(one.person.display_name.casefold() for one in members)
    by_name = {one.person.display_name.casefold(): one for one in members}
    at = [name.lower() for name in head].index(LEARNER)
    changes, faults = list[Change](), list[str]()
    for number, row in enumerate(rows[1:], 2):
        name = row[at].strip() if at < len(row) else ""
        if not any(row) or name == gettext("weight"):
            continue
        member = by_name.get(name.casefold())
        if member is None or names[name.casefold()] > 1:
            faults.append(_fault(number, name, member))
            continue
        for title, text in zip(head, row, strict=False):
            if title in by_title and text.strip():
                column = by_title[title]
                _take(term, member, column, text.strip(), cells[member.pk], number, changes, faults)
    ignored = [one.title for one in columns.all() if one.title in head and one not in outside]
    return Reading(changes, faults, ignored)


def _fault(number: int, name: str, member: Enrolment | None) -> str:
    if member is None:
        return gettext("Row {number}: nobody in the group is called “{name}”.").format(
            number=number, name=name
        )
    return gettext("Row {number}: two learners are called “{name}”.").format(
        number=number, name=name
    )


def _take(
    term: Term,
    member: Enrolment,
    column: Column,
    text: str,
    cells: Mapping[str, Cell],
    row: int,
    changes: list[Change],
    faults: list[str],
) -> None:
    kind, share = WORDS.get(text.lower()), None
    if kind is None:
        try:
            mark = Fraction(text.replace(",", "."))
        except (ValueError, ZeroDivisionError):
            mark = Fraction(-1)
        if not 0 <= mark <= term.book.most:
            faults.append(
                gettext("Row {row}, {title}: “{text}” isn’t a mark from 0 to {most}.").format(
                    row=row, title=column.title, text=text[:20], most=term.book.most
                )
            )
            return
        kind, share = EnteredKind.MARK, mark / term.book.most
    before = cells[column.key].entered
    if before is None or before.kind != kind or not _same(before.share, share):
        changes.append(Change(member, column, kind, share))


def _same(one: Fraction | None, other: Fraction | None) -> bool:
    """Whether two shares are the same, as far as a table says them."""
    if one is None or other is None:
        return one is other
    return abs(one - other) < Fraction(1, 10**6)
