"""Endpoints of the tutor's groups, and of the pages that tutors and guardians read."""

from __future__ import annotations

from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Router

from vendaval.bank.snapshot import course_bank
from vendaval.groups import actions
from vendaval.groups.columns import GroupSettings
from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import own_group, related_enrolment, relations_to, taught_by
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind
from vendaval.people.permissions import current_user, signed_in
from vendaval.people.policies import Relation, require
from vendaval.people.schemas import CodeOut
from vendaval.shared.codes import shown_code
from vendaval.shared.editing import edit_version, editing
from vendaval.shared.errors import NotFound, Unprocessable
from vendaval.threads.queries import waiting_for_tutor
from vendaval.today.schemas import TopicPageOut
from vendaval.today.topic import topic_page
from vendaval.work.schemas import DoneOut

from .days import calendar_of
from .missed import missed_page
from .overview import group_page
from .reading import related_page
from .schemas import (
    GroupDaysOut,
    GroupLineOut,
    GroupOut,
    GroupSettingsEdit,
    GroupSettingsIn,
    GroupSettingsOut,
    GroupsOut,
    MissedOut,
    RelatedOut,
    TopicSettingOut,
    WardOut,
    WardsOut,
)

router = Router(auth=signed_in, tags=["tutor"])
GROUP, LEARNER = "/groups/{int:group_id}", "/learners/{int:enrolment_id}"


@router.get("/groups", response=GroupsOut, operation_id="list_groups")
def list_groups(request: HttpRequest) -> GroupsOut:
    """The groups I teach."""
    user = current_user(request)
    require("list_groups", user.roles, Relation.OWN)
    found = []
    for group in taught_by(user):
        learners = group.members.filter(until=None, enrolment__until=None).count()
        found.append(
            GroupLineOut(
                id=group.pk,
                title=group.title,
                course=group.course.key,
                course_title=group.course.title,
                learners=learners,
                waiting=waiting_for_tutor(group),
            )
        )
    return GroupsOut(groups=found)


@router.get(GROUP, response=GroupOut, operation_id="get_group")
def get_group(request: HttpRequest, group_id: int) -> GroupOut:
    """A group before a lesson: topics across, learners down."""
    found = own_group(current_user(request), group_id, "get_group")
    return group_page(found, waiting_for_tutor(found))


def _settings_edit(group: Group) -> GroupSettingsEdit:
    kept = group.settings.model_dump() | {"not_taught": sorted(group.settings.not_taught)}
    return GroupSettingsEdit.model_construct(title=group.title, **kept)


def _settings(group: Group) -> GroupSettingsOut:
    kept = group.settings
    return GroupSettingsOut(
        title=group.title,
        exam_on=kept.exam_on,
        tries=kept.tries,
        miss_takes=kept.miss_takes,
        asks_sure=kept.asks_sure,
        own_aims=kept.own_aims,
        classmates=kept.classmates,
        version=edit_version(_settings_edit(group)),
        topics=[
            TopicSettingOut(
                key=topic.key,
                title=topic.title,
                subject=topic.subject,
                taught=topic.key not in kept.not_taught,
                target=round(kept.targets[topic.key]) if topic.key in kept.targets else None,
                course_target=round(topic.target),
                importance=kept.importance.get(topic.key),
                course_importance=topic.importance,
            )
            for topic in course_bank(group.course).topics
        ],
    )


@router.get(f"{GROUP}/missed", response=MissedOut, operation_id="get_missed")
def get_missed(request: HttpRequest, group_id: int) -> MissedOut:
    """What the group missed most lately, and a short lesson of it."""
    return missed_page(own_group(current_user(request), group_id, "get_missed"))


@router.get(f"{GROUP}/calendar", response=GroupDaysOut, operation_id="get_group_calendar")
def get_group_calendar(request: HttpRequest, group_id: int) -> GroupDaysOut:
    """A week back and six ahead: set work, rechecks that fall due, the exam."""
    return calendar_of(own_group(current_user(request), group_id, "get_group_calendar"))


