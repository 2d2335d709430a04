"""Who comes with a launch, to which group and to which work."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.http import HttpRequest
from django.utils.translation import gettext

from vendaval.assigning.models import Task
from vendaval.bank.models import Course
from vendaval.exams.models import Assignment
from vendaval.groups.actions import enrol, join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.actions import give_role
from vendaval.people.audit import audit
from vendaval.people.consent import waits_for_consent
from vendaval.people.models import AuditKind, Role, User
from vendaval.people.second_factor import factor_of
from vendaval.people.sessions import begin_session
from vendaval.shared import clock
from vendaval.shared.errors import Conflict

from .models import Platform, PlatformAccount, PlatformContext, PlatformLink
from .scopes import CLAIM, MEMBERS_CLAIM, SCORES_CLAIM, may_score

LONGEST_NAME, LONGEST_TITLE = 80, 80


@dataclass(frozen=True, slots=True)
class Arrival:
    """A valid launch. says: what its token says."""

    platform: Platform
    says: dict[str, Any]

    @property
    def subject(self) -> str:
        """Who it is, as the platform calls them."""
        return str(self.says["sub"])[:255]

    @property
    def role(self) -> Role:
        """What they come as. Conflict for what the office did not allow, or is nothing here."""
        named = {str(one).rpartition("/")[2].rpartition("#")[2] for one in self._roles}
        if named & {"Instructor", "TeachingAssistant", "ContentDeveloper"}:
            if not self.platform.tutors:
                raise Conflict(
                    gettext("Your school’s office lets only learners come from this platform."),
                    code="not_as_tutor",
                )
            return Role.TUTOR
        if named & {"Learner", "Student"}:
            return Role.LEARNER
        raise Conflict(
            gettext("Only learners and tutors can come from this platform."), code="no_such_role"
        )

    @property
    def _roles(self) -> list[str]:
        """Roles in the course where any are said; else those in the institution."""
        every = [str(one) for one in self.says.get(f"{CLAIM}roles", [])]
        here = [one for one in every if "membership" in one]
        return here or every

    @property
    def context(self) -> tuple[str, str]:
        """The platform's course: how it is called there, and its title."""
        said = self.says.get(f"{CLAIM}context") or {}
        return str(said.get("id", ""))[:255], str(said.get("title") or said.get("label") or "")

    @property
    def link(self) -> str:
        """The link that was followed."""
        said = self.says.get(f"{CLAIM}resource_link") or {}
        return str(said.get("id", ""))[:255]

    @property
    def wanted(self) -> str:
        """The work that the link leads to, as `test 12` or `task 3`."""
        return str((self.says.get(f"{CLAIM}custom") or {}).get("work", ""))


def known_account(arrival: Arrival) -> PlatformAccount | None:
    """Whose account it is, once they have come before."""
    rows = PlatformAccount.objects.select_related("person")
    return rows.filter(platform=arrival.platform, subject=arrival.subject).first()


def _may_open(person: User, arrival: Arrival) -> bool:
    """Whether a launch opens an account: none that may do more than the office allowed, and none
    that a second step guards."""
    allowed = {Role.LEARNER, Role.TUTOR} if arrival.platform.tutors else {Role.LEARNER}
    return person.roles <= allowed and factor_of(person) is None


def may_join(person: User, arrival: Arrival) -> bool:
    """Whether somebody who signed in here may be joined to somebody on the platform: an account of
    the school that no launch made."""
    here = person.memberships.filter(school=arrival.platform.school, until=None).exists()
    theirs = PlatformAccount.objects.filter(person=person, made=True).exists()
    return here and not theirs and _may_open(person, arrival)


def account_of(arrival: Arrival, joined: User | None = None) -> PlatformAccount:
    """The account of who comes: the one they have, one that they joined, or a new one."""
    with transaction.atomic():
        found = known_account(arrival)
        if found is None:
            found = PlatformAccount.objects.create(
                platform=arrival.platform,
                subject=arrival.subject,
                person=joined or _new_person(arrival),
                made=joined is None,
                since=clock.now(),
            )
    return found


def _new_person(arrival: Arrival) -> User:
    platform = arrival.platform
    named = f"{platform.issuer} {platform.client_id} {arrival.subject}"
    digest = hashlib.sha256(named.encode()).hexdigest()[:16]
    says = arrival.says
    parts = [str(says.get(name, "")) for name in ("given_name", "family_name")]
    name = str(says.get("name") or " ".join(parts)).strip() or gettext("Without a name")
    person = User(username=f"lti-{digest}", display_name=" ".join(name.split())[:LONGEST_NAME])
    person.set_unusable_password()
    person.save()
    return person


