"""The log, the mails and the health of the system, for the office."""

from __future__ import annotations

import re
from datetime import date, datetime, timedelta

from django.conf import settings
from django.db.models import Q, QuerySet
from django.utils.timezone import make_aware
from django.utils.translation import gettext
from pydantic import ValidationError

from vendaval.backups.backup import BackupNote, backups
from vendaval.groups.models import Group
from vendaval.notices.models import Letter
from vendaval.people.models import AuditEntry, AuditKind, LinkKind, OneTimeLink, Role, School
from vendaval.people.one_time_links import open_links
from vendaval.shared import clock
from vendaval.shared.health import health
from vendaval.shared.models import CheckDone
from vendaval_core.words import counted

from .calibrations import calibrations_of
from .jobs import latest_jobs
from .people import NO_PASSWORD, AccountState, below_consent
from .scope import named, people_of
from .system_schemas import (
    AuditKindOut,
    AuditLineOut,
    AuditOut,
    JobOut,
    OfficeOut,
    SentListOut,
    SentOut,
    SystemCheckOut,
    SystemOut,
    ToDoOut,
)

PAGE = 50
ONE_TIME = re.compile(r"/open/\S+")
BACKUP_OLD = timedelta(hours=24)
CHECK_OLD = timedelta(days=7)
QUIET = timedelta(days=7)


def audit_out(
    school: School,
    *,
    kind: AuditKind | None,
    text: str,
    since: date | None,
    until: date | None,
    older: int | None,
) -> AuditOut:
    """A page of the log. text: of a person's name, of who did it, an address, or what it says."""
    rows = _log_of(school)
    if kind is not None:
        rows = rows.filter(kind=kind)
    if text:
        people = people_of(school).filter(named(text)).values("pk")
        says = Q(says__icontains=text) | Q(address__startswith=text)
        rows = rows.filter(Q(account__in=people) | Q(by__in=people) | says)
    if since is not None:
        rows = rows.filter(at__gte=_midnight(since))
    if until is not None:
        rows = rows.filter(at__lt=_midnight(until + timedelta(days=1)))
    if older is not None:
        rows = rows.filter(pk__lt=older)
    page = list(rows.select_related("account", "by").order_by("-pk")[: PAGE + 1])
    return AuditOut(
        entries=[_line(row) for row in page[:PAGE]],
        older=page[PAGE - 1].pk if len(page) > PAGE else None,
        kinds=[AuditKindOut(kind=one, what=str(one.label)) for one in AuditKind],
    )


def _log_of(school: School) -> QuerySet[AuditEntry]:
    """What concerns the school: about its people, done by them, or about nobody who is known."""
    people = people_of(school).values("pk")
    return AuditEntry.objects.filter(
        Q(account__in=people) | Q(by__in=people) | Q(account=None, by=None)
    )


def _midnight(day: date) -> datetime:
    return make_aware(datetime(day.year, day.month, day.day))


def _line(row: AuditEntry) -> AuditLineOut:
    return AuditLineOut(
        id=row.pk,
        at=row.at,
        kind=AuditKind(row.kind),
        what=str(AuditKind(row.kind).label),
        person=row.account_id,
        name=row.account.display_name or None if row.account else None,
        by=row.by.display_name or None if row.by else None,
        address=row.address,
        says=row.says,
    )


def sent_list(school: School, text: str, older: int | None) -> SentListOut:
    """Mails to people of the school. What a one-time link opens is not shown: it is theirs."""
    mails = people_of(school).exclude(email="").values("email")
    rows = Letter.objects.filter(to__in=mails)
    if text:
        rows = rows.filter(Q(to__icontains=text) | Q(subject__icontains=text))
    if older is not None:
        rows = rows.filter(pk__lt=older)
    page = list(rows.order_by("-pk")[: PAGE + 1])
    return SentListOut(
        letters=[
            SentOut(
                id=row.pk,
                to=row.to,
                subject=row.subject,
                body=ONE_TIME.sub("/open/…", row.body),
                at=row.at,
            )
            for row in page[:PAGE]
        ],
        older=page[PAGE - 1].pk if len(page) > PAGE else None,
        kept=not settings.EMAIL_HOST,
        waiting=_unsent(school),
    )


def _unsent(school: School) -> int:
    """Links that have still to be mailed to people of a school."""
    return open_links().filter(mailed_at=None, person__in=people_of(school).values("pk")).count()


