"""A private calendar feed (RFC 5545): rechecks, steps put off and exams of all courses."""

from __future__ import annotations

import secrets
from datetime import timedelta

from django.conf import settings
from django.db import transaction
from icalendar import Calendar, Event

from vendaval.groups.queries import enrolments_of
from vendaval.levels.learning import learning_of
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import NotFound

from .choices import choices_in_force
from .coming import coming
from .models import CalendarKey

AHEAD = timedelta(days=180)


def calendar_key(person: User) -> CalendarKey | None:
    """The key of a person's feed, if they made one."""
    return CalendarKey.objects.filter(person=person, ended_at=None).first()


def make_calendar_key(person: User) -> CalendarKey:
    """A new key; the one before opens nothing any more."""
    with transaction.atomic():
        end_calendar_key(person)
        return CalendarKey.objects.create(
            person=person, key=secrets.token_urlsafe(32), made_at=clock.now()
        )


def end_calendar_key(person: User) -> None:
    """Let no calendar read a person's days any more."""
    CalendarKey.objects.filter(person=person, ended_at=None).update(ended_at=clock.now())


def feed(key: str) -> bytes:
    """The feed of a key, or NotFound. An event keeps its id as long as it is about the same."""
    found = CalendarKey.objects.filter(key=key, ended_at=None, person__is_active=True)
    held = found.select_related("person").first()
    if held is None:
        raise NotFound("There is no such calendar.")
    now, calendar = clock.now(), Calendar()
    calendar.add("prodid", "-//Vendaval//Days to come//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", "Vendaval")
    for enrolment in enrolments_of(held.person).select_related("state"):
        course, learning = enrolment.course, learning_of(enrolment)
        for one in coming(learning, now, choices_in_force(enrolment), AHEAD):
            event = Event()
            event.add("uid", f"{enrolment.pk}-{one.kind}-{_slug(one.title)}@vendaval")
            event.add("dtstamp", now)
            event.add("dtstart", one.on)
            event.add("dtend", one.on + timedelta(days=1))
            event.add("summary", f"{one.title} ({course.title})")
            event.add("url", f"{settings.SITE}/courses/{course.key}")
            event.add("transp", "TRANSPARENT")
            calendar.add_component(event)
    return bytes(calendar.to_ical())


def _slug(title: str) -> str:
    return "-".join("".join(c if c.isalnum() else " " for c in title.lower()).split())
