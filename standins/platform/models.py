"""What the platform keeps: its key, links to work, tokens it gave out, and marks it was told."""

from django.db import models


class Key(models.Model):
    """The platform's own key, as PEM."""

    private = models.TextField()


class Item(models.Model):
    """A link to work that a tutor picked, with a column of marks. most: points in all."""

    title = models.CharField(max_length=200)
    custom = models.JSONField(default=dict)
    most = models.FloatField(default=100.0)


class Hint(models.Model):
    """A launch that was begun: by whom, and to what; with none, work is picked."""

    who = models.CharField(max_length=20)
    item = models.ForeignKey(Item, null=True, on_delete=models.CASCADE)


class Token(models.Model):
    """An access token that was given out."""

    value = models.CharField(max_length=64, primary_key=True)
    scopes = models.JSONField()


class Score(models.Model):
    """A mark that arrived. arrived: how often the same one was sent."""

    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="scores")
    who = models.CharField(max_length=20)
    given = models.FloatField()
    of = models.FloatField()
    timestamp = models.CharField(max_length=40)
    arrived = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["item", "who"], name="one_mark")]