@router.get(f"{GROUP}/settings", response=GroupSettingsOut, operation_id="get_group_settings")
def get_group_settings(request: HttpRequest, group_id: int) -> GroupSettingsOut:
    return _settings(own_group(current_user(request), group_id, "get_group_settings"))


@router.put(f"{GROUP}/settings", response=GroupSettingsOut, operation_id="set_group")
def set_group(request: HttpRequest, group_id: int, body: GroupSettingsIn) -> GroupSettingsOut:
    """Change targets, importance, what has been taught, the exam's date and the rules of practice.
    It holds for every member at once."""
    found = own_group(current_user(request), group_id, "set_group")
    known = {topic.key for topic in course_bank(found.course).topics}
    named = {*body.targets, *body.importance, *body.not_taught}
    if named - known:
        unknown = ", ".join(sorted(named - known))
        raise Unprocessable(gettext("We can’t find these topics."), fields={"topics": unknown})
    wanted = GroupSettings(**body.model_dump(exclude={"title", "version"}))
    with editing(found, body, lambda: _settings_edit(found)):
        actions.set_up_group(found, body.title.strip(), wanted)
    return _settings(found)


@router.post(f"{GROUP}/code", response=CodeOut, operation_id="make_join_code")
def make_join_code(request: HttpRequest, group_id: int) -> CodeOut:
    """A new code to join by, for seven days; the one before it ends."""
    user = current_user(request)
    code = actions.make_join_code(own_group(user, group_id, "make_join_code"), user)
    return CodeOut(code=shown_code(code.code), ends_at=code.ends_at)


@router.delete(f"{GROUP}/code", response=DoneOut, operation_id="revoke_join_code")
def revoke_join_code(request: HttpRequest, group_id: int) -> DoneOut:
    actions.revoke_join_codes(own_group(current_user(request), group_id, "revoke_join_code"))
    return DoneOut(done=True)


@router.delete(
    GROUP + "/members/{int:enrolment_id}", response=DoneOut, operation_id="remove_member"
)
def remove_member(request: HttpRequest, group_id: int, enrolment_id: int) -> DoneOut:
    """End a learner's time in a group; what they did stays theirs."""
    user = current_user(request)
    found = own_group(user, group_id, "remove_member")
    member = Enrolment.objects.filter(
        pk=enrolment_id, groups__group=found, groups__until=None
    ).select_related("person")
    enrolment = member.first()
    if enrolment is None:
        raise NotFound(gettext("This learner isn’t in this group."))
    actions.leave_group(found, enrolment)
    audit(AuditKind.LEFT_GROUP, request=request, account=enrolment.person, by=user)
    return DoneOut(done=True)


@router.get(LEARNER, response=RelatedOut, operation_id="get_learner")
def get_learner(request: HttpRequest, enrolment_id: int) -> RelatedOut:
    """A learner of my group, or whose guardian I am: read only."""
    user = current_user(request)
    found = related_enrolment(user, enrolment_id, "get_learner")
    return related_page(found, evidence=Relation.GROUP in relations_to(user, found))


@router.get(LEARNER + "/topics/{slug:key}", response=TopicPageOut, operation_id="get_learner_topic")
def get_learner_topic(request: HttpRequest, enrolment_id: int, key: str) -> TopicPageOut:
    found = related_enrolment(current_user(request), enrolment_id, "get_learner_topic")
    return topic_page(found, key, own=False)


@router.get("/wards", response=WardsOut, operation_id="list_wards")
def list_wards(request: HttpRequest) -> WardsOut:
    """The learners whose guardian I am, in each of their courses."""
    user = current_user(request)
    require("list_wards", user.roles, Relation.OWN)
    mine = Enrolment.objects.filter(
        person__guardians__guardian=user, person__guardians__until=None, until=None
    )
    rows = mine.select_related("person", "course")
    return WardsOut(
        wards=[
            WardOut(id=row.pk, name=row.person.display_name, course_title=row.course.title)
            for row in rows.order_by("person__display_name", "pk")[:100]
        ]
    )
