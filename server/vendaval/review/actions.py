"""What a learner does about a miss without answering it."""

from __future__ import annotations

from vendaval.groups.models import Enrolment
from vendaval.groups.queries import own_enrolment
from vendaval.levels.learning import learning_of
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.changes import Changes, until_stored
from vendaval.work.runs import end_run, loaded_runs

from .activity import own_miss
from .models import MissState


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
