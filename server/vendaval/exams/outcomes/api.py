"""Endpoints of everybody's results of a test, for whoever teaches the group."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.utils.translation import gettext
from ninja import Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.batches import Together
from vendaval.groups.queries import course_of_staff
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.errors import NotFound
from vendaval.shared.tables import FileKind, download

from ..assigning.access import own_assignment
from ..models import Test
from .analysis import analysis, analysis_of_test
from .comparing import comparison
from .files import outcomes_file
from .queries import outcomes
from .schemas import AnalysisOut, OutcomesOut, SittingsComparedOut

router = Router(auth=signed_in, tags=["tests"])
of_course = Router(auth=signed_in, tags=["tests"])
GIVEN = "/groups/{int:group_id}/tests/{int:assignment_id}"


@router.get(f"{GIVEN}/outcomes", response=OutcomesOut, operation_id="get_outcomes")
def get_outcomes(
    request: HttpRequest, group_id: int, assignment_id: int, together: Together = False
) -> OutcomesOut:
    """Everybody at a test, question by question."""
    user = current_user(request)
    row = own_assignment(user, group_id, assignment_id, "get_outcomes")
    return outcomes(row, user, together=together)


@router.get(f"{GIVEN}/outcomes/file", operation_id="export_outcomes")
def export_outcomes(
    request: HttpRequest,
    group_id: int,
    assignment_id: int,
    kind: FileKind,
    together: Together = False,
) -> HttpResponse:
    """The same as a workbook or comma-separated values."""
    user = current_user(request)
    row = own_assignment(user, group_id, assignment_id, "export_outcomes")
    found = outcomes(row, user, together=together)
    return download(f"outcomes-{assignment_id}", kind, outcomes_file(found, kind))


@router.get(f"{GIVEN}/analysis", response=AnalysisOut, operation_id="get_analysis")
def get_analysis(request: HttpRequest, group_id: int, assignment_id: int) -> AnalysisOut:
    """What a test says about itself."""
    user = current_user(request)
    return analysis(own_assignment(user, group_id, assignment_id, "get_analysis"))


@router.get(f"{GIVEN}/comparison", response=SittingsComparedOut, operation_id="compare_test")
def compare_test(request: HttpRequest, group_id: int, assignment_id: int) -> SittingsComparedOut:
    """A test beside its other sittings."""
    user = current_user(request)
    return comparison(own_assignment(user, group_id, assignment_id, "compare_test"), user)


@of_course.get(
    "/composed/{int:test_id}/analysis", response=AnalysisOut, operation_id="get_test_analysis"
)
def get_test_analysis(request: HttpRequest, course: CourseKey, test_id: int) -> AnalysisOut:
    """What a test says about itself over every group that has it, without names."""
    found = course_of_staff(current_user(request), course, "get_test_analysis")
    test = Test.objects.filter(course=found, pk=test_id, mirror_of=None, rehearsal=False).first()
    if test is None:
        raise NotFound(gettext("This course doesn’t have this test."))
    return analysis_of_test(test, found)
