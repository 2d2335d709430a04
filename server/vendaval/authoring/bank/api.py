"""Endpoints of the bank."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from vendaval.authoring.access import course_of_author
from vendaval.authoring.models import BankLine
from vendaval.bank.models import Topic
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.addresses import CourseKey
from vendaval.groups.writing import courses_written_by
from vendaval.people.permissions import current_user, signed_in
from vendaval.people.policies import Relation, require

from . import bulk
from .bulk_schemas import BulkIn, BulkOut, FilesFilter
from .listing import bank_page
from .schemas import BankFilter, BankPageOut, WrittenListOut, WrittenOut

router = Router(auth=signed_in, tags=["authoring"])
written = Router(auth=signed_in, tags=["authoring"])


@router.get("", response=BankPageOut, operation_id="get_bank")
def get_bank(request: HttpRequest, course: CourseKey, wanted: Query[BankFilter]) -> BankPageOut:
    """A page of a course's bank, and what of it needs its authors."""
    return bank_page(course_of_author(current_user(request), course, "get_bank"), wanted)


@router.post("/change", response=BulkOut, operation_id="change_many")
def change_many(request: HttpRequest, course: CourseKey, body: BulkIn) -> BulkOut:
    """Change many questions at once."""
    person = current_user(request)
    return bulk.change_many(course_of_author(person, course, "change_many"), body, person)


@router.get("/files", operation_id="get_question_files")
def get_question_files(
    request: HttpRequest, course: CourseKey, wanted: Query[FilesFilter]
) -> HttpResponse:
    """The files of questions, as a ZIP archive."""
    person = current_user(request)
    found = course_of_author(person, course, "get_question_files")
    made = bulk.files_of(found, wanted.families, person)
    reply = HttpResponse(made, content_type="application/zip")
    reply["Content-Disposition"] = f'attachment; filename="{found.key}-questions.zip"'
    return reply


@written.get("", response=WrittenListOut, operation_id="list_written")
def list_written(request: HttpRequest) -> WrittenListOut:
    """Courses that whoever asks writes for."""
    person = current_user(request)
    rows = courses_written_by(person)
    require("list_written", person.roles, Relation.OWN)
    found = []
    for course in rows:
        topics = Topic.objects.filter(course=course).order_by("subject__position", "position")
        kinds = BankLine.objects.filter(course=course).values_list("kind", flat=True).distinct()
        places = [PlaceOut(key=one.key, title=one.title) for one in topics]
        found.append(
            WrittenOut(
                key=course.key,
                title=course.title,
                topics=places,
                kinds=sorted(kinds.order_by("kind")),
            )
        )
    return WrittenListOut(courses=found)
