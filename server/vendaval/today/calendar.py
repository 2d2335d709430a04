"""A private calendar feed (RFC 5545): set work, rechecks, steps put off and exams of all courses,
and for a tutor what is due in their groups."""

from __future__ import annotations

import secrets
from datetime import date, datetime, timedelta

from django.db import transaction
from django.utils.translation import gettext, gettext_noop
from icalendar import Calendar, Event

from vendaval.assigning.days import group_days, own_days
from vendaval.groups.queries import enrolments_of, taught_by
from vendaval.levels.learning import learning_of
from vendaval.people.addresses import site_for
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import NotFound

from .choices import choices_in_force
from .coming import coming
from .models import CalendarKey

AHEAD = timedelta(days=180)
SAYS = {"opens": "opens", "due": gettext_noop("is due"), "closes": "closes"}


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
        raise NotFound(gettext("We can’t find this calendar."))
    now, calendar, site = clock.now(), Calendar(), site_for(held.person)
    calendar.add("prodid", gettext("-//Vendaval//Days to come//EN"))
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", "Vendaval")
    for enrolment in enrolments_of(held.person).select_related("state"):
        course, learning = enrolment.course, learning_of(enrolment)
        for one in coming(learning, now, choices_in_force(enrolment), AHEAD):
            title, path = f"{one.title} ({course.title})", f"/courses/{course.key}"
            uid = f"{enrolment.pk}-{one.kind}-{_slug(one.title)}"
            calendar.add_component(_event(uid, title, site + path, one.on, now))
        for day in own_days(enrolment, now, now + AHEAD):
            title = f"{day.title} {gettext(SAYS[day.what])} ({course.title})"
            uid = f"{enrolment.pk}-{day.key}"
            calendar.add_component(_event(uid, title, site + day.path, day.at, now))
    for group in taught_by(held.person):
        for day in group_days(group, now, now + AHEAD):
            title = f"{day.title} {gettext(SAYS[day.what])} ({group.title})"
            calendar.add_component(_event(f"desk-{day.key}", title, site + day.desk, day.at, now))
    return bytes(calendar.to_ical())


def _event(uid: str, title: str, address: str, at: datetime | date, now: datetime) -> Event:
    """A day, or a moment of one, that takes nobody's time."""
    event = Event()
    event.add("uid", f"{uid}@vendaval")
    event.add("dtstamp", now)
    event.add("dtstart", at)
    if not isinstance(at, datetime):
        event.add("dtend", at + timedelta(days=1))
    event.add("summary", title)
    event.add("url", address)
    event.add("transp", "TRANSPARENT")
    return event


def _slug(title: str) -> str:
    return "-".join("".join(c if c.isalnum() else " " for c in title.lower()).split())
