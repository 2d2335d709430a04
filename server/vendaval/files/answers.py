"""Files in answers: of parts that take some, and working on paper beside any."""

from __future__ import annotations

from collections.abc import Iterable

from django.utils.translation import gettext

from vendaval.bank.snapshot import version_of
from vendaval.groups.models import Enrolment
from vendaval.groups.queries import own
from vendaval.people.models import User
from vendaval.people.policies import Relation, require
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound
from vendaval.work.activity import activities
from vendaval.work.models import Presentation
from vendaval.work.questions import LOADED, find_presentation
from vendaval_core.items.files import A_PHOTOGRAPH, FileRules

from .models import StoredFile
from .places import Place, place_of
from .schemas import FileIn, FileOut, FilesOut
from .storing import announce, file_out, take_chunk

WORKING = ""


def _rules(presentation: Presentation) -> dict[str, FileRules]:
    """What may be sent, by part; under "" what may be sent as working."""
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    found = {key.id: key.files for key in version.parts}
    return {WORKING: A_PHOTOGRAPH} | {part: one for part, one in found.items() if one is not None}


def _closed(presentation: Presentation, part: str) -> Conflict | None:
    activity = activities().of(presentation.run)
    return activity.refuses_files(presentation, clock.now(), working=part == WORKING)


def files_of(presentation: Presentation, base: str) -> FilesOut:
    """Files of a question, with where more can be added."""
    rows = StoredFile.objects.filter(presentation=presentation).order_by("pk")
    closed = {
        part: str(why) if (why := _closed(presentation, part)) else ""
        for part in _rules(presentation)
    }
    return _out(rows, base, closed)


def _out(rows: Iterable[StoredFile], base: str, closed: dict[str, str]) -> FilesOut:
    return FilesOut(
        files=[file_out(row, base) for row in rows],
        closed=closed,
        endings=A_PHOTOGRAPH.endings,
        most=A_PHOTOGRAPH.most,
    )


def own_files(person: User, course: str, question_id: int, operation: str) -> FilesOut:
    """Files of a learner's own question."""
    presentation = find_presentation(person, course, question_id, operation)
    return files_of(presentation, f"/api/courses/{course}")


def start_file(
    person: User, course: str, question_id: int, wanted: FileIn, operation: str
) -> FileOut:
    """Announce a file to a question, or say why it is not taken."""
    presentation = find_presentation(person, course, question_id, operation)
    rules = _rules(presentation).get(wanted.part)
    if rules is None:
        raise NotFound(gettext("This question takes no files there."))
    if why := _closed(presentation, wanted.part):
        raise why
    beside = StoredFile.objects.filter(presentation=presentation, part=wanted.part)
    row = StoredFile(presentation=presentation)
    enrolment = presentation.run.enrolment
    return file_out(announce(enrolment, wanted, rules, beside.all, row), f"/api/courses/{course}")


def room_for_working(presentation: Presentation) -> None:
    """Conflict unless a photograph of working can be added now."""
    if why := _closed(presentation, WORKING):
        raise why


class InAnswer(Place):
    """Files in the answer to a question, and working beside it."""

    key = "answer"

    def closed(self, row: StoredFile) -> Conflict | None:
        return _closed(_question_of(row), row.part)

    def is_shown(self, row: StoredFile) -> bool:
        return _question_of(row).closed_at is not None


def _question_of(row: StoredFile) -> Presentation:
    return Presentation.objects.select_related(*LOADED).get(files=row)


def open_file(
    person: User, course: str, file_id: int, operation: str, *, change: bool = False
) -> StoredFile:
    """A learner's own file, or NotFound. change: Conflict when it can be changed no more."""
    rows = StoredFile.objects.filter(own(person, course, "enrolment__"), pk=file_id)
    found = rows.select_related("enrolment").first()
    require(operation, person.roles, Relation.OWN if found is not None else None)
    if found is None:
        raise NotFound(gettext("We can’t find this file."))
    if change and (why := place_of(found).closed(found)):
        raise why
    return found


def send_chunk(
    person: User, course: str, file_id: int, number: int, data: bytes, operation: str
) -> FileOut:
    """A piece of a file."""
    row = open_file(person, course, file_id, operation, change=True)
    return file_out(take_chunk(row, number, data), f"/api/courses/{course}")


def others_files(enrolment: Enrolment, question_id: int) -> FilesOut:
    """Files of a question, for a tutor or guardian of its learner: none before it is closed."""
    presentation = Presentation.objects.filter(run__enrolment=enrolment, pk=question_id).first()
    if presentation is None:
        raise NotFound(gettext("We can’t find this question."))
    base = f"/api/learners/{enrolment.pk}"
    files = arrived(presentation.pk) if presentation.closed_at is not None else []
    return _out(files, base, {})


def others_file(enrolment: Enrolment, file_id: int) -> StoredFile:
    """A file of a question that was closed, or NotFound."""
    rows = StoredFile.objects.filter(pk=file_id, enrolment=enrolment)
    found = rows.exclude(arrived_at=None).first()
    if found is None or not place_of(found).is_shown(found):
        raise NotFound(gettext("We can’t find this file."))
    return found


def arrived(presentation_id: int) -> list[StoredFile]:
    """Files of a question that are there as a whole, in the order they were begun."""
    rows = StoredFile.objects.filter(presentation=presentation_id).exclude(arrived_at=None)
    return list(rows.order_by("pk"))


def names_of_files(run_id: int) -> dict[int, dict[str, str]]:
    """What parts that take files are answered with in a run, by question and part: the names of
    those that have arrived, one on each line."""
    rows = StoredFile.objects.filter(presentation__run=run_id).exclude(arrived_at=None)
    names: dict[int, dict[str, str]] = {}
    for row in rows.exclude(part=WORKING).order_by("pk"):
        assert row.presentation_id is not None, "it was found by its question"
        of = names.setdefault(row.presentation_id, {})
        of[row.part] = f"{of[row.part]}\n{row.name}" if row.part in of else row.name
    return names
