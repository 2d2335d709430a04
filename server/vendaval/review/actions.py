"""What a learner does about a miss without answering it."""

from __future__ import annotations

from django.db import transaction
from django.utils.translation import gettext

from vendaval.groups.models import Enrolment
from vendaval.groups.queries import own_enrolment
from vendaval.levels.learning import learning_of
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.changes import Changes, until_stored
from vendaval.shared.errors import NotFound
from vendaval.work.runs import end_run, loaded_runs

from .activity import own_miss
from .models import MissState, Studied


def take_up(person: User, course: str, miss_id: int) -> Enrolment:
    """Put a miss that was set aside on the list again; nothing when its idea is on it already."""

    def work() -> Enrolment:
        enrolment = own_enrolment(person, course, "take_up_miss")
        miss = own_miss(enrolment, miss_id)
        learning = learning_of(enrolment)
        history = learning.family(miss.family.key)
        if miss.state != MissState.SET_ASIDE or history.missed is not None:
            return enrolment
        changes, history.missed = Changes(learning), miss.presentation.seed
        miss.state, miss.closed_at = MissState.OPEN, None
        changes.touch(miss, "state", "closed_at")
        changes.store()
        return enrolment

    return until_stored(work)


def note_studied(
    person: User, course: str, topic: str, section: str, *, studied: bool
) -> Enrolment:
    """Mark a section of the revision plan as studied, or take that back. It counts as nothing
    else."""
    enrolment = own_enrolment(person, course, "note_studied")
    bank = learning_of(enrolment).bank
    place, part = bank.section_of(bank.topic(topic).key, section, topic)
    if part.key != section:
        raise NotFound(gettext("We can’t find this section."))
    mine = Studied.objects.filter(enrolment=enrolment, topic=place.key, section=part.key)
    with transaction.atomic():
        if not studied:
            mine.filter(undone_at=None).update(undone_at=clock.now())
        elif not mine.filter(undone_at=None).exists():
            now = clock.now()
            Studied.objects.create(enrolment=enrolment, topic=topic, section=section, at=now)
    return enrolment


def set_aside(person: User, course: str, miss_id: int) -> Enrolment:
    """Take a miss that is understood off the list, recorded as set aside and not as mended."""

    def work() -> Enrolment:
        enrolment = own_enrolment(person, course, "set_aside_miss")
        miss = own_miss(enrolment, miss_id)
        if miss.state != MissState.OPEN:
            return enrolment
        learning = learning_of(enrolment)
        now, changes = clock.now(), Changes(learning)
        learning.family(miss.family.key).missed = None
        miss.state, miss.closed_at = MissState.SET_ASIDE, now
        changes.touch(miss, "state", "closed_at")
        for run in loaded_runs().filter(current_id=miss.mend_id, ended_at=None):
            end_run(run, now, changes)
        changes.store()
        return enrolment

    return until_stored(work)
