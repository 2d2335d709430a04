"""A tutor who covers for another: teaches a group from one day to another, and no longer."""

from __future__ import annotations

from datetime import date, datetime, time

from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone
from django.utils.translation import gettext
from django_tasks import task
from ninja import Router
from pydantic import BaseModel

from vendaval.groups.models import Group, GroupTutor
from vendaval.groups.queries import own_group
from vendaval.notices.actions import tell
from vendaval.notices.models import NoticeKind
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, Role, User
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared import clock
from vendaval.shared.errors import NotFound, Unprocessable
from vendaval.work.schemas import Strict

from .models import Cover

router = Router(auth=signed_in, tags=["tutor"])
COVERS = "/groups/{int:group_id}/covers"
MOST_DAYS, MOST_SHOWN = 120, 20


class CoverIn(Strict):
    """Who teaches a group for another, both days included."""

    person: int
    begins: date
    ends: date


class CoverOut(BaseModel):
    id: int
    name: str
    begins: date
    ends: date
    teaching: bool


class TutorChoiceOut(BaseModel):
    id: int
    name: str


class CoversOut(BaseModel):
    """Covers that are not over. `choices`: tutors of the school who don't teach the group."""

    covers: list[CoverOut]
    choices: list[TutorChoiceOut]


def _covers(group: Group) -> CoversOut:
    rows = Cover.objects.filter(group=group, over=False).select_related("person")
    return CoversOut(
        covers=[
            CoverOut(
                id=one.pk,
                name=one.person.display_name,
                begins=one.begins,
                ends=one.ends,
                teaching=one.teaching_id is not None,
            )
            for one in rows.order_by("begins", "pk")[:MOST_SHOWN]
        ],
        choices=[TutorChoiceOut(id=one.pk, name=one.display_name) for one in _choices(group)],
    )


def _choices(group: Group) -> list[User]:
    teaching = GroupTutor.objects.filter(group=group, until=None).values("person")
    tutors = User.objects.filter(
        memberships__school=group.course.school_id,
        memberships__role=Role.TUTOR,
        memberships__until=None,
        is_active=True,
        practice_for=None,
    )
    return list(tutors.exclude(pk__in=teaching).distinct().order_by("display_name", "pk"))


def let_cover(group: Group, wanted: CoverIn, by: User) -> Cover:
    """Let a tutor of the school teach a group for some days."""
    today = timezone.localtime(clock.now()).date()
    fields = {}
    if not any(one.pk == wanted.person for one in _choices(group)):
        fields["person"] = gettext("Choose a tutor of your school who doesn’t teach the group.")
    if wanted.begins < today:
        fields["begins"] = gettext("Choose a day from today on.")
    if not 0 <= (wanted.ends - wanted.begins).days <= MOST_DAYS:
        fields["ends"] = gettext("Choose a last day within {days} days.").format(days=MOST_DAYS)
    if fields:
        raise Unprocessable(gettext("This can’t be saved yet. Fix what is marked."), fields=fields)
    with transaction.atomic():
        row = Cover.objects.create(
            group=group, by=by, made_at=clock.now(), **wanted.model_dump(exclude={"person"}),
            person_id=wanted.person,
        )  # fmt: skip
        says = gettext("{name} covers from {begins} to {ends}").format(
            name=row.person.display_name, begins=row.begins, ends=row.ends
        )
        audit(AuditKind.GROUP, account=row.person, by=by, says=f"{group.title}: {says}")
        said = gettext("You cover for {group} from {begins:%-d %B} to {ends:%-d %B}").format(
            group=group.title, begins=row.begins, ends=row.ends
        )
        tell([row.person], NoticeKind.MESSAGE, said, f"/tutor/groups/{group.pk}")
    for day in (row.begins, date.fromordinal(row.ends.toordinal() + 1)):
        mind_covers.using(run_after=max(_start_of(day), clock.now())).enqueue()
    apply_covers()
    return row


def _start_of(day: date) -> datetime:
    return timezone.make_aware(datetime.combine(day, time.min))


@task()
def mind_covers() -> None:
    """Let covers begin and end that should; enqueued for those days. Harmless when done again."""
    apply_covers()


def apply_covers() -> int:
    """Begin and end covers by today's date. Returns how many changed."""
    today, changed = timezone.localtime(clock.now()).date(), 0
    waiting = Cover.objects.filter(over=False)
    for row in waiting.filter(begins__lte=today, ends__gte=today, teaching=None):
        with transaction.atomic():
            mine = {"group_id": row.group_id, "person_id": row.person_id, "until": None}
            if not GroupTutor.objects.filter(**mine).exists():
                row.teaching = GroupTutor.objects.create(**mine, since=clock.now())
                row.save(update_fields=["teaching"])
                changed += 1
    for row in waiting.filter(ends__lt=today):
        _end(row)
        changed += 1
    return changed


def _end(row: Cover) -> None:
    with transaction.atomic():
        if row.teaching_id is not None:
            GroupTutor.objects.filter(pk=row.teaching_id, until=None).update(until=clock.now())
        row.over = True
        row.save(update_fields=["over"])


@router.get(COVERS, response=CoversOut, operation_id="list_covers")
def list_covers(request: HttpRequest, group_id: int) -> CoversOut:
    """Who covers for a group's tutors."""
    return _covers(own_group(current_user(request), group_id, "list_covers"))


@router.post(COVERS, response=CoversOut, operation_id="add_cover")
def add_cover(request: HttpRequest, group_id: int, body: CoverIn) -> CoversOut:
    """Let a tutor cover."""
    user = current_user(request)
    group = own_group(user, group_id, "add_cover")
    let_cover(group, body, user)
    return _covers(group)


@router.delete(f"{COVERS}/{{int:cover_id}}", response=CoversOut, operation_id="end_cover")
def end_cover(request: HttpRequest, group_id: int, cover_id: int) -> CoversOut:
    """End a cover now, or take it back before it begins."""
    user = current_user(request)
    group = own_group(user, group_id, "end_cover")
    row = Cover.objects.filter(group=group, pk=cover_id, over=False).first()
    if row is None:
        raise NotFound(gettext("We can’t find this cover."))
    _end(row)
    says = gettext("{name} doesn’t cover any more").format(name=row.person.display_name)
    audit(AuditKind.GROUP, account=row.person, by=user, says=f"{group.title}: {says}")
    return _covers(group)