def system_out(school: School) -> SystemOut:
    """How the system is."""
    found = health()
    database = SystemCheckOut(
        what="Database",
        well=found.database == "ok",
        says=_plain(found.database, gettext("Can be written to.")),
        at=None,
    )
    disk = SystemCheckOut(
        what="Disk",
        well=found.disk == "ok",
        says=_plain(found.disk, gettext("Has enough space.")),
        at=None,
    )
    done = {row.what: row for row in CheckDone.objects.all()}
    checks = [
        database,
        disk,
        _backup(),
        _done(gettext("Levels against the log"), done.get("states"), "manage.py check_states"),
        _done(
            gettext("Reminders and mails of the day"),
            done.get("messages"),
            "manage.py send_messages",
        ),
    ]
    jobs = [JobOut.model_validate(job, from_attributes=True) for job in latest_jobs(school)]
    return SystemOut(checks=checks, calibrations=calibrations_of(school), jobs=jobs)


def _plain(found: str, well: str) -> str:
    return well if found == "ok" else f"{found[:1].upper()}{found[1:]}."


def _backup() -> SystemCheckOut:
    newest = next(iter(backups(settings.BACKUPS)), None)
    if newest is None:
        return SystemCheckOut(
            what="Backup", well=False, says=gettext("There isn’t one yet."), at=None
        )
    try:
        note = BackupNote.model_validate_json(newest.with_suffix(".json").read_bytes())
    except (OSError, ValidationError):
        says = gettext("The newest has no note of its contents.")
        return SystemCheckOut(what="Backup", well=False, says=says, at=None)
    fresh = clock.now() - note.at < BACKUP_OLD
    says = gettext("{answers}, checked when it was made.").format(
        answers=counted(note.answers, "answer").capitalize()
    )
    return SystemCheckOut(what="Backup", well=fresh, says=says, at=note.at)


def _done(what: str, row: CheckDone | None, by: str) -> SystemCheckOut:
    if row is None:
        says = gettext("Hasn’t run yet. {by} does it.").format(by=by)
        return SystemCheckOut(what=what, well=None, says=says, at=None)
    fresh = clock.now() - row.at < CHECK_OLD
    return SystemCheckOut(what=what, well=row.well and fresh, says=row.says, at=row.at)


def office_out(school: School) -> OfficeOut:
    """What waits for the office, each with its reason, the most pressing first."""
    people = people_of(school)
    todo = [*_system_todo(school), *_people_todo(school)]
    learners = people.filter(
        memberships__role=Role.LEARNER, memberships__until=None, is_active=True
    )
    return OfficeOut(
        school=school.name,
        todo=todo,
        people=people.filter(is_active=True).count(),
        learners=learners.count(),
        groups=Group.objects.filter(course__school=school).count(),
    )


def _system_todo(school: School) -> list[ToDoOut]:
    """What an office can do about the system: checks that only an administrator can do something
    about are on the page of the system, and not here."""
    found = []
    failed = [job for job in latest_jobs(school) if job.again]
    if failed:
        why = gettext("The newest: {what}. {why}").format(
            what=failed[0].what.lower(), why=failed[0].why
        )
        what = gettext("Start {failed_jobs} again").format(
            failed_jobs=counted(len(failed), "failed job")
        )
        found.append(ToDoOut(what=what, why=why[:300], path="/office/system"))
    return found


def _people_todo(school: School) -> list[ToDoOut]:
    found = []
    here = people_of(school).filter(is_active=True)
    not_come = here.filter(NO_PASSWORD)
    young = here.filter(pk__in=below_consent(school).values("pk"))
    waits, n = young.exclude(NO_PASSWORD).exists(), young.count()
    if n:
        what = gettext("{learners} {verb} consent").format(
            learners=counted(n, "learner").capitalize(), verb="needs" if n == 1 else "need"
        )
        why = gettext(
            "We wrote to a guardian, who hasn’t agreed yet. You can record consent given on paper."
        )
        path = f"/office/people?state={AccountState.WAITS if waits else AccountState.INVITED}"
        found.append(ToDoOut(what=what, why=why, path=path))
    lately = OneTimeLink.objects.filter(kind=LinkKind.WELCOME, made_at__gt=clock.now() - QUIET)
    quiet = not_come.exclude(pk__in=lately.values("person")).count()
    if quiet:
        what = gettext("{invitations} {verb} old").format(
            invitations=counted(quiet, "invitation").capitalize(),
            verb="is" if quiet == 1 else "are",
        )
        why = gettext(
            "Invited over a week ago, not accepted yet. Send again, or check the address."
        )
        path = f"/office/people?state={AccountState.INVITED}"
        found.append(ToDoOut(what=what, why=why, path=path))
    unsent = _unsent(school)
    if unsent:
        what = gettext("{mails} with a link not sent yet").format(
            mails=counted(unsent, "mail").capitalize()
        )
        why = gettext("A job sends them and may still be running.")
        found.append(ToDoOut(what=what, why=why, path="/office/system"))
    return found
