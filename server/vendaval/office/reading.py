"""What the office reads of people and groups. A page of people takes a fixed number of queries."""

from __future__ import annotations

from django.db.models import Count, Max, Prefetch, Q, QuerySet

from vendaval.bank.models import Course
from vendaval.groups.models import Enrolment, Group, GroupMember, GroupTutor
from vendaval.people.models import Guardianship, Membership, Role, School, User
from vendaval.people.second_factor import factor_of
from vendaval.shared.editing import edit_version

from .edits import course_edit, group_edit, person_edit, school_edit
from .people import AccountState, below_consent, found_people, state_of
from .schemas import (
    ConsentLineOut,
    GroupListOut,
    GroupPlaceOut,
    GuardLinkOut,
    LinkLineOut,
    MemberOut,
    OfficeCourseOut,
    OfficeGroupLineOut,
    OfficeGroupOut,
    PeopleListOut,
    PersonLineOut,
    PersonOut,
    SchoolOut,
)
from .scope import courses_of, groups_of, is_present, people_of

PAGE = 40
MOST = 200


def people_list(
    school: School, text: str, role: Role | None, state: AccountState | None, page: int
) -> PeopleListOut:
    """A page of the people asked for."""
    rows = found_people(school, text, role, state)
    count = rows.count()
    pages = max(1, -(-count // PAGE))
    page = min(page, pages)
    held = Membership.objects.filter(school=school, until=None)
    shown = rows.prefetch_related(
        Prefetch("memberships", queryset=held, to_attr="held"),
    )[(page - 1) * PAGE : page * PAGE]
    people = list(shown)
    ids = [one.pk for one in people]
    titles = _titles(ids)
    waiting = set(below_consent(school).filter(pk__in=ids).values_list("pk", flat=True))
    lines = []
    for one in people:
        roles = sorted({Role(row.role) for row in one.held})
        lines.append(
            PersonLineOut(
                id=one.pk,
                name=one.display_name,
                mail=one.email if roles else "",
                roles=roles,
                groups=titles.get(one.pk, []),
                state=state_of(one, waiting),
            )
        )
    return PeopleListOut(people=lines, page=page, pages=pages, all=count)


def _titles(people: list[int]) -> dict[int, list[str]]:
    """Titles of the groups that people learn in or teach now."""
    found: dict[int, list[str]] = {}
    learning = GroupMember.objects.filter(enrolment__person__in=people, until=None)
    teaching = GroupTutor.objects.filter(person__in=people, until=None)
    for rows, who in ((learning, "enrolment__person"), (teaching, "person")):
        for person, title in rows.values_list(who, "group__title").order_by("group__title"):
            found.setdefault(person, []).append(title)
    return found


def person_out(person: User, school: School, asker: User) -> PersonOut:
    """Somebody, with everything the office may see of them; of who has left, the record of their
    time at the school alone."""
    present, edit = is_present(person, school), person_edit(person, school)
    link = person.one_time_links.order_by("-pk").first()
    sessions = person.account_sessions.aggregate(count=Count("pk"), last=Max("since"))
    return PersonOut(
        id=person.pk,
        name=edit.name,
        present=present,
        username=person.username if present and person.has_usable_password() else "",
        mail=edit.mail,
        born=edit.born,
        state=state_of(person),
        roles=edit.roles,
        writes=edit.writes,
        places=_places(person, school),
        guardians=_related(person.guardians.select_related("guardian"), "guardian"),
        wards=_related(person.wards.select_related("learner"), "learner"),
        consents=[
            ConsentLineOut(
                agreed=row.agreed,
                named=row.named,
                noted_by=row.by.display_name if row.by and row.on_paper else None,
                wording=row.wording,
                on_paper=row.on_paper,
                at=row.at,
            )
            for row in person.consents.select_related("by").order_by("-pk")[:20]
        ],
        link=LinkLineOut(
            kind=link.kind, mailed_at=link.mailed_at, ends_at=link.ends_at, used_at=link.used_at
        )
        if link and present
        else None,
        since=person.date_joined,
        last_here=person.last_login if present else None,
        sessions=sessions["count"] if present else 0,
        factor=present and factor_of(person) is not None,
        own=person.pk == asker.pk,
        version=edit_version(edit),
    )


def _places(person: User, school: School) -> list[GroupPlaceOut]:
    learning = GroupMember.objects.filter(enrolment__person=person, until=None)
    teaching = GroupTutor.objects.filter(person=person, until=None)
    found = [
        GroupPlaceOut(
            group=row.group_id, title=row.group.title, course=row.group.course.title, role=role
        )
        for rows, role in ((learning, Role.LEARNER), (teaching, Role.TUTOR))
        for row in rows.filter(group__course__school=school)
        .select_related("group__course")
        .order_by("pk")
    ]
    return found[:MOST]


def _related(rows: QuerySet[Guardianship], side: str) -> list[GuardLinkOut]:
    found = []
    for link in rows.filter(until=None).order_by("pk")[:MOST]:
        person: User = getattr(link, side)
        found.append(
            GuardLinkOut(
                id=link.pk,
                person=person.pk,
                name=person.display_name,
                vouched=link.vouched,
                since=link.since,
            )
        )
    return found


def group_list(school: School) -> GroupListOut:
    """Groups with their tutors and how many learn there."""
    learners = Count("members", filter=Q(members__until=None), distinct=True)
    rows = list(groups_of(school).annotate(learners=learners)[:MOST])
    tutors: dict[int, list[str]] = {}
    for group, name in (
        GroupTutor.objects.filter(group__in=rows, until=None)
        .order_by("person__display_name")
        .values_list("group", "person__display_name")
    ):
        tutors.setdefault(group, []).append(name)
    return GroupListOut(
        groups=[
            OfficeGroupLineOut(
                id=row.pk,
                title=row.title,
                course=row.course.key,
                course_title=row.course.title,
                tutors=tutors.get(row.pk, []),
                learners=row.learners,
            )
            for row in rows
        ]
    )


def office_group(group: Group, school: School) -> OfficeGroupOut:
    """A group, with whom it has and who could teach it."""
    members = group.members.filter(until=None).select_related("enrolment__person")
    tutors = group.tutors.filter(until=None).select_related("person")
    staff = people_of(school).filter(
        memberships__role=Role.TUTOR, memberships__until=None, is_active=True
    )
    return OfficeGroupOut(
        id=group.pk,
        title=group.title,
        course=group.course.key,
        course_title=group.course.title,
        tutors=[
            MemberOut(person=row.person_id, name=row.person.display_name, since=row.since)
            for row in tutors.order_by("person__display_name")
        ],
        learners=[
            MemberOut(
                person=row.enrolment.person_id,
                name=row.enrolment.person.display_name,
                since=row.since,
            )
            for row in members.order_by("enrolment__person__display_name")[:MOST]
        ],
        staff=[
            MemberOut(person=one.pk, name=one.display_name, since=one.date_joined)
            for one in staff.order_by("display_name")[:MOST]
        ],
        version=edit_version(group_edit(group)),
    )


def school_out(school: School) -> SchoolOut:
    """The school's settings and courses."""
    groups = Count("groups", distinct=True)
    rows = list(courses_of(school).annotate(group_count=groups)[:MOST])
    learners = dict(
        Enrolment.objects.filter(course__in=rows, until=None, person__practice_for=None)
        .values_list("course")
        .annotate(count=Count("pk"))
    )
    return SchoolOut(
        name=school.name,
        consent_until=school.consent_until,
        wording=school.consent_wording,
        version=edit_version(school_edit(school)),
        courses=[_course(row, row.group_count, learners.get(row.pk, 0)) for row in rows],
    )


def _course(row: Course, groups: int, learners: int) -> OfficeCourseOut:
    return OfficeCourseOut(
        key=row.key,
        title=row.title,
        open_to_all=row.open_to_all,
        groups=groups,
        learners=learners,
        version=edit_version(course_edit(row)),
    )
