"""Accounts and roles."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class Role(models.TextChoices):
    LEARNER = "learner"
    GUARDIAN = "guardian"
    TUTOR = "tutor"
    AUTHOR = "author"


class User(AbstractUser):
    """An account. `demo_note` says what a demo account shows; empty for real accounts."""

    role = models.CharField(max_length=12, choices=Role.choices, default=Role.LEARNER)
    display_name = models.CharField(max_length=80)
    demo_note = models.CharField(max_length=200, blank=True)
