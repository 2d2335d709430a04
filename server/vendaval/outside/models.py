"""Stores that learning records are sent to, and what of them is still to be sent."""

from __future__ import annotations

from django.db import models

from vendaval.people.models import School


class RecordStore(models.Model):
    """Where a school's learning records go, in xAPI. address: of the store, to which `statements`
    is added. since: what happened from then on is sent. sent: statements it has. failures: in a
    row; says: what the last one was. next_at: when it is tried again."""

    school = models.OneToOneField(School, on_delete=models.CASCADE, related_name="record_store")
    address = models.CharField(max_length=300)
    name = models.CharField(max_length=200, blank=True)
    secret = models.CharField(max_length=200, blank=True)
    on = models.BooleanField(default=False)
    since = models.DateTimeField()
    sent = models.PositiveBigIntegerField(default=0)
    sent_at = models.DateTimeField(null=True)
    failures = models.PositiveIntegerField(default=0)
    says = models.CharField(max_length=300, blank=True)
    next_at = models.DateTimeField()


class RecordCursor(models.Model):
    """Up to which row of a kind was looked for what is to be sent."""

    store = models.ForeignKey(RecordStore, on_delete=models.CASCADE, related_name="cursors")
    kind = models.CharField(max_length=10)
    upto = models.PositiveBigIntegerField(default=0)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["store", "kind"], name="one_record_cursor")]


class ToTellState(models.TextChoices):
    """DUE: to be sent. SENT: the store has it; kept for a while so that it is not found again.
    REFUSED: the store won't have it."""

    DUE = "due"
    SENT = "sent"
    REFUSED = "refused"


class ToTell(models.Model):
    """A row of the log that is told a store. after: from when it is looked at; later for what may
    not be told yet. says: why the store refused it."""

    store = models.ForeignKey(RecordStore, on_delete=models.CASCADE, related_name="to_tell")
    kind = models.CharField(max_length=10)
    number = models.PositiveBigIntegerField()
    state = models.CharField(max_length=8, choices=ToTellState.choices, default=ToTellState.DUE)
    found_at = models.DateTimeField()
    after = models.DateTimeField()
    says = models.CharField(max_length=300, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["store", "kind", "number"], name="told_once")
        ]
        indexes = [models.Index(fields=["store", "state", "after", "id"], name="to_tell_next")]
