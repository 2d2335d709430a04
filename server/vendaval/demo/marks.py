"""The demo's mark book: a term that is closed, with a mark corrected, and one under way."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, datetime, timedelta
from fractions import Fraction
from random import Random

from django.utils import timezone

from vendaval.exams.columns import BandData
from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import members_of
from vendaval.marks.actions import enter, start_term
from vendaval.marks.closing import close_term, correct
from vendaval.marks.columns import BookData, CategoryData, OutsideData, PlacedData
from vendaval.marks.columns_of_term import columns_of
from vendaval.marks.models import EnteredKind, Term
from vendaval.marks.schemas import CorrectionIn, EntriesIn, EntryIn, TermIn
from vendaval.people.models import User
from vendaval.shared import clock

BANDS = [
    BandData(name=name, least=Fraction(least))
    for name, least in (("not yet", 0), ("pass", 10), ("good", 14), ("very good", 17))
]
WATER = CategoryData(key="water", title="On the water", weight=Fraction(20), takes=["outside"])


def mark_books(group: Group, tutor: User, now: datetime) -> None:
    """A closed term and the one under way, with what its tutor typed."""
    today = timezone.localtime(now).date()
    _closed_term(group, tutor, now, today)
    term = _term(group, "Autumn term", today - timedelta(days=45), today + timedelta(days=26))
    tests = {one.title: one.key for one in columns_of(term).all() if one.kind == "tests"}
    quizzes = [key for title, key in tests.items() if title.startswith(("Sound", "Who", "Rules"))]
    term.book = BookData(
        bands=BANDS,
        categories=[
            CategoryData(key="quizzes", title="Quizzes", weight=Fraction(30), drop=1),
            CategoryData(key="tests", title="Tests", weight=Fraction(50), takes=["tests"]),
            WATER,
        ],
        placed={key: PlacedData(category="quizzes") for key in quizzes},
        outside=[
            OutsideData(key="docking", title="Docking", on=today - timedelta(days=9), shown=True),
            OutsideData(key="night", title="Night exercise", on=today + timedelta(days=8)),
        ],
    )
    term.save(update_fields=["book"])
    with clock.held_by(lambda: now - timedelta(days=8)):
        _fill(term, "own-docking", tutor, 11, ill={"duarte sá": "He was ill that day."})


def _closed_term(group: Group, tutor: User, now: datetime, today: date) -> None:
    term = _term(group, "Summer term", today - timedelta(days=160), today - timedelta(days=60))
    term.book = BookData(
        bands=BANDS,
        categories=[WATER],
        outside=[
            OutsideData(key="knots", title="Knots", on=today - timedelta(days=120), shown=True),
            OutsideData(key="oral", title="Oral", on=today - timedelta(days=70), shown=True),
        ],
    )
    term.save(update_fields=["book"])
    with clock.held_by(lambda: now - timedelta(days=29)):
        _fill(term, "own-knots", tutor, 12)
        _fill(term, "own-oral", tutor, 9)
        close_term(term, tutor)
    with clock.held_by(lambda: now - timedelta(days=20)):
        fixed = term.marks.get(enrolment=_by_name(group)["marta quental"])
        assert fixed.data.mark is not None, "everybody has one"
        why = "Two points of the oral were missed out."
        better = CorrectionIn(learner=fixed.enrolment_id, mark=fixed.data.mark + 1, why=why)
        correct(term, better, tutor)


def _term(group: Group, title: str, begins: date, ends: date) -> Term:
    return start_term(group, TermIn(title=title, begins=begins, ends=ends))


def _by_name(group: Group) -> dict[str, Enrolment]:
    return {one.person.display_name.lower(): one for one in members_of(group)}


def _fill(
    term: Term, column: str, tutor: User, least: int, ill: Mapping[str, str] | None = None
) -> None:
    """Marks of everybody who has answered anything, drawn from their names."""
    excused = ill or {}
    entries = [
        EntryIn(
            learner=one.pk,
            kind=EnteredKind.MARK,
            mark=Fraction(least + Random(f"{column}:{name}").randrange(8)),
        )
        for name, one in _by_name(term.group).items()
        if name not in excused
    ]
    enter(term, EntriesIn(column=column, entries=entries), tutor)
    for name, why in excused.items():
        entry = EntryIn(learner=_by_name(term.group)[name].pk, kind=EnteredKind.EXCUSED)
        enter(term, EntriesIn(column=column, entries=[entry], why=why), tutor)
