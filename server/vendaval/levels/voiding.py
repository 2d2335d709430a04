"""A try that counts for no level: somebody else gave it, or something went wrong with it."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.groups.models import Enrolment
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.changes import Changes, until_stored
from vendaval.shared.errors import Conflict, NotFound
from vendaval.work.models import Presentation, Try
from vendaval.work.questions import LOADED, opened

from .learning import learning_of
from .models import Observation, Voided
from .observations import set_counting


def void_try(enrolment: Enrolment, try_id: int, by: User, why: str) -> None:
    """Let a first try of a learner count no more. Conflict for one that counts for nothing anyway:
    a later try, one that waits for its marks, or one that is void already."""

    def work() -> None:
        tried = _found(enrolment, try_id)
        seen = Observation.objects.filter(tried=tried).order_by("pk").last()
        held = seen is not None and tried.presentation.outcome_held
        if seen is None or not (seen.counts or held) or (seen.outcome is None and not held):
            raise Conflict(
                gettext("This try doesn’t count for a level."), code="counts_for_nothing"
            )
        voided = Voided(tried=tried, by=by, why=why.strip(), at=clock.now())
        _set(tried, voided, counts=False)

    until_stored(work)


def count_again(enrolment: Enrolment, try_id: int) -> None:
    """Let a voided try count again, as it did."""

    def work() -> None:
        tried = _found(enrolment, try_id)
        voided = Voided.objects.filter(tried=tried, until=None).first()
        if voided is None:
            raise Conflict(gettext("This try isn’t excluded."), code="not_void")
        voided.until = clock.now()
        _set(tried, voided, counts=True)

    until_stored(work)


def _found(enrolment: Enrolment, try_id: int) -> Try:
    found = Try.objects.filter(enrolment=enrolment, pk=try_id).first()
    if found is None:
        raise NotFound(gettext("We can’t find this try."))
    return found


def _set(tried: Try, voided: Voided, *, counts: bool) -> None:
    rows = Presentation.objects.select_related(*LOADED)
    question = opened(rows.get(pk=tried.presentation_id))
    changes = Changes(learning_of(question.enrolment))
    set_counting(question, tried, clock.now(), changes, counts=counts)
    if counts:
        changes.touch(voided, "until")
    else:
        changes.add(voided)
    changes.store()
