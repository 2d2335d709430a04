"""Changing what is asked: questions stopped and asked again, curves put in force."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from datetime import datetime

from django.db import transaction
from django.utils.translation import gettext

from vendaval.people.models import User
from vendaval.shared.errors import Conflict

from . import models
from .digests import digest_of


def refresh_digest(course: models.Course) -> None:
    """Give the course and its topics the digests of their content, of the rows that hold it
    (content that comes back may be in new ones), and of the parameters in force."""
    curves: dict[int, list[tuple[int, float]]] = defaultdict(list)
    held: dict[int, list[object]] = defaultdict(list)
    applied = models.FamilyCurve.objects.filter(family__course=course).order_by("pk")
    for topic_id, pk, b in applied.values_list("family__topic_id", "pk", "b"):
        curves[topic_id].append((pk, b))
    for topic_id, *row in course.families.order_by("pk").values_list(
        "topic_id", "pk", "live", "rehearsal", "latest", "latest__digest", "stopped", "collection"
    ):
        # One that is in no collection has the digest that it had before there were any.
        held[topic_id].append(row if row[-1] is not None else row[:-1])
    pages: dict[int, list[object]] = defaultdict(list)
    sections = models.StudySection.objects.filter(topic__course=course).order_by("position")
    for topic_id, *words in sections.values_list("topic_id", "key", "title", "minutes"):
        pages[topic_id].append(words)
    tried: dict[int | None, list[int]] = defaultdict(list)
    trials = models.Trial.objects.filter(family__course=course, ended_at=None).order_by("pk")
    for place, pk in trials.values_list("family__topic_id", "pk"):
        tried[place].append(pk)
    digests = []
    for topic in course.topics.order_by("pk"):
        own = [topic.pk, topic.key, held[topic.pk], curves[topic.pk], pages[topic.pk]]
        if tried[topic.pk]:
            own.append(tried[topic.pk])
        digest = digest_of(own)
        if digest != topic.digest:
            topic.digest = digest
            topic.save(update_fields=["digest"])
        digests.append(digest)
    course.digest = digest_of([course.content, digests])
    course.save(update_fields=["digest"])


def last_of_topic(family: models.Family) -> bool:
    """Whether a topic of the course would have no question any more without this one."""
    others = models.Family.objects.filter(topic=family.topic_id, live=True, collection=None)
    return family.collection_id is None and not others.exclude(pk=family.pk).exists()


def stop_family(family: models.Family, why: str, by: User, at: datetime) -> None:
    """Ask a question of nobody any more. Conflict for the last one of its topic, which would have
    no level then."""
    if stop_families([family], why, by, at):
        says = gettext("This is the only question of its topic, so it can’t be stopped.")
        raise Conflict(says, code="last_of_topic")


@transaction.atomic
def stop_families(
    families: Sequence[models.Family], why: str, by: User, at: datetime
) -> list[models.Family]:
    """Ask questions of a course of nobody any more. Returns those that stay, as the last ones of
    their topics."""
    stay = []
    for family in families:
        if last_of_topic(family):
            stay.append(family)
            continue
        models.StoppedFamily.objects.get_or_create(
            family=family, defaults={"why": why, "by": by, "at": at}
        )
        family.live = False
        family.save(update_fields=["live"])
    if len(stay) < len(families):
        refresh_digest(families[0].course)
    return stay


@transaction.atomic
def ask_family_again(family: models.Family) -> None:
    """Ask a question again that was stopped."""
    if models.StoppedFamily.objects.filter(family=family).delete()[0]:
        family.live = True
        family.save(update_fields=["live"])
        refresh_digest(family.course)


@transaction.atomic
def take_into_course(family: models.Family) -> None:
    """Make a question of a group's own one of the course's. What was answered so far stays out of
    every level; what is answered from now on counts."""
    family.collection, family.pack = None, family.topic.pack
    family.save(update_fields=["collection", "pack"])
    refresh_digest(family.course)


@transaction.atomic
def apply_curves(course: models.Course, curves: Sequence[models.FamilyCurve]) -> None:
    """Put parameters in force. The ones before stay with their dates."""
    models.FamilyCurve.objects.bulk_create(curves)
    refresh_digest(course)
