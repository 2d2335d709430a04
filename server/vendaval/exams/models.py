"""Tests, what they were given as, and attempts at them."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.utils.translation import gettext_lazy

from vendaval.bank.models import Course
from vendaval.groups.models import Enrolment, GivenToGroup
from vendaval.shared.changes import Versioned
from vendaval.shared.columns import column
from vendaval.work.models import Presentation, Run
from vendaval_core.assessment.attempt import Attempt as CoreAttempt
from vendaval_core.assessment.paper import USUAL_MINUTES, PagesWanted

from .columns import (
    CompositionData,
    CriterionData,
    LateSave,
    LevelStep,
    MarkingData,
    PaperData,
    PlaceData,
    RegradeWay,
    RulesData,
    SoFarData,
    StandingData,
    TotalData,
    empty_composition,
)

PERSON = settings.AUTH_USER_MODEL


class Test(models.Model):
    """A test of a course. mirror_of: the one whose entries it has with other numbers; it never
    counts, and opens as `mirror_waits` of the core says. rehearsal: whether it is the one of its
    course to try everything out in, which never counts either."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="tests")
    title = models.CharField(max_length=120)
    directions = models.TextField(blank=True)
    materials = models.TextField(blank=True)
    composition: CompositionData = column(CompositionData, empty_composition)
    rules: RulesData = column(RulesData, RulesData)
    author = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    mirror_of = models.OneToOneField(
        "self", null=True, on_delete=models.CASCADE, related_name="mirror"
    )
    rehearsal = models.BooleanField(default=False)
    made_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["course"], condition=models.Q(rehearsal=True), name="one_rehearsal"
            )
        ]

    @property
    def counts(self) -> bool:
        """Whether what is answered in it makes levels and misses."""
        return self.mirror_of_id is None and not self.rehearsal


class Assignment(GivenToGroup):
    """A test given to a group. pages: whether learners may or must add pages of paper, taken for so
    many minutes after handing in. mirror_early: whether its mirror may be tried before the attempts
    are used up. prolonged_until: when the last learner is through who got more time while sitting,
    or may be; what is told by dates waits for that."""

    test = models.ForeignKey(Test, on_delete=models.CASCADE, related_name="assignments")
    pages = models.CharField(
        max_length=4,
        choices=[(one.value, one.value) for one in PagesWanted],
        default=PagesWanted.NONE,
    )
    pages_minutes = models.PositiveSmallIntegerField(default=USUAL_MINUTES)
    mirror_early = models.BooleanField(default=False)
    prolonged_until = models.DateTimeField(null=True)


class Allowance(models.Model):
    """What one learner is allowed at an assignment beside its rules; the newest counts. times,
    minutes: extra time. attempts: more of them. dates: in the place of the group's."""

    assignment = models.ForeignKey(Assignment, on_delete=models.CASCADE, related_name="allowances")
    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="+")
    times = models.FloatField(default=1.0)
    minutes = models.FloatField(default=0.0)
    attempts = models.PositiveSmallIntegerField(default=0)
    opens = models.DateTimeField(null=True)
    due = models.DateTimeField(null=True)
    closes = models.DateTimeField(null=True)
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    why = models.CharField(max_length=200)
    at = models.DateTimeField()


class Accommodation(models.Model):
    """What a learner is allowed in every test of a course, unless it says otherwise; the newest
    counts. times, minutes: extra time. large_print, reader, separate_room: as agreed."""

    enrolment = models.ForeignKey(
        Enrolment, on_delete=models.CASCADE, related_name="accommodations"
    )
    times = models.FloatField(default=1.0)
    minutes = models.FloatField(default=0.0)
    large_print = models.BooleanField(default=False)
    reader = models.BooleanField(default=False)
    separate_room = models.BooleanField(default=False)
    why = models.CharField(max_length=200, blank=True)
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField()


