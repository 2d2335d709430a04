"""Courses, their topics, families with their revisions, and study pages."""

from django.conf import settings
from django.db import models
from pydantic import BaseModel, ConfigDict

from vendaval.people.models import School
from vendaval.shared.columns import column
from vendaval_core.packs.schema import RehearsalModel


class PriorData(BaseModel):
    """What is believed of a course's learners before any answer; the pack's judgement, logits."""

    mean: float
    sd: float
    within_subject: float
    across_subjects: float


class FrameData(BaseModel):
    svg: str
    says: str


class PictureData(BaseModel):
    """A drawing as it is kept: `frames` where it moves."""

    svg: str
    alt: str
    label: str = ""
    start: int = 0
    frames: list[FrameData] = []


class FamilyData(BaseModel):
    """A family as its file has it. What is ordered is in lists, so that no database's own order
    of keys can change a version; the pack's schema checks the rest when it is read."""

    model_config = ConfigDict(extra="allow")
    study: str
    seconds: float


class CurveErrors(BaseModel):
    """Standard errors of applied parameters, where there are any."""

    model_config = ConfigDict(extra="allow")


class Course(models.Model):
    """A course as loaded from a pack.

    rehearsal: the whole test to rehearse, if it has one. files: digest of the pack's files and of
    the code that checked them. content: digest of what the pack says. digest: of the content and
    the parameters in force. open_to_all: whether anybody may learn in it without being put into it.
    """

    key = models.SlugField(unique=True)
    title = models.CharField(max_length=120)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="courses")
    open_to_all = models.BooleanField(default=False)
    prior: PriorData = column(PriorData)
    rehearsal: RehearsalModel | None = column(RehearsalModel)
    files = models.CharField(max_length=64, default="")
    content = models.CharField(max_length=64, default="")
    digest = models.CharField(max_length=64, default="")


class Subject(models.Model):
    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="subjects")
    key = models.SlugField()
    title = models.CharField(max_length=120)
    position = models.PositiveSmallIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["course", "key"], name="subject_key")]


class Topic(models.Model):
    """A topic. `target` in per cent; `after` lists prerequisite topic keys. closed: asked of nobody
    any more.

    pack: the pack it came from, which alone can take it out again. digest: of its families, their
    curves and its study page.
    """

    subject = models.ForeignKey(Subject, on_delete=models.CASCADE, related_name="topics")
    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="topics")
    key = models.SlugField()
    title = models.CharField(max_length=120)
    position = models.PositiveSmallIntegerField()
    target = models.FloatField()
    importance = models.FloatField()
    after: list[str] = column(list[str], list)
    closed = models.BooleanField(default=False)
    pack = models.SlugField(blank=True)
    digest = models.CharField(max_length=64, default="")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["course", "key"], name="topic_key")]


class StudySection(models.Model):
    """A section of a topic's study page. figure: its drawing's svg and alt, or nothing."""

    topic = models.ForeignKey(Topic, on_delete=models.CASCADE, related_name="sections")
    key = models.SlugField()
    title = models.CharField(max_length=160)
    markdown = models.TextField()
    figure: PictureData | None = column(PictureData)
    minutes = models.PositiveSmallIntegerField()
    position = models.PositiveSmallIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["topic", "key"], name="section_key")]


class ResourceKind(models.TextChoices):
    VIDEO = "video"
    FILE = "file"
    LINK = "link"


class Resource(models.Model):
    """A film, a file or a link beside a study section. section: its key. file, captions: names in
    the store, made from their content."""

    topic = models.ForeignKey(Topic, on_delete=models.CASCADE, related_name="resources")
    key = models.SlugField()
    title = models.CharField(max_length=120)
    kind = models.CharField(max_length=5, choices=ResourceKind.choices)
    section = models.SlugField()
    minutes = models.PositiveSmallIntegerField()
    file = models.CharField(max_length=120, blank=True)
    captions = models.CharField(max_length=120, blank=True)
    url = models.CharField(max_length=300, blank=True)
    position = models.PositiveSmallIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["topic", "key"], name="resource_key")]


