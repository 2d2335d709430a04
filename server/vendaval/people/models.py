"""Accounts, schools, and what a person is there. A role is held from a day, and may end."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import SESSION_KEY
from django.contrib.auth.models import AbstractUser
from django.contrib.sessions.backends.base import SessionBase
from django.contrib.sessions.backends.db import SessionStore as DatabaseStore
from django.contrib.sessions.base_session import AbstractBaseSession
from django.db import models
from django.db.models import Q
from django.utils.dateparse import parse_datetime
from django.utils.translation import gettext_lazy


class Role(models.TextChoices):
    LEARNER = "learner"
    GUARDIAN = "guardian"
    TUTOR = "tutor"
    AUTHOR = "author"
    OFFICE = "office"


class User(AbstractUser):
    """An account. `demo_note` says what a demo account shows; empty for real accounts.
    `practice_for`: whose practice learner it is; what such a one does never counts. `consented`:
    the newest word of a guardian, null while there is none; asked for while `born` is within the
    years for which the school wants one. `came_by`: the address by which they signed in last."""

    display_name = models.CharField(max_length=80)
    born = models.DateField(null=True, blank=True)
    consented = models.BooleanField(null=True, blank=True)
    demo_note = models.CharField(max_length=200, blank=True)
    # Null while unknown: with a default, SQLite would make the table anew, without its triggers.
    came_by = models.CharField(max_length=200, null=True, blank=True)  # noqa: DJ001
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


# Regulation (EU) 2016/679, article 8(1): 16, unless a member state's law says less, 13 at least.
CONSENT_UNTIL = 16
CONSENT_WORDING = gettext_lazy(
    "I am the guardian of {learner}. I agree that {school} keeps an account for them in "
    "Vendaval. It stores their answers, how long each took and the results, so that "
    "they, their tutors and I can see their progress. I can withdraw this at any time."
)


class School(models.Model):
    """A school, with courses of its own. consent_until: age in years below which a learner's
    account works only once a guardian agrees; to what, consent_wording says ({learner} and
    {school} are put in)."""

    name = models.CharField(max_length=120, unique=True)
    consent_until = models.PositiveSmallIntegerField(default=CONSENT_UNTIL)
    consent_wording = models.TextField(default=CONSENT_WORDING)


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
    """A guardian who may read a learner's pages; either side can end it. vouched: the office says
    that they are the learner's guardian, so that their consent counts."""

    guardian = models.ForeignKey(User, on_delete=models.CASCADE, related_name="wards")
    learner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="guardians")
    vouched = models.BooleanField(default=False)
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


class Consent(models.Model):
    """A guardian's word on a learner's account; the newest counts. by: who gave it, or of the
    office who noted one given on paper; named: the guardian's name. wording: what it was given to,
    as it stood then."""

    learner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="consents")
    agreed = models.BooleanField()
    by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    named = models.CharField(max_length=80)
    wording = models.TextField()
    on_paper = models.BooleanField(default=False)
    at = models.DateTimeField()
    address = models.GenericIPAddressField(null=True)


class LinkKind(models.TextChoices):
    WELCOME = "welcome"
    RESET = "reset"
    MAIL = "mail"
    UNDO_MAIL = "undo"


class OneTimeLink(models.Model):
    """An address that was mailed to somebody and opens something once: an account of their own, a
    new password, another mail address, or, for a week, the address before. nonce: what makes its
    token, with the server's secret. mailed_at: when it went out; null while a job has still to send
    it."""

    person = models.ForeignKey(User, on_delete=models.CASCADE, related_name="one_time_links")
    kind = models.CharField(max_length=8, choices=LinkKind.choices)
    mail = models.EmailField()
    nonce = models.CharField(max_length=32)
    by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    made_at = models.DateTimeField()
    ends_at = models.DateTimeField()
    mailed_at = models.DateTimeField(null=True)
    used_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["person", "kind"], name="link_of_person")]


class SecondFactor(models.Model):
    """Six digits that change every half minute (RFC 6238), asked for beside the password.
    last_step: the newest step that was used; none is taken twice. spares: digests of codes that
    each open once, for when the device is lost."""

    person = models.OneToOneField(User, on_delete=models.CASCADE, related_name="second_factor")
    secret = models.CharField(max_length=64)
    confirmed_at = models.DateTimeField(null=True)
    last_step = models.BigIntegerField(default=0)
    spares = models.JSONField(default=list)


