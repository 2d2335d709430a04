"""An attempt under way as its player has it, and what its learner gets for handing in."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from fractions import Fraction

from django.utils.translation import gettext

from vendaval.bank.snapshot import version_of
from vendaval.delivery.payload import read_back_out
from vendaval.delivery.schemas import ReadBackOut
from vendaval.shared import clock
from vendaval.shared.markdown import to_html
from vendaval.work.replies import presented
from vendaval_core.assessment.attempt import Attempt as CoreAttempt
from vendaval_core.assessment.attempt import can_be_reached, seconds_left
from vendaval_core.assessment.navigation import onward
from vendaval_core.assessment.paper import PagesWanted, pages_state
from vendaval_core.assessment.points import shown, total_of
from vendaval_core.assessment.release import Moment, released
from vendaval_core.assessment.rules import ClockKind
from vendaval_core.items.versions import Version

from ..attempts import answers_of, pause_reason
from ..models import AnswerSoFar, Attempt
from ..points import opened_places, points_at
from .queries import OVER, ref_of_attempt
from .schemas import (
    AnswerState,
    AttemptOut,
    ClockOut,
    PlaceStateOut,
    ReceiptOut,
    SavedOut,
    ScoreSoFarOut,
    SectionOut,
)

CLOCK_FROM = 2 * 3600.0


def attempt_out(attempt: Attempt) -> AttemptOut:
    """An attempt as the player has it."""
    now, core = clock.now(), attempt.core()
    rules = core.rules
    places = [
        _place_out(attempt, answer, now)
        for answer in answers_of(attempt)
        # What comes in a section with a limit of its own waits for its time.
        if not core.in_stretches or attempt.places[answer.number - 1].section <= core.stretch
    ]
    limit = core.limits[core.stretch]
    return AttemptOut(
        id=attempt.pk,
        ref=ref_of_attempt(attempt),
        title=attempt.test.title,
        rehearsal=attempt.test.rehearsal,
        number=attempt.number,
        directions_html=to_html(attempt.test.directions) if attempt.test.directions else "",
        sections=sections_out(attempt),
        places=places,
        so_far=score_so_far(attempt),
        submission=rules.submission,
        tools=sorted(rules.tools),
        one_sitting=rules.one_sitting,
        stops=rules.clock is ClockKind.STOPS,
        interval=core.intervals[-1].id if core.intervals else 0,
        section=core.stretch,
        position=core.reached,
        onward=onward(core, now),
        left=left_out(core, now),
        warn_at=[] if limit is None else sorted({round(limit / 10), 60}, reverse=True),
        pages=attempt.paper.wanted,
        handed_in=core.handed_in is not None,
        server_now=now,
    )


def score_so_far(attempt: Attempt) -> ScoreSoFarOut | None:
    """Points of the questions that were sent, where the rules tell the score at once."""
    core = attempt.core()
    sent_now = Moment(clock.now(), handed_in=False, sent=True)
    if core.handed_in is not None or not released(core.rules, sent_now).score:
        return None
    placed = opened_places([attempt])[attempt.pk]
    sent = [one for one in placed if one.question.tries]
    points = [points_at(attempt, one.place, one.question, one.answer, {}) for one in sent]
    so_far = total_of(points)
    return ScoreSoFarOut(
        reached=shown(so_far.reached),
        marked=shown(so_far.marked),
        of=shown(sum((one.place.points for one in placed), Fraction(0))),
        sent=len(sent),
        questions=len(placed),
    )


def left_out(attempt: CoreAttempt, now: datetime) -> float | None:
    """Seconds left, where a clock is worth showing: a closing date far away is none."""
    left = seconds_left(attempt, now)
    timed = attempt.limits[attempt.stretch] is not None
    return left if timed or (left is not None and left <= CLOCK_FROM) else None


def sections_out(attempt: Attempt) -> list[SectionOut]:
    """The sections of the test of an attempt; a practice learner's may have had more of them."""
    found = [
        SectionOut(
            title=section.title,
            directions_html=to_html(section.directions) if section.directions else "",
            minutes=section.minutes,
        )
        for section in attempt.test.composition.sections
    ]
    most = 1 + max((place.section for place in attempt.places), default=-1)
    gone = range(len(found) + 1, most + 1)
    return found + [
        SectionOut(title=gettext("Part {n}").format(n=n), directions_html="", minutes=None)
        for n in gone
    ]


