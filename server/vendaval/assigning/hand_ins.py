"""What learners hand in with set work: files and links, until they say that it is all."""

from __future__ import annotations

from decimal import Decimal

from django.db import transaction
from django.utils.translation import gettext

from vendaval.files.models import StoredFile
from vendaval.files.places import Place
from vendaval.files.schemas import FileIn, FileOut
from vendaval.files.storing import announce, file_out
from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import given_to_learner
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.acknowledged import note_acknowledged
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval.shared.markdown import to_html
from vendaval_core.items.files import ANY_FILE
from vendaval_core.mastery.handing_in import (
    MOST_LINKS,
    Wanted,
    lacking,
    link_problem,
    unchangeable,
)

from .hand_in_schemas import HandedInOut, HandInMarkIn, HandInMarkOut, HandInOut, HandInsOut
from .messages import tell_hand_in_marked, who_has
from .models import HandIn, HandInFile, Task
from .tasks import task_of


class InHandIn(Place):
    """Files that are handed in with set work."""

    key = "hand_in"

    def closed(self, row: StoredFile) -> Conflict | None:
        found = HandIn.objects.select_related("task").get(files__file=row)
        return _closed(found.task, found)

    def is_shown(self, row: StoredFile) -> bool:
        return HandIn.objects.filter(files__file=row).exclude(handed_in_at=None).exists()


def _closed(task: Task, row: HandIn | None) -> Conflict | None:
    why = unchangeable(
        handed_in=row.handed_in_at if row else None,
        marked=row is not None and row.marked_at is not None,
        opens=task.opens,
        closes=task.closes,
        now=clock.now(),
    )
    return None if why is None else Conflict(why, code="hand_in_closed")


def _task(enrolment: Enrolment, task_id: int) -> Task:
    found = Task.objects.filter(given_to_learner(enrolment), pk=task_id).distinct().first()
    if found is None or not found.asks.core().anything:
        raise NotFound(gettext("Your tutor hasn’t asked you to hand this in."))
    return found


def _row(enrolment: Enrolment, task: Task) -> HandIn:
    """What is being handed in, to be changed; Conflict when it can't be."""
    row, _ = HandIn.objects.get_or_create(task=task, enrolment=enrolment)
    if why := _closed(task, row):
        raise why
    return row


def files_of(row: HandIn) -> list[StoredFile]:
    """Files of what is handed in, in the order they were begun."""
    return list(StoredFile.objects.filter(handed_in__hand_in=row).order_by("pk"))


def own_hand_in(enrolment: Enrolment, task_id: int) -> HandInOut:
    """What a learner hands in for a piece of work, and what is asked for."""
    task = _task(enrolment, task_id)
    row = HandIn.objects.filter(task=task, enrolment=enrolment).select_related("marked_by").first()
    base = f"/api/courses/{enrolment.course.key}"
    files = [] if row is None else files_of(row)
    arrived = sum(one.arrived_at is not None for one in files)
    closed = _closed(task, row)
    return HandInOut(
        files_wanted=task.asks.files,
        links_wanted=task.asks.links,
        says_html=to_html(task.asks.says) if task.asks.says else "",
        endings=ANY_FILE.endings,
        most=ANY_FILE.most,
        most_links=MOST_LINKS,
        files=[file_out(one, base) for one in files],
        links=[] if row is None else row.links,
        handed_in=row.handed_in_at if row else None,
        closed="" if closed is None else str(closed),
        lacking=lacking(task.asks.core(), arrived, len(row.links) if row else 0) or "",
        mark=_mark(task, row),
    )


def _mark(task: Task, row: HandIn | None) -> HandInMarkOut | None:
    if row is None or row.marked_at is None:
        return None
    return HandInMarkOut(
        points=None if row.points is None else f"{row.points.normalize():f}",
        of=task.asks.points,
        comment=row.comment,
        by=row.marked_by.display_name if row.marked_by else "",
        at=row.marked_at,
    )


def start_file(enrolment: Enrolment, task_id: int, wanted: FileIn) -> FileOut:
    """Announce a file to be handed in, or say why it is not taken."""
    task = _task(enrolment, task_id)
    if task.asks.files is Wanted.NONE:
        raise NotFound(gettext("Your tutor doesn’t ask for files here."))
    row, file = _row(enrolment, task), StoredFile(place=InHandIn.key)
    with transaction.atomic():
        file = announce(enrolment, wanted, ANY_FILE, lambda: files_of(row), file)
        HandInFile.objects.create(hand_in=row, file=file)
    return file_out(file, f"/api/courses/{enrolment.course.key}")


def set_links(enrolment: Enrolment, task_id: int, links: list[str]) -> HandInOut:
    """The links to be handed in."""
    task = _task(enrolment, task_id)
    if task.asks.links is Wanted.NONE and links:
        raise NotFound(gettext("Your tutor doesn’t ask for links here."))
    kept = [link.strip() for link in links if link.strip()]
    problems = {f"links.{n}": why for n, one in enumerate(kept) if (why := link_problem(one))}
    if problems:
        raise Unprocessable(gettext("A link can’t be taken."), fields=problems)
    row = _row(enrolment, task)
    row.links = kept
    row.save(update_fields=["links"])
    return own_hand_in(enrolment, task_id)


