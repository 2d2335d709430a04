"""A group's own questions: listed for its tutors, and taken into the course by an author."""

from __future__ import annotations

from typing import Any

from django.db.models import Case, Count, F, Sum, Value, When
from django.utils.translation import gettext

from vendaval.bank.actions import take_into_course
from vendaval.bank.models import Family
from vendaval.bank.snapshot import course_bank, version_of
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.models import Group
from vendaval.levels.models import Observation
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared.errors import Conflict

from .collection_schemas import CollectionOut, OwnQuestionOut
from .drafts import title_of
from .families import Opened, opened
from .models import Draft

# As many of each as a page shows.
MOST = 200


def collection_page(group: Group) -> CollectionOut:
    """A group's own questions, published or begun, by title."""
    bank = course_bank(group.course)
    lines = [] if group.collection_id is None else [*_published(group), *_begun(group)]
    return CollectionOut(
        course=group.course.key,
        group=group.title,
        topics=[PlaceOut(key=topic.key, title=topic.title) for topic in bank.topics],
        questions=sorted(lines, key=lambda one: (one.title.lower(), one.key)),
    )


def _published(group: Group) -> list[OwnQuestionOut]:
    rows = Family.objects.filter(collection=group.collection_id).exclude(latest=None)
    rows = rows.select_related("topic", "latest", "stopped").order_by("pk")[:MOST]
    drafted = set(_drafts(group).values_list("key", flat=True))
    counted = _counted(group)
    found = []
    for row in rows:
        assert row.latest is not None, "others are left out"
        row.latest.family = row
        answers, right = counted.get(row.pk, (0, 0))
        found.append(
            OwnQuestionOut(
                key=row.key,
                title=version_of(row.latest, 1, 0).title,
                topic=PlaceOut(key=row.topic.key, title=row.topic.title),
                published=True,
                drafted=row.key in drafted,
                stopped=hasattr(row, "stopped"),
                answers=answers,
                right=round(100 * right / answers) if answers else None,
            )
        )
    return found


def _begun(group: Group) -> list[OwnQuestionOut]:
    known = Family.objects.filter(collection=group.collection_id).values("key")
    rows = _drafts(group).exclude(key__in=known).select_related("topic")
    return [
        OwnQuestionOut(
            key=row.key,
            title=title_of(row.text) or row.key,
            topic=PlaceOut(key=row.topic.key, title=row.topic.title),
            published=False,
            drafted=True,
            stopped=False,
            answers=0,
            right=None,
        )
        for row in rows.order_by("pk")[:MOST]
    ]


def _drafts(group: Group) -> Any:
    return Draft.objects.filter(collection=group.collection_id)


def _counted(group: Group) -> dict[int, tuple[int, int]]:
    """First tries at each question, and how many of them were right; without what the rules of a
    test hold back."""
    right = Case(When(outcome__gte=F("of") - 1, then=Value(1)), default=Value(0))
    rows = (
        Observation.objects.told()
        .filter(family__collection=group.collection_id)
        .values_list("family")
        .annotate(many=Count("pk"), right=Sum(right))
        .order_by()
    )
    return {family: (many, right) for family, many, right in rows}


def adopt(family: Opened, by: User) -> Opened:
    """Make a group's own question one of the course's: asked of everybody, and counted."""
    if family.family is None or family.collection_id is None:
        raise Conflict(gettext("This isn’t a published question of a group."), code="not_own")
    if family.draft is not None:
        says = gettext("Publish or throw away what was changed in it first.")
        raise Conflict(says, code="drafted")
    take_into_course(family.family)
    says = gettext("{key} published: taken into the course").format(key=family.key)
    audit(AuditKind.PUBLISHED, by=by, account=by, says=says)
    return opened(family.course, family.key, by)
