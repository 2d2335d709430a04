"""Threads: somebody asks about a question as it was presented to them, and others answer."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from vendaval.bank.models import Family, Topic
from vendaval.groups.models import Enrolment
from vendaval.work.models import Presentation


class ThreadKind(models.TextChoices):
    """help: to the tutor, to classmates, or both. fault: to the course's authors. contest: of a
    mark, to the tutor."""

    HELP = "help"
    FAULT = "fault"
    CONTEST = "contest"


class ThreadState(models.TextChoices):
    OPEN = "open"
    ANSWERED = "answered"
    SETTLED = "settled"


class Thread(models.Model):
    """What is asked about a question. enrolment: of who asks.

    shows_answer, shows_working: whether these are shown to those who are asked. to_tutor: whether
    the tutors of the asker's groups are. says: what became of it, once it is settled.
    """

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="threads")
    kind = models.CharField(max_length=8, choices=ThreadKind.choices)
    presentation = models.ForeignKey(Presentation, on_delete=models.CASCADE, related_name="threads")
    family = models.ForeignKey(Family, on_delete=models.PROTECT, related_name="+")
    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="+")
    shows_answer = models.BooleanField(default=True)
    shows_working = models.BooleanField(default=False)
    to_tutor = models.BooleanField(default=True)
    state = models.CharField(max_length=8, choices=ThreadState.choices, default=ThreadState.OPEN)
    says = models.CharField(max_length=300, blank=True)
    opened_at = models.DateTimeField()
    waits_since = models.DateTimeField(null=True)
    settled_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [
            models.Index(fields=["enrolment", "-id"], name="thread_mine"),
            models.Index(fields=["family", "state"], name="thread_family"),
        ]


class Asked(models.Model):
    """A classmate who was asked in a thread."""

    thread = models.ForeignKey(Thread, on_delete=models.CASCADE, related_name="asked")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="asked_in"
    )

    class Meta:
        constraints = [models.UniqueConstraint(fields=["thread", "person"], name="asked_once")]


class Post(models.Model):
    """What somebody wrote in a thread. quotes_solution: the worked solution goes with it."""

    thread = models.ForeignKey(Thread, on_delete=models.CASCADE, related_name="posts")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    text = models.TextField()
    quotes_solution = models.BooleanField(default=False)
    at = models.DateTimeField()


class Seen(models.Model):
    """Up to which post somebody has seen a thread."""

    thread = models.ForeignKey(Thread, on_delete=models.CASCADE, related_name="seen")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    post = models.PositiveBigIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["thread", "person"], name="seen_once")]


class Talk(models.Model):
    """What a guardian and the tutors of a learner write to one another, about the learner. The
    learner does not read it. waits_since: since when a guardian waits for an answer."""

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="talks")
    guardian = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="talks"
    )
    waits_since = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["enrolment", "guardian"], name="talk_once")]


class TalkPost(models.Model):
    """What somebody wrote in a talk."""

    talk = models.ForeignKey(Talk, on_delete=models.CASCADE, related_name="posts")
    author = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    text = models.TextField()
    at = models.DateTimeField()
