"""Groups and courses of a school: made, named, given tutors; which courses are open to all."""

from __future__ import annotations

from collections.abc import Iterable

from django.db import transaction
from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.groups.models import Group
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, Role, School, User
from vendaval.shared.errors import Unprocessable

from .people import add_to, remove_from
from .scope import courses_of, groups_of, people_of


def make_group(school: School, course: str, title: str, by: User, request: HttpRequest) -> Group:
    """A new group in a course, with nobody in it."""
    found = courses_of(school).filter(key=course).first()
    if found is None:
        raise Unprocessable(gettext("We can’t find this course."), fields={"course": course})
    _free(school, title)
    with transaction.atomic():
        group = Group.objects.create(course=found, title=title)
        audit(
            AuditKind.GROUP,
            request=request,
            by=by,
            says=gettext("{title} made").format(title=title),
        )
    return group


def name_group(
    group: Group, school: School, title: str, tutors: Iterable[int], by: User, request: HttpRequest
) -> None:
    """Another name, and who teaches it from now on."""
    if title != group.title:
        _free(school, title)
    wanted = set(tutors)
    held = set(group.tutors.filter(until=None).values_list("person", flat=True))
    people = {one.pk: one for one in people_of(school).filter(pk__in=wanted | held)}
    unknown = wanted - people.keys()
    if unknown:
        raise Unprocessable(
            gettext("We can’t find these people."), fields={"tutors": str(sorted(unknown))}
        )
    with transaction.atomic():
        if title != group.title:
            audit(
                AuditKind.GROUP,
                request=request,
                by=by,
                says=gettext("{group} is now {title}").format(group=group.title, title=title),
            )
            group.title = title
            group.save(update_fields=["title"])
        for pk in sorted(wanted - held):
            add_to(group, people[pk], Role.TUTOR, by, request)
        for pk in sorted(held - wanted):
            if pk in people:
                remove_from(group, people[pk], by, request)


def set_course(course: Course, open_to_all: bool, by: User, request: HttpRequest) -> None:
    """Whether anybody may learn in a course without being put into it."""
    if course.open_to_all == open_to_all:
        return
    with transaction.atomic():
        Course.objects.filter(pk=course.pk).update(open_to_all=open_to_all)
        says = f"{course.title}: {'open to all' if open_to_all else 'for groups only'}"
        audit(AuditKind.SETTINGS, request=request, by=by, says=says)


def set_school(
    school: School, name: str, consent_until: int, wording: str, by: User, request: HttpRequest
) -> None:
    """The school's name, and from which age on no guardian is asked, and what they agree to."""
    if School.objects.filter(name=name).exclude(pk=school.pk).exists():
        raise Unprocessable(
            gettext("There’s already a school with this name."), fields={"name": name}
        )
    school.name, school.consent_until, school.consent_wording = name, consent_until, wording
    with transaction.atomic():
        school.save(update_fields=["name", "consent_until", "consent_wording"])
        says = gettext("consent needed below age {consent_until}").format(
            consent_until=consent_until
        )
        audit(AuditKind.SETTINGS, request=request, by=by, says=says)


def _free(school: School, title: str) -> None:
    if groups_of(school).filter(title__iexact=title).exists():
        says = gettext("There’s already a group with this name.")
        raise Unprocessable(says, fields={"title": says})
