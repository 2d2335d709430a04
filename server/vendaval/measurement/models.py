"""Calibrations of a course: proposed from its log, compared, and applied by somebody."""

from django.db import models

from vendaval.bank.models import Course


class Calibration(models.Model):
    """One calibration. proposals: one object a family, as `actions.proposal_data` makes them.
    made_by, applied_by: an account's name or the command's user. applied_at: when all of it was put
    in force; single families may be before. effect: what all of it would do to learners' levels.
    table: name of the table it was made of, "" for the course's log."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="calibrations")
    proposals = models.JSONField()
    responses = models.PositiveIntegerField()
    made_by = models.CharField(max_length=150)
    made_at = models.DateTimeField()
    applied_by = models.CharField(max_length=150, blank=True)
    applied_at = models.DateTimeField(null=True)
    effect = models.JSONField(default=dict)
    table = models.CharField(max_length=120, blank=True)


class CalibrationRun(models.Model):
    """A calibration being made of a course's log, or of a table, which is kept until it is made.
    topic: the one it is at; done of topics."""

    course = models.OneToOneField(Course, on_delete=models.CASCADE, related_name="calibrating")
    asked_by = models.CharField(max_length=150)
    asked_at = models.DateTimeField()
    topic = models.CharField(max_length=120, blank=True)
    done = models.PositiveSmallIntegerField(default=0)
    topics = models.PositiveSmallIntegerField(default=0)
    table = models.TextField(blank=True)
    table_name = models.CharField(max_length=120, blank=True)
