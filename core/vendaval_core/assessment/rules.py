"""The rules of a test: one frozen value, and which of them cannot be together.

Names are QTI 3's where it has one (navigation mode, submission mode, time limits).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction

from vendaval_core.language import gettext

MOST_ATTEMPTS = 50
MOST_TRIES = 10
MOST_MINUTES = 600
MOST_SCALE = 100


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
class ReleaseRules:
    """When each of these is told."""

    score: When = When.HANDED_IN
    correctness: When = When.HANDED_IN
    answers: When = When.HANDED_IN
    solutions: When = When.HANDED_IN


def usual_release(*, same_versions: bool) -> ReleaseRules:
    """Return when results are shown unless somebody decides otherwise.

    With the same numbers for everyone, the first to finish could pass on the answers. So right and
    wrong, right answers and solutions then wait until the test has closed.
    """
    if not same_versions:
        return ReleaseRules()
    return ReleaseRules(When.HANDED_IN, When.CLOSED, When.CLOSED, When.CLOSED)


@dataclass(frozen=True, slots=True)
class Band:
    """A named range of results. least: per cent from which it is reached, 0 to 100."""

    name: str
    least: Fraction


USUAL_BANDS = (
    Band("not yet", Fraction(0)),  # not said: a name that the tutor can change
    Band("nearly", Fraction(60)),
    Band("ready", Fraction(80)),
)


@dataclass(frozen=True, slots=True)
class Rules:
    """How a test behaves. The defaults are the first value of each rule.

    attempts: None without a limit. tries: of a question; off_per_miss: part of its points that a
    miss takes off, 0 to 1. off_wrong: part of its points that a wrong choice takes off, 0 to 1.
    minutes: for the whole test, None without a limit. late_off: part of the score that each day
    begun takes off. pass_mark: per cent, None without one. scale: what results are shown out of.
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
    release: ReleaseRules = field(default_factory=ReleaseRules)
    tools: frozenset[Tool] = USUAL_TOOLS
    bands: tuple[Band, ...] = USUAL_BANDS
    pass_mark: Fraction | None = None
    scale: int = 20
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
    """Return what contradicts itself in the rules, by field, with the reason; empty if nothing
    does.

    same_versions: everyone gets the same numbers in every attempt. section_minutes: whether
    sections have limits of their own. marked: whether working is required for any question.
    """
    found: dict[str, str] = {}
    checks = (_ranges, _tries, _time, _late, _bands)
    for check in checks:
        for name, says in check(rules):
            found.setdefault(name, says)
    for name, says in _told_early(rules, same_versions):
        found.setdefault(name, says)
    if section_minutes and rules.minutes is not None:
        found.setdefault(
            "minutes", gettext("Set a time limit for the whole test or for its sections, not both.")
        )
    if section_minutes and rules.clock is ClockKind.STOPS:
        found.setdefault(
            "clock", gettext("A clock that stops needs one time limit for the whole test.")
        )
    if rules.working is WorkingWanted.CHOSEN and not marked:
        found.setdefault(
            "working", gettext("No question asks for working: choose the questions that do.")
        )
    return found


def _ranges(rules: Rules) -> Iterator[Problem]:
    if rules.attempts is not None and not 1 <= rules.attempts <= MOST_ATTEMPTS:
        yield (
            "attempts",
            gettext("Choose 1 to {most_attempts}, or no limit.").format(
                most_attempts=MOST_ATTEMPTS
            ),
        )
    if not 1 <= rules.tries <= MOST_TRIES:
        yield "tries", gettext("1 to {most_tries}").format(most_tries=MOST_TRIES)
    for name in ("off_per_miss", "off_wrong", "late_off"):
        if not 0 <= getattr(rules, name) <= 1:
            yield name, gettext("Enter a share from 0 to 1.")
    if rules.minutes is not None and not 1 <= rules.minutes <= MOST_MINUTES:
        yield (
            "minutes",
            gettext("Choose 1 to {most_minutes}, or no limit.").format(most_minutes=MOST_MINUTES),
        )
    if rules.pass_mark is not None and not 0 <= rules.pass_mark <= 100:
        yield "pass_mark", gettext("Enter a percentage from 0 to 100.")
    if {Tool.CALCULATOR, Tool.SCIENTIFIC} <= rules.tools:
        yield "tools", gettext("Choose one calculator, basic or scientific.")


