"""Telling people something, and sending out what is to go by mail."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import timedelta

from django.conf import settings
from django.core.mail import send_mail
from django.db import transaction
from django.utils import timezone
from django.utils.translation import gettext

from vendaval.groups.models import Enrolment
from vendaval.levels.models import LearnerState
from vendaval.people.addresses import site_for
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval_core.words import counted

from .models import Digest, NotByMail, Notice, NoticeKind

# Not 24 hours: a job that runs a minute earlier than yesterday would skip a day.
A_DAY = timedelta(hours=23)
MOST_LINES = 30
LONGEST = 1000


def notice_to(person: User, kind: NoticeKind, title: str, path: str, text: str = "") -> Notice:
    """A message, not stored yet."""
    return Notice(
        person=person, kind=kind, title=title[:160], text=text[:LONGEST], path=path, at=clock.now()
    )


def tell(people: Iterable[User], kind: NoticeKind, title: str, path: str, text: str = "") -> None:
    """Give some people the same message."""
    Notice.objects.bulk_create(notice_to(one, kind, title, path, text) for one in people)


def mark_read(person: User, upto: int) -> None:
    """A person has seen their messages up to one."""
    unread = Notice.objects.filter(person=person, pk__lte=upto, read_at=None)
    unread.update(read_at=clock.now())


def unwanted_kinds(person: User) -> set[str]:
    """Kinds of message that somebody does not want by mail."""
    return set(NotByMail.objects.filter(person=person).values_list("kind", flat=True))


def choose_mail(person: User, unwanted: Iterable[NoticeKind]) -> None:
    """Say which kinds of message are not wanted by mail."""
    with transaction.atomic():
        NotByMail.objects.filter(person=person).delete()
        rows = [NotByMail(person=person, kind=kind) for kind in set(unwanted)]
        NotByMail.objects.bulk_create(rows)


def note_rechecks_due() -> int:
    """Tell learners which rechecks have become due, once for each. Returns how many messages."""
    now, told = clock.now(), 0
    states = LearnerState.objects.filter(enrolment__until=None).select_related(
        "enrolment__person", "enrolment__course"
    )
    for row in states.only("topics", "enrolment__person", "enrolment__course").iterator(200):
        due = [
            history.recheck_at
            for history in row.topics.values()
            if history.recheck_at is not None and history.recheck_at <= now
        ]
        if due and _tell_due(row.enrolment, len(due)):
            told += 1
    return told


def _tell_due(enrolment: Enrolment, topics: int) -> bool:
    """One message a day for a course at the most, and none while one is unread."""
    path = f"/courses/{enrolment.course.key}"
    before = Notice.objects.filter(person=enrolment.person, kind=NoticeKind.RECHECK_DUE, path=path)
    since = clock.now() - A_DAY
    if before.filter(read_at=None).exists() or before.filter(at__gte=since).exists():
        return False
    what = gettext("{topics} {verb} due").format(
        topics=counted(topics, "topic").capitalize(), verb="is" if topics == 1 else "are"
    )
    title = gettext("Time to check {what} again in {course}").format(
        what=what, course=enrolment.course.title
    )
    tell([enrolment.person], NoticeKind.RECHECK_DUE, title, path)
    return True


def send_digests() -> int:
    """Mail everybody their unread messages, in one mail a day at the most. Returns how many went.

    A message is noted as mailed before its mail goes out, so that a mail server that fails in
    between costs a mail and never sends one twice.
    """
    now, sent = clock.now(), 0
    waiting = Notice.objects.filter(mailed_at=None).values_list("person", flat=True).distinct()
    for person in User.objects.filter(pk__in=waiting, is_active=True).order_by("pk"):
        if Digest.objects.filter(person=person, at__gt=now - A_DAY).exists():
            continue
        lines = _take(person)
        if person.email and lines:
            subject = (
                lines[0].title
                if len(lines) == 1
                else gettext("{count} messages from Vendaval").format(count=len(lines))
            )
            subject = " ".join(subject.split())  # what is more than a line is no subject
            send_mail(subject, _body(person, lines), settings.MAIL_FROM, [person.email])
            sent += 1
    return sent


def _take(person: User) -> list[Notice]:
    """The messages that a digest brings; all that waited are noted as done with."""
    now = clock.now()
    with transaction.atomic():
        unwanted = unwanted_kinds(person)
        waiting = list(Notice.objects.filter(person=person, mailed_at=None).order_by("pk"))
        Notice.objects.filter(pk__in=[row.pk for row in waiting]).update(mailed_at=now)
        wanted = [row for row in waiting if row.kind not in unwanted and row.read_at is None]
        if wanted:
            Digest.objects.create(person=person, at=now)
    return wanted


def _body(person: User, lines: list[Notice]) -> str:
    told, site = [f"{person.display_name},", ""], site_for(person)
    for row in lines[:MOST_LINES]:
        told.append(f"{timezone.localtime(row.at):%A %-d %B, %H:%M}: {row.title}")
        if row.text:
            told.append(f"  {row.text}")
        told.append(f"  {site}{row.path}")
    if len(lines) > MOST_LINES:
        told.append(gettext("and {count} more.").format(count=len(lines) - MOST_LINES))
    told += ["", gettext("You can choose which of these you get by mail on the Messages page.")]
    return "\n".join(told)
