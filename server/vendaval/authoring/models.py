"""Questions in the making: drafts, which nobody sees but who may write for the course."""

from django.conf import settings
from django.db import models

from vendaval.bank.models import Course, FamilyRevision, Topic

PERSON = settings.AUTH_USER_MODEL


class Draft(models.Model):
    """A family as somebody is writing it. key: of the family it changes, or of the one it will be.
    base: the revision it began from, nothing for a new family."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="drafts")
    topic = models.ForeignKey(Topic, on_delete=models.CASCADE, related_name="drafts")
    key = models.SlugField(max_length=60)
    base = models.ForeignKey(FamilyRevision, null=True, on_delete=models.SET_NULL, related_name="+")
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