def _tries(rules: Rules) -> Iterator[Problem]:
    if rules.tries > 1 and not rules.individual:
        yield (
            "tries",
            gettext("Several tries are only possible when each question is marked at once."),
        )
    if rules.off_per_miss and rules.tries == 1:
        yield "off_per_miss", gettext("A penalty needs more than one try.")
    if rules.off_wrong and rules.tries > 1:
        yield "off_wrong", gettext("With several tries, each wrong try already costs points.")


def _time(rules: Rules) -> Iterator[Problem]:
    if rules.clock is ClockKind.STOPS and rules.one_sitting:
        yield "clock", gettext("The clock cannot stop when leaving hands in the test.")
    if rules.clock is ClockKind.STOPS and rules.minutes is None:
        yield "clock", gettext("Without a time limit there is no clock to stop.")


def _late(rules: Rules) -> Iterator[Problem]:
    if rules.late is LateWork.LESS and not rules.late_off:
        yield "late_off", gettext("Say how much each late day costs.")
    if rules.late is not LateWork.LESS and rules.late_off:
        yield "late_off", gettext("Only when late work loses points.")


def _bands(rules: Rules) -> Iterator[Problem]:
    leasts = [band.least for band in rules.bands]
    if not leasts or leasts[0] != 0 or leasts != sorted(set(leasts)) or leasts[-1] > 100:
        yield "bands", gettext("Start at 0% and make each band higher than the one before.")
    if not 1 <= rules.scale <= MOST_SCALE:
        yield "scale", gettext("Choose a whole number from 1 to {most}.").format(most=MOST_SCALE)
    if any(not band.name.strip() for band in rules.bands):
        yield "bands", gettext("Give every band a name.")


def _told_early(rules: Rules, same_versions: bool) -> Iterator[Problem]:
    """What would be told too early, and what would never be."""
    for name in ("score", "correctness", "answers", "solutions"):
        when: When = getattr(rules.release, name)
        if when is When.AT_ONCE and not rules.individual:
            yield (
                f"release.{name}",
                (
                    gettext(
                        "“As soon as a question is sent” is only possible when each question "
                        "is marked at once."
                    )
                ),
            )
    early = {When.AT_ONCE, When.HANDED_IN, When.MARKS_OUT, When.DUE}
    for name in ("answers", "solutions"):
        when = getattr(rules.release, name)
        if rules.again and same_versions and when in early:
            yield (
                f"release.{name}",
                (
                    gettext(
                        "With several attempts at the same questions, show answers only after "
                        "the last attempt or after closing."
                    )
                ),
            )
    if rules.tries > 1 and rules.release.correctness is not When.AT_ONCE:
        yield (
            "release.correctness",
            gettext("With several tries, learners see right or wrong at once."),
        )


def rule_warnings(rules: Rules, *, same_versions: bool) -> list[str]:
    """Return what is allowed, but worth a thought before the test is assigned."""
    found = []
    late = {When.CLOSED, When.NEVER}
    told = rules.release
    if same_versions and {told.correctness, told.answers, told.solutions} - late:
        found.append(
            gettext(
                "Everyone gets the same numbers, and answers are shown before the test "
                "closes. Learners who finish first could pass them on."
            )
        )
    if told.correctness is When.NEVER:
        found.append(
            gettext(
                "Learners never see right and wrong, so these answers never count towards a level."
            )
        )
    return found


def date_problems(rules: Rules, *, due: bool, closes: bool) -> dict[str, str]:
    """Return which dates the rules need for an assignment, by field. due, closes: whether they are
    set."""
    found: dict[str, str] = {}
    told = {
        getattr(rules.release, name) for name in ("score", "correctness", "answers", "solutions")
    }
    if When.DUE in told and not due:
        found["due"] = gettext("Set this date: results are shown after it.")
    if When.CLOSED in told and not closes:
        found["closes"] = gettext("Set this date: results are shown after it.")
    if When.LAST_ATTEMPT in told and rules.attempts is None and not closes:
        found["closes"] = gettext("Attempts are unlimited, so choose “once the test has closed”.")
    if rules.late is not LateWork.NOT_TAKEN and not due:
        found["due"] = gettext("Late work needs a due date.")
    if rules.late is not LateWork.NOT_TAKEN and not closes:
        found.setdefault("closes", gettext("Set a closing date: late work is accepted until then."))
    return found
