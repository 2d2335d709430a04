"""Changing a mark book: its terms, what counts, and what is entered by hand."""

from __future__ import annotations

from collections.abc import Collection
from datetime import date
from fractions import Fraction

from django.db import transaction
from django.utils.translation import gettext

from vendaval.groups.models import Group
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.editing import editing
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval_core.assessment.scale import scale_problems

from .cells import cells_of
from .columns import BookData, CategoryData
from .columns_of_term import Column, columns_of
from .models import Entered, EnteredKind, Term
from .queries import learners_of, term_edit, term_of
from .schemas import ChangeTermIn, EntriesIn, TermEdit, TermIn

MOST_TERMS = 40
CLOSED = "term_closed"


def usual_book() -> BookData:
    """What a group begins with, until its tutor decides."""
    return BookData(
        categories=[
            CategoryData(key="tests", title=gettext("Tests"), weight=Fraction(70), takes=["tests"]),
            CategoryData(
                key="set-work",
                title=gettext("Set work"),
                weight=Fraction(30),
                takes=["tasks", "outside"],
            ),
        ]
    )


def start_term(group: Group, wanted: TermIn) -> Term:
    """Begin a term, with the categories and the scale of another where one is named."""
    book = usual_book()
    if wanted.like is not None:
        like = term_of(group, wanted.like).book
        book = like.model_copy(update={"placed": {}, "outside": []})
    with transaction.atomic():
        Group.objects.select_for_update().get(pk=group.pk)
        if Term.objects.filter(group=group).count() >= MOST_TERMS:
            raise Conflict(gettext("A group can have {most} terms.").format(most=MOST_TERMS))
        problems = _date_problems(group, wanted.begins, wanted.ends)
        if problems:
            raise _refused(problems)
        return Term.objects.create(
            group=group, title=wanted.title, begins=wanted.begins, ends=wanted.ends, book=book
        )


def change_term(term: Term, wanted: ChangeTermIn) -> Term:
    """Change a term's dates and how its marks come about."""
    with editing(term, wanted, lambda: term_edit(term)):
        _refuse_closed(term)
        problems = _date_problems(term.group, wanted.begins, wanted.ends, but=term)
        problems |= _book_problems(term, wanted)
        if problems:
            raise _refused(problems)
        term.title, term.begins, term.ends = wanted.title, wanted.begins, wanted.ends
        term.book = wanted.book
        term.save(update_fields=["title", "begins", "ends", "book"])
    return term


def _refused(problems: dict[str, str]) -> Unprocessable:
    return Unprocessable(gettext("This can’t be saved yet. Fix what is marked."), fields=problems)


def _refuse_closed(term: Term) -> None:
    if term.closed_at is not None:
        says = gettext("This term is closed. Its marks can only be corrected.")
        raise Conflict(says, code=CLOSED)


def _date_problems(
    group: Group, begins: date, ends: date, but: Term | None = None
) -> dict[str, str]:
    if ends < begins:
        return {"ends": gettext("This is before the first day.")}
    others = Term.objects.filter(group=group, begins__lte=ends, ends__gte=begins)
    if but is not None:
        others = others.exclude(pk=but.pk)
    other = others.first()
    if other is not None:
        says = gettext("These days are in “{title}” already.").format(title=other.title)
        return {"begins": says}
    return {}


def _book_problems(term: Term, wanted: TermEdit) -> dict[str, str]:
    book = wanted.book
    found = {f"book.{field}": says for field, says in scale_problems(book.scale())}
    keys = [one.key for one in book.categories]
    outside = [one.key for one in book.outside]
    if len(keys) != len(set(keys)) or len(outside) != len(set(outside)):
        found["book.categories"] = gettext("Two of these have the same key.")
    if not any(one.weight for one in book.categories):
        found["book.categories"] = gettext("Give at least one category a weight.")
    takes = [kind for one in book.categories for kind in one.takes]
    if len(takes) != len(set(takes)):
        found["book.categories"] = gettext("New work of one kind can go into one category.")
    if any(one.category not in {None, *keys} for one in book.placed.values()):
        found["book.placed"] = gettext("This work is in a category that isn’t there.")
    gone = {one.key for one in term.book.outside} - set(outside)
    if gone and _entered_in(term, {f"own-{key}" for key in gone}):
        found["book.outside"] = gettext(
            "There are marks in a column you removed. Clear them first, or let it count nowhere."
        )
    return found


def _entered_in(term: Term, columns: Collection[str]) -> bool:
    rows = Entered.objects.filter(term=term, work__in=columns).order_by("-pk")
    newest: dict[tuple[int, str], str] = {}
    for learner, column, kind in rows.values_list("enrolment", "work", "kind"):
        newest.setdefault((learner, column), kind)
    return any(kind != EnteredKind.CLEARED for kind in newest.values())


def enter(term: Term, wanted: EntriesIn, by: User) -> int:
    """Enter marks in a column, or that somebody is excused. Returns how many cells changed; what is
    there already isn't entered again."""
    column = next((one for one in columns_of(term).all() if one.key == wanted.column), None)
    if column is None:
        raise NotFound(gettext("This work isn’t in this term."))
    members = {one.pk: one for one in learners_of(term.group)}
    shares = _shares(term, column, wanted)
    if unknown := [one.learner for one in wanted.entries if one.learner not in members]:
        raise NotFound(
            gettext("{learners} of these aren’t in this group.").format(learners=len(unknown))
        )
    if column.kind != "outside" and not wanted.why.strip():
        raise Unprocessable(gettext("Say why."), fields={"why": gettext("Say why.")})
    now = clock.now()
    with transaction.atomic():
        locked = Term.objects.select_for_update().get(pk=term.pk)
        _refuse_closed(locked)
        named = [members[one.learner] for one in wanted.entries]
        cells = cells_of(term, columns_of(term), named, now)
        rows = []
        for one in wanted.entries:
            before = cells[one.learner][column.key].entered
            share = shares.get(one.learner)
            was = (EnteredKind.CLEARED, None) if before is None else (before.kind, before.share)
            if was != (one.kind, share):
                rows.append(
                    Entered(
                        term=term,
                        enrolment_id=one.learner,
                        work=column.key,
                        kind=one.kind,
                        share=share,
                        why=wanted.why.strip(),
                        by=by,
                        at=now,
                    )
                )
        Entered.objects.bulk_create(rows)
    return len(rows)


def _shares(term: Term, column: Column, wanted: EntriesIn) -> dict[int, Fraction]:
    """Shares of the marks entered, by learner; Unprocessable for one that can't be."""
    most = Fraction(term.book.most) if column.outside is None else column.outside.of
    found, problems = {}, {}
    for one in wanted.entries:
        if one.kind != EnteredKind.MARK:
            continue
        if one.mark is None or not 0 <= one.mark <= most:
            problems[f"entries.{one.learner}"] = gettext("From 0 to {most}.").format(
                most=f"{float(most):g}"
            )
        else:
            found[one.learner] = one.mark / most
    if problems:
        raise _refused(problems)
    return found
