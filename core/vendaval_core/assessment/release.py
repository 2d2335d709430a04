"""What may be told of an attempt, and when. Every page and every file asks here."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from .rules import Rules, When


@dataclass(frozen=True, slots=True)
class Moment:
    """What decides it. sent: the question was sent for good by itself. due, closes: the latest of
    anybody who works on the same test, so that nobody's answers reach another. attempts_left:
    None without a limit. under_way: another attempt of the same learner goes on."""

    now: datetime
    handed_in: bool
    sent: bool = False
    due: datetime | None = None
    closes: datetime | None = None
    attempts_left: int | None = 0
    marks_out: bool = False
    under_way: bool = False


@dataclass(frozen=True, slots=True)
class Released:
    """What may be told now. answers: the right ones. solutions: the worked ones."""

    score: bool = False
    correctness: bool = False
    answers: bool = False
    solutions: bool = False


NOTHING_TOLD = Released()


def reached(when: When, moment: Moment) -> bool:
    """Return whether the moment for showing something has come."""
    if when is When.NEVER:
        return False
    if when is When.AT_ONCE:
        return moment.sent or moment.handed_in
    if not moment.handed_in:
        return False
    closed = moment.closes is not None and moment.now >= moment.closes
    match when:
        case When.HANDED_IN:
            return True
        case When.DUE:
            return moment.due is not None and moment.now >= moment.due
        case When.CLOSED:
            return closed
        case When.LAST_ATTEMPT:
            return closed or moment.attempts_left == 0
        case When.MARKS_OUT:
            return moment.marks_out


def still_open(rules: Rules, moment: Moment) -> bool:
    """Return whether the questions of an attempt are still open in its test, so that nothing about
    them may be shown anywhere else. They are open from the start until everything the rules will
    show has been shown. What the rules never show stays hidden until the test has closed for
    everybody."""
    if not moment.handed_in or moment.under_way:
        return True
    closed = moment.closes is not None and moment.now >= moment.closes
    release = rules.release
    return any(
        not closed if when is When.NEVER else not reached(when, moment)
        for when in (release.correctness, release.answers, release.solutions)
    )


def released(rules: Rules, moment: Moment) -> Released:
    """Return what may be shown of a question or of the whole attempt. Right answers reveal right
    and wrong, so they wait for both. Whatever shows an answer also waits while the learner works on
    another attempt."""
    release = rules.release
    correctness = reached(release.correctness, moment)
    shows = correctness and not moment.under_way
    return Released(
        score=reached(release.score, moment),
        correctness=correctness,
        answers=shows and reached(release.answers, moment),
        solutions=shows and reached(release.solutions, moment),
    )
