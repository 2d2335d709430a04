"""What of a test waits: for its moment, for its closing, and for versions that give it away."""

from __future__ import annotations

import unittest
from datetime import UTC, datetime, timedelta
from itertools import product

from hypothesis import given
from hypothesis import strategies as st

from vendaval_core.assessment.mirror import MirrorWaits, mirror_waits
from vendaval_core.assessment.release import Moment, released, still_open
from vendaval_core.assessment.rules import ReleaseRules, Rules, When, rule_warnings, usual_release
from vendaval_core.errors import NothingToAsk
from vendaval_core.mastery.practice import next_seed
from vendaval_core.scoring.fixed import fixed_parts

from .courses import inshore

NOON = datetime(2026, 3, 2, 12, tzinfo=UTC)
DAY = timedelta(days=1)
release = st.builds(ReleaseRules, *(st.sampled_from(When) for _ in range(4)))
moments = st.builds(
    Moment,
    now=st.sampled_from([NOON - DAY, NOON, NOON + DAY]),
    handed_in=st.booleans(),
    due=st.sampled_from([None, NOON]),
    closes=st.sampled_from([None, NOON, NOON + DAY]),
    attempts_left=st.sampled_from([None, 0, 1]),
    marks_out=st.booleans(),
    under_way=st.booleans(),
)


class StillOpenTests(unittest.TestCase):
    @given(release, moments)
    def test_what_is_not_open_any_more_has_nothing_left_to_tell(
        self, when: ReleaseRules, moment: Moment
    ) -> None:
        rules = Rules(release=when)
        if still_open(rules, moment):
            return
        shown = released(rules, moment)
        for name in ("correctness", "answers", "solutions"):
            rule = getattr(when, name)
            if rule is When.NEVER:
                self.assertIsNotNone(moment.closes)
            elif when.correctness is not When.NEVER:
                self.assertTrue(getattr(shown, name), name)
        self.assertTrue(moment.handed_in)

    def test_never_lasts_until_the_test_has_closed(self) -> None:
        never = Rules(release=ReleaseRules(answers=When.NEVER))
        for closes, still in ((None, True), (NOON + DAY, True), (NOON, False)):
            self.assertEqual(still_open(never, Moment(NOON, True, closes=closes)), still)


class UsualTests(unittest.TestCase):
    def test_the_same_numbers_for_everyone_wait_for_closing(self) -> None:
        for same in (True, False):
            rules = Rules(release=usual_release(same_versions=same))
            self.assertEqual(rule_warnings(rules, same_versions=same), [])
        (says,) = rule_warnings(Rules(), same_versions=True)
        self.assertIn("finish first", says)
        (says,) = rule_warnings(
            Rules(release=ReleaseRules(correctness=When.NEVER)), same_versions=False
        )
        self.assertIn("never count", says)


class MirrorTests(unittest.TestCase):
    def test_every_state_of_the_test(self) -> None:
        """By the rule in words: not before the test opens; then once the attempts are used up, or
        it has closed, or early where that is allowed."""
        states = product((-1, 1), (-1, 1, None), (0, 1, None), (False, True), (False, True))
        for opens, closes, left, going, early in states:
            waits = mirror_waits(
                NOON,
                opens=NOON + opens * DAY,
                cut_off=None if closes is None else NOON + closes * DAY,
                attempts_left=left,
                under_way=going,
                early=early,
            )
            is_open = opens < 0 and (closes == -1 or (not going and (early or left == 0)))
            self.assertEqual(waits is None, is_open, (opens, closes, left, going, early))
        self.assertEqual(
            mirror_waits(
                NOON, opens=None, cut_off=None, attempts_left=1, under_way=False, early=False
            ),
            MirrorWaits.ATTEMPTS_LEFT,
        )


class GivesAwayTests(unittest.TestCase):
    def test_parts_with_the_same_answer_in_every_version(self) -> None:
        families = {item.family.key: item.family for item in inshore().families}
        self.assertEqual(fixed_parts(families["range-of-tide"]), frozenset())
        self.assertEqual(fixed_parts(families["spring-moon"]), {"when"})
        self.assertEqual(fixed_parts(families["briefing"]), {"brief", "first"})

    def test_a_version_that_is_left_out_is_not_shown(self) -> None:
        seen = {1: 3, 2: 1}
        self.assertEqual(next_seed(3, seen, "ana", {2, 3}), 1)
        with self.assertRaises(NothingToAsk):
            next_seed(3, seen, "ana", {1, 2, 3})