def hand_in(enrolment: Enrolment, task_id: int) -> HandInOut:
    """Hand in what is there. Said again it changes nothing."""
    task = _task(enrolment, task_id)
    with transaction.atomic():
        row = HandIn.objects.select_for_update().filter(task=task, enrolment=enrolment).first()
        if row is None or row.handed_in_at is None:
            row = _row(enrolment, task)
            files = files_of(row)
            if any(one.arrived_at is None for one in files):
                raise Conflict(
                    gettext("A file hasn’t arrived yet. Wait for it, or remove it."),
                    code="file_under_way",
                )
            if why := lacking(task.asks.core(), len(files), len(row.links)):
                raise Conflict(why, code="something_lacking")
            row.handed_in_at = clock.now()
            row.save(update_fields=["handed_in_at"])
            person = enrolment.person_id
            transaction.on_commit(lambda: note_acknowledged("handed", row.pk, person=person))
    return own_hand_in(enrolment, task_id)


def take_back(enrolment: Enrolment, task_id: int) -> HandInOut:
    """Take back what was handed in, to change it: until it is marked, or the work closes."""
    task = _task(enrolment, task_id)
    with transaction.atomic():
        row = HandIn.objects.select_for_update().filter(task=task, enrolment=enrolment).first()
        if row is not None and row.handed_in_at is not None:
            row.handed_in_at = None
            if why := _closed(task, row):
                raise why
            row.save(update_fields=["handed_in_at"])
    return own_hand_in(enrolment, task_id)


def group_hand_ins(group: Group, task_id: int) -> HandInsOut:
    """What the learners of a group handed in for a piece of work."""
    task = task_of(group, task_id)
    rows = {
        row.enrolment_id: row
        for row in HandIn.objects.filter(task=task).select_related("marked_by")
    }
    files: dict[int, list[StoredFile]] = {}
    for link in HandInFile.objects.filter(hand_in__task=task).select_related("file").order_by("pk"):
        files.setdefault(link.hand_in_id, []).append(link.file)
    found = []
    for one in who_has(task):
        row = rows.get(one.pk)
        handed_in = row is not None and row.handed_in_at is not None
        base = f"/api/learners/{one.pk}"
        found.append(
            HandedInOut(
                learner=one.pk,
                name=one.person.display_name,
                handed_in=row.handed_in_at if row else None,
                late=bool(row and row.handed_in_at and task.due and row.handed_in_at > task.due),
                files=[
                    file_out(file, base)
                    for file in (files.get(row.pk, []) if row and handed_in else [])
                ],
                links=row.links if row and handed_in else [],
                mark=_mark(task, row),
                version=version_of_hand_in(row),
            )
        )
    return HandInsOut(
        title=task.title,
        group=group.title,
        says_html=to_html(task.asks.says) if task.asks.says else "",
        points=task.asks.points,
        due=task.due,
        learners=found,
    )


def version_of_hand_in(row: HandIn | None) -> str:
    """What changes when it is handed in again or marked, so that nobody marks what they have not
    seen."""
    moments = () if row is None else (row.handed_in_at, row.marked_at)
    return " ".join(at.isoformat() for at in moments if at is not None)


def mark(
    group: Group, task_id: int, enrolment_id: int, wanted: HandInMarkIn, by: User
) -> HandInsOut:
    """Mark what a learner handed in; its learner is told."""
    task = task_of(group, task_id)
    of = task.asks.points
    if wanted.points is not None and (of is None or wanted.points > of):
        says = gettext("0 to {of} points").format(of=of or 0)
        raise Unprocessable(gettext("You can’t give these points."), fields={"points": says})
    if of is not None and wanted.points is None:
        says = gettext("Give 0 to {of} points.").format(of=of)
        raise Unprocessable(says, fields={"points": says})
    with transaction.atomic():
        rows = HandIn.objects.select_for_update(of=("self",)).select_related("enrolment__person")
        row = rows.filter(task=task, enrolment=enrolment_id).first()
        if row is None or row.handed_in_at is None:
            raise NotFound(gettext("This learner hasn’t handed this in."))
        if wanted.seen != version_of_hand_in(row):
            raise Conflict(
                gettext("This was handed in again, or marked, since you opened it. Look again."),
                code="marked_elsewhere",
            )
        row.points = None if wanted.points is None else Decimal(wanted.points)
        row.comment, row.marked_by, row.marked_at = wanted.comment, by, clock.now()
        row.save(update_fields=["points", "comment", "marked_by", "marked_at"])
    tell_hand_in_marked(task, row.enrolment.person)
    return group_hand_ins(group, task_id)
