"""Attempts at tests: the clock to the second, what may be told, and random learners at random
rules."""

from __future__ import annotations

import unittest
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta
from fractions import Fraction

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule

from vendaval_core.assessment.attempt import (
    Attempt,
    HandedInBy,
    Refusal,
    as_of,
    cut_off_of,
    entered,
    hand_in,
    left,
    limits_of,
    may_be_marked,
    refusal,
    resumed,
    seconds_left,
    signed,
)
from vendaval_core.assessment.clock import BACK_WITHIN, SAVE_AFTER_END, Extra, begins_at
from vendaval_core.assessment.composition import Composition, Entry, Place, Section
from vendaval_core.assessment.interventions import extended, paused
from vendaval_core.assessment.navigation import moved_on
from vendaval_core.assessment.release import Moment, Released, released
from vendaval_core.assessment.rules import (
    ClockKind,
    LateWork,
    Navigation,
    ReleaseRules,
    Rules,
    SubmissionMode,
    When,
    date_problems,
    rule_problems,
)

START = datetime(2026, 3, 2, 9, tzinfo=UTC)
PLACES = tuple(Place(n, (n - 1) // 2, f"f{n}", 0, 0, Fraction(1), n) for n in range(1, 7))
SECTIONS = tuple(Section(f"S{i}", (Entry((f"f{2 * i}", f"f{2 * i + 1}"), 2),), 5) for i in range(3))


def at(seconds: float) -> datetime:
    return START + timedelta(seconds=seconds)


def begun(rules: Rules, *limits: float | None, cut_off: float | None = None) -> Attempt:
    cut = None if cut_off is None else at(cut_off)
    new = Attempt(rules, limits or (None,), (START,), cut, places=PLACES)
    return entered(new, 1, START)


class ClockTests(unittest.TestCase):
    def test_the_clock_starts_when_all_is_loaded_or_after_30_s(self) -> None:
        for loaded, begins in ((None, 30), (at(4), 4), (at(90), 30), (at(-3), 0)):
            self.assertEqual(begins_at(START, loaded), at(begins))

    def test_extra_time_lengthens_the_limit_and_not_the_window(self) -> None:
        test = Composition(SECTIONS[:1], 1)
        test = replace(test, sections=(replace(SECTIONS[0], minutes=None),))
        limits = limits_of(test, Rules(minutes=40), Extra(times=1.25, minutes=2))
        self.assertEqual(limits, (52 * 60,))
        attempt = begun(Rules(minutes=40), *limits, cut_off=30 * 60)
        self.assertEqual(seconds_left(attempt, at(0)), 30 * 60, "closing cuts off")
        timed = limits_of(Composition(SECTIONS, 1), Rules(), Extra(times=2))
        self.assertEqual(timed, (600, 600, 600))

    def test_a_clock_that_runs_on_hands_in_without_a_browser(self) -> None:
        attempt = begun(Rules(minutes=10), 600)
        self.assertEqual(seconds_left(attempt, at(599)), 1)
        self.assertIsNone(as_of(attempt, at(599.9)).handed_in)
        over = as_of(attempt, at(4000))
        assert over.handed_in is not None
        self.assertEqual((over.handed_in.at, over.handed_in.by), (at(600), HandedInBy.CLOCK))
        self.assertEqual(as_of(over, at(9000)), over, "done again it changes nothing")
        self.assertEqual(hand_in(attempt, HandedInBy.LEARNER, at(601)).handed_in, over.handed_in)

    def test_a_clock_that_stops_counts_what_was_spent_inside(self) -> None:
        rules = Rules(minutes=10, clock=ClockKind.STOPS)
        attempt = left(begun(rules, 600), 1, at(100))
        self.assertEqual(seconds_left(attempt, at(5000)), 500)
        attempt = entered(attempt, 2, at(5000))
        silent = as_of(attempt, at(5200))
        self.assertEqual(seconds_left(silent, at(5200)), 455, "45 s without a sign is leaving")
        was_there = signed(attempt, 2, at(5200))
        self.assertEqual(seconds_left(was_there, at(5200)), 300, "its page was open all the time")
        third = entered(silent, 3, at(6000))
        self.assertEqual(seconds_left(third, at(6010)), 445)
        over = as_of(signed(third, 3, at(6044)), at(9000))
        self.assertIsNone(over.handed_in, "44 and 45 s were used, and nobody is there")
        stays = third
        for second in range(6010, 6500, 10):
            stays = signed(stays, 3, at(second))
        assert stays.handed_in is not None
        self.assertEqual(stays.handed_in.at, at(6455))

    def test_opening_elsewhere_ends_the_interval_before(self) -> None:
        attempt = entered(begun(Rules(minutes=10, clock=ClockKind.STOPS), 600), 2, at(20))
        self.assertEqual(refusal(attempt, PLACES[0], 1, at(21)), Refusal.ELSEWHERE)
        self.assertIsNone(refusal(attempt, PLACES[0], 2, at(21)))
        self.assertEqual(seconds_left(attempt, at(30)), 570, "no second counts twice")

    def test_nothing_is_saved_beside_the_clock(self) -> None:
        """Neither before it was entered, nor after it was left: the clock stands still then."""
        rules = Rules(minutes=10, clock=ClockKind.STOPS)
        never = replace(begun(rules, 600), intervals=())
        gone = left(begun(rules, 600), 1, at(1))
        for attempt, interval in ((never, 0), (never, 1), (gone, 1)):
            self.assertEqual(refusal(attempt, PLACES[0], interval, at(300)), Refusal.NOT_ENTERED)
        again = entered(gone, 2, at(300))
        self.assertIsNone(refusal(again, PLACES[0], 2, at(310)))
        self.assertEqual(seconds_left(again, at(310)), 589)

    def test_one_sitting(self) -> None:
        attempt = begun(Rules(minutes=60, one_sitting=True), 3600)
        gone = left(attempt, 1, at(60))
        assert gone.handed_in is not None
        self.assertEqual(gone.handed_in.by, HandedInBy.LEAVING)
        lost = signed(attempt, 1, at(100))
        self.assertIsNone(as_of(lost, at(699)).handed_in)
        away = as_of(lost, at(701))
        assert away.handed_in is not None
        self.assertEqual((away.handed_in.at, away.handed_in.by), (at(700), HandedInBy.LEAVING))
        self.assertEqual(BACK_WITHIN, timedelta(minutes=10))

    def test_a_save_within_15_s_after_the_end_counts(self) -> None:
        attempt = begun(Rules(minutes=10), 600)
        for second, found in ((600, None), (615, None), (615.1, Refusal.TIME_IS_UP)):
            self.assertEqual(refusal(attempt, PLACES[0], 1, at(second)), found)
        self.assertFalse(may_be_marked(as_of(attempt, at(610)), at(610)))
        self.assertTrue(may_be_marked(as_of(attempt, at(616)), at(616)))
        by_learner = hand_in(attempt, HandedInBy.LEARNER, at(30))
        self.assertEqual(refusal(by_learner, PLACES[0], 1, at(31)), Refusal.HANDED_IN)

    def test_sections_with_limits_come_one_after_the_other(self) -> None:
        attempt = begun(Rules(), 300, 300, 300)
        self.assertEqual(refusal(attempt, PLACES[2], 1, at(10)), Refusal.NOT_YET)
        early = moved_on(attempt, at(100))
        self.assertIsNone(refusal(early, PLACES[2], 1, at(120)))
        self.assertEqual(refusal(early, PLACES[0], 1, at(120)), Refusal.BEHIND)
        self.assertEqual(seconds_left(early, at(130)), 270)
        alone = as_of(attempt, at(650))
        self.assertEqual(alone.stretches, (at(0), at(300), at(600)))
        over = as_of(attempt, at(2000))
        assert over.handed_in is not None
        self.assertEqual(over.handed_in.at, at(900))

    def test_late_work_is_cut_off_when_it_is_not_taken(self) -> None:
        due, closes = at(100), at(200)
        self.assertEqual(cut_off_of(Rules(), due, closes), due)
        taken = Rules(late=LateWork.TAKEN)
        self.assertEqual(cut_off_of(taken, due, closes), closes)
        self.assertIsNone(cut_off_of(taken, due, None))


class ReleaseTests(unittest.TestCase):
    def test_each_value_waits_for_its_moment(self) -> None:
        due, closes = at(100), at(200)

        def tells(when: When, second: float, **moment: object) -> bool:
            rules = Rules(release=ReleaseRules(score=when))
            found = Moment(at(second), True, due=due, closes=closes, attempts_left=1)
            return released(rules, replace(found, **moment)).score  # type: ignore[arg-type]

        self.assertTrue(tells(When.HANDED_IN, 0))
        self.assertFalse(tells(When.HANDED_IN, 0, handed_in=False))
        self.assertTrue(tells(When.AT_ONCE, 0, handed_in=False, sent=True))
        self.assertEqual([tells(When.DUE, s) for s in (99, 100)], [False, True])
        self.assertEqual([tells(When.CLOSED, s) for s in (199, 200)], [False, True])
        self.assertEqual([tells(When.LAST_ATTEMPT, s) for s in (199, 200)], [False, True])
        self.assertTrue(tells(When.LAST_ATTEMPT, 0, attempts_left=0))
        self.assertEqual(
            [tells(When.MARKS_OUT, 0, marks_out=out) for out in (False, True)], [False, True]
        )
        self.assertFalse(tells(When.NEVER, 9e6, marks_out=True, attempts_left=0))

    def test_right_answers_wait_for_right_or_wrong_and_for_the_attempt_under_way(self) -> None:
        early = Rules(release=ReleaseRules(correctness=When.CLOSED))
        self.assertEqual(released(early, Moment(START, True)), Released(score=True))
        again = released(Rules(attempts=2), Moment(START, True, attempts_left=1, under_way=True))
        self.assertEqual(again, Released(score=True, correctness=True))

    def test_rules_that_cannot_be_together(self) -> None:
        good = (
            Rules(),
            Rules(
                submission=SubmissionMode.INDIVIDUAL,
                tries=4,
                off_per_miss=Fraction(1, 4),
                release=ReleaseRules(correctness=When.AT_ONCE),
            ),
            Rules(minutes=30, clock=ClockKind.STOPS),
        )
        for rules in good:
            self.assertEqual(rule_problems(rules, same_versions=True), {})
        never_early = ReleaseRules(answers=When.AT_ONCE)
        bad = {
            "tries": Rules(tries=4, release=ReleaseRules(correctness=When.NEVER)),
            "off_per_miss": Rules(off_per_miss=Fraction(1, 4)),
            "release.answers": Rules(release=never_early),
            "release.solutions": Rules(attempts=3, release=ReleaseRules(answers=When.LAST_ATTEMPT)),
            "clock": Rules(minutes=20, clock=ClockKind.STOPS, one_sitting=True),
            "late_off": Rules(late=LateWork.LESS),
            "attempts": Rules(attempts=0),
            "bands": Rules(bands=()),
            "minutes": Rules(minutes=0),
        }
        for name, rules in bad.items():
            self.assertEqual(next(iter(rule_problems(rules, same_versions=True))), name)
        self.assertEqual(
            rule_problems(
                Rules(attempts=3, release=ReleaseRules(answers=When.DUE)), same_versions=False
            ),
            {},
        )
        closed = Rules(release=ReleaseRules(answers=When.CLOSED), late=LateWork.TAKEN)
        self.assertEqual(set(date_problems(closed, due=False, closes=False)), {"due", "closes"})


RULES = st.builds(
    Rules,
    navigation=st.sampled_from(Navigation),
    submission=st.sampled_from(SubmissionMode),
    clock=st.sampled_from(ClockKind),
    one_sitting=st.booleans(),
    release=st.builds(ReleaseRules, *(st.sampled_from(When) for _ in range(4))),
)


@dataclass
class Known:
    """What the learner was promised: the saves that were acknowledged, by place."""

    taken: dict[int, int] = field(default_factory=dict)


class RandomLearner(RuleBasedStateMachine):
    """Enters, leaves, falls silent, saves, moves on and hands in as it likes, in two browsers."""

    @initialize(
        rules=RULES,
        limits=st.sampled_from([(None,), (120.0,), (600.0,), (90.0, 60.0, 200.0)]),
        cut_off=st.sampled_from([None, 300, 3000]),
    )
    def begin(self, rules: Rules, limits: tuple[float | None, ...], cut_off: int | None) -> None:
        if len(limits) > 1:
            rules = replace(rules, clock=ClockKind.RUNS_ON)
        self.now, self.next, self.counter = START, 2, 0
        self.attempt = begun(rules, *limits, cut_off=cut_off)
        self.stored: dict[int, int] = {}
        self.known = Known()
        self.final: Attempt | None = None
        self.granted = 0.0

    @rule(seconds=st.sampled_from([1, 14, 15, 16, 44, 46, 61, 599, 601]))
    def wait(self, seconds: int) -> None:
        self.now += timedelta(seconds=seconds)

    @rule()
    def enter(self) -> None:
        self.attempt = entered(self.attempt, self.next, self.now)
        self.next += 1

    @rule(back=st.integers(1, 2))
    def sign(self, back: int) -> None:
        self.attempt = signed(self.attempt, self.next - back, self.now)

    @rule()
    def leave(self) -> None:
        self.attempt = left(self.attempt, self.next - 1, self.now)

    @rule()
    def move_on(self) -> None:
        self.attempt = moved_on(self.attempt, self.now)

    @rule(place=st.sampled_from(PLACES), back=st.integers(1, 2))
    def save(self, place: Place, back: int) -> None:
        why = refusal(self.attempt, place, self.next - back, self.now)
        self.attempt = as_of(self.attempt, self.now)
        if why is None:
            self.counter += 1
            self.stored[place.number] = self.known.taken[place.number] = self.counter
            assert not may_be_marked(self.attempt, self.now), "what counts is not marked yet"

    @rule()
    def pause(self) -> None:
        self.attempt = paused(self.attempt, self.now)

    @precondition(lambda self: self.attempt.paused is not None)
    @rule()
    def resume(self) -> None:
        left_ = seconds_left(self.attempt, self.now)
        self.granted += (self.now - self.attempt.paused).total_seconds()
        self.attempt = resumed(self.attempt, self.now)
        assert seconds_left(self.attempt, self.now) == left_, "a pause changes nothing"

    @rule(seconds=st.sampled_from([60.0, 300.0]))
    def extend(self, seconds: float) -> None:
        before = as_of(self.attempt, self.now)
        self.attempt = extended(self.attempt, seconds, self.now)
        self.granted += seconds if self.attempt != before else 0.0

    @precondition(lambda self: self.now > START + timedelta(seconds=30))
    @rule()
    def give_in(self) -> None:
        self.attempt = hand_in(self.attempt, HandedInBy.LEARNER, self.now)

    @invariant()
    def the_clock_gives_no_second_more(self) -> None:
        if not hasattr(self, "attempt"):
            return
        now, attempt = self.now, as_of(self.attempt, self.now)
        assert attempt == as_of(attempt, now)
        left_ = seconds_left(attempt, now)
        if attempt.handed_in is not None:
            assert attempt.handed_in.at <= now
            assert attempt.cut_off is None or attempt.handed_in.at <= attempt.cut_off
            inside = sum((i.ends(now) - i.entered).total_seconds() for i in attempt.intervals)
        else:
            stands = attempt.rules.clock is ClockKind.STOPS or attempt.paused is not None
            assert left_ is None or left_ > 0 or stands
            inside = 0.0
        if attempt.limits[0] is not None and attempt.rules.clock is ClockKind.STOPS:
            assert inside <= attempt.limits[0] + 1e-6, "minutes inside are at most the limit"
        if None not in attempt.limits and attempt.rules.clock is ClockKind.RUNS_ON:
            whole = sum(limit for limit in attempt.limits if limit is not None)
            until = attempt.handed_in.at if attempt.handed_in else now
            if attempt.paused is not None:
                until = attempt.paused
            assert until <= attempt.begun + timedelta(seconds=whole + self.granted)

    @invariant()
    def once_handed_in_it_stays(self) -> None:
        if not hasattr(self, "attempt"):
            return
        if self.final is not None:
            assert self.attempt.handed_in == self.final.handed_in
        elif self.attempt.handed_in is not None:
            self.final = self.attempt
        if self.attempt.handed_in is not None and may_be_marked(self.attempt, self.now):
            ends = self.attempt.handed_in.at + SAVE_AFTER_END
            for place in PLACES:
                assert refusal(
                    self.attempt, place, self.next - 1, max(self.now, ends + SAVE_AFTER_END)
                )

    @invariant()
    def what_was_acknowledged_stands(self) -> None:
        if hasattr(self, "known"):
            assert self.stored == self.known.taken

    @invariant()
    def nothing_is_told_before_the_rules_allow(self) -> None:
        if not hasattr(self, "attempt"):
            return
        attempt, rules = self.attempt, self.attempt.rules
        moment = Moment(self.now, attempt.handed_in is not None, due=at(50), closes=at(3000))
        found = released(rules, moment)
        for name in ("score", "correctness", "answers", "solutions"):
            if getattr(found, name):
                when: When = getattr(rules.release, name)
                assert when not in {When.NEVER, When.MARKS_OUT}
                assert attempt.handed_in is not None
                assert when is not When.DUE or self.now >= at(50)
                assert when is not When.CLOSED or self.now >= at(3000)
        assert found.correctness or not (found.answers or found.solutions)


class RandomLearnerTests(RandomLearner.TestCase):  # type: ignore[misc, valid-type]
    settings = settings(max_examples=60, stateful_step_count=25, deadline=None)
