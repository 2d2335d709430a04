"""A search over topics, study sections and one's own questions."""

from __future__ import annotations

from django.db.models import Q

from vendaval.bank.models import StudySection, Topic
from vendaval.delivery.schemas import PlaceOut, StudyLinkOut
from vendaval.groups.models import Enrolment
from vendaval.record.tries import Filter, lines, loaded, tries_in

from .schemas import SearchOut

MOST_WORDS = 6
MOST = 12


def search(enrolment: Enrolment, words: str) -> SearchOut:
    """What has all of some words in it; nothing for none. Of a section only the title comes: its
    text is help, and is opened on its own page."""
    wanted = words.split()[:MOST_WORDS]
    if not wanted:
        return SearchOut(words=words, topics=[], sections=[], tries=[])
    asked = Topic.objects.filter(course=enrolment.course_id, closed=False, families__live=True)
    topics = Topic.objects.filter(pk__in=asked.values("pk"))
    sections = StudySection.objects.filter(topic__in=asked.values("pk"))
    for word in wanted:
        topics = topics.filter(Q(title__icontains=word) | Q(subject__title__icontains=word))
        sections = sections.filter(Q(title__icontains=word) | Q(markdown__icontains=word))
    rows = tries_in(enrolment, Filter(words=words)).filter(first=True)
    found = list(loaded(rows).order_by("-at", "-pk")[:MOST])
    by_place = sections.select_related("topic").order_by("topic__position", "position")
    return SearchOut(
        words=words,
        topics=[
            PlaceOut(key=topic.key, title=topic.title)
            for topic in topics.order_by("subject__position", "position")[:MOST]
        ],
        sections=[
            StudyLinkOut(topic=one.topic.key, section=one.key, title=one.title, minutes=one.minutes)
            for one in by_place.defer("markdown", "figure")[:MOST]
        ],
        tries=list(lines(enrolment, found)),
    )
