"""Tests and attempts as their learner sees them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from datetime import datetime
from fractions import Fraction

from django.utils.translation import gettext, gettext_noop

from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.delivery.payload import reading_out
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import learning_of
from vendaval.shared import clock
from vendaval.shared.markdown import to_html
from vendaval_core.assessment.attempt import HandedInBy
from vendaval_core.assessment.points import Kept, Total, band_of, kept_score, shown
from vendaval_core.assessment.release import Released
from vendaval_core.assessment.rules import Rules, ScoreKept
from vendaval_core.assessment.wording import accommodation_words, rule_lines, verdict_words
from vendaval_core.words import counted

from ..assigning.assigned import AssignedTest, assigned_test_of, assigned_tests, mirror_of_test
from ..assigning.schemas import StudyStepOut
from ..assigning.study_first import sections_opened, study_steps
from ..composing.schemas import LineOut
from ..models import Accommodation, Attempt, Test
from ..refusals import NOTHING_TO_MIRROR, mirror_words
from .schemas import (
    AttemptLineOut,
    EarnedOut,
    IdeasOut,
    TestLineOut,
    TestPageOut,
    TestsOut,
    WorkState,
)

OVER = {
    HandedInBy.LEARNER: gettext_noop("You handed it in."),
    HandedInBy.CLOCK: gettext_noop("Handed in automatically when the time was up."),
    HandedInBy.LEAVING: gettext_noop(
        "Handed in because you left. This test had to be done in one sitting."
    ),
    HandedInBy.TUTOR: gettext_noop("Your tutor handed it in."),
}
REHEARSAL = "rehearsal-0"  # there is only one


def ref_of(given: AssignedTest) -> str:
    """How a learner's test is named in addresses."""
    if given.assignment is not None:
        return f"given-{given.assignment.pk}"
    return _ref_alone(given.test)


def ref_of_attempt(attempt: Attempt) -> str:
    """How the test of an attempt is named in addresses."""
    if attempt.assignment_id is not None:
        return f"given-{attempt.assignment_id}"
    return _ref_alone(attempt.test)


def _ref_alone(test: Test) -> str:
    if test.rehearsal:
        return REHEARSAL
    return f"trial-{test.pk}" if test.mirror_of_id is None else f"mirror-{test.pk}"


def state_of(given: AssignedTest, now: datetime) -> WorkState:
    """Where the work on a test stands. Begun and left is told apart from never opened."""
    if given.under_way is not None:
        return "under_way"
    over = given.cut_off is not None and now >= given.cut_off
    if given.attempts:
        latest = given.attempts[-1]
        if not latest.marked:
            return "handed_in"
        return "waiting" if latest.total is not None and latest.total.waiting else "marked"
    if over:
        return "closed"
    if given.opens is not None and now < given.opens:
        return "not_open"
    return "late" if given.due is not None and now >= given.due else "not_begun"


def tests_page(enrolment: Enrolment) -> TestsOut:
    """Every test that was given to a learner, what waits soonest first."""
    now = clock.now()
    bank = course_bank(enrolment.course)
    return TestsOut(
        tests=[_test_line(one, bank, now) for one in in_order(enrolment, now)],
        rehearsal=rehearsal_ref(enrolment),
    )


def rehearsal_ref(enrolment: Enrolment) -> str | None:
    """How the test to rehearse is named in addresses; None where the course has none."""
    return None if enrolment.course.rehearsal is None else REHEARSAL


def in_order(enrolment: Enrolment, now: datetime) -> list[AssignedTest]:
    """What can be done first, by when it is due; then what is over, the latest first."""
    found = assigned_tests(enrolment)
    doing = {"under_way", "late", "not_begun", "not_open"}
    far = datetime.max.replace(tzinfo=now.tzinfo)

    def rank(given: AssignedTest) -> tuple[bool, bool, float]:
        state = state_of(given, now)
        due = given.due or given.closes or far
        return state not in doing, state != "under_way", due.timestamp()

    return sorted(found, key=rank)


