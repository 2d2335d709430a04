"""Statements that arrived."""

from django.db import models


class Statement(models.Model):
    """One statement of xAPI. arrived: how often it was sent."""

    id = models.UUIDField(primary_key=True)
    body = models.JSONField()
    stored_at = models.DateTimeField(auto_now_add=True)
    arrived = models.PositiveIntegerField(default=1)