# What a session says of the browser it began in.
BEGAN = "_began"


class AccountSession(AbstractBaseSession):
    """A browser that is signed in. since, address, agent: when, from where and with what."""

    person = models.ForeignKey(
        User, null=True, on_delete=models.CASCADE, related_name="account_sessions"
    )
    since = models.DateTimeField(null=True)
    address = models.GenericIPAddressField(null=True)
    agent = models.CharField(max_length=200, blank=True)

    @classmethod
    def get_session_store_class(cls) -> type[SessionBase]:
        return SessionStore


class SessionStore(DatabaseStore):
    """Django's own store in the database; each row names the account that is signed in."""

    @classmethod
    def get_model_class(cls) -> Any:
        return AccountSession

    def create_model_instance(self, data: dict[str, Any]) -> Any:
        row = super().create_model_instance(data)
        assert isinstance(row, AccountSession)
        row.person_id = int(data[SESSION_KEY]) if SESSION_KEY in data else None
        began = data.get(BEGAN, {})
        row.since = parse_datetime(began["at"]) if began else None
        row.address, row.agent = began.get("address"), began.get("agent", "")
        return row


class AuditKind(models.TextChoices):
    SIGNED_IN = "signed_in", gettext_lazy("Signed in")
    SIGN_IN_FAILED = "sign_in_failed", gettext_lazy("A sign-in failed")
    SIGN_IN_REFUSED = "sign_in_refused", gettext_lazy("A sign-in was refused")
    SIGNED_OUT = "signed_out", gettext_lazy("Signed out")
    SIGNED_OUT_ALL = "signed_out_all", gettext_lazy("Signed out everywhere")
    INVITED = "invited", "Invited"
    IMPORTED = "imported", gettext_lazy("A list was imported")
    ACCEPTED = "accepted", gettext_lazy("An invitation was accepted")
    RESET_ASKED = "reset_asked", gettext_lazy("A new password was asked for")
    PASSWORD_SET = "password_set", gettext_lazy("A password was set")
    MAIL_CHANGED = "mail_changed", gettext_lazy("A mail address was changed")
    SECOND_FACTOR = "second_factor", gettext_lazy("Two-step sign-in was changed")
    CONSENT = "consent", "A guardian’s consent"
    ROLE = "role", gettext_lazy("A role was given or ended")
    GROUP = "group", gettext_lazy("A group was changed")
    PERSON = "person", gettext_lazy("A person’s data was changed")
    CLOSED = "closed", gettext_lazy("An account was closed")
    REOPENED = "reopened", gettext_lazy("An account was opened again")
    PUBLISHED = "published", gettext_lazy("Content was published")
    SETTINGS = "settings", gettext_lazy("A setting was changed")
    JOB = "job", gettext_lazy("A job was started again")
    EXPORTED = "exported", gettext_lazy("Data was exported")
    ERASED = "erased", gettext_lazy("A person was deleted")
    GUARDIAN_LINKED = "guardian_linked", gettext_lazy("A guardian was linked")
    GUARDIAN_ENDED = "guardian_ended", gettext_lazy("A guardian’s link ended")
    JOINED_GROUP = "joined_group", gettext_lazy("Joined a group")
    LEFT_GROUP = "left_group", gettext_lazy("Left a group")
    PRACTISING = "practising", gettext_lazy("Became the practice learner")
    VOIDED = "voided", gettext_lazy("An answer no longer counts")
    HANDED_IN_FOR = "handed_in_for", gettext_lazy("Handed in for somebody")
    ALLOWED = "allowed", gettext_lazy("A learner got more time or attempts in a test")
    SITTING = "sitting", gettext_lazy("A running test was paused, resumed or given more time")
    TEST_REOPENED = "test_reopened", gettext_lazy("A test was reopened for somebody")
    ADJUSTED = "adjusted", gettext_lazy("A marker’s points were adjusted")
    WAIVED = "waived", gettext_lazy("Marks released without a second marking")


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
