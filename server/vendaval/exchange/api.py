"""Endpoints of imports and exports for the authors of a course."""

from __future__ import annotations

from typing import Annotated

from django.core.files.storage import default_storage
from django.http import FileResponse, HttpRequest, HttpResponse
from django.utils.translation import gettext
from ninja import Query, Router

from vendaval.authoring.access import course_of_author
from vendaval.groups.addresses import CourseKey
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.errors import NotFound
from vendaval.shared.tables import FileKind, download
from vendaval.shared.uploads import UPLOAD, uploaded_file

from . import imports, jobs, outgoing, packs, qti_in, qti_out, qti_tests
from .models import ExportState, Import, ImportState
from .reading import MOST_BYTES, sheet_of
from .schemas import (
    ExportIn,
    ExportLineOut,
    ExportsOut,
    ImportedTestIn,
    ImportFilter,
    ImportOut,
    ImportRowIn,
    ImportRowOut,
    ImportsOut,
    ImportTopicIn,
    StoreImportIn,
    UndoneOut,
)
from .shown import export_out, exports_out, import_out, imports_out, row_out

router = Router(auth=signed_in, tags=["exchange"])
FileName = Annotated[str, Query(min_length=1, max_length=120)]
IMPORT = "/imports/{int:import_id}"
FIRST = ImportFilter()


def _import(request: HttpRequest, course: str, import_id: int, operation: str) -> Import:
    person = current_user(request)
    return imports.import_of(course_of_author(person, course, operation), import_id, person)


@router.get("/imports", response=ImportsOut, operation_id="list_imports")
def list_imports(request: HttpRequest, course: CourseKey) -> ImportsOut:
    """Files of questions that were sent for a course."""
    return imports_out(course_of_author(current_user(request), course, "list_imports"))


@router.post("/imports", response=ImportOut, operation_id="begin_import", openapi_extra=UPLOAD)
def begin_import(request: HttpRequest, course: CourseKey, name: FileName) -> ImportOut:
    """Read a spreadsheet of questions (CSV or XLSX), a package or an item of QTI (ZIP or XML), or a
    pack of the course (ZIP). Nothing goes into the course yet."""
    person = current_user(request)
    found = course_of_author(person, course, "begin_import")
    if name.lower().endswith((".zip", ".xml")):
        content = uploaded_file(request, packs.MOST_BYTES)
        says = qti_in.listed(content, f"author-{person.pk}")
        if says["pack"]:
            made = packs.begin_pack(found, name, content, person)
        else:
            made = qti_in.begin_qti(found, name, content, says, person)
        imports.drop_old(found)
    else:
        sheet = sheet_of(uploaded_file(request, MOST_BYTES), f"author-{person.pk}")
        made = imports.begin(found, name, sheet, person)
    jobs.look_through.enqueue(made.pk)
    return import_out(made, FIRST)


@router.get("/imports/template", operation_id="get_import_template")
def get_import_template(
    request: HttpRequest, course: CourseKey, kind: FileKind = "xlsx"
) -> HttpResponse:
    """A spreadsheet with three questions as an example."""
    course_of_author(current_user(request), course, "get_import_template")
    return download("questions", kind, outgoing.template(kind))


@router.get("/exports/questions", operation_id="export_questions")
def export_questions(
    request: HttpRequest, course: CourseKey, kind: FileKind = "xlsx"
) -> HttpResponse:
    """The questions that a spreadsheet can hold, and in a second sheet why the others don't fit."""
    person = current_user(request)
    found = course_of_author(person, course, "export_questions")
    return download(f"{found.key}-questions", kind, outgoing.questions(found, person, kind))


@router.get("/exports/pack", operation_id="export_course_pack")
def export_course_pack(request: HttpRequest, course: CourseKey) -> HttpResponse:
    """All files of the course as an archive, with their digests."""
    person = current_user(request)
    found = course_of_author(person, course, "export_course_pack")
    reply = HttpResponse(packs.pack_of(found, person), content_type="application/zip")
    reply["Content-Disposition"] = f'attachment; filename="{found.key}.zip"'
    return reply


@router.get("/exports", response=ExportsOut, operation_id="list_exports")
def list_exports(request: HttpRequest, course: CourseKey) -> ExportsOut:
    """Packages of the course's questions, in QTI 3."""
    return exports_out(course_of_author(current_user(request), course, "list_exports"))


