"""Calibrations of a course: proposed from its log, compared, and applied by somebody."""

from django.db import models

from vendaval.bank.models import Course


class Calibration(models.Model):
    """One calibration. proposals: one object a family, as `actions.proposal_data` makes them.
    made_by, applied_by: an account's name or the command's user."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="calibrations")
    proposals = models.JSONField()
    responses = models.PositiveIntegerField()
    made_by = models.CharField(max_length=150)
    made_at = models.DateTimeField()
    applied_by = models.CharField(max_length=150, blank=True)
    applied_at = models.DateTimeField(null=True)
