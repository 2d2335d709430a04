"""The one event log: runs, presentations, tries and help; and what follows from it: state,
levels and misses. Tries, help and level records are only ever added to."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from vendaval.bank.models import Course, Family, FamilyRevision, Topic


class Purpose(models.TextChoices):
    DIAGNOSTIC = "diagnostic"
    PRACTICE = "practice"
    MISSED = "missed"


class Run(models.Model):
    """A stretch of work that can be left and taken up again.

    scope: topic keys. note: what the activity keeps about it. seconds: time spent answering.
    """

    learner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="runs"
    )
    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="+")
    purpose = models.CharField(max_length=12, choices=Purpose.choices)
    title = models.CharField(max_length=120)
    scope = models.JSONField()
    note = models.JSONField(default=dict)
    answered = models.PositiveIntegerField(default=0)
    seconds = models.FloatField(default=0.0)
    started_at = models.DateTimeField()
    touched_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    current = models.ForeignKey(
        "Presentation", null=True, on_delete=models.SET_NULL, related_name="+"
    )

    class Meta:
        indexes = [models.Index(fields=["learner", "ended_at", "-touched_at"], name="run_open")]


class Closing(models.TextChoices):
    """How a presentation ended."""

    ANSWERED = "answered"
    NOT_TAUGHT = "not_taught"
    SWAPPED = "swapped"
    REPLACED = "replaced"
    SHOWN = "shown"
    WITHDRAWN = "withdrawn"


class Presentation(models.Model):
    """One version shown to one learner for one purpose.

    order: shuffles the choices of a version seen before. root: the presentation that "same idea,
    new numbers" began from. why: the terms that made this the question to ask.
    """

    learner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="presentations"
    )
    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="presentations")
    revision = models.ForeignKey(FamilyRevision, on_delete=models.PROTECT, related_name="+")
    purpose = models.CharField(max_length=12, choices=Purpose.choices)
    seed = models.PositiveSmallIntegerField()
    order = models.PositiveIntegerField(default=0)
    number = models.PositiveIntegerField()
    root = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="+")
    miss = models.ForeignKey("Miss", null=True, on_delete=models.SET_NULL, related_name="mends")
    why = models.JSONField(default=dict)
    hints_shown = models.PositiveSmallIntegerField(default=0)
    helped = models.BooleanField(default=False)
    made_at = models.DateTimeField()
    shown_at = models.DateTimeField(null=True)
    closed_at = models.DateTimeField(null=True)
    closing = models.CharField(max_length=12, choices=Closing.choices, blank=True)


class TryKind(models.TextChoices):
    ANSWER = "answer"
    NOT_TAUGHT = "not_taught"
    TAKEN_BACK = "taken_back"


class Try(models.Model):
    """One answer to a presentation, kept for ever as it was.

    response, results, marks: by part id. share: points so far, 0 to 1. outcome: category of the
    first tries once every part has had one, of so many outcomes. weight to learning: all that
    the measurement needs to be rebuilt. takes_back: the not-taught answer that this entry undoes.
    """

    presentation = models.ForeignKey(Presentation, on_delete=models.CASCADE, related_name="tries")
    learner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="tries"
    )
    family = models.ForeignKey(Family, on_delete=models.PROTECT, related_name="+")
    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="+")
    replay_key = models.CharField(max_length=64)
    kind = models.CharField(max_length=12, choices=TryKind.choices)
    number = models.PositiveSmallIntegerField()
    response = models.JSONField(default=dict)
    results = models.JSONField(default=dict)
    marks = models.JSONField(default=dict)
    share = models.FloatField(default=0.0)
    first = models.BooleanField(default=False)
    outcome = models.SmallIntegerField(null=True)
    outcomes = models.PositiveSmallIntegerField(default=2)
    confidence = models.PositiveSmallIntegerField(null=True)
    seconds = models.FloatField()
    weight = models.FloatField(default=0.0)
    weight_reason = models.CharField(max_length=20, blank=True)
    sitting = models.PositiveIntegerField()
    days = models.FloatField(default=0.0)
    learning = models.BooleanField(default=False)
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)
    note = models.JSONField(default=dict)
    leads_to = models.ForeignKey(
        Presentation, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    takes_back = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["learner", "replay_key"], name="try_replay_key"),
            models.UniqueConstraint(fields=["presentation", "number"], name="try_number"),
        ]
        indexes = [models.Index(fields=["learner", "topic", "-at"], name="try_topic")]


class HelpKind(models.TextChoices):
    HINT = "hint"
    SOLUTION = "solution"
    STUDY = "study"


class HelpOpened(models.Model):
    """Help that was opened for a presentation, or a study section read in between."""

    learner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+"
    )
    presentation = models.ForeignKey(
        Presentation, null=True, on_delete=models.CASCADE, related_name="help"
    )
    kind = models.CharField(max_length=10, choices=HelpKind.choices)
    detail = models.CharField(max_length=120)
    at = models.DateTimeField()


class LearnerCourse(models.Model):
    """A learner's state in a course: follows from the log and can be made again from it.

    state: arrays of the posterior. seen: by family key, see `state.FamilySeen`. By topic key:
    standing, the current reading; met, when its target was met; to_study, the section to read
    first after "I haven't been taught this". digest: content the standing was computed with.
    measure: digest of the prior and curves that the state was computed with.
    """

    learner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="states"
    )
    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="+")
    state = models.BinaryField(default=bytes)
    seen = models.JSONField(default=dict)
    standing = models.JSONField(default=dict)
    met = models.JSONField(default=dict)
    to_study = models.JSONField(default=dict)
    digest = models.CharField(max_length=64, blank=True)
    measure = models.CharField(max_length=64, blank=True)
    presented = models.PositiveIntegerField(default=0)
    answers = models.PositiveIntegerField(default=0)
    sitting = models.PositiveIntegerField(default=0)
    last_answer_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["learner", "course"], name="one_state")]


class LevelReason(models.TextChoices):
    ANSWER = "answer"
    CALIBRATION = "calibration"


class LevelRecord(models.Model):
    """A level as it was shown, and what made it. Never rewritten."""

    learner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="levels"
    )
    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="+")
    level = models.FloatField()
    low = models.FloatField()
    high = models.FloatField()
    sd = models.FloatField()
    target = models.FloatField()
    chance = models.FloatField()
    reason = models.CharField(
        max_length=12, choices=LevelReason.choices, default=LevelReason.ANSWER
    )
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["learner", "topic", "-at"], name="level_latest")]


class TargetMet(models.Model):
    """The moment a learner met a topic's target. Later practice never takes it away."""

    learner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="targets"
    )
    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="+")
    level = models.FloatField()
    chance = models.FloatField()
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["learner", "topic"], name="met_once")]


class MissState(models.TextChoices):
    OPEN = "open"
    MENDED = "mended"
    SET_ASIDE = "set_aside"


class Miss(models.Model):
    """A family the learner missed at the first try, until it is mended or set aside."""

    learner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="misses"
    )
    family = models.ForeignKey(Family, on_delete=models.PROTECT, related_name="+")
    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="+")
    presentation = models.ForeignKey(Presentation, on_delete=models.CASCADE, related_name="+")
    state = models.CharField(max_length=10, choices=MissState.choices, default=MissState.OPEN)
    confidence = models.PositiveSmallIntegerField(null=True)
    failed_mends = models.PositiveSmallIntegerField(default=0)
    opened_at = models.DateTimeField()
    closed_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["learner", "family"],
                condition=models.Q(state="open"),
                name="one_open_miss",
            )
        ]
        indexes = [models.Index(fields=["learner", "state", "-opened_at"], name="miss_open")]
