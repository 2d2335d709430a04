"""Files of questions that somebody wants to take into a course, and what became of them."""

from django.conf import settings
from django.db import models

from vendaval.bank.models import Course, Topic
from vendaval.exams.models import Test

PERSON = settings.AUTH_USER_MODEL


class ImportState(models.TextChoices):
    """LOOKING: its questions are being checked. READY: to be decided on. STORING: being taken in.
    FAILED: nothing was taken in. UNDONE: everything was taken back."""

    LOOKING = "looking"
    READY = "ready"
    STORING = "storing"
    DONE = "done"
    FAILED = "failed"
    UNDONE = "undone"


class ImportKind(models.TextChoices):
    """SHEET: a spreadsheet of questions. PACK: a course's own files. QTI: items of the standard."""

    SHEET = "sheet"
    PACK = "pack"
    QTI = "qti"


class Import(models.Model):
    """A file of questions. stored: its name in the store, and report: what it would change, of a
    pack. unread: what of it means nothing here. topic: for questions that name
    none. tests: of a package, as they were read; `skip`: whether one stays out, `made`: the test it
    became. publish: whether learners get them at once. done: questions looked at, or taken in, so
    far. why: of the change, or why it failed."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="imports")
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=5, choices=ImportKind.choices, default=ImportKind.SHEET)
    stored = models.CharField(max_length=120, blank=True)
    report = models.JSONField(default=dict)
    tests = models.JSONField(default=list)
    at = models.DateTimeField()
    state = models.CharField(max_length=8, choices=ImportState.choices)
    unread = models.JSONField(default=list)
    topic = models.ForeignKey(Topic, null=True, on_delete=models.SET_NULL, related_name="+")
    publish = models.BooleanField(default=False)
    done = models.PositiveIntegerField(default=0)
    why = models.CharField(max_length=300, blank=True)

    class Meta:
        indexes = [models.Index(fields=["course", "-id"], name="import_newest")]


class ImportRow(models.Model):
    """A question of a file. line: in it. cells: text by column. topic: of the course, None where it
    names none. problems: [column, what] pairs. notes: what is kept otherwise than written. same:
    key of a question of the course that asks the same. skip: whether it stays out. key, text: of
    the question it became, as its file had it then. item: what was read, of an item of QTI.
    before: the text of the question it replaced."""

    of = models.ForeignKey(Import, on_delete=models.CASCADE, related_name="rows")
    line = models.PositiveIntegerField()
    cells = models.JSONField()
    topic = models.ForeignKey(Topic, null=True, on_delete=models.SET_NULL, related_name="+")
    problems = models.JSONField(default=list)
    notes = models.JSONField(default=list)
    same = models.SlugField(max_length=60, blank=True)
    skip = models.BooleanField(default=False)
    key = models.SlugField(max_length=60, blank=True)
    text = models.TextField(blank=True)
    item = models.JSONField(default=dict)
    before = models.TextField(blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["of", "line"], name="import_line")]


class ImportedItem(models.Model):
    """An item of QTI that a course took in: by its identifier, which question it became. digest: of
    its file."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="imported_items")
    identifier = models.CharField(max_length=200)
    key = models.SlugField(max_length=60)
    digest = models.CharField(max_length=64)
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["course", "identifier"], name="one_imported_item")
        ]


class ExportState(models.TextChoices):
    """WRITING: in the background. FAILED: why says what was wrong."""

    WRITING = "writing"
    DONE = "done"
    FAILED = "failed"


class Export(models.Model):
    """A package that somebody wants of a course: of all its questions, of a topic's, or of a test
    and its questions. versions: of each question at most. done: questions written so far, of many.
    lost: what other programs don't know, by question. stored: its name in the store."""

    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="exports")
    by = models.ForeignKey(PERSON, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField()
    topic = models.ForeignKey(Topic, null=True, on_delete=models.SET_NULL, related_name="+")
    test = models.ForeignKey(Test, null=True, on_delete=models.CASCADE, related_name="+")
    versions = models.PositiveIntegerField(default=1)
    state = models.CharField(max_length=8, choices=ExportState.choices)
    done = models.PositiveIntegerField(default=0)
    many = models.PositiveIntegerField(default=0)
    lost = models.JSONField(default=list)
    stored = models.CharField(max_length=120, blank=True)
    why = models.CharField(max_length=300, blank=True)

    class Meta:
        indexes = [models.Index(fields=["course", "-id"], name="export_newest")]
