"""Whose work it is, and what the asker is to them."""

from __future__ import annotations

from django.db.models import Q, QuerySet
from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.bank.snapshot import course_bank
from vendaval.people.models import Guardianship, User
from vendaval.people.policies import Relation, require
from vendaval.shared.errors import Conflict, NotFound

from .models import Enrolment, Group
from .writing import courses_written_by


def own(person: User, course: str, at: str = "") -> Q:
    """What belongs to a person's present enrolment in a course. at: the path from a row to it, as
    in "run__enrolment__"; empty for enrolments themselves."""
    return Q(**{f"{at}person": person, f"{at}course__key": course, f"{at}until": None})


def enrolments_of(person: User) -> QuerySet[Enrolment]:
    """Courses a person learns in now, in the order they came to them."""
    rows = Enrolment.objects.filter(person=person, until=None).select_related("course")
    return rows.order_by("since", "pk")


def open_courses(person: User) -> QuerySet[Course]:
    """Courses that anybody may learn in, and this person does not yet."""
    mine = Enrolment.objects.filter(person=person, until=None)
    rows = Course.objects.filter(open_to_all=True).exclude(pk__in=mine.values("course"))
    return rows.order_by("title")


def own_enrolment(person: User, course: str, operation: str) -> Enrolment:
    """A person's own enrolment in a course, for an operation they may do; else NotFound.

    The learner's state is loaded with it, where there is one yet.
    """
    rows = Enrolment.objects.filter(own(person, course))
    found = rows.select_related("course", "state").first()
    require(operation, person.roles, Relation.OWN if found is not None else None)
    if found is None:
        raise NotFound(gettext("You aren’t in this course."))
    if not course_bank(found.course).topics:
        raise Conflict(gettext("This course has no questions yet."), code="no_questions")
    found.person = person
    return found


def related_enrolment(person: User, enrolment_id: int, operation: str) -> Enrolment:
    """A present enrolment of somebody that a person may do an operation with; else NotFound."""
    rows = Enrolment.objects.filter(pk=enrolment_id, until=None)
    found = rows.select_related("course", "state", "person").first()
    relations = relations_to(person, found) if found is not None else set()
    require(operation, person.roles, *relations)
    if found is None:
        raise NotFound(gettext("We can’t find this learner."))
    return found


def taught_by(person: User) -> QuerySet[Group]:
    """Groups that a person teaches now."""
    mine = Group.objects.filter(tutors__person=person, tutors__until=None)
    return mine.select_related("course").order_by("pk")


def courses_of_staff(person: User) -> QuerySet[Course]:
    """Courses that somebody has a group in as a tutor, or writes for as an author."""
    teaching = Q(groups__tutors__person=person, groups__tutors__until=None)
    rows = Course.objects.filter(teaching | Q(pk__in=courses_written_by(person).values("pk")))
    return rows.distinct().order_by("title")


def course_of_staff(person: User, key: str, operation: str) -> Course:
    """One of these, for an operation they may do; else NotFound."""
    found = courses_of_staff(person).filter(key=key).first()
    require(operation, person.roles, Relation.OWN if found is not None else None)
    if found is None:
        raise NotFound(gettext("You don’t teach this course."))
    return found


def collections_open_to(person: User, course: Course) -> set[int]:
    """Collections of groups' own questions that somebody may see: those of groups they teach, or
    all of a course that they write for."""
    taught = taught_by(person).filter(course=course).exclude(collection=None)
    found = set(taught.values_list("collection", flat=True))
    if courses_written_by(person).filter(pk=course.pk).exists():
        found |= set(course.collections.values_list("pk", flat=True))
    return found


def given_to_learner(enrolment: Enrolment) -> Q:
    """What of the work given to groups a learner has, now that they are in them; a practice learner
    has that of every group of whom it belongs to."""
    owner = enrolment.person.practice_for_id
    if owner is not None:
        teaches = Q(group__tutors__person=owner, group__tutors__until=None)
        return teaches & Q(group__course=enrolment.course_id)
    member = Q(group__members__enrolment=enrolment, group__members__until=None)
    return member & (Q(whole_group=True) | Q(learners=enrolment))


def own_group(person: User, group_id: int, operation: str) -> Group:
    """A group that a person teaches, for an operation they may do; else NotFound."""
    found = taught_by(person).filter(pk=group_id).first()
    require(operation, person.roles, Relation.GROUP if found is not None else None)
    if found is None:
        raise NotFound(gettext("You don’t have this group."))
    return found


def members_of(group: Group) -> QuerySet[Enrolment]:
    """The learners of a group now, by name, with their states."""
    mine = Enrolment.objects.filter(groups__group=group, groups__until=None, until=None)
    rows = mine.select_related("person", "course", "state")
    return rows.order_by("person__display_name", "pk")


def relations_to(person: User, enrolment: Enrolment) -> set[Relation]:
    """What a person is to the learner of an enrolment, now."""
    found: set[Relation] = set()
    if enrolment.person_id == person.pk:
        found.add(Relation.OWN)
    member = Q(members__enrolment=enrolment, members__until=None)
    teaches = Q(tutors__person=person, tutors__until=None)
    if enrolment.course.groups.filter(member).filter(teaches).exists():
        found.add(Relation.GROUP)
    wards = Guardianship.objects.filter(guardian=person, learner=enrolment.person_id, until=None)
    if wards.exists():
        found.add(Relation.CHILD)
    return found
