"""What the health of the system is read from."""

from django.db import models


class Heartbeat(models.Model):
    """When the database was last seen to take a row."""

    at = models.DateTimeField()


class CheckDone(models.Model):
    """A check or a chore that runs now and then, and how it last went."""

    what = models.SlugField(unique=True)
    at = models.DateTimeField()
    well = models.BooleanField()
    says = models.CharField(max_length=300)


class Worker(models.Model):
    """A process that does jobs in the background, and its latest sign of life."""

    name = models.CharField(max_length=64, primary_key=True)
    at = models.DateTimeField()
