"""Results, analysis and mark book of sixty learners with 300 attempts, on a copy of the demo."""

from __future__ import annotations

import gc
from datetime import timedelta
from fractions import Fraction

from django.test import Client
from django.utils import timezone

from vendaval.bank.snapshot import course_bank
from vendaval.exams.composing.actions import give
from vendaval.groups.actions import put_in_charge
from vendaval.marks.actions import enter, start_term
from vendaval.marks.columns import OutsideData
from vendaval.marks.models import EnteredKind
from vendaval.marks.queries import learners_of
from vendaval.marks.schemas import EntriesIn, EntryIn, TermIn
from vendaval.people.models import User
from vendaval.shared import clock

from .pages import page
from .regrading import taken
from .timing import Figures

QUESTIONS, MORE_TESTS = 20, 4


def marks_pages(attempts: int, times: int = 15) -> Figures:
    """Everybody's results of a test of twenty questions, its analysis, and the mark book of a term
    with it, four more tests and an oral."""
    bank = course_bank(User.objects.get(username="ines").enrolments.first().course)  # type: ignore[union-attr]
    families = [key for key, item in bank.families.items() if item.family.versions > 1]
    given = taken(attempts, families[:QUESTIONS])
    clara = User.objects.get(username="clara")
    put_in_charge(given.group, clara)
    for _ in range(MORE_TESTS):
        give(given.test, given.group, clara)
    today = timezone.localtime(clock.now()).date()
    begins, ends = today - timedelta(days=60), today + timedelta(days=60)
    term = start_term(given.group, TermIn(title="Measured", begins=begins, ends=ends))
    term.book.outside = [OutsideData(key="oral", title="Oral", shown=True)]
    term.save()
    entries = [
        EntryIn(learner=one.pk, kind=EnteredKind.MARK, mark=Fraction(12))
        for one in learners_of(given.group)
    ]
    enter(term, EntriesIn(column="own-oral", entries=entries), clara)
    desk = Client()
    desk.force_login(clara)
    at = f"/api/groups/{given.group_id}"
    desk.get(f"{at}/marks/{term.pk}")
    gc.collect()
    gc.freeze()
    return {
        "attempts": attempts,
        "questions": QUESTIONS,
        "results": page(desk, f"{at}/tests/{given.pk}/outcomes", times),
        "analysis": page(desk, f"{at}/tests/{given.pk}/analysis", times),
        "mark_book": page(desk, f"{at}/marks/{term.pk}", times),
        "workbook": page(desk, f"{at}/marks/{term.pk}/file?kind=xlsx", times),
    }
