"""Everything that is kept about a person: taken from their name, or removed for good.

What is written out is in `copies.py`.
"""

from __future__ import annotations

from collections import Counter
from typing import Any

from django.db import DEFAULT_DB_ALIAS, models, transaction
from django.db.models import Q
from django.db.models.deletion import Collector
from django.utils.translation import gettext

from vendaval.assigning.models import HandIn
from vendaval.bank.snapshot import version_of
from vendaval.exams.columns import SoFarData
from vendaval.exams.models import AnswerSoFar, Marking, Page
from vendaval.files.models import StoredFile
from vendaval.groups.models import Enrolment, GroupMember
from vendaval.notices.models import Letter, Notice
from vendaval.people.audit import audit
from vendaval.people.models import AuditEntry, AuditKind, SecondFactor, User
from vendaval.people.sessions import end_sessions
from vendaval.people.sign_in import key_of_name
from vendaval.shared.triggers import erasing
from vendaval.threads.models import Post, Talk, Thread
from vendaval.tutor.models import Note
from vendaval.work.models import Mark, Try

from .copies import remove_copies_of


class _Everything(Collector):
    """All rows that hang on others, each of them at hand."""

    def can_fast_delete(self, objs: Any, from_field: Any = None) -> bool:
        return False


def rows_of(person: User) -> list[models.Model]:
    """An account and every row that goes with it."""
    collector = _Everything(using=DEFAULT_DB_ALIAS, origin=person)
    collector.collect([person])
    found = [row for rows in collector.data.values() for row in rows]
    return sorted(found, key=lambda row: (row._meta.label, row.pk))


def erase_person(person: User, by: User | None = None) -> None:
    """Take away whatever tells who somebody is: name, ways to sign in, relations to others, and
    what they wrote in their own words. The log of their answers stays, under a number that leads
    to nobody, for what the course learns from it."""
    remove_copies_of(person)
    with transaction.atomic(), erasing():
        _forget_traces(person)
        User.objects.filter(practice_for=person).delete()
        SecondFactor.objects.filter(person=person).delete()
        own = (person.consents, person.one_time_links, person.guardian_codes)
        for kept in (person.memberships, person.guardians, person.wards, person.tutored, *own):
            kept.all().delete()
        GroupMember.objects.filter(enrolment__person=person).delete()
        _forget_own_words(person)
        person.username, person.display_name = f"gone-{person.pk}", ""
        person.first_name = person.last_name = person.email = person.demo_note = ""
        person.born = None
        person.last_login, person.is_active = None, False
        person.set_unusable_password()
        person.save()
        audit(
            AuditKind.ERASED,
            by=by,
            says=gettext("account {pk}, its answers kept").format(pk=person.pk),
        )


def remove_person(person: User, by: User | None = None) -> Counter[str]:
    """Remove somebody and everything that is kept about them, their answers too; marks they gave
    to others stay, without their name. Returns how many rows of each kind went."""
    remove_copies_of(person)
    with transaction.atomic(), erasing():
        _forget_traces(person)
        _, gone = person.delete()
        audit(AuditKind.ERASED, by=by, says=gettext("{sum} rows").format(sum=sum(gone.values())))
    return Counter(gone)


def _forget_traces(person: User) -> None:
    """From where somebody signed in, the name that was typed, the sessions they have, mails to
    them or with their name, and what others were told of them and of what they asked."""
    threads = Thread.objects.filter(enrolment__person=person).values_list("pk", flat=True)
    paths = [f"/threads/{pk}" for pk in threads]
    for pk in Enrolment.objects.filter(person=person).values_list("pk", flat=True):
        tutors, guardians = f"/tutor/learners/{pk}", f"/guardian/learners/{pk}"
        paths += [tutors, guardians, f"{tutors}/talk", f"{guardians}/talk"]
    Notice.objects.filter(path__in=paths).delete()
    if person.email:
        Letter.objects.filter(to=person.email).delete()
    if name := person.display_name:
        Letter.objects.filter(Q(subject__contains=name) | Q(body__contains=name)).delete()
    own = AuditEntry.objects.filter(account=person)
    named = AuditEntry.objects.filter(named=key_of_name(person.username))
    for entries in (own, named):
        entries.update(named="", address=None)
    end_sessions(person)


def _forget_own_words(person: User) -> None:
    """Written answers, sketches, files and pages of paper, with what was said of them; that there
    was one stays. What was asked in threads, and notes about them."""
    tries = Try.objects.filter(enrolment__person=person).select_related(
        "presentation__revision__family__topic"
    )
    for row in tries.iterator(chunk_size=500):
        shown = row.presentation
        version = version_of(shown.revision, shown.seed, shown.order)
        written = {key.id for key in version.parts if key.by_person}
        if row.working is not None:
            Try.objects.filter(pk=row.pk).update(working=None)
        if not written & row.response.keys():
            continue
        kept = {part: "" if part in written else text for part, text in row.response.items()}
        Try.objects.filter(pk=row.pk).update(response=kept)
        Mark.objects.filter(tried=row, part__in=written).update(canonical="", says="")

    Thread.objects.filter(enrolment__person=person).delete()
    Post.objects.filter(author=person).update(text="")
    Talk.objects.filter(Q(enrolment__person=person) | Q(guardian=person)).delete()
    Note.objects.filter(enrolment__person=person).delete()
    person.notices.all().delete()
    so_far = AnswerSoFar.objects.filter(attempt__enrolment__person=person)
    so_far.update(data=SoFarData(), late=None)
    Page.objects.filter(attempt__enrolment__person=person).delete()
    StoredFile.objects.filter(enrolment__person=person).delete()
    HandIn.objects.filter(enrolment__person=person).update(links=[], comment="")
    for marking in Marking.objects.filter(answer__attempt__enrolment__person=person):
        marking.data = marking.data.model_copy(update={"comment": "", "notes": []})
        marking.save(update_fields=["data"])
