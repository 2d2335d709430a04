"""The row that the health check writes."""

from django.db import models


class Heartbeat(models.Model):
    """When the database was last seen to take a row."""

    at = models.DateTimeField()
