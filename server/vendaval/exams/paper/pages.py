"""Pages of paper of an attempt: added, turned, put in order, taken away, declared complete.

The attempt's version guards them, so that two browsers and a phone can add at once.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import partial

from django.db import transaction
from django.utils.translation import gettext, gettext_noop

from vendaval.files.sheets import Sheet, sheets_of, turned
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.acknowledged import note_acknowledged
from vendaval.shared.changes import Stale, claimed, until_stored
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval_core.assessment.paper import (
    MOST_BYTES,
    MOST_PAGES,
    PagesState,
    pages_state,
    pages_until,
)

from ..attempts import answers_of
from ..models import AnswerSoFar, Attempt, Page, PageImage
from ..taking.payload import version_at
from ..taking.state import own_attempt
from .schemas import Came, PageIn, PageOut, PaperOut, PaperQuestionOut

WHY_NOT = {
    PagesState.NOT_WANTED: gettext_noop("This test doesn’t need pages of paper."),
    PagesState.BEFORE: gettext_noop("You can add pages after you hand in."),
    PagesState.ALL_IN: gettext_noop("You said that you’ve added all pages."),
    PagesState.OVER: gettext_noop("The time for adding pages is over."),
}


def paper_out(attempt: Attempt) -> PaperOut:
    """How the pages of an attempt stand."""
    now = clock.now()
    paper, handed_in = attempt.paper.core(), attempt.handed_in_at
    return PaperOut(
        wanted=paper.wanted,
        state=pages_state(paper, handed_in, now),
        until=None if handed_in is None else pages_until(paper, handed_in),
        test=attempt.test.title,
        questions=[_question(answer) for answer in answers_of(attempt)],
        pages=[page_out(page) for page in pages_of(attempt)],
        server_now=now,
    )


def _question(answer: AnswerSoFar) -> PaperQuestionOut:
    return PaperQuestionOut(
        number=answer.number,
        title=version_at(answer).title,
        on_paper=answer.data.on_paper,
        sheet=answer.data.sheet,
    )


def page_out(page: Page) -> PageOut:
    """A page without its picture."""
    return PageOut(
        id=page.pk,
        place=page.place,
        questions=page.questions,
        came=Came(page.came),
        at=page.at,
        version=f"{page.pk}-{page.turns}",
    )


def pages_of(attempt: Attempt) -> list[Page]:
    """In order."""
    return list(Page.objects.filter(attempt=attempt).order_by("place"))


def refuse_closed(attempt: Attempt, now: datetime) -> None:
    """Conflict, with the reason, unless pages are taken now."""
    state = pages_state(attempt.paper.core(), attempt.handed_in_at, now)
    if state is not PagesState.OPEN:
        raise Conflict(gettext(WHY_NOT[state]), code=f"pages_{state}")


def _change(load: Callable[[], Attempt], change: Callable[[Attempt, list[Page]], None]) -> Attempt:
    """One change of the pages of an attempt while they are taken."""

    def work() -> Attempt:
        attempt = load()
        refuse_closed(attempt, clock.now())
        with transaction.atomic():
            if not claimed(attempt, ("paper",)):
                raise Stale
            change(attempt, pages_of(attempt))
        return attempt

    return until_stored(work)


def own_attempt_loader(
    person: User, course: str, attempt_id: int, operation: str
) -> Callable[[], Attempt]:
    """How a learner's own attempt is loaded."""
    return lambda: own_attempt(person, course, attempt_id, operation)


def add(load: Callable[[], Attempt], data: bytes, came: Came) -> Attempt:
    """Add what a file holds at the end. Reading pictures takes its time: no lock is held then."""
    if len(data) > MOST_BYTES:
        raise Unprocessable(
            gettext("A file can be at most 10 MB."), fields={"file": gettext("too large")}
        )
    attempt = load()
    refuse_closed(attempt, clock.now())
    count = Page.objects.filter(attempt=attempt).count()
    sheets = sheets_of(
        data,
        MOST_PAGES - count,
        gettext("learner {person_id}").format(person_id=attempt.enrolment.person_id),
    )

    def change(attempt: Attempt, pages: list[Page]) -> None:
        if len(pages) + len(sheets) > MOST_PAGES:
            raise Unprocessable(
                gettext("There is no room for more pages."), fields={"file": gettext("too many")}
            )
        for place, sheet in enumerate(sheets, len(pages) + 1):
            page = Page.objects.create(
                attempt=attempt,
                place=place,
                questions=_supposed(attempt, place),
                came=came,
                at=clock.now(),
            )
            PageImage.objects.create(page=page, full=sheet.full, small=sheet.small)
            transaction.on_commit(partial(_acknowledged, page.pk, attempt.enrolment.person_id))

    return _change(load, change)


