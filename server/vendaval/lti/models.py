"""Platforms that assign work, who comes from them, to which work, and the scores they are sent."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from vendaval.assigning.models import Task
from vendaval.exams.models import Assignment
from vendaval.groups.models import Group
from vendaval.people.models import School

PERSON = settings.AUTH_USER_MODEL


class Platform(models.Model):
    """A platform that launches from outside. deployments: those that may; with none, any. tutors:
    whether a launch may make somebody a tutor."""

    school = models.ForeignKey(School, on_delete=models.CASCADE, related_name="platforms")
    name = models.CharField(max_length=80)
    issuer = models.CharField(max_length=300)
    client_id = models.CharField(max_length=200)
    login_url = models.CharField(max_length=300)
    token_url = models.CharField(max_length=300)
    keys_url = models.CharField(max_length=300)
    deployments = models.JSONField(default=list)
    tutors = models.BooleanField(default=False)
    on = models.BooleanField(default=True)
    made_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["issuer", "client_id"], name="one_platform")]


class PlatformAccount(models.Model):
    """Somebody on a platform, and whose account here that is. made: the account came with the first
    launch, and nobody signs in to it otherwise."""

    platform = models.ForeignKey(Platform, on_delete=models.CASCADE, related_name="accounts")
    subject = models.CharField(max_length=255)
    person = models.ForeignKey(PERSON, on_delete=models.CASCADE, related_name="platform_accounts")
    made = models.BooleanField()
    since = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["platform", "subject"], name="one_platform_account")
        ]


class PlatformContext(models.Model):
    """A course on a platform as a group here. members_url: who is in it, where that is told."""

    platform = models.ForeignKey(Platform, on_delete=models.CASCADE, related_name="contexts")
    context = models.CharField(max_length=255)
    group = models.OneToOneField(Group, on_delete=models.CASCADE, related_name="platform_context")
    members_url = models.CharField(max_length=500, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["platform", "context", "group"], name="one_context")
        ]


class PlatformLink(models.Model):
    """A link on a platform that leads to set work. scores_url: of its column of marks. looked_at:
    when it was last seen to whether scores changed."""

    context = models.ForeignKey(PlatformContext, on_delete=models.CASCADE, related_name="links")
    link = models.CharField(max_length=255)
    assignment = models.ForeignKey(
        Assignment, null=True, on_delete=models.CASCADE, related_name="platform_links"
    )
    task = models.ForeignKey(
        Task, null=True, on_delete=models.CASCADE, related_name="platform_links"
    )
    scores_url = models.CharField(max_length=500, blank=True)
    looked_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["context", "link"], name="one_link")]


class ScoreState(models.TextChoices):
    DUE = "due"
    SENT = "sent"
    REFUSED = "refused"


class ScoreSent(models.Model):
    """The newest score of somebody for a link. given, of: points. at: when it was known, which the
    platform is told, so that an older one never stands in for a newer. says: what the platform
    answered. next_at: when it is tried (again)."""

    link = models.ForeignKey(PlatformLink, on_delete=models.CASCADE, related_name="scores")
    account = models.ForeignKey(PlatformAccount, on_delete=models.CASCADE, related_name="scores")
    given = models.FloatField()
    of = models.FloatField()
    at = models.DateTimeField()
    state = models.CharField(max_length=8, choices=ScoreState.choices, default=ScoreState.DUE)
    says = models.CharField(max_length=300, blank=True)
    tries = models.PositiveIntegerField(default=0)
    next_at = models.DateTimeField()
    sent_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["link", "account"], name="one_score")]
        indexes = [models.Index(fields=["state", "next_at"], name="score_next")]


class ToolKey(models.Model):
    """A key of ours: what we sign with. ends_at: a day after the next one came."""

    private = models.TextField()
    public = models.TextField()
    made_at = models.DateTimeField()
    ends_at = models.DateTimeField(null=True)


class Pending(models.Model):
    """What is kept between two requests of a launch: used once, and for a short while."""

    key = models.CharField(max_length=120, primary_key=True)
    value = models.JSONField()
    ends_at = models.DateTimeField()
