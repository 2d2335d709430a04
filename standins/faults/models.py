"""How a stand-in behaves: well, or as servers do on a bad day."""

from django.db import models


class Way(models.TextChoices):
    """SLOW: answers after a long time. LOSES: does what it is asked, and its reply is lost. DOWN:
    does nothing. HALF: down every other time."""

    WELL = "well", "works"
    SLOW = "slow", "is slow"
    LOSES = "loses", "loses its replies"
    DOWN = "down", "is down"
    HALF = "half", "is down every other time"


class Behaviour(models.Model):
    """Of one stand-in. asked: how often it was."""

    name = models.CharField(max_length=20, primary_key=True)
    way = models.CharField(max_length=10, choices=Way.choices, default=Way.WELL)
    asked = models.PositiveBigIntegerField(default=0)