class Attempt(Versioned):
    """One learner's go. rules, places: as they were when it began; they govern it to its end.

    confirmed_at: when the learner confirmed the start. loaded_at: when everything was there. due:
    the learner's own, by which it is late. handed_in_at: as in `standing`, to be searched. marked:
    whether its tries were written. by_hand: parts that a person marks, once they are; None where
    that was never counted. released_at: when its marks were released. receipt: number to look
    up. levels: of its topics before and after its answers counted.
    """

    enrolment = models.ForeignKey(Enrolment, on_delete=models.CASCADE, related_name="attempts")
    test = models.ForeignKey(Test, on_delete=models.CASCADE, related_name="attempts")
    assignment = models.ForeignKey(
        Assignment, null=True, on_delete=models.CASCADE, related_name="attempts"
    )
    run = models.OneToOneField(Run, on_delete=models.CASCADE, related_name="attempt")
    number = models.PositiveSmallIntegerField()
    rules: RulesData = column(RulesData, RulesData)
    places: list[PlaceData] = column(list[PlaceData], list)
    standing: StandingData = column(StandingData, StandingData)
    confirmed_at = models.DateTimeField()
    loaded_at = models.DateTimeField(null=True)
    due = models.DateTimeField(null=True)
    handed_in_at = models.DateTimeField(null=True)
    marked = models.BooleanField(default=False)
    by_hand = models.PositiveSmallIntegerField(null=True)
    total: TotalData | None = column(TotalData)
    released_at = models.DateTimeField(null=True)
    receipt = models.CharField(max_length=9, blank=True)
    paper: PaperData = column(PaperData, PaperData)
    levels: list[LevelStep] = column(list[LevelStep], list)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["enrolment", "test", "assignment", "number"], name="attempt_number"
            ),
            models.UniqueConstraint(
                fields=["enrolment", "test"],
                condition=models.Q(handed_in_at=None),
                name="attempt_under_way",
            ),
        ]

    def core(self) -> CoreAttempt:
        """As the core's functions take it."""
        return self.standing.core(self.rules.core(), self.places)


class InterventionKind(models.TextChoices):
    """What whoever watches over a test does with an attempt."""

    MORE_TIME = "more_time", gettext_lazy("given more time")
    PAUSED = "paused", "paused"
    RESUMED = "resumed", "resumed"
    REOPENED = "reopened", "reopened"
    HANDED_IN = "handed_in", gettext_lazy("handed in by a tutor")


class Intervention(models.Model):
    """Something a tutor did with an attempt: only added to. says: what, in words."""

    attempt = models.ForeignKey(Attempt, on_delete=models.CASCADE, related_name="interventions")
    kind = models.CharField(max_length=9, choices=InterventionKind.choices)
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    why = models.CharField(max_length=200, blank=True)
    says = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField()


class AnswerSoFar(models.Model):
    """What stands at a question of an attempt: changes until it is handed in.

    counter: of the last save taken; one that is not newer changes nothing. seen: whether it was
    shown. seconds: in view. sent: whether it was sent for good by itself. late: what came after
    the end. unreadable: parts that no rule could read at handing in, for a person to mark.
    """

    attempt = models.ForeignKey(Attempt, on_delete=models.CASCADE, related_name="answers")
    number = models.PositiveSmallIntegerField()
    presentation = models.OneToOneField(
        Presentation, on_delete=models.CASCADE, related_name="so_far"
    )
    counter = models.PositiveIntegerField(default=0)
    data: SoFarData = column(SoFarData, SoFarData)
    unreadable: list[str] | None = column(list[str])
    seen = models.BooleanField(default=False)
    seconds = models.FloatField(default=0)
    saved_at = models.DateTimeField(null=True)
    late: LateSave | None = column(LateSave)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["attempt", "number"], name="answer_place")]


