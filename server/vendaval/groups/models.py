"""People in courses: enrolments, to which everything a learner has belongs, and groups."""

from __future__ import annotations

import secrets
from typing import ClassVar, Self, TypeVar

from django.conf import settings
from django.db import models
from django.db.models import Q

from vendaval.bank.models import Collection, Course
from vendaval.shared.columns import column

from .columns import AimsData, GroupSettings, OwnAimsData, StudyFirst


def new_seed() -> int:
    return secrets.randbits(62)


class Enrolment(models.Model):
    """A person in a course. Ended ones keep what was done.

    seed: what their own draws are made from, beside the server's secret; not the row's number, so
    that it holds in a copy. own: what they set for themselves. aims: what holds for them, of their
    groups and their own, put together whenever one of those changes.
    """

    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="enrolments"
    )
    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="enrolments")
    since = models.DateTimeField()
    until = models.DateTimeField(null=True)
    seed = models.BigIntegerField(default=new_seed)
    own: OwnAimsData = column(OwnAimsData, OwnAimsData)
    aims: AimsData = column(AimsData, AimsData)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["person", "course"], name="enrolled_once")]


class Group(models.Model):
    """Learners of a course who are taught together. collection: its own questions, once its tutors
    wrote one."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="groups")
    title = models.CharField(max_length=80)
    settings: GroupSettings = column(GroupSettings, GroupSettings)
    collection = models.OneToOneField(
        Collection, null=True, on_delete=models.PROTECT, related_name="group"
    )


class JoinCode(models.Model):
    """What lets whoever types it into a group, for a while. revoked_at: when a tutor ended it."""

    group = models.ForeignKey(Group, on_delete=models.CASCADE, related_name="codes")
    code = models.CharField(max_length=8, unique=True)
    made_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    made_at = models.DateTimeField()
    ends_at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)


class CourseAuthor(models.Model):
    """A course that an author's writing is kept to, with dates; who has none writes for all
    courses of their school."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="authors")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="authored"
    )
    since = models.DateTimeField()
    until = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["course", "person"], condition=Q(until=None), name="author_once"
            )
        ]


class GroupTutor(models.Model):
    """A tutor of a group, with dates."""

    group = models.ForeignKey(Group, on_delete=models.CASCADE, related_name="tutors")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="tutored"
    )
    since = models.DateTimeField()
    until = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["group", "person"], condition=Q(until=None), name="tutor_once"
            )
        ]


class GroupMember(models.Model):
    """A learner in a group, with dates."""

    group = models.ForeignKey(Group, on_delete=models.CASCADE, related_name="members")
    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="groups")
    since = models.DateTimeField()
    until = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["group", "enrolment"], condition=Q(until=None), name="member_once"
            )
        ]


Work = TypeVar("Work", bound=models.Model)


class Given(models.Manager[Work]):
    """Work that was not withdrawn."""

    def get_queryset(self) -> models.QuerySet[Work]:
        return super().get_queryset().filter(withdrawn_at=None)


class GivenToGroup(models.Model):
    """Work that was given to a group, or to some of it. opens, due, closes: without one, always or
    never. learners: who has it, where it is not the whole group. first: what to study before.
    withdrawn_at: it is nobody's any more, and can be restored for a while. batch: the same for
    what was given to several groups at once, "" otherwise."""

    group = models.ForeignKey(Group, on_delete=models.CASCADE, related_name="%(class)ss")
    opens = models.DateTimeField(null=True)
    due = models.DateTimeField(null=True)
    closes = models.DateTimeField(null=True)
    whole_group = models.BooleanField(default=True)
    learners = models.ManyToManyField(Enrolment, related_name="+")
    first: list[StudyFirst] = column(list[StudyFirst], list)
    given_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    given_at = models.DateTimeField()
    withdrawn_at = models.DateTimeField(null=True)
    batch = models.CharField(max_length=12, blank=True, default="", db_index=True)

    objects: ClassVar[models.Manager[Self]] = Given()
    with_withdrawn: ClassVar[models.Manager[Self]] = models.Manager()

    class Meta:
        abstract = True
