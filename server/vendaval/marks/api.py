"""Endpoints of mark books: for whoever teaches a group, for a learner, for those who read along."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.utils.translation import gettext
from ninja import Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.models import Enrolment
from vendaval.groups.queries import own_enrolment, own_group, related_enrolment
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.errors import NotFound
from vendaval.shared.tables import FileKind, download
from vendaval.shared.uploads import UPLOAD, uploaded_file

from . import actions, closing, queries
from .files import marks_file
from .importing import MOST_BYTES, check_file, import_file
from .models import Term
from .schemas import (
    ChangeTermIn,
    ClosingOut,
    CorrectionIn,
    EntriesIn,
    MarkBookOut,
    MarksFileOut,
    OwnMarksOut,
    RowDetailOut,
    TermIn,
    TermsOut,
)

router = Router(auth=signed_in, tags=["marks"])
own = Router(auth=signed_in, tags=["marks"])
TERMS = "/groups/{int:group_id}/marks"
TERM = f"{TERMS}/{{int:term_id}}"


def _term(request: HttpRequest, group_id: int, term_id: int, operation: str) -> Term:
    return queries.term_of(own_group(current_user(request), group_id, operation), term_id)


@router.get(TERMS, response=TermsOut, operation_id="list_terms")
def list_terms(request: HttpRequest, group_id: int) -> TermsOut:
    """Terms of a group."""
    return queries.terms(own_group(current_user(request), group_id, "list_terms"))


@router.post(TERMS, response=MarkBookOut, operation_id="start_term")
def start_term(request: HttpRequest, group_id: int, body: TermIn) -> MarkBookOut:
    """Begin a term."""
    group = own_group(current_user(request), group_id, "start_term")
    return queries.mark_book(actions.start_term(group, body))


@router.get(TERM, response=MarkBookOut, operation_id="get_mark_book")
def get_mark_book(request: HttpRequest, group_id: int, term_id: int) -> MarkBookOut:
    """Everybody's marks in a term."""
    return queries.mark_book(_term(request, group_id, term_id, "get_mark_book"))


@router.put(TERM, response=MarkBookOut, operation_id="change_term")
def change_term(
    request: HttpRequest, group_id: int, term_id: int, body: ChangeTermIn
) -> MarkBookOut:
    """Change a term's dates and how its marks come about."""
    term = _term(request, group_id, term_id, "change_term")
    return queries.mark_book(actions.change_term(term, body))


@router.post(f"{TERM}/entries", response=MarkBookOut, operation_id="enter_marks")
def enter_marks(request: HttpRequest, group_id: int, term_id: int, body: EntriesIn) -> MarkBookOut:
    """Enter marks, or that somebody is excused."""
    term = _term(request, group_id, term_id, "enter_marks")
    actions.enter(term, body, current_user(request))
    return queries.mark_book(term)


@router.get(
    f"{TERM}/learners/{{int:enrolment_id}}",
    response=RowDetailOut,
    operation_id="get_mark_of_learner",
)
def get_mark_of_learner(
    request: HttpRequest, group_id: int, term_id: int, enrolment_id: int
) -> RowDetailOut:
    """How a learner's mark was worked out."""
    term = _term(request, group_id, term_id, "get_mark_of_learner")
    return queries.row_detail(term, _member(term, enrolment_id), staff=True)


def _member(term: Term, enrolment_id: int) -> Enrolment:
    found = [one for one in queries.learners_of(term.group) if one.pk == enrolment_id]
    if not found:
        raise NotFound(gettext("This learner isn’t in this group."))
    return found[0]


@router.get(f"{TERM}/closing", response=ClosingOut, operation_id="check_closing")
def check_closing(request: HttpRequest, group_id: int, term_id: int) -> ClosingOut:
    """What closing a term would mean."""
    return closing.closing(_term(request, group_id, term_id, "check_closing"))


@router.post(f"{TERM}/close", response=MarkBookOut, operation_id="close_term")
def close_term(request: HttpRequest, group_id: int, term_id: int) -> MarkBookOut:
    """Fix the marks of a term."""
    term = _term(request, group_id, term_id, "close_term")
    closing.close_term(term, current_user(request))
    return queries.mark_book(term)


@router.post(f"{TERM}/corrections", response=MarkBookOut, operation_id="correct_mark")
def correct_mark(
    request: HttpRequest, group_id: int, term_id: int, body: CorrectionIn
) -> MarkBookOut:
    """Correct a mark of a closed term."""
    term = _term(request, group_id, term_id, "correct_mark")
    closing.correct(term, body, current_user(request))
    return queries.mark_book(term)


@router.get(f"{TERM}/file", operation_id="export_marks")
def export_marks(request: HttpRequest, group_id: int, term_id: int, kind: FileKind) -> HttpResponse:
    """The mark book as a workbook with formulas, or comma-separated values."""
    term = _term(request, group_id, term_id, "export_marks")
    return download(f"marks-{term.pk}", kind, marks_file(term, kind))


@router.post(
    f"{TERM}/file/check",
    response=MarksFileOut,
    operation_id="check_marks_file",
    openapi_extra=UPLOAD,
)
def check_marks_file(request: HttpRequest, group_id: int, term_id: int) -> MarksFileOut:
    """What a table of marks would change; changes nothing."""
    term = _term(request, group_id, term_id, "check_marks_file")
    return check_file(term, uploaded_file(request, MOST_BYTES))


@router.post(
    f"{TERM}/file", response=MarksFileOut, operation_id="import_marks", openapi_extra=UPLOAD
)
def import_marks(request: HttpRequest, group_id: int, term_id: int) -> MarksFileOut:
    """Enter the marks of a table in the columns from outside."""
    term = _term(request, group_id, term_id, "import_marks")
    return import_file(term, uploaded_file(request, MOST_BYTES), current_user(request))


@own.get("/marks", response=OwnMarksOut, operation_id="get_own_marks")
def get_own_marks(request: HttpRequest, course: CourseKey) -> OwnMarksOut:
    """My marks."""
    return queries.own_marks(own_enrolment(current_user(request), course, "get_own_marks"))


@router.get(
    "/learners/{int:enrolment_id}/marks", response=OwnMarksOut, operation_id="get_learner_marks"
)
def get_learner_marks(request: HttpRequest, enrolment_id: int) -> OwnMarksOut:
    """A learner's marks, as they see them."""
    person = current_user(request)
    return queries.own_marks(related_enrolment(person, enrolment_id, "get_learner_marks"))