class Collection(models.Model):
    """Questions of a group's own: asked there alone, and no part of any level, until an author
    takes them into the course."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="collections")


class Family(models.Model):
    """A question idea. Its content lives in revisions; `live` ones are asked and make the level.
    rehearsal: whether it is one to try out, which is never live and never counts. collection: whose
    own question it is, None for one of the course.

    pack: the pack it came from, empty for one written here. timed_answers, timed_seconds: first
    tries given so far and the seconds they took, kept by a trigger on the log of tries.
    """

    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="families")
    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="families")
    key = models.SlugField(max_length=60)
    live = models.BooleanField(default=True)
    rehearsal = models.BooleanField(default=False)
    collection = models.ForeignKey(
        Collection, null=True, on_delete=models.PROTECT, related_name="families"
    )
    pack = models.SlugField(blank=True)
    latest = models.ForeignKey(
        "FamilyRevision", null=True, on_delete=models.PROTECT, related_name="+"
    )
    timed_answers = models.PositiveIntegerField(default=0)
    timed_seconds = models.FloatField(default=0.0)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["course", "key"], name="family_key")]


class StoppedFamily(models.Model):
    """A family that is not asked any more because somebody found it faulty, until it is again. It
    stays so when its pack is loaded anew."""

    family = models.OneToOneField(Family, on_delete=models.CASCADE, related_name="stopped")
    why = models.CharField(max_length=300)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField()


class FamilyRevision(models.Model):
    """A family as it stood: kept for ever, so that every presentation can be made again."""

    family = models.ForeignKey(Family, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    data: FamilyData = column(FamilyData)
    digest = models.CharField(max_length=64)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["family", "number"], name="revision_number")]


class RevisionSource(models.Model):
    """What a revision was made from: its file's text, by whom, when and why.

    by: nobody for one that was loaded from a pack. in_pack: whether the pack had it so when it was
    last loaded. fresh: whether what is asked changed so much that answers to earlier revisions say
    nothing of its difficulty.
    """

    revision = models.OneToOneField(FamilyRevision, on_delete=models.CASCADE, related_name="source")
    text = models.TextField()
    why = models.CharField(max_length=300, blank=True)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField()
    in_pack = models.BooleanField()
    fresh = models.BooleanField(default=False)


class CourseFile(models.Model):
    """A file of a course that is no family: the newest row of a path is in force, none is changed.

    path: in the course's pack. text: what is in it; stored: its name in the store instead, for
    what is no text. gone: whether it was taken out. by: nobody for one from a pack. in_pack: as of
    a revision.
    """

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="kept_files")
    path = models.CharField(max_length=300)
    text = models.TextField(blank=True)
    stored = models.CharField(max_length=120, blank=True)
    gone = models.BooleanField(default=False)
    why = models.CharField(max_length=300, blank=True)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField()
    in_pack = models.BooleanField()

    class Meta:
        indexes = [models.Index(fields=["course", "path", "-id"], name="course_file_latest")]


class FamilyCurve(models.Model):
    """Parameters that were applied to a family; the latest row is in force, none is ever changed.

    Without a row the author's judgement holds. a per logit, b and steps in logits, c a chance.
    calibration: number of the calibration it comes from. applied_by: who answers for it.
    """

    family = models.ForeignKey(Family, on_delete=models.CASCADE, related_name="curves")
    a = models.FloatField()
    b = models.FloatField()
    c = models.FloatField()
    steps: list[float] = column(list[float], list)
    errors: CurveErrors = column(CurveErrors, CurveErrors)
    answers = models.PositiveIntegerField()
    calibration = models.PositiveIntegerField()
    applied_by = models.CharField(max_length=150)
    applied_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["family", "-id"], name="curve_latest")]


class Trial(models.Model):
    """Two texts held against each other: of a question's feedback, hint or solution, or of a study
    section. Each learner gets one of them.

    family, place: the question and where the text stands in its file; revision: the question with
    the second text, which those learners get that have it. topic, section: of a study section
    instead. first, second: the texts. until: when it ends without an answer. verdict: as the core
    has it, "" while it goes on, STOPPED where somebody ended it or what it is about changed.
    result: effect in points, what it lies between, answers. adopted_at: when its better text was
    taken over.
    """

    STOPPED = "stopped"

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="trials")
    family = models.ForeignKey(Family, null=True, on_delete=models.CASCADE, related_name="trials")
    place = models.CharField(max_length=60, blank=True)
    revision = models.ForeignKey(
        FamilyRevision, null=True, on_delete=models.PROTECT, related_name="+"
    )
    topic = models.ForeignKey(Topic, null=True, on_delete=models.CASCADE, related_name="trials")
    section = models.SlugField(blank=True)
    name = models.CharField(max_length=200)
    first = models.TextField()
    second = models.TextField()
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    began_at = models.DateTimeField()
    until = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    verdict = models.CharField(max_length=10, blank=True)
    result = models.JSONField(default=dict)
    adopted_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["family"], condition=models.Q(ended_at=None), name="one_trial_of_family"
            ),
            models.UniqueConstraint(
                fields=["topic", "section"],
                condition=models.Q(ended_at=None),
                name="one_trial_of_section",
            ),
        ]
