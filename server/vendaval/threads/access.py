"""Who may read and answer a thread."""

from __future__ import annotations

from django.db.models import Q, QuerySet
from django.utils.translation import gettext

from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import relations_to
from vendaval.groups.writing import writers_of
from vendaval.people.models import User
from vendaval.people.policies import Relation, require
from vendaval.shared.errors import NotFound
from vendaval.work.questions import gives_away, open_in_tests_of

from .models import Thread, ThreadKind

LOADED = (
    "enrolment__course",
    "enrolment__person",
    "topic",
    "presentation__run__enrolment__course",
    "presentation__revision__family__topic",
)


def loaded_threads() -> QuerySet[Thread]:
    """Threads with what showing them needs."""
    return Thread.objects.select_related(*LOADED)


def classmates_of(enrolment: Enrolment) -> QuerySet[User]:
    """Whom a learner may ask: members of those groups of theirs that allow it."""
    mine = Group.objects.filter(members__enrolment=enrolment, members__until=None)
    allowing = [group.pk for group in mine if group.settings.classmates]
    members = Enrolment.objects.filter(
        groups__group__in=allowing, groups__until=None, until=None
    ).exclude(pk=enrolment.pk)
    return User.objects.filter(pk__in=members.values("person"), is_active=True)


def tutors_of(enrolment: Enrolment) -> QuerySet[User]:
    """The tutors of a learner's groups."""
    teaching = Q(tutored__group__members__enrolment=enrolment, tutored__until=None)
    present = Q(tutored__group__members__until=None)
    return User.objects.filter(teaching & present, is_active=True).distinct()


def thread_relations(person: User, thread: Thread) -> set[Relation]:
    """What a person is to a thread. A guardian is nothing to it."""
    asker = thread.enrolment
    if asker.person_id == person.pk:
        return {Relation.OWN}
    if thread.kind == ThreadKind.FAULT:
        writes = writers_of(asker.course).filter(pk=person.pk).exists()
        return {Relation.COURSE} if writes else set()
    found = set[Relation]()
    if thread.to_tutor:
        found |= relations_to(person, asker) & {Relation.GROUP}
    asked = thread.asked.filter(person=person).exists()
    still = asked and classmates_of(asker).filter(pk=person.pk).exists()
    if still and not _in_own_test(person, thread):
        found.add(Relation.CLASSMATE)
    return found


def _in_own_test(person: User, thread: Thread) -> bool:
    """Whether the question would give away one in a test that is still open for who was asked."""
    shown = thread.presentation
    return gives_away(shown.revision, shown.seed, open_in_tests_of(person))


def related_thread(person: User, thread_id: int, operation: str) -> tuple[Thread, set[Relation]]:
    """A thread that a person may do an operation with, and what they are to it; else NotFound."""
    thread = loaded_threads().filter(pk=thread_id).first()
    relations = thread_relations(person, thread) if thread is not None else set()
    require(operation, person.roles, *relations)
    if thread is None:
        raise NotFound(gettext("We can’t find this conversation."))
    return thread, relations