def _test_line(given: AssignedTest, bank: CourseBank, now: datetime) -> TestLineOut:
    composition = given.composition
    return TestLineOut(
        ref=ref_of(given),
        title=given.test.title,
        state=state_of(given, now),
        subjects=_subjects(given, bank),
        questions=composition.questions,
        minutes=_whole_minutes(given),
        opens=given.opens,
        due=given.due,
        closes=given.closes,
        attempts=len(given.attempts),
        attempts_left=given.attempts_left,
        counts=counts(given, now),
    )


def _families(given: AssignedTest) -> list[str]:
    sections = given.composition.sections
    return [key for section in sections for entry in section.entries for key in entry.families]


def _subjects(given: AssignedTest, bank: CourseBank) -> list[PlaceOut]:
    topics = {bank.families[key].family.topic for key in _families(given) if key in bank.families}
    mine = {bank.topic(key).subject for key in topics}
    return [PlaceOut(key=key, title=title) for key, title in bank.subjects if key in mine]


def _whole_minutes(given: AssignedTest) -> int | None:
    limits = [limit for limit in given.limits if limit is not None]
    return round(sum(limits) / 60) if limits else None


def kept_of(attempts: Sequence[Attempt], rule: ScoreKept) -> Kept | None:
    """What counts of one learner's marked attempts; None while any waits for marks."""
    totals = [one.total.core() for one in attempts if one.total is not None]
    if not all(total.complete for total in totals):
        return None
    return kept_score(rule, [total.share for total in totals])


def kept_share(attempts: Sequence[Attempt], rule: ScoreKept) -> Fraction | None:
    """The share of the points that counts, 0 to 1; None while any attempt waits for marks."""
    kept = kept_of(attempts, rule)
    return None if kept is None else kept.share


def counts(given: AssignedTest, now: datetime) -> str | None:
    """The score that counts and why, as far as it may be told."""
    over = [one for one in given.attempts if one.total is not None]
    told = [one for one in over if given.released(one, now).score]
    if not over or len(told) < len(over) or any(one.total.waiting for one in told if one.total):
        return None
    kept = kept_score(
        given.rules.score_kept, [one.total.core().share for one in told if one.total is not None]
    )
    if kept is None:
        return None
    return f"{shown(100 * kept.share)}% ({kept.says})"


def test_page(given: AssignedTest, enrolment: Enrolment) -> TestPageOut:
    """Everything about a test before it is begun. Looking starts nothing."""
    now, bank = clock.now(), course_bank(enrolment.course)
    limits = [limit for limit in given.limits if limit is not None]
    why_not = _why_not(given, now)
    going = given.under_way
    mirror = mirror_of_test(given.test)
    mirror_waits = None if mirror is None else given.mirror_waits(now)
    rules, composition = given.rules, given.composition
    return TestPageOut(
        ref=ref_of(given),
        title=given.test.title,
        mirror=given.test.mirror_of_id is not None,
        rehearsal=given.test.rehearsal,
        first=_first(given, enrolment, bank),
        directions_html=to_html(given.test.directions) if given.test.directions else "",
        materials=given.test.materials,
        state=state_of(given, now),
        lines=[
            LineOut(about=line.about, says=line.says)
            for line in rule_lines(rules, composition, sum(limits) if limits else None)
        ],
        opens=given.opens,
        due=given.due,
        closes=given.closes,
        allowed=_allowed(given),
        large_print=given.accommodation is not None and given.accommodation.large_print,
        can_start=why_not is None,
        why_not=why_not,
        under_way=None if going is None else going.pk,
        attempts_left=given.attempts_left,
        ideas=_ideas(given, enrolment, bank),
        attempts=[attempt_line(one, given, now) for one in given.attempts],
        counts=counts(given, now),
        mirror_ref=f"mirror-{mirror.pk}" if mirror is not None and not mirror_waits else None,
        mirror_says=None if mirror_waits is None else mirror_words(mirror_waits),
    )


def _first(given: AssignedTest, enrolment: Enrolment, bank: CourseBank) -> list[StudyStepOut]:
    row = given.assignment
    if row is None or not row.first:
        return []
    return study_steps(row.first, sections_opened(enrolment), bank)


