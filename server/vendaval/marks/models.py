"""The marks of a group in a term: what counts, what was entered by hand, what was fixed."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from vendaval.exams.columns import Exact
from vendaval.groups.models import Enrolment, Group
from vendaval.shared.columns import column

from .columns import BookData, FixedColumn, FixedData

PERSON = settings.AUTH_USER_MODEL


class Term(models.Model):
    """A stretch of time with marks of its own: work that falls between its dates is in it.

    closed_at: when its marks were fixed. columns: what was in it then."""

    group = models.ForeignKey(Group, on_delete=models.CASCADE, related_name="terms")
    title = models.CharField(max_length=60)
    begins = models.DateField()
    ends = models.DateField()
    book: BookData = column(BookData, BookData)
    columns: list[FixedColumn] = column(list[FixedColumn], list)
    closed_at = models.DateTimeField(null=True)
    closed_by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")


class EnteredKind(models.TextChoices):
    """What a tutor enters for a cell. CLEARED: nothing, so that the work itself decides again."""

    MARK = "mark"
    EXCUSED = "excused"
    MISSING = "missing"
    CLEARED = "cleared"


class Entered(models.Model):
    """What a tutor entered for one learner in one column: only added to, the newest counts. work:
    key of the column. share: of the points, exact, for a mark."""

    term = models.ForeignKey(Term, on_delete=models.CASCADE, related_name="entered")
    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="marks_entered")
    work = models.CharField(max_length=40)
    kind = models.CharField(max_length=7, choices=EnteredKind.choices)
    share: Exact | None = column(Exact)
    why = models.CharField(max_length=200, blank=True)
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["term", "enrolment", "work", "-id"], name="entered_last")]


class TermMark(models.Model):
    """A learner's mark of a closed term, as it was fixed."""

    term = models.ForeignKey(Term, on_delete=models.CASCADE, related_name="marks")
    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="term_marks")
    data: FixedData = column(FixedData)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["term", "enrolment"], name="fixed_once")]


class Correction(models.Model):
    """A later mark in the place of a fixed one: only added to, shown beside the old one."""

    mark_of = models.ForeignKey(TermMark, on_delete=models.CASCADE, related_name="corrections")
    mark: Exact = column(Exact)
    why = models.CharField(max_length=200)
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField()
