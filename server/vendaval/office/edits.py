"""What the office can edit of people, groups, courses and the school, as it stands."""

from __future__ import annotations

from vendaval.bank.models import Course
from vendaval.groups.models import Group
from vendaval.groups.writing import named_courses
from vendaval.people.models import Role, School, User

from .schemas import GroupEdit, OfficeCourseEdit, PersonEdit, SchoolEdit
from .scope import is_present


def person_edit(person: User, school: School) -> PersonEdit:
    """Somebody's data and roles; of who has left, the name alone."""
    roles = person.memberships.filter(school=school, until=None).values_list("role", flat=True)
    present = is_present(person, school)
    return PersonEdit.model_construct(
        name=person.display_name,
        mail=person.email if present else "",
        born=person.born if present else None,
        roles=sorted(Role(role) for role in roles),
        writes=named_courses(person, school),
    )


def group_edit(group: Group) -> GroupEdit:
    """A group's name and who teaches it."""
    tutors = group.tutors.filter(until=None).values_list("person", flat=True)
    return GroupEdit.model_construct(title=group.title, tutors=sorted(tutors))


def school_edit(school: School) -> SchoolEdit:
    """A school's settings."""
    return SchoolEdit.model_construct(
        name=school.name, consent_until=school.consent_until, wording=school.consent_wording
    )


def course_edit(course: Course) -> OfficeCourseEdit:
    """Who may learn in a course."""
    return OfficeCourseEdit.model_construct(open_to_all=course.open_to_all)
