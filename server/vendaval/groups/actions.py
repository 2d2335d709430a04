"""Enrolling people, putting them into groups, and what they work towards there."""

from __future__ import annotations

from datetime import timedelta

from django.db import transaction
from django.utils.translation import gettext

from vendaval.bank.models import Collection, Course
from vendaval.people.actions import give_role
from vendaval.people.models import Role, School, User
from vendaval.shared import clock
from vendaval.shared.codes import new_code, typed_code
from vendaval.shared.errors import NotFound
from vendaval_core.mastery.aims import combined

from .columns import AimsData, GroupSettings, OwnAimsData
from .models import Enrolment, Group, GroupMember, GroupTutor, JoinCode
from .queries import taught_by

# A code on the board should do for a week's lessons, and not for a year.
CODE_LASTS = timedelta(days=7)


def enrol(person: User, course: Course) -> Enrolment:
    """Put a person into a course as a learner; one who left comes back to what they had."""
    give_role(person, course.school, Role.LEARNER)
    found, made = Enrolment.objects.get_or_create(
        person=person, course=course, defaults={"since": clock.now()}
    )
    if not made and found.until is not None:
        found.until = None
        found.save(update_fields=["until"])
    return found


def put_in_charge(group: Group, person: User) -> None:
    """Let a tutor teach a group from now on."""
    give_role(person, group.course.school, Role.TUTOR)
    GroupTutor.objects.get_or_create(
        group=group, person=person, until=None, defaults={"since": clock.now()}
    )


def join_group(group: Group, enrolment: Enrolment) -> None:
    """Put a learner into a group of their course from now on."""
    with transaction.atomic():
        GroupMember.objects.get_or_create(
            group=group, enrolment=enrolment, until=None, defaults={"since": clock.now()}
        )
        refresh_aims(enrolment)


def leave_group(group: Group, enrolment: Enrolment) -> None:
    """End a learner's time in a group; its tutors see their pages no more."""
    with transaction.atomic():
        held = GroupMember.objects.filter(group=group, enrolment=enrolment, until=None)
        held.update(until=clock.now())
        refresh_aims(enrolment)


def leave_with_role(person: User, school: School, role: Role) -> None:
    """What a role at a school brought with it ends when the role does: a tutor teaches none of its
    groups, a learner learns in none, and who is a guardian nowhere else reads no more."""
    with transaction.atomic():
        if role is Role.TUTOR:
            taught = person.tutored.filter(group__course__school=school, until=None)
            taught.update(until=clock.now())
        if role is Role.LEARNER:
            held = GroupMember.objects.filter(
                enrolment__person=person, enrolment__course__school=school, until=None
            )
            for member in held.select_related("group", "enrolment__course"):
                leave_group(member.group, member.enrolment)
        if role is Role.GUARDIAN and Role.GUARDIAN not in User.objects.get(pk=person.pk).roles:
            person.wards.filter(until=None).update(until=clock.now())


def refresh_aims(enrolment: Enrolment) -> None:
    """Put together anew what a learner works towards, from their groups and their own wishes."""
    mine = Group.objects.filter(members__enrolment=enrolment, members__until=None)
    groups = [group.settings.core() for group in mine.order_by("pk")]
    owner = enrolment.person.practice_for
    seen = mine if owner is None else taught_by(owner).filter(course=enrolment.course_id)
    collections = seen.exclude(collection=None).values_list("collection", flat=True)
    enrolment.aims = AimsData.of(combined(groups, enrolment.own.core()), list(collections))
    enrolment.save(update_fields=["aims"])


def collection_of(group: Group) -> Collection:
    """The collection of a group's own questions, made with the first of them."""
    with transaction.atomic():
        held = Group.objects.select_for_update().get(pk=group.pk)
        if held.collection is None:
            held.collection = Collection.objects.create(course_id=held.course_id)
            held.save(update_fields=["collection"])
            for member in group.members.filter(until=None).select_related("enrolment__person"):
                refresh_aims(member.enrolment)
        group.collection = held.collection
    return held.collection


def set_up_group(group: Group, title: str, settings: GroupSettings) -> None:
    """Change a group's settings; they hold for its members at once."""
    with transaction.atomic():
        group.title, group.settings = title, settings
        group.save(update_fields=["title", "settings"])
        for member in group.members.filter(until=None).select_related("enrolment"):
            refresh_aims(member.enrolment)


def set_own_aims(enrolment: Enrolment, own: OwnAimsData) -> None:
    """Change what a learner set for themselves."""
    with transaction.atomic():
        enrolment.own = own
        enrolment.save(update_fields=["own"])
        refresh_aims(enrolment)


def make_join_code(group: Group, by: User) -> JoinCode:
    """A new code for a group; those before it open nothing any more."""
    now = clock.now()
    with transaction.atomic():
        revoke_join_codes(group)
        return JoinCode.objects.create(
            group=group, code=new_code(), made_by=by, made_at=now, ends_at=now + CODE_LASTS
        )


def revoke_join_codes(group: Group) -> None:
    """Let nobody in by a code any more."""
    group.codes.filter(revoked_at=None).update(revoked_at=clock.now())


def join_by_code(person: User, typed: str) -> Enrolment:
    """Put a person into the group of a code that holds, and into its course; else NotFound."""
    found = JoinCode.objects.filter(
        code=typed_code(typed), revoked_at=None, ends_at__gt=clock.now()
    ).select_related("group__course__school")
    code = found.first()
    if code is None:
        raise NotFound(
            gettext("This code doesn’t work. It may be too old. Ask your tutor for a new one.")
        )
    with transaction.atomic():
        enrolment = enrol(person, code.group.course)
        join_group(code.group, enrolment)
    return enrolment
