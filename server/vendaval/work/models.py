"""The one log: runs, presentations, tries, marks and help opened. Tries, marks and help are only
ever added to."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from vendaval.bank.models import Family, FamilyRevision, Topic
from vendaval.groups.models import Enrolment
from vendaval.shared.columns import column

from .columns import Reply, RunNote, Why, WorkingNote, any_note, empty_note


class Purpose(models.TextChoices):
    DIAGNOSTIC = "diagnostic"
    PRACTICE = "practice"
    MISSED = "missed"
    RECHECK = "recheck"
    QUIZ = "quiz"
    TEST = "test"


class Run(models.Model):
    """A stretch of work that can be left and taken up again.

    scope: topic keys. presented: questions shown so far. note: what the activity keeps about it.
    deadline_at: when it ends by itself; settled by whoever reads it next, and by a job. spell:
    number of the spell of work that it is a piece of. rehearsal: whether it is to try things out
    in, and no part of the learner's record.
    """

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="runs")
    purpose = models.CharField(max_length=12, choices=Purpose.choices)
    title = models.CharField(max_length=120)
    scope: list[str] = column(list[str], list)
    note: RunNote = column(any_note, empty_note)
    presented = models.PositiveIntegerField(default=0)
    answered = models.PositiveIntegerField(default=0)
    started_at = models.DateTimeField()
    touched_at = models.DateTimeField()
    deadline_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    spell = models.PositiveIntegerField(null=True)
    rehearsal = models.BooleanField(default=False)
    current = models.ForeignKey(
        "Presentation", null=True, on_delete=models.SET_NULL, related_name="+"
    )

    class Meta:
        indexes = [
            models.Index(fields=["enrolment", "ended_at", "-touched_at"], name="run_open"),
            models.Index(fields=["deadline_at"], name="run_deadline"),
        ]


class Closing(models.TextChoices):
    """How a presentation ended."""

    ANSWERED = "answered"
    NOT_TAUGHT = "not_taught"
    SWAPPED = "swapped"
    REPLACED = "replaced"
    SHOWN = "shown"
    WITHDRAWN = "withdrawn"


class Visibility(models.TextChoices):
    """How much may be told of a question once it is closed, beside what its purpose says: the rules
    of a test hold it back, and let more of it out in time."""

    NOTHING = "nothing"
    OUTCOME = "outcome"
    ANSWERS = "answers"
    ALL = "all"


class Presentation(models.Model):
    """One version shown to one learner, for the purpose of its run.

    order: shuffles the choices of a version seen before. root: the presentation that "same idea,
    new numbers" began from. why: the terms that made this the question to ask. tried: tries so far.
    in_open_test: it is in a test that is still open for its learner, or whose results are still to
    come, so no other page may show anything about this version (see `open_in_test`).
    """

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="presentations")
    revision = models.ForeignKey(FamilyRevision, on_delete=models.PROTECT, related_name="+")
    seed = models.PositiveSmallIntegerField()
    order = models.PositiveIntegerField(default=0)
    number = models.PositiveIntegerField()
    root = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="+")
    why: Why = column(Why, Why)
    tried = models.PositiveSmallIntegerField(default=0)
    hints_shown = models.PositiveSmallIntegerField(default=0)
    helped = models.BooleanField(default=False)
    made_at = models.DateTimeField()
    shown_at = models.DateTimeField(null=True)
    closed_at = models.DateTimeField(null=True)
    closing = models.CharField(max_length=12, choices=Closing.choices, blank=True)
    visibility = models.CharField(max_length=8, choices=Visibility.choices, default=Visibility.ALL)
    in_open_test = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["run", "number"], name="question_number")]
        indexes = [
            models.Index(
                fields=["run"], condition=models.Q(in_open_test=True), name="question_in_open_test"
            )
        ]

    @property
    def outcome_held(self) -> bool:
        """Whether right or wrong is held back by the rules of a test."""
        return self.visibility == Visibility.NOTHING

    @property
    def answers_held(self) -> bool:
        """Whether its right answers are held back by the rules of a test."""
        return self.visibility not in {Visibility.ANSWERS, Visibility.ALL}


class TryKind(models.TextChoices):
    ANSWER = "answer"
    NOT_TAUGHT = "not_taught"
    UNDONE = "undone"
    SET_ASIDE = "set_aside"


UNDOING = (TryKind.UNDONE, TryKind.SET_ASIDE)


class Tries(models.QuerySet["Try"]):
    """Tries, and those of them that stand."""

    def standing(self) -> Tries:
        """Without what was undone, without what undid it, and without rehearsals."""
        undone = Try.objects.filter(kind__in=UNDOING, undoes=models.OuterRef("pk"))
        rows = self.exclude(kind__in=UNDOING).exclude(models.Exists(undone))
        return rows.filter(presentation__run__rehearsal=False)


class Try(models.Model):
    """What was sent to a presentation: when, how long it took, how sure. Never changed.

    response: by part id. first: it gave the last part its first try. reply: what was said at once,
    so that the same key gets the same reply. undoes: what this undoes: a not-taught answer, or,
    set aside, an answer of a test that was reopened.
    """

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="tries")
    presentation = models.ForeignKey(Presentation, on_delete=models.CASCADE, related_name="tries")
    family = models.ForeignKey(Family, on_delete=models.PROTECT, related_name="+")
    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="+")
    replay_key = models.CharField(max_length=64)
    kind = models.CharField(max_length=12, choices=TryKind.choices)
    number = models.PositiveSmallIntegerField()
    response: dict[str, str] = column(dict[str, str], dict)
    first = models.BooleanField(default=False)
    confidence = models.PositiveSmallIntegerField(null=True)
    working: WorkingNote | None = column(WorkingNote)
    seconds = models.FloatField()
    reply: Reply = column(Reply)
    leads_to = models.ForeignKey(
        Presentation, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    undoes = models.ForeignKey("self", null=True, on_delete=models.CASCADE, related_name="+")
    at = models.DateTimeField()

    objects = Tries.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["enrolment", "replay_key"], name="try_replay_key"),
            models.UniqueConstraint(fields=["presentation", "number"], name="try_number"),
        ]
        indexes = [models.Index(fields=["enrolment", "topic", "-at"], name="try_topic")]


class MarkRule(models.TextChoices):
    """Where a mark comes from."""

    KEY = "key"
    PERSON = "person"
    REGRADE = "regrade"


class Mark(models.Model):
    """What one part of a try earned: added when it is known, and never changed.

    The newest counts. share: exact, as "2/3", 0 to 1; empty for what is kept and not marked yet.
    canonical: the response as it was read. of: things scored. revision: of the key. replaces: the
    mark that this one stands in for.
    """

    tried = models.ForeignKey(Try, on_delete=models.CASCADE, related_name="marks")
    part = models.CharField(max_length=30)
    verdict = models.CharField(max_length=12)
    share = models.CharField(max_length=40, blank=True)
    canonical = models.TextField(blank=True)
    says = models.TextField(blank=True)
    rule = models.CharField(max_length=10, choices=MarkRule.choices)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    revision = models.ForeignKey(FamilyRevision, on_delete=models.PROTECT, related_name="+")
    replaces = models.ForeignKey("self", null=True, on_delete=models.CASCADE, related_name="+")
    at = models.DateTimeField()


class HelpKind(models.TextChoices):
    HINT = "hint"
    SOLUTION = "solution"
    STUDY = "study"
    ANSWER = "answer"


class HelpOpened(models.Model):
    """Help that was opened for a presentation, or a study section read in between.

    number: of the hint. topic, section: keys of the study section.
    """

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="help")
    presentation = models.ForeignKey(
        Presentation, null=True, on_delete=models.CASCADE, related_name="help"
    )
    kind = models.CharField(max_length=10, choices=HelpKind.choices)
    number = models.PositiveSmallIntegerField(default=0)
    topic = models.SlugField(blank=True)
    section = models.SlugField(blank=True)
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["enrolment", "topic", "section"], name="help_section")]
