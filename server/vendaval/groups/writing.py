"""Who writes for which course: an author for all courses of their school, or for those that its
office named."""

from __future__ import annotations

from collections.abc import Sequence

from django.db.models import Exists, OuterRef, Q, QuerySet
from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.people.models import Membership, Role, School, User
from vendaval.shared import clock
from vendaval.shared.errors import Unprocessable

from .models import CourseAuthor

AUTHORS = Membership.objects.filter(role=Role.AUTHOR, until=None)


def courses_written_by(person: User) -> QuerySet[Course]:
    """Courses that somebody is an author of now."""
    rows = Course.objects.filter(school__in=AUTHORS.filter(person=person).values("school"))
    named = CourseAuthor.objects.filter(person=person, until=None)
    here = named.filter(course__school=OuterRef("school"))
    return rows.filter(~Exists(here) | Q(pk__in=named.values("course"))).order_by("title")


def writers_of(course: Course) -> QuerySet[User]:
    """Those who write for a course now."""
    named = CourseAuthor.objects.filter(person=OuterRef("pk"), until=None)
    here, this = named.filter(course__school=course.school_id), named.filter(course=course)
    authors = AUTHORS.filter(school=course.school_id).values("person")
    return User.objects.filter(~Exists(here) | Exists(this), pk__in=authors, is_active=True)


def named_courses(person: User, school: School) -> list[str]:
    """Keys of the courses that an author's writing is kept to; none for all of the school."""
    rows = CourseAuthor.objects.filter(person=person, course__school=school, until=None)
    return sorted(rows.values_list("course__key", flat=True))


def name_courses(person: User, school: School, keys: Sequence[str]) -> None:
    """Keep an author's writing to some courses from now on; to none of them in particular when
    there are no keys. Unprocessable for one that the school doesn't have."""
    wanted = {one.key: one for one in Course.objects.filter(school=school, key__in=keys)}
    if set(keys) - set(wanted):
        says = gettext("Your school doesn’t have this course.")
        raise Unprocessable(says, fields={"writes": says})
    now = clock.now()
    rows = CourseAuthor.objects.filter(person=person, course__school=school, until=None)
    rows.exclude(course__key__in=keys).update(until=now)
    kept = set(named_courses(person, school))
    CourseAuthor.objects.bulk_create(
        CourseAuthor(person=person, course=course, since=now)
        for key, course in wanted.items()
        if key not in kept
    )
