"""Tests that wait for a learner, for the pages that put things together: in one query."""

from __future__ import annotations

from datetime import datetime

from django.db.models import Exists, OuterRef, Subquery

from vendaval.groups.models import Enrolment
from vendaval.groups.queries import given_to_learner
from vendaval_core.assessment.attempt import cut_off_of

from ..models import Allowance, Assignment, Attempt
from .queries import rehearsal_ref
from .schemas import WaitingTestOut, WorkState

MOST = 12


def waiting_tests(enrolment: Enrolment, now: datetime) -> list[WaitingTestOut]:
    """Tests under way, late, and to be done; first those that are, then by when they are due."""
    mine = Attempt.objects.filter(enrolment=enrolment, assignment=OuterRef("pk"))
    own = Allowance.objects.filter(enrolment=enrolment, assignment=OuterRef("pk")).order_by("-pk")
    rows = (
        Assignment.objects.filter(given_to_learner(enrolment))
        .annotate(
            going=Exists(mine.filter(handed_in_at=None)),
            taken=Exists(mine),
            own_opens=Subquery(own.values("opens")[:1]),
            own_due=Subquery(own.values("due")[:1]),
            own_closes=Subquery(own.values("closes")[:1]),
        )
        .exclude(taken=True, going=False)
        .select_related("test")
        .defer("test__composition", "test__directions", "test__materials")
        .order_by("-pk")
        .distinct()
    )
    found = [line for row in rows[: 4 * MOST] if (line := _line(row, now)) is not None]
    far = datetime.max.replace(tzinfo=now.tzinfo)
    found.sort(key=lambda line: (line.state != "under_way", line.due or line.closes or far))
    return found[:MOST]


def to_rehearse(enrolment: Enrolment) -> str | None:
    """The ref of the test to rehearse for a learner who hasn't finished any test yet, this one
    neither; None for others."""
    done = Attempt.objects.filter(enrolment=enrolment, handed_in_at__isnull=False)
    return None if done.exists() else rehearsal_ref(enrolment)


def _line(row: Assignment, now: datetime) -> WaitingTestOut | None:
    """How an annotated row stands; None for what cannot be begun, now or any more."""
    given = vars(row)
    opens, due = given["own_opens"] or row.opens, given["own_due"] or row.due
    closes = given["own_closes"] or row.closes
    cut_off = cut_off_of(row.test.rules.core(), due, closes)
    # One under way has an end of its own, which may be later: it was paused, or got more time.
    going = given["going"]
    closed = cut_off is not None and now >= cut_off
    if not going and ((opens is not None and now < opens) or closed):
        return None
    state: WorkState = "late" if due is not None and now >= due else "not_begun"
    return WaitingTestOut(
        ref=f"given-{row.pk}",
        title=row.test.title,
        state="under_way" if going else state,
        due=due,
        closes=closes,
    )
