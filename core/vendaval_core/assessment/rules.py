"""The rules of a test: one frozen value, and which of them cannot be together.

Names are QTI 3's where it has one (navigation mode, submission mode, time limits).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction

MOST_ATTEMPTS = 50
MOST_TRIES = 10
MOST_MINUTES = 600


class ScoreKept(StrEnum):
    """Which of several attempts counts."""

    FIRST = "first"
    BEST = "best"
    LATEST = "latest"
    MEAN = "mean"


class Navigation(StrEnum):
    """Whether questions come in any order or forward only."""

    NONLINEAR = "nonlinear"
    LINEAR = "linear"


class SubmissionMode(StrEnum):
    """Whether everything is marked at hand-in or each question when it is sent."""

    SIMULTANEOUS = "simultaneous"
    INDIVIDUAL = "individual"


class ClockKind(StrEnum):
    """Whether the clock runs on while nobody is there."""

    RUNS_ON = "runs_on"
    STOPS = "stops"


class LateWork(StrEnum):
    """What becomes of work after it is due: not taken, taken until closing, or taken with a part
    off for each day begun."""

    NOT_TAKEN = "not_taken"
    TAKEN = "taken"
    LESS = "less"


class When(StrEnum):
    """When something is told."""

    AT_ONCE = "at_once"
    HANDED_IN = "handed_in"
    DUE = "due"
    CLOSED = "closed"
    LAST_ATTEMPT = "last_attempt"
    MARKS_OUT = "marks_out"
    NEVER = "never"


class Tool(StrEnum):
    """What may be used while answering."""

    WORKING = "working"
    NOTES = "notes"
    MARKER = "marker"
    STRIKE_OUT = "strike_out"
    ALOUD = "aloud"
    CALCULATOR = "calculator"
    SCIENTIFIC = "scientific"
    RULER = "ruler"
    PROTRACTOR = "protractor"


class WorkingWanted(StrEnum):
    """For which questions working has to be shown."""

    NONE = "none"
    CHOSEN = "chosen"
    ALL = "all"


USUAL_TOOLS = frozenset({Tool.WORKING, Tool.NOTES, Tool.MARKER, Tool.STRIKE_OUT, Tool.ALOUD})


@dataclass(frozen=True, slots=True)
class Telling:
    """When each of these is told."""

    score: When = When.HANDED_IN
    correctness: When = When.HANDED_IN
    answers: When = When.HANDED_IN
    solutions: When = When.HANDED_IN


def usual_telling(*, same_versions: bool) -> Telling:
    """Return when things are told unless somebody decides otherwise.

    With the same numbers for everyone, whoever finishes first could pass the answers on, so right
    and wrong, right answers and solutions wait until the test has closed.
    """
    if not same_versions:
        return Telling()
    return Telling(When.HANDED_IN, When.CLOSED, When.CLOSED, When.CLOSED)


@dataclass(frozen=True, slots=True)
class Band:
    """A named range of results. least: per cent from which it is reached, 0 to 100."""

    name: str
    least: Fraction


USUAL_BANDS = (
    Band("not yet", Fraction(0)),
    Band("nearly", Fraction(60)),
    Band("ready", Fraction(80)),
)


@dataclass(frozen=True, slots=True)
class Rules:
    """How a test behaves. The defaults are the first value of each rule.

    attempts: None without a limit. tries: of a question; off_per_miss: part of its points that a
    miss takes off, 0 to 1. off_wrong: part of its points that a wrong choice takes off, 0 to 1.
    minutes: for the whole test, None without a limit. late_off: part of the score that each day
    begun takes off. pass_mark: per cent, None without one.
    """

    attempts: int | None = 1
    score_kept: ScoreKept = ScoreKept.FIRST
    navigation: Navigation = Navigation.NONLINEAR
    submission: SubmissionMode = SubmissionMode.SIMULTANEOUS
    tries: int = 1
    off_per_miss: Fraction = Fraction(0)
    off_wrong: Fraction = Fraction(0)
    minutes: int | None = None
    clock: ClockKind = ClockKind.RUNS_ON
    one_sitting: bool = False
    late: LateWork = LateWork.NOT_TAKEN
    late_off: Fraction = Fraction(0)
    telling: Telling = field(default_factory=Telling)
    tools: frozenset[Tool] = USUAL_TOOLS
    bands: tuple[Band, ...] = USUAL_BANDS
    pass_mark: Fraction | None = None
    working: WorkingWanted = WorkingWanted.NONE
    open_book: bool = False

    @property
    def individual(self) -> bool:
        """Whether each question is marked when it is sent."""
        return self.submission is SubmissionMode.INDIVIDUAL

    @property
    def linear(self) -> bool:
        """Whether one goes forward only."""
        return self.navigation is Navigation.LINEAR

    @property
    def again(self) -> bool:
        """Whether there can be a second attempt."""
        return self.attempts is None or self.attempts > 1

    def wants_working(self, *, marked: bool) -> bool:
        """Whether a question wants its working shown. marked: whether it is marked so."""
        if self.working is WorkingWanted.CHOSEN:
            return marked
        return self.working is WorkingWanted.ALL


Problem = tuple[str, str]


def rule_problems(
    rules: Rules, *, same_versions: bool, section_minutes: bool = False, marked: bool = True
) -> dict[str, str]:
    """What cannot be, by field, with the reason; empty when the rules hold together.

    same_versions: everyone, and every attempt, gets the same numbers. section_minutes: whether
    sections have limits of their own. marked: whether any question is marked as wanting working.
    """
    found: dict[str, str] = {}
    checks = (_ranges, _tries, _time, _late, _bands)
    for check in checks:
        for name, says in check(rules):
            found.setdefault(name, says)
    for name, says in _told_early(rules, same_versions):
        found.setdefault(name, says)
    if section_minutes and rules.minutes is not None:
        found.setdefault("minutes", "either the test or its sections have a limit, not both")
    if section_minutes and rules.clock is ClockKind.STOPS:
        found.setdefault("clock", "a clock that stops goes with one limit for the whole test")
    if rules.working is WorkingWanted.CHOSEN and not marked:
        found.setdefault("working", "no question is marked so: mark those that want it")
    return found


def _ranges(rules: Rules) -> Iterator[Problem]:
    if rules.attempts is not None and not 1 <= rules.attempts <= MOST_ATTEMPTS:
        yield "attempts", f"1 to {MOST_ATTEMPTS}, or without a limit"
    if not 1 <= rules.tries <= MOST_TRIES:
        yield "tries", f"1 to {MOST_TRIES}"
    for name in ("off_per_miss", "off_wrong", "late_off"):
        if not 0 <= getattr(rules, name) <= 1:
            yield name, "a part from 0 to 1"
    if rules.minutes is not None and not 1 <= rules.minutes <= MOST_MINUTES:
        yield "minutes", f"1 to {MOST_MINUTES}, or without a limit"
    if rules.pass_mark is not None and not 0 <= rules.pass_mark <= 100:
        yield "pass_mark", "per cent, 0 to 100"
    if {Tool.CALCULATOR, Tool.SCIENTIFIC} <= rules.tools:
        yield "tools", "one calculator: the basic or the scientific one"


def _tries(rules: Rules) -> Iterator[Problem]:
    if rules.tries > 1 and not rules.individual:
        yield "tries", "several tries go only with questions that are marked one by one"
    if rules.off_per_miss and rules.tries == 1:
        yield "off_per_miss", "with one try a miss has nothing left to take from"
    if rules.off_wrong and rules.tries > 1:
        yield "off_wrong", "with several tries a miss already takes its part off"


def _time(rules: Rules) -> Iterator[Problem]:
    if rules.clock is ClockKind.STOPS and rules.one_sitting:
        yield "clock", "in one sitting leaving is handing in: there is no away to stop for"
    if rules.clock is ClockKind.STOPS and rules.minutes is None:
        yield "clock", "without a limit there is no clock to stop"


def _late(rules: Rules) -> Iterator[Problem]:
    if rules.late is LateWork.LESS and not rules.late_off:
        yield "late_off", "say what each day takes off"
    if rules.late is not LateWork.LESS and rules.late_off:
        yield "late_off", "goes only with late work that is taken for less"


def _bands(rules: Rules) -> Iterator[Problem]:
    leasts = [band.least for band in rules.bands]
    if not leasts or leasts[0] != 0 or leasts != sorted(set(leasts)) or leasts[-1] > 100:
        yield "bands", "from 0 per cent upwards, each higher than the one before"
    if any(not band.name.strip() for band in rules.bands):
        yield "bands", "each has a name"


def _told_early(rules: Rules, same_versions: bool) -> Iterator[Problem]:
    """What would be told too early, and what would never be."""
    for name in ("score", "correctness", "answers", "solutions"):
        when: When = getattr(rules.telling, name)
        if when is When.AT_ONCE and not rules.individual:
            yield f"telling.{name}", "at once goes only with questions that are marked one by one"
    early = {When.AT_ONCE, When.HANDED_IN, When.MARKS_OUT, When.DUE}
    for name in ("answers", "solutions"):
        when = getattr(rules.telling, name)
        if rules.again and same_versions and when in early:
            yield (
                f"telling.{name}",
                "there are several attempts at the same versions: after the last one, or closed",
            )
    if rules.tries > 1 and rules.telling.correctness is not When.AT_ONCE:
        yield "telling.correctness", "with several tries right or wrong is told at once"


def rule_warnings(rules: Rules, *, same_versions: bool) -> list[str]:
    """Return what is allowed, and worth thinking about before a test is given."""
    found = []
    late = {When.CLOSED, When.NEVER}
    told = rules.telling
    if same_versions and {told.correctness, told.answers, told.solutions} - late:
        found.append(
            "Everyone gets the same numbers, and something about the answers is shown before the "
            "test closes: whoever finishes first can pass them on."
        )
    if told.correctness is When.NEVER:
        found.append(
            "Right and wrong is never shown, so these answers never count towards anybody's level."
        )
    return found


def date_problems(rules: Rules, *, due: bool, closes: bool) -> dict[str, str]:
    """What rules want of the dates a test is given with, by field. due, closes: whether set."""
    found: dict[str, str] = {}
    told = {
        getattr(rules.telling, name) for name in ("score", "correctness", "answers", "solutions")
    }
    if When.DUE in told and not due:
        found["due"] = "something is told after it: say when that is"
    if When.CLOSED in told and not closes:
        found["closes"] = "something is told after it: say when that is"
    if When.LAST_ATTEMPT in told and rules.attempts is None and not closes:
        found["closes"] = "attempts have no limit, so only closing makes one the last"
    if rules.late is not LateWork.NOT_TAKEN and not due:
        found["due"] = "late work has to be late for something"
    if rules.late is not LateWork.NOT_TAKEN and not closes:
        found.setdefault("closes", "late work is taken until closing: say when that is")
    return found
