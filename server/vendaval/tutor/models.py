"""Notes that tutors keep on learners, signals they looked at, what they write, who covers."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from vendaval.groups.models import Enrolment, Group, GroupTutor


class Note(models.Model):
    """A tutor's note on a learner, for the tutors of their groups; shared ones the learner reads
    too."""

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="notes")
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    text = models.TextField()
    shared = models.BooleanField(default=False)
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["enrolment", "-id"], name="note_newest")]


class LookedAt(models.Model):
    """A signal that a tutor looked at: answers given before say nothing new about it. other,
    assignment: for two with the same answers, at which test. evidence: as it stood then."""

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="looked_at")
    other = models.ForeignKey(Enrolment, null=True, on_delete=models.CASCADE, related_name="+")
    kind = models.CharField(max_length=8)
    assignment = models.PositiveBigIntegerField(null=True)
    evidence = models.CharField(max_length=400)
    note = models.CharField(max_length=400)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField()


class GroupMessage(models.Model):
    """What a tutor wrote to a group, or to some of its learners. to: who got it."""

    group = models.ForeignKey(Group, on_delete=models.CASCADE, related_name="messages")
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    text = models.TextField()
    whole_group = models.BooleanField(default=True)
    to = models.ManyToManyField(Enrolment, related_name="+")
    at = models.DateTimeField()


class Cover(models.Model):
    """A tutor who teaches a group for another from one day to another. teaching: what came of it,
    once it has begun."""

    group = models.ForeignKey(Group, on_delete=models.CASCADE, related_name="covers")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="covers"
    )
    begins = models.DateField()
    ends = models.DateField()
    teaching = models.OneToOneField(
        GroupTutor, null=True, on_delete=models.SET_NULL, related_name="cover"
    )
    over = models.BooleanField(default=False)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    made_at = models.DateTimeField()