def _place_out(attempt: Attempt, answer: AnswerSoFar, now: datetime) -> PlaceStateOut:
    place, core = attempt.places[answer.number - 1], attempt.core()
    question = presented(answer.presentation)
    read = read_back_out(version_at(answer), answer.data.responses)
    open_ = can_be_reached(core, place.core(), now) and core.handed_in is None
    return PlaceStateOut(
        number=answer.number,
        section=place.section,
        page=place.core().page,
        forward_only=core.is_forward_only(place.core()),
        points=shown(place.points),
        working_wanted=core.rules.wants_working(marked=place.working),
        state=answer_state(answer, read),
        read=read,
        can_change=open_ and not question.closed,
        seen=answer.seen,
        counter=answer.counter,
        seconds=answer.seconds,
        saved_at=answer.saved_at,
        data=answer.data,
        question=question,
    )


def answer_state(answer: AnswerSoFar, read: Sequence[ReadBackOut]) -> AnswerState:
    """How far a place is answered; nothing here knows right from wrong."""
    if answer.presentation.tried and answer.presentation.closed_at is not None:
        return "sent"
    if answer.data.on_paper:
        return "paper"
    states = {part.state for part in read}
    if "unreadable" in states:
        return "unreadable"
    if states == {"read"}:
        return "answered"
    if states != {"blank"}:
        return "partly"
    return "empty" if answer.seen else "not_seen"


def clock_out(attempt: Attempt) -> ClockOut:
    """How the clock stands."""
    now, core = clock.now(), attempt.core()
    return ClockOut(
        interval=core.intervals[-1].id if core.intervals else 0,
        left=left_out(core, now),
        section=core.stretch,
        position=core.reached,
        handed_in=core.handed_in is not None,
        paused=None if core.paused is None else pause_reason(attempt),
        server_now=now,
    )


def saved_out(attempt: Attempt, answer: AnswerSoFar, *, late: bool) -> SavedOut:
    """What became of a save."""
    read = read_back_out(version_at(answer), answer.data.responses)
    return SavedOut(
        number=answer.number,
        state=answer_state(answer, read),
        read=read,
        counter=answer.counter,
        saved_at=answer.saved_at,
        late=late,
        left=left_out(attempt.core(), clock.now()),
    )


def receipt(attempt: Attempt) -> ReceiptOut | None:
    """What a learner has to show for having handed in; None before."""
    by = attempt.standing.handed_in_by
    if attempt.handed_in_at is None or by is None:
        return None
    answers = list(AnswerSoFar.objects.filter(attempt=attempt))
    return ReceiptOut(
        attempt=attempt.pk,
        ref=ref_of_attempt(attempt),
        rehearsal=attempt.test.rehearsal,
        test=attempt.test.title,
        learner=attempt.enrolment.person.display_name,
        attempt_number=attempt.number,
        handed_in=attempt.handed_in_at,
        why_over=gettext(OVER[by]),
        answered=sum(one.data.answered or one.data.on_paper for one in answers),
        unreadable=sum(bool(one.unreadable) for one in answers),
        questions=len(attempt.places),
        number=attempt.receipt,
        pages=pages_state(attempt.paper.core(), attempt.handed_in_at, clock.now()),
        pages_needed=attempt.paper.wanted is PagesWanted.MUST
        or any(one.data.on_paper for one in answers),
    )


def version_at(answer: AnswerSoFar) -> Version:
    """The version at a place of an attempt."""
    row = answer.presentation
    return version_of(row.revision, row.seed, row.order)
