"""Accounts, schools, and what a person is there. A role is held from a day, and may end."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.db.models import Q


class Role(models.TextChoices):
    LEARNER = "learner"
    GUARDIAN = "guardian"
    TUTOR = "tutor"
    AUTHOR = "author"
    OFFICE = "office"


class User(AbstractUser):
    """An account. `demo_note` says what a demo account shows; empty for real accounts.
    `practice_for`: whose practice learner it is; what such a one does never counts."""

    display_name = models.CharField(max_length=80)
    demo_note = models.CharField(max_length=200, blank=True)
    practice_for = models.OneToOneField(
        "self", null=True, blank=True, on_delete=models.CASCADE, related_name="practice_learner"
    )

    @property
    def roles(self) -> frozenset[Role]:
        """Roles held now, at any school."""
        if "role_names" in self.__dict__:
            names = str(self.__dict__["role_names"] or "").split(",")
        else:
            names = list(self.memberships.filter(until=None).values_list("role", flat=True))
        return frozenset(Role(name) for name in names if name)


class School(models.Model):
    """A school, with courses of its own."""

    name = models.CharField(max_length=120, unique=True)


class Membership(models.Model):
    """What a person is at a school, from a moment and, once it has ended, until one."""

    person = models.ForeignKey(User, on_delete=models.CASCADE, related_name="memberships")
    school = models.ForeignKey(School, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=10, choices=Role.choices)
    since = models.DateTimeField()
    until = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["person", "school", "role"],
                condition=Q(until=None),
                name="role_held_once",
            )
        ]


class Guardianship(models.Model):
    """A guardian who may read a learner's pages; either side can end it."""

    guardian = models.ForeignKey(User, on_delete=models.CASCADE, related_name="wards")
    learner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="guardians")
    since = models.DateTimeField()
    until = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["guardian", "learner"], condition=Q(until=None), name="guardian_once"
            )
        ]


class GuardianCode(models.Model):
    """What lets whoever types it read a learner's pages; once, and for a while."""

    learner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="guardian_codes")
    code = models.CharField(max_length=8, unique=True)
    made_at = models.DateTimeField()
    ends_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)


class AuditKind(models.TextChoices):
    SIGNED_IN = "signed_in"
    SIGN_IN_FAILED = "sign_in_failed"
    SIGN_IN_REFUSED = "sign_in_refused"
    SIGNED_OUT = "signed_out"
    EXPORTED = "exported"
    ERASED = "erased"
    GUARDIAN_LINKED = "guardian_linked"
    GUARDIAN_ENDED = "guardian_ended"
    JOINED_GROUP = "joined_group"
    LEFT_GROUP = "left_group"
    PRACTISING = "practising"
    VOIDED = "voided"
    HANDED_IN_FOR = "handed_in_for"


class AuditEntry(models.Model):
    """Something done to an account. named: key of the name that was typed. by: who did it, if not
    the account itself. says: in words, without anything that tells who an erased person was."""

    at = models.DateTimeField()
    kind = models.CharField(max_length=20, choices=AuditKind.choices)
    account = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    named = models.CharField(max_length=32, blank=True)
    by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    address = models.GenericIPAddressField(null=True)
    says = models.CharField(max_length=200, blank=True)

    class Meta:
        indexes = [
            models.Index(fields=["kind", "named", "address", "at"], name="audit_named"),
            models.Index(fields=["kind", "address", "at"], name="audit_address"),
        ]


class Erasing(models.Model):
    """Filled only inside the transaction that erases a person: see `shared/triggers.py`."""
