"""Endpoints of the results of an attempt that is over."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import Router

from vendaval.groups.addresses import CourseKey
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.tables import FileKind, download

from ..taking.api import ATTEMPT
from ..taking.state import own_attempt
from . import queries
from .files import results_file
from .schemas import ResultQuestionOut, ResultsOut

router = Router(auth=signed_in, tags=["tests"])


@router.get(f"{ATTEMPT}/results", response=ResultsOut, operation_id="get_results")
def get_results(request: HttpRequest, course: CourseKey, attempt_id: int) -> ResultsOut:
    """Points and questions of an attempt that is over, as far as they may be told."""
    user = current_user(request)
    return queries.results(own_attempt(user, course, attempt_id, "get_results"))


@router.get(f"{ATTEMPT}/results/file", operation_id="export_results")
def export_results(
    request: HttpRequest,
    course: CourseKey,
    attempt_id: int,
    kind: FileKind,
    questions: bool = False,
) -> HttpResponse:
    """Results as a file: a workbook or comma-separated values, with the questions or without."""
    user = current_user(request)
    attempt = own_attempt(user, course, attempt_id, "export_results")
    content = results_file(attempt, kind, questions=questions)
    return download(f"results-{attempt_id}", kind, content)


@router.get(
    f"{ATTEMPT}/results/{{int:number}}",
    response=ResultQuestionOut,
    operation_id="get_result_question",
)
def get_result_question(
    request: HttpRequest, course: CourseKey, attempt_id: int, number: int
) -> ResultQuestionOut:
    user = current_user(request)
    attempt = own_attempt(user, course, attempt_id, "get_result_question")
    return queries.result_question(attempt, number)
