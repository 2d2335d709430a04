"""What follows from the log: observations, a learner's state, the levels shown, targets met."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from vendaval.bank.models import Family, Topic
from vendaval.groups.models import Enrolment
from vendaval.shared.changes import Versioned
from vendaval.shared.columns import column
from vendaval.work.models import Try, Visibility
from vendaval_core.mastery.pace import Pace
from vendaval_core.measure.effort import Effort
from vendaval_core.measure.level import LevelReading

from .columns import FamilyHistory, ReadingData, StudyPlace, TopicHistory


class LearnerState(Versioned):
    """A learner's state in a course: follows from the observations and can be made again from
    them. Its version guards everything that belongs to the enrolment.

    state: arrays of the posterior. families, topics: histories by key. standing: the reading of
    each topic. to_study: by topic key the section to read first. digest: of the content that the
    standing was computed with. base: of the prior and topics that the state was computed with.
    idle_days: time away that no observation has taken in yet. pace: how long questions take this
    learner. effort: where the present sitting stands. freshened_at: when the last freshening began.
    """

    enrolment = models.OneToOneField(Enrolment, on_delete=models.CASCADE, related_name="state")
    state = models.BinaryField(default=bytes)
    families: dict[str, FamilyHistory] = column(dict[str, FamilyHistory], dict)
    topics: dict[str, TopicHistory] = column(dict[str, TopicHistory], dict)
    standing: dict[str, ReadingData] = column(dict[str, ReadingData], dict)
    to_study: dict[str, StudyPlace] = column(dict[str, StudyPlace], dict)
    digest = models.CharField(max_length=64, blank=True)
    base = models.CharField(max_length=64, blank=True)
    presented = models.PositiveIntegerField(default=0)
    answers = models.PositiveIntegerField(default=0)
    sitting = models.PositiveIntegerField(default=0)
    idle_days = models.FloatField(default=0.0)
    pace: Pace = column(Pace, Pace)
    effort: Effort = column(Effort, Effort)
    freshened_at = models.DateTimeField(null=True)
    last_answer_at = models.DateTimeField(null=True)


class ObservationSet(models.QuerySet["Observation"]):
    """Observations, among which some stand for others."""

    def in_force(self) -> ObservationSet:
        """Those that count now: replaced by none, not undone, not waiting for marks."""
        later = Observation.objects.filter(replaces=models.OuterRef("pk"))
        return self.filter(~models.Exists(later), counts=True)

    def told(self) -> ObservationSet:
        """Those in force that authors and tutors may learn of: of real learners, with an outcome,
        and nothing that the rules of a test hold back."""
        return (
            self.in_force()
            .filter(enrolment__person__practice_for=None)
            .exclude(outcome=None)
            .exclude(tried__presentation__in_open_test=True)
            .exclude(tried__presentation__visibility=Visibility.NOTHING)
        )


class Observation(models.Model):
    """What the measurement folds: one outcome of one family, with its weight and why.

    The newest that replaces another stands in its place, also in order. tried: the try whose marks
    it comes from. outcome: category of the first tries, null for "not taught"; `counts` is false
    for one that was undone, or that waits for its marks. of: outcomes there were. days: time
    away before it. learning: whether feedback followed. lapse: chance that some of the topic was
    lost before it, where it begins a recheck. before, after: the topic's reading.
    """

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="observations")
    tried = models.ForeignKey(Try, on_delete=models.CASCADE, related_name="observations")
    family = models.ForeignKey(Family, on_delete=models.PROTECT, related_name="+")
    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="+")
    outcome = models.PositiveSmallIntegerField(null=True)
    of = models.PositiveSmallIntegerField()
    counts = models.BooleanField(default=True)
    weight = models.FloatField()
    reason = models.CharField(max_length=20)
    sitting = models.PositiveIntegerField()
    days = models.FloatField(default=0.0)
    learning = models.BooleanField(default=False)
    lapse = models.FloatField(default=0.0)
    before: ReadingData | None = column(ReadingData)
    after: ReadingData | None = column(ReadingData)
    replaces = models.ForeignKey("self", null=True, on_delete=models.CASCADE, related_name="+")
    at = models.DateTimeField()

    objects = ObservationSet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["enrolment", "topic", "-at"], name="observed_topic")]


class LevelReason(models.TextChoices):
    ANSWER = "answer"
    CALIBRATION = "calibration"


class LevelRecord(models.Model):
    """A level as it was shown, and what made it. Never rewritten."""

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="levels")
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
        indexes = [models.Index(fields=["enrolment", "topic", "-at"], name="level_latest")]

    def reading(self) -> LevelReading:
        """The level as the core reads one."""
        return LevelReading(self.level, self.low, self.high, self.sd, self.target, self.chance)


class TargetMet(models.Model):
    """The moment a learner met a topic's target. Later practice never takes it away."""

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="targets")
    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="+")
    level = models.FloatField()
    chance = models.FloatField()
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["enrolment", "topic"], name="met_once")]


class Voided(models.Model):
    """A first try that counts for no level, because somebody said why; until it was counted again.
    The try and its marks stay as they are."""

    tried = models.ForeignKey(Try, on_delete=models.CASCADE, related_name="voided")
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    why = models.CharField(max_length=200)
    at = models.DateTimeField()
    until = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["tried"], condition=models.Q(until=None), name="voided_once"
            )
        ]