@router.post("/exports", response=ExportLineOut, operation_id="begin_export")
def begin_export(request: HttpRequest, course: CourseKey, body: ExportIn) -> ExportLineOut:
    """Have a package of the course's questions written, in QTI 3."""
    person = current_user(request)
    found = course_of_author(person, course, "begin_export")
    made = qti_out.begin_export(found, body.topic, body.versions, person, body.test)
    jobs.write_export.enqueue(made.pk)
    return export_out(made)


@router.get("/exports/{int:export_id}/file", operation_id="get_export_file")
def get_export_file(request: HttpRequest, course: CourseKey, export_id: int) -> FileResponse:
    """A package that is written."""
    person = current_user(request)
    found = course_of_author(person, course, "get_export_file")
    one = qti_out.export_of(found, export_id, person)
    if one.state != ExportState.DONE:
        raise NotFound(gettext("This package isn’t written yet."))
    of = one.topic.key if one.topic else f"test-{one.test_id}" if one.test_id else "all"
    name = f"{found.key}-{of}-qti3.zip"
    return FileResponse(default_storage.open(one.stored), as_attachment=True, filename=name)


@router.get(IMPORT, response=ImportOut, operation_id="get_import")
def get_import(
    request: HttpRequest, course: CourseKey, import_id: int, wanted: Query[ImportFilter]
) -> ImportOut:
    """A file of questions, some of them at a time."""
    return import_out(_import(request, course, import_id, "get_import"), wanted)


@router.post(f"{IMPORT}/rows/{{int:line}}", response=ImportRowOut, operation_id="change_import_row")
def change_import_row(
    request: HttpRequest, course: CourseKey, import_id: int, line: int, body: ImportRowIn
) -> ImportRowOut:
    """Give a question other words, or leave it out."""
    found = _import(request, course, import_id, "change_import_row")
    return row_out(found.course, imports.change_row(found, line, body))


@router.post(f"{IMPORT}/topic", response=ImportOut, operation_id="set_import_topic")
def set_import_topic(
    request: HttpRequest, course: CourseKey, import_id: int, body: ImportTopicIn
) -> ImportOut:
    """Choose the topic of questions that name none, or of those whose file says these words."""
    found = _import(request, course, import_id, "set_import_topic")
    imports.set_topic(found, body.topic, body.words)
    jobs.look_through.enqueue(found.pk)
    return import_out(imports.import_of(found.course, import_id, current_user(request)), FIRST)


@router.post(
    f"{IMPORT}/tests/{{int:number}}", response=ImportOut, operation_id="choose_imported_test"
)
def choose_imported_test(
    request: HttpRequest, course: CourseKey, import_id: int, number: int, body: ImportedTestIn
) -> ImportOut:
    """Take a test in with its questions, or leave it out."""
    found = _import(request, course, import_id, "choose_imported_test")
    qti_tests.choose_test(found, number, skip=body.skip)
    return import_out(found, FIRST)


@router.post(f"{IMPORT}/skip-wrong", response=ImportOut, operation_id="skip_wrong_rows")
def skip_wrong_rows(request: HttpRequest, course: CourseKey, import_id: int) -> ImportOut:
    """Leave out all questions that something is wrong with."""
    found = _import(request, course, import_id, "skip_wrong_rows")
    imports.skip_wrong(found)
    return import_out(found, FIRST)


@router.post(f"{IMPORT}/store", response=ImportOut, operation_id="store_import")
def store_import(
    request: HttpRequest, course: CourseKey, import_id: int, body: StoreImportIn
) -> ImportOut:
    """Take the questions into the course: all that aren't left out, or none."""
    person = current_user(request)
    found = _import(request, course, import_id, "store_import")
    imports.ask_to_store(found, body)
    jobs.store.enqueue(found.pk, person.pk)
    return import_out(imports.import_of(found.course, import_id, current_user(request)), FIRST)


@router.post(f"{IMPORT}/undo", response=UndoneOut, operation_id="undo_import")
def undo_import(request: HttpRequest, course: CourseKey, import_id: int) -> UndoneOut:
    """Take back what an import brought."""
    found = _import(request, course, import_id, "undo_import")
    kept = imports.undo(found, current_user(request))
    return UndoneOut(kept=kept, state=ImportState.UNDONE)