def _why_not(given: AssignedTest, now: datetime) -> str | None:
    if given.under_way is not None:
        return None
    if given.waits is not None:
        return mirror_words(given.waits)
    if given.composition.questions == 0:
        return gettext(NOTHING_TO_MIRROR)
    if given.opens is not None and now < given.opens:
        return gettext("It isn’t open yet.")
    if given.cut_off is not None and now >= given.cut_off:
        return gettext("It has closed.")
    if given.attempts_left == 0:
        return gettext("You have no attempts left.")
    return None


def _allowed(given: AssignedTest) -> str | None:
    allowance, usual = given.allowance, given.accommodation
    if allowance is None:
        return None if usual is None else _usually(usual)
    parts = []
    if allowance.times != 1:
        parts.append(gettext("{times} times the time").format(times=shown_factor(allowance.times)))
    if allowance.minutes:
        parts.append(gettext("{minutes:g} min more").format(minutes=allowance.minutes))
    if allowance.attempts:
        parts.append(counted(allowance.attempts, "more attempt"))
    if allowance.opens or allowance.due or allowance.closes:
        parts.append(gettext("your own dates"))
    return (
        gettext("You have {parts}: {why}.").format(parts=" and ".join(parts), why=allowance.why)
        if parts
        else None
    )


def _usually(usual: Accommodation) -> str | None:
    parts = accommodation_words(
        usual.times,
        usual.minutes,
        large_print=usual.large_print,
        reader=usual.reader,
        separate_room=usual.separate_room,
    )
    if not parts:
        return None
    says = gettext("In every test you have {parts}").format(parts=" and ".join(parts))
    return f"{says}: {usual.why}." if usual.why else f"{says}."


def shown_factor(times: float) -> str:
    """A factor without empty decimals."""
    return f"{times:.2f}".rstrip("0").rstrip(".")


def _ideas(given: AssignedTest, enrolment: Enrolment, bank: CourseBank) -> list[IdeasOut]:
    readings = learning_of(enrolment).readings
    count: Counter[str] = Counter()
    for section in given.composition.sections:
        for entry in section.entries:
            topics = {bank.families[k].family.topic for k in entry.families if k in bank.families}
            for topic in topics:
                count[topic] += entry.count if len(topics) == 1 else 1
    return [
        IdeasOut(
            topic=PlaceOut(key=topic.key, title=topic.title),
            reading=reading_out(readings[topic.number]),
            questions=count[topic.key],
        )
        for topic in bank.topics
        if topic.key in count
    ]


def attempt_line(attempt: Attempt, given: AssignedTest, now: datetime) -> AttemptLineOut:
    """An attempt in short, its score as far as it may be told."""
    by = attempt.standing.handed_in_by
    return AttemptLineOut(
        id=attempt.pk,
        number=attempt.number,
        begun=attempt.standing.stretches[0],
        handed_in=attempt.handed_in_at,
        why_over=gettext(OVER[by]) if by is not None else None,
        points=earned(attempt, given.released(attempt, now)),
    )


def earned(attempt: Attempt, told: Released) -> EarnedOut | None:
    """Points of an attempt, once they may be told."""
    if attempt.total is None or not told.score:
        return None
    total, rules = attempt.total.core(), attempt.rules.core()
    complete = total.complete
    return EarnedOut(
        reached=shown(total.reached),
        marked=shown(total.marked),
        of=shown(total.of),
        waiting=total.waiting,
        per_cent=shown(total.per_cent) if complete else None,
        scale=_on_scale(total, rules) if complete else None,
        band=band_of(rules.bands, total.per_cent) if complete else None,
        verdict=verdict_words(total, rules) if complete else None,
    )


def _on_scale(total: Total, rules: Rules) -> str:
    scaled = shown(total.scaled(rules.scale))
    return gettext("{scaled} of {scale}").format(scaled=scaled, scale=rules.scale)


def told_of(attempt: Attempt) -> tuple[AssignedTest, Released]:
    """What an attempt belongs to and what may be told of it now."""
    given = assigned_test_of(attempt)
    return given, given.released(attempt, clock.now())
