"""Endpoints of the record: one's own, and that of a learner one may read."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router
from pydantic import BaseModel, Field

from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_enrolment, related_enrolment
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.tables import download
from vendaval.work.models import Purpose

from . import queries, tries
from .formats import ENDINGS, Format, content_of
from .schemas import RecordOut, Result, TriesOut, TryOut

router = Router(auth=signed_in, tags=["record"])
OWN, LEARNER = "/courses/{slug:course}/record", "/learners/{int:enrolment_id}/record"


class TriesIn(BaseModel):
    """Which tries to list. `words`: in the question's title or its topic's."""

    topic: Annotated[str, Field(max_length=50)] | None = None
    purpose: Purpose | None = None
    result: Result | None = None
    words: Annotated[str, Field(max_length=80)] = ""
    older: int | None = None

    def filter(self) -> tries.Filter:
        """As the queries take it."""
        return tries.Filter(self.topic, self.purpose, self.result, self.words)


@router.get(OWN, response=RecordOut, operation_id="get_record")
def get_record(request: HttpRequest, course: CourseKey) -> RecordOut:
    """My record in figures."""
    return queries.record(own_enrolment(current_user(request), course, "get_record"))


@router.get(f"{OWN}/tries", response=TriesOut, operation_id="list_tries")
def list_tries(request: HttpRequest, course: CourseKey, wanted: Query[TriesIn]) -> TriesOut:
    """My tries, the latest first."""
    enrolment = own_enrolment(current_user(request), course, "list_tries")
    return tries.tries_page(enrolment, wanted.filter(), wanted.older)


@router.get(OWN + "/tries/{int:try_id}", response=TryOut, operation_id="get_try")
def get_try(request: HttpRequest, course: CourseKey, try_id: int) -> TryOut:
    return tries.try_page(own_enrolment(current_user(request), course, "get_try"), try_id)


@router.get(f"{OWN}/file", operation_id="export_record")
def export_record(request: HttpRequest, course: CourseKey, kind: Format) -> HttpResponse:
    """My record as a file: a workbook, comma-separated values, or xAPI statements."""
    enrolment = own_enrolment(current_user(request), course, "export_record")
    return download(f"record-{course}", ENDINGS[kind], content_of(kind, enrolment))


@router.get(LEARNER, response=RecordOut, operation_id="get_learner_record")
def get_learner_record(request: HttpRequest, enrolment_id: int) -> RecordOut:
    """The record of a learner of my group, or whose guardian I am."""
    found = related_enrolment(current_user(request), enrolment_id, "get_learner_record")
    return queries.record(found)


@router.get(f"{LEARNER}/tries", response=TriesOut, operation_id="list_learner_tries")
def list_learner_tries(request: HttpRequest, enrolment_id: int, wanted: Query[TriesIn]) -> TriesOut:
    found = related_enrolment(current_user(request), enrolment_id, "list_learner_tries")
    return tries.tries_page(found, wanted.filter(), wanted.older)


@router.get(LEARNER + "/tries/{int:try_id}", response=TryOut, operation_id="get_learner_try")
def get_learner_try(request: HttpRequest, enrolment_id: int, try_id: int) -> TryOut:
    found = related_enrolment(current_user(request), enrolment_id, "get_learner_try")
    return tries.try_page(found, try_id)
