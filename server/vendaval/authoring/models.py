"""Questions in the making: drafts, which nobody sees but who may write for the course."""

from django.conf import settings
from django.db import models

from vendaval.bank.models import Collection, Course, Family, FamilyRevision, Topic

PERSON = settings.AUTH_USER_MODEL


class Draft(models.Model):
    """A family as somebody is writing it. key: of the family it changes, or of the one it will be.
    base: the revision it began from, nothing for a new family. collection: whose own a new one will
    be, nothing for one of the course."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="drafts")
    topic = models.ForeignKey(Topic, on_delete=models.CASCADE, related_name="drafts")
    key = models.SlugField(max_length=60)
    base = models.ForeignKey(FamilyRevision, null=True, on_delete=models.SET_NULL, related_name="+")
    collection = models.ForeignKey(
        Collection, null=True, on_delete=models.CASCADE, related_name="drafts"
    )
    text = models.TextField()
    began_by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    began_at = models.DateTimeField()
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["course", "key"], name="one_draft")]


class DraftStep(models.Model):
    """A draft as it was once: what somebody typed within a few minutes is one step."""

    draft = models.ForeignKey(Draft, on_delete=models.CASCADE, related_name="steps")
    text = models.TextField()
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField()


class BankState(models.Model):
    """How far the lines of a course's bank are: of which content, and figures of when. asked_at:
    when figures were last asked for. sections: what came of reading its study sections."""

    course = models.OneToOneField(Course, on_delete=models.CASCADE, related_name="bank_state")
    digest = models.CharField(max_length=64)
    figures_at = models.DateTimeField(null=True)
    asked_at = models.DateTimeField(null=True)
    sections = models.JSONField(default=list)


class BankLine(models.Model):
    """A family as the bank lists it: everything that it is found, sorted and judged by. Made anew
    from what is stored elsewhere, so it may be thrown away.

    words: of title, prompt and feedback. judged, measured, error: difficulties in logits. right,
    took, a, fit, spread: as `Figures` of the core has them; nothing while not known. asks: what
    calibration says. slips: unforeseen ones in words; sought: how many unexpected answers there
    were when they were last looked for. apart: of judgement and measurement."""

    family = models.OneToOneField(Family, on_delete=models.CASCADE, related_name="line")
    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="lines")
    topic = models.ForeignKey(Topic, on_delete=models.CASCADE, related_name="+")
    revision = models.PositiveIntegerField()
    title = models.CharField(max_length=80)
    words = models.TextField()
    kind = models.CharField(max_length=40)
    essential = models.BooleanField()
    judged = models.FloatField()
    seconds = models.FloatField()
    answers = models.PositiveIntegerField(default=0)
    right = models.FloatField(null=True)
    took = models.FloatField(null=True)
    measured = models.FloatField(null=True)
    error = models.FloatField(null=True)
    a = models.FloatField(null=True)
    fit = models.FloatField(null=True)
    spread = models.FloatField(null=True)
    asks = models.JSONField(default=list)
    slips = models.JSONField(default=list)
    sought = models.PositiveIntegerField(default=0)
    reports = models.PositiveIntegerField(default=0)
    urgency = models.PositiveSmallIntegerField(default=0)
    apart = models.FloatField(null=True)

    class Meta:
        indexes = [
            models.Index(fields=["course", "title"], name="line_title"),
            models.Index(fields=["course", "-urgency"], name="line_urgency"),
        ]