def _acknowledged(page: int, person: int) -> None:
    note_acknowledged("page", page, person=person)


def _supposed(attempt: Attempt, sheet: int) -> list[int]:
    """Questions that the learner said are on the sheet of this number."""
    answers = AnswerSoFar.objects.filter(attempt=attempt).order_by("number")
    return [one.number for one in answers if one.data.on_paper and one.data.sheet == sheet]


def change_page(load: Callable[[], Attempt], page_id: int, wanted: PageIn) -> Attempt:
    """Turn a page, move it, or say which questions it answers. A turned page is drawn before
    anything is locked."""
    drawn = None if wanted.turn is None else _turned(load(), page_id, wanted.turn)

    def change(attempt: Attempt, pages: list[Page]) -> None:
        page = _page(pages, page_id)
        if wanted.questions is not None:
            known = {place.number for place in attempt.places}
            if not set(wanted.questions) <= known:
                raise Unprocessable(
                    gettext("This attempt doesn’t have that question."),
                    fields={"questions": "unknown"},
                )
            page.questions = sorted(set(wanted.questions))
        if drawn is not None:
            if page.turns != drawn.turns:
                raise Conflict(
                    gettext("Somebody turned this page meanwhile. Try again."), code="turned"
                )
            images = PageImage.objects.filter(page=page)
            images.update(full=drawn.sheet.full, small=drawn.sheet.small)
            page.turns += 1
        page.save(update_fields=["questions", "turns"])
        if wanted.place is not None:
            rest = [one for one in pages if one.pk != page.pk]
            _number([*rest[: wanted.place - 1], page, *rest[wanted.place - 1 :]])

    return _change(load, change)


@dataclass(frozen=True, slots=True)
class _Drawn:
    """A page drawn anew. turns: how often it had been turned before."""

    sheet: Sheet
    turns: int


def _turned(attempt: Attempt, page_id: int, quarters: int) -> _Drawn:
    refuse_closed(attempt, clock.now())
    page = _page(pages_of(attempt), page_id)
    image = PageImage.objects.get(page=page)
    who = gettext("learner {person_id}").format(person_id=attempt.enrolment.person_id)
    return _Drawn(turned(bytes(image.full), quarters, who), page.turns)


def _page(pages: list[Page], page_id: int) -> Page:
    found = next((one for one in pages if one.pk == page_id), None)
    if found is None:
        raise NotFound(gettext("We can’t find this page."))
    return found


def _number(pages: list[Page]) -> None:
    for place, page in enumerate(pages, 1):
        page.place = place
    Page.objects.bulk_update(pages, ["place"])


def remove(load: Callable[[], Attempt], page_id: int) -> Attempt:
    """Take a page away."""

    def change(attempt: Attempt, pages: list[Page]) -> None:
        page = _page(pages, page_id)
        _number([one for one in pages if one.pk != page_id])
        page.delete()

    return _change(load, change)


def all_in(load: Callable[[], Attempt]) -> Attempt:
    """The learner says that nothing more comes. Said again it changes nothing."""
    attempt = load()
    if attempt.paper.all_in_at is not None:
        return attempt

    def work() -> Attempt:
        attempt = load()
        refuse_closed(attempt, clock.now())
        attempt.paper.all_in_at = clock.now()
        if not claimed(attempt, ("paper",)):
            raise Stale
        return attempt

    return until_stored(work)


def picture(attempt_id: int, page_id: int, *, small: bool) -> bytes:
    """A page's picture, or NotFound."""
    size = "small" if small else "full"
    rows = PageImage.objects.filter(page=page_id, page__attempt=attempt_id)
    found = rows.values_list(size, flat=True).first()
    if found is None:
        raise NotFound(gettext("We can’t find this page."))
    return bytes(found)
