"""Courses, their topics, families with their revisions, and study pages."""

from django.db import models


class Course(models.Model):
    """A course as loaded from a pack. `digest` changes with any change of content."""

    key = models.SlugField(unique=True)
    title = models.CharField(max_length=120)
    school = models.CharField(max_length=120)
    prior = models.JSONField()
    digest = models.CharField(max_length=64)


class Subject(models.Model):
    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="subjects")
    key = models.SlugField()
    title = models.CharField(max_length=120)
    position = models.PositiveSmallIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["course", "key"], name="subject_key")]


class Topic(models.Model):
    """A topic. `target` in per cent; `after` lists prerequisite topic keys."""

    subject = models.ForeignKey(Subject, on_delete=models.CASCADE, related_name="topics")
    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="topics")
    key = models.SlugField()
    title = models.CharField(max_length=120)
    position = models.PositiveSmallIntegerField()
    target = models.FloatField()
    importance = models.FloatField()
    after = models.JSONField(default=list)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["course", "key"], name="topic_key")]


class StudySection(models.Model):
    """A section of a topic's study page."""

    topic = models.ForeignKey(Topic, on_delete=models.CASCADE, related_name="sections")
    key = models.SlugField()
    title = models.CharField(max_length=160)
    markdown = models.TextField()
    minutes = models.PositiveSmallIntegerField()
    position = models.PositiveSmallIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["topic", "key"], name="section_key")]


class Family(models.Model):
    """A question idea. Its content lives in revisions; `live` ones are asked and make the level."""

    topic = models.ForeignKey(Topic, on_delete=models.PROTECT, related_name="families")
    course = models.ForeignKey(Course, on_delete=models.CASCADE, related_name="families")
    key = models.SlugField(max_length=60)
    live = models.BooleanField(default=True)
    latest = models.ForeignKey(
        "FamilyRevision", null=True, on_delete=models.PROTECT, related_name="+"
    )

    class Meta:
        constraints = [models.UniqueConstraint(fields=["course", "key"], name="family_key")]


class FamilyRevision(models.Model):
    """A family as it stood: kept for ever, so that every presentation can be made again."""

    family = models.ForeignKey(Family, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    data = models.JSONField()
    digest = models.CharField(max_length=64)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["family", "number"], name="revision_number")]