class Page(models.Model):
    """A page of paper added to an attempt after it was handed in. place: among its pages, from 1.
    questions: numbers of those it answers. turns: how often it was turned. came: how it got
    here."""

    attempt = models.ForeignKey(Attempt, on_delete=models.CASCADE, related_name="pages")
    place = models.PositiveSmallIntegerField()
    questions: list[int] = column(list[int], list)
    turns = models.PositiveSmallIntegerField(default=0)
    came = models.CharField(
        max_length=6, choices=[(one, one) for one in ("phone", "camera", "file")]
    )
    at = models.DateTimeField()


class PageImage(models.Model):
    """What a page looks like, upright and made anew, in full and small: JPEG. In the database, so
    that backups, restores and erasures need nothing beside it."""

    page = models.OneToOneField(
        Page, primary_key=True, on_delete=models.CASCADE, related_name="image"
    )
    full = models.BinaryField()
    small = models.BinaryField()


class Criteria(models.Model):
    """A tutor's own criteria for a part of a question in a test, in the place of its author's."""

    test = models.ForeignKey(Test, on_delete=models.CASCADE, related_name="criteria")
    family = models.CharField(max_length=60)
    part = models.CharField(max_length=30)
    criteria: list[CriterionData] = column(list[CriterionData], list)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["test", "family", "part"], name="criteria_once")
        ]


class SecondMarker(models.Model):
    """Who marks a test that was given to a group a second time. sample: attempts they mark, None
    for all of them."""

    assignment = models.OneToOneField(
        Assignment, on_delete=models.CASCADE, related_name="second_marker"
    )
    person = models.ForeignKey(PERSON, on_delete=models.CASCADE, related_name="+")
    sample: list[int] | None = column(list[int])

    def marks(self, attempt_id: int) -> bool:
        """Whether they mark an attempt."""
        return self.sample is None or attempt_id in self.sample


class MarkerRole(models.TextChoices):
    """As whom somebody marks. AGREED: what both settled on where they differ."""

    FIRST = "first", gettext_lazy("first marker")
    SECOND = "second", gettext_lazy("second marker")
    AGREED = "agreed", "agreed"


class Marking(models.Model):
    """What a marker gave a part of an answer: only added to, the newest of a role counts that was
    not undone. Nothing reaches the learner before the marks are released."""

    answer = models.ForeignKey(AnswerSoFar, on_delete=models.CASCADE, related_name="markings")
    part = models.CharField(max_length=30)
    role = models.CharField(max_length=6, choices=MarkerRole.choices)
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    data: MarkingData = column(MarkingData, MarkingData)
    at = models.DateTimeField()
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["answer", "part", "role", "-id"], name="marking_newest")]


class RegradeState(models.TextChoices):
    """Where a regrade stands. It is applied, and undone, in the background."""

    WAITING = "waiting", gettext_lazy("waiting to be applied")
    APPLYING = "applying", gettext_lazy("being applied")
    APPLIED = "applied", "applied"
    UNDOING = "undoing", gettext_lazy("being undone")
    UNDONE = "undone", "undone"


class Regrade(models.Model):
    """Another way to mark a question of a test, for everybody who took it. done, of: attempts."""

    assignment = models.ForeignKey(Assignment, on_delete=models.CASCADE, related_name="regrades")
    family = models.CharField(max_length=60)
    way: RegradeWay = column(RegradeWay, RegradeWay)
    why = models.CharField(max_length=400)
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField()
    state = models.CharField(
        max_length=8, choices=RegradeState.choices, default=RegradeState.WAITING
    )
    of = models.PositiveIntegerField(default=0)
    done = models.PositiveIntegerField(default=0)
    undone_by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    undone_at = models.DateTimeField(null=True)


class RegradedAttempt(models.Model):
    """What a regrade did to an attempt, so that it is done once and can be undone. undone: whether
    it was undone."""

    regrade = models.ForeignKey(Regrade, on_delete=models.CASCADE, related_name="attempts")
    attempt = models.ForeignKey(Attempt, on_delete=models.CASCADE, related_name="regrades")
    before: TotalData | None = column(TotalData)
    after: TotalData | None = column(TotalData)
    undone = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["regrade", "attempt"], name="regraded_once")]
