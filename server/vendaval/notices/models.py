"""Messages to people: in the application, and by mail."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.utils.translation import gettext_lazy


class NoticeKind(models.TextChoices):
    HELP_ASKED = "help_asked", gettext_lazy("Somebody asks for help")
    ANSWERED = "answered", gettext_lazy("My question has an answer")
    FAULT = "fault", gettext_lazy("Somebody reports a faulty question")
    SETTLED = "settled", gettext_lazy("News about a question I reported")
    TARGET_MET = "target_met", "I reach a target"
    RECHECK_DUE = "recheck_due", gettext_lazy("It’s time to check a topic again")
    HANDED_IN = "handed_in", gettext_lazy("I’ve handed in a test")
    MARKS_OUT = "marks_out", gettext_lazy("Marks for one of my tests are released")
    REGRADED = "regraded", gettext_lazy("A mark in one of my tests changes")
    WORK_SET = "work_set", gettext_lazy("I get new work")
    DUE_SOON = "due_soon", gettext_lazy("My work is due tomorrow")
    TALK = "talk", gettext_lazy("A guardian or a tutor writes about a learner")
    MARKING = "marking", gettext_lazy("A test needs my second marking")
    COPY_READY = "copy_ready", gettext_lazy("A copy of my data is ready")
    MESSAGE = "message", gettext_lazy("My tutor writes to me")
    CHALLENGE = "challenge", gettext_lazy("Set work is too hard or too easy for a learner")


class Notice(models.Model):
    """A message to one person. path: where in the application it leads. mailed_at: when it went
    out with a digest, or was passed over because its kind is not wanted by mail."""

    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="notices"
    )
    kind = models.CharField(max_length=12, choices=NoticeKind.choices)
    title = models.CharField(max_length=160)
    text = models.CharField(max_length=1000, blank=True)
    path = models.CharField(max_length=200)
    at = models.DateTimeField()
    read_at = models.DateTimeField(null=True)
    mailed_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["person", "read_at", "-id"], name="notice_unread")]


class NotByMail(models.Model):
    """A kind of message that somebody does not want by mail."""

    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="not_by_mail"
    )
    kind = models.CharField(max_length=12, choices=NoticeKind.choices)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["person", "kind"], name="not_by_mail_once")]


class Digest(models.Model):
    """A mail with the messages of a day: one person gets one a day at the most."""

    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="digests"
    )
    at = models.DateTimeField()


class Letter(models.Model):
    """A mail in the simulated outbox, which stands in for a mail server."""

    to = models.CharField(max_length=254)
    subject = models.CharField(max_length=200)
    body = models.TextField()
    at = models.DateTimeField()