def refuse_to_open(arrival: Arrival, person: User) -> None:
    """Conflict for an account that is closed, that waits for a guardian, or that no launch
    opens."""
    if not person.is_active:
        raise Conflict(gettext("This account is closed."), code="closed")
    if waits_for_consent(person):
        says = gettext("A guardian has to agree before you can use this account.")
        raise Conflict(says, code="consent_waited")
    if not _may_open(person, arrival):
        says = gettext("Sign in to this account with its password, not from the platform.")
        raise Conflict(says, code="sign_in_here")


def sign_in(request: HttpRequest, arrival: Arrival, person: User) -> None:
    """Begin a session."""
    begin_session(request, person)
    says = gettext("from {platform}").format(platform=arrival.platform.name)
    audit(AuditKind.SIGNED_IN, request=request, account=person, says=says)


def group_of(arrival: Arrival, course: Course) -> PlatformContext:
    """The group here of the platform's course, made when somebody first needs it."""
    context, title = arrival.context
    rows = PlatformContext.objects.select_related("group__course")
    with transaction.atomic():
        found = rows.filter(
            platform=arrival.platform, context=context, group__course=course
        ).first()
        if found is None:
            group = Group.objects.create(course=course, title=_free_title(course, title))
            found = PlatformContext.objects.create(
                platform=arrival.platform, context=context, group=group
            )
        members = arrival.says.get(MEMBERS_CLAIM)
        url = str((members or {}).get("context_memberships_url", ""))[:500]
        if url and url != found.members_url:
            found.members_url = url
            found.save(update_fields=["members_url"])
    return found


def _free_title(course: Course, title: str) -> str:
    wanted = " ".join(title.split())[:LONGEST_TITLE] or course.title
    taken = set(
        Group.objects.filter(course__school=course.school_id).values_list("title", flat=True)
    )
    number, free = 2, wanted
    while free in taken:
        free = f"{wanted} ({number})"
        number += 1
    return free


def take_in(arrival: Arrival, person: User, context: PlatformContext) -> None:
    """Let somebody into the group of their course on the platform."""
    if arrival.role is Role.TUTOR:
        put_in_charge(context.group, person)
    else:
        join_group(context.group, enrol(person, context.group.course))


def place_of(arrival: Arrival, person: User) -> str:
    """Where in the application a launch leads; the group and the link are noted on the way."""
    if not person.memberships.filter(school=arrival.platform.school, until=None).exists():
        give_role(person, arrival.platform.school, arrival.role)
    found = _work(arrival)
    if found is None:
        contexts = PlatformContext.objects.filter(
            platform=arrival.platform, context=arrival.context[0]
        )
        for context in contexts.select_related("group__course"):
            take_in(arrival, person, context)
        return "/"
    work, context = found
    take_in(arrival, person, context)
    _note_link(arrival, work, context)
    group = context.group
    if arrival.role is Role.TUTOR:
        return f"/tutor/work/{group.pk}"
    course = group.course.key
    if isinstance(work, Assignment):
        return f"/courses/{course}/tests/given-{work.pk}"
    return f"/courses/{course}/work/{work.pk}"


def _work(arrival: Arrival) -> tuple[Assignment | Task, PlatformContext] | None:
    """The work that a link leads to, if it was set for this very course of the platform: whoever
    writes links there may not lead learners to the work of others."""
    kind, _, number = arrival.wanted.partition(" ")
    if not number.isdigit():
        return None
    rows = PlatformContext.objects.select_related("group__course")
    contexts = rows.filter(platform=arrival.platform, context=arrival.context[0])
    by_group = {one.group_id: one for one in contexts}
    model: type[Assignment] | type[Task] = Assignment if kind == "test" else Task
    work = model.objects.filter(pk=int(number), group__in=by_group).first()
    if work is None:
        raise Conflict(
            gettext("This link leads to work that isn’t set for this course any more."),
            code="no_such_work",
        )
    return work, by_group[work.group_id]


def _note_link(arrival: Arrival, work: Assignment | Task, context: PlatformContext) -> None:
    """Remember where scores of this work go."""
    if not arrival.link:
        return
    service = arrival.says.get(SCORES_CLAIM) or {}
    url = str(service.get("lineitem", ""))[:500] if may_score(service) else ""
    fields = {
        "assignment": work if isinstance(work, Assignment) else None,
        "task": work if isinstance(work, Task) else None,
        "scores_url": url,
    }
    PlatformLink.objects.update_or_create(
        context=context,
        link=arrival.link,
        defaults=fields,
        create_defaults=fields | {"looked_at": clock.now()},
    )
