"""Aims, goals, pace, minutes filled, freshening and what a tutor is told: the circle's own rules."""

from __future__ import annotations

import random
import unittest
from datetime import UTC, date, datetime, timedelta
from fractions import Fraction

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from vendaval_core.mastery.aims import GroupAims, OwnAims, combined, next_exam
from vendaval_core.mastery.attention import (
    Attention,
    LearnerLook,
    TopicLook,
    attention,
    group_headline,
)
from vendaval_core.mastery.filling import Piece, PieceKind, blocks, fill
from vendaval_core.mastery.freshening import faded, freshening_due, freshening_questions
from vendaval_core.mastery.goals import ideas_left, next_idea, next_topic
from vendaval_core.mastery.own_pace import own_pace, pace_words
from vendaval_core.mastery.pace import SLOWEST, Pace
from vendaval_core.mastery.practice import Coverage
from vendaval_core.mastery.reached import Reached, TopicState, state_of
from vendaval_core.mastery.week import Task, fitted
from vendaval_core.mastery.worked import seconds_worked
from vendaval_core.measure.effort import Effort
from vendaval_core.measure.kernels import ChangeSettings
from vendaval_core.measure.level import LevelReading
from vendaval_core.measure.rates import Paces, paces_of
from vendaval_core.scoring.tries import TryRules


def reading(level: float, width: float = 20, chance: float = 0.2) -> LevelReading:
    return LevelReading(level, level - width / 2, level + width / 2, 0.4, 80.0, chance)


class StateTests(unittest.TestCase):
    def test_a_topic_not_taught_is_not_yet_whatever_else_is_so(self) -> None:
        sure = reading(90, chance=0.95)
        state = state_of(sure, taught=False, met=True, secure=True, lost=False)
        self.assertEqual(state, "not_yet")

    def test_a_target_that_was_met_stands_until_a_recheck_fails_or_it_is_doubtful(self) -> None:
        for chance, secure, lost, state in (
            (0.95, False, False, "met"),
            (0.95, True, False, "secure"),
            (0.95, False, True, "check"),
            (0.05, True, False, "check"),
        ):
            seen = reading(80, chance=chance)
            found = state_of(seen, taught=True, met=True, secure=secure, lost=lost)
            self.assertEqual(found, state, (chance, secure, lost))

    def test_before_that_it_is_worked_at_once_its_level_is_known(self) -> None:
        for width, state in ((20, "working"), (90, "unknown")):
            seen = reading(50, width)
            found = state_of(seen, taught=True, met=False, secure=False, lost=False)
            self.assertEqual(found, state)


class AimsTests(unittest.TestCase):
    def test_of_two_groups_the_more_demanding_targets_and_the_milder_rules_hold(self) -> None:
        one = GroupAims({"a": 85, "b": 70}, {"a": 1.5}, frozenset({"c", "d"}), date(2026, 6, 20))
        two = GroupAims({"a": 75}, {}, frozenset({"d"}), date(2026, 5, 2), 4, Fraction(1, 4))
        found = combined([one, two], OwnAims())
        self.assertEqual(dict(found.targets), {"a": 85, "b": 70})
        self.assertEqual(found.not_taught, {"d"}, "what one group was taught, its learner was")
        self.assertEqual((found.tries, found.miss_takes), (4, Fraction(1, 4)))
        self.assertEqual(found.exams, (date(2026, 5, 2), date(2026, 6, 20)))
        self.assertEqual(next_exam(found.exams, date(2026, 5, 3)), date(2026, 6, 20))
        self.assertIsNone(next_exam(found.exams, date(2026, 7, 1)))

    def test_own_wishes_count_where_every_group_allows_them(self) -> None:
        own = OwnAims({"a": 90}, date(2026, 4, 1), (20,) * 7)
        self.assertEqual(combined([], own).targets, {"a": 90})
        self.assertEqual(combined([GroupAims({"a": 70})], own).targets, {"a": 90})
        strict = combined([GroupAims({"a": 70}), GroupAims(own=False)], own)
        self.assertEqual((strict.targets, strict.exams), ({"a": 70}, ()))
        self.assertEqual(strict.minutes, (20,) * 7, "one’s time is always one’s own")

    def test_tries_and_points_off_are_settings(self) -> None:
        """Common practice, no published source: four tries and a quarter off for each miss."""
        aims = combined([GroupAims(tries=4, miss_takes=Fraction(1, 4))], OwnAims())
        rules = TryRules(aims.tries, aims.miss_takes)
        worth = [float(rules.worth(misses)) for misses in range(5)]
        self.assertEqual(worth, [1, 0.75, 0.5, 0.25, 0])
        self.assertEqual(100 / 20 * worth[1], 3.75)


class GoalTests(unittest.TestCase):
    def test_forty_ideas_are_eighty_questions_when_nothing_is_missed(self) -> None:
        """Common practice, no published source."""
        ideas = [f"idea-{n}" for n in range(40)]
        right: dict[str, int] = {}
        asked, last = 0, None
        while (idea := next_idea(right, ideas, last)) is not None:
            self.assertNotEqual(idea, last, "not the same twice running")
            right[idea], last, asked = right.get(idea, 0) + 1, idea, asked + 1
        self.assertEqual((asked, ideas_left(right, ideas)), (80, 0))

    @given(st.lists(st.booleans(), max_size=60))
    def test_a_wrong_answer_costs_no_coverage(self, outcomes: list[bool]) -> None:
        right: dict[str, int] = {}
        left = ideas_left(right, ["a", "b", "c"])
        for outcome in outcomes:
            idea = next_idea(right, ["a", "b", "c"], None)
            if idea is None:
                break
            right[idea] = right.get(idea, 0) + outcome
            now = ideas_left(right, ["a", "b", "c"])
            self.assertEqual(left - now, int(outcome))
            left = now

    def test_a_mix_goes_by_turns_and_leaves_out_what_is_met(self) -> None:
        asked: dict[str, int] = {}
        turns = []
        for _ in range(6):
            topic = next_topic(["a", "b", "c"], asked, {"b": True})
            asked[topic] = asked.get(topic, 0) + 1
            turns.append(topic)
        self.assertEqual(turns, ["a", "c"] * 3)
        self.assertEqual(next_topic(["a", "b"], {"a": 2}, {"a": True, "b": True}), "b")


class PaceTests(unittest.TestCase):
    def test_it_is_learned_and_held_within_bounds(self) -> None:
        pace = Pace()
        for _ in range(80):
            pace = pace.after(90, 60)
        self.assertAlmostEqual(pace.ratio, 1.5, delta=0.06)
        self.assertIn("more time", pace.words())
        once = pace.after(3600, 60)
        self.assertLess(once.ratio / pace.ratio, 1.03, "a walk to the kettle")
        self.assertEqual(Pace().words(), "what these questions usually take")

    def test_minutes_add_up(self) -> None:
        """Seconds with a mean of what is needed, spread as people's are (lognormal; the spread is
        from memory): the estimate for many questions is what they take in all. A mean of the
        logarithms of single ratios would say 12% less."""
        rng = random.Random(7)
        found = []
        for _ in range(200):
            pace, spread = Pace(), 0.5
            for _ in range(150):
                needed = rng.uniform(20, 120)
                pace = pace.after(needed * rng.lognormvariate(-(spread**2) / 2, spread), needed)
            found.append(pace.ratio)
        self.assertAlmostEqual(sum(found) / len(found), 1.0, delta=0.01)

    @given(st.lists(st.tuples(st.floats(0.5, 4000), st.floats(5, 300)), max_size=40))
    def test_it_stays_between_a_quarter_and_four(self, answers: list[tuple[float, float]]) -> None:
        pace = Pace()
        for seconds, needed in answers:
            pace = pace.after(seconds, needed)
        self.assertTrue(1 / SLOWEST - 1e-9 <= pace.ratio <= SLOWEST + 1e-9)


def piece(kind: PieceKind, minutes: float, gain: float, topic: str = "t") -> Piece:
    return Piece(kind, topic, "title", "why", minutes, gain, questions=4)


class FillingTests(unittest.TestCase):
    @given(
        st.floats(5, 120),
        st.lists(
            st.builds(
                piece,
                st.sampled_from(PieceKind),
                st.floats(0.5, 30),
                st.floats(0, 1),
                st.sampled_from("abc"),
            ),
            max_size=30,
        ),
    )
    def test_it_fits_and_what_was_passed_over_was_worth_less_or_did_not_fit(
        self, minutes: float, offered: list[Piece]
    ) -> None:
        taken = fill(minutes, offered)
        used = sum(one.minutes for one in taken)
        most = max((one.minutes for one in taken), default=0.0)
        self.assertLessEqual(used, max(minutes, most) + 1e-6)
        kinds = [list(PieceKind).index(one.kind) for one in taken]
        self.assertEqual(kinds, sorted(kinds), "a recheck is not helped by what comes with it")
        practised = [one.topic for one in taken if one.kind is PieceKind.PRACTISE]
        self.assertEqual(len(practised), len(set(practised)), "a topic’s blocks are one piece")

    def test_the_most_is_taken_first_and_a_topic_gains_less_with_each_block(self) -> None:
        recheck = piece(PieceKind.RECHECK, 4, 0.3, "old")
        practice = blocks(piece(PieceKind.PRACTISE, 5, 0.2, "new"))
        mend = piece(PieceKind.MEND, 2, 0.06, "old")
        taken = fill(20, [*practice, mend, recheck])
        self.assertEqual([one.kind.value for one in taken], ["recheck", "mend", "practise"])
        self.assertEqual(taken[-1].questions, 8)
        self.assertAlmostEqual(taken[-1].gain, 0.2 + 0.15)
        self.assertEqual(fill(20, []), [])


class FresheningTests(unittest.TestCase):
    def test_what_was_known_and_is_wide_again(self) -> None:
        before = [reading(60, 25), reading(60, 25), reading(60, 50)]
        now = [reading(60, 34), reading(60, 28), reading(60, 55)]
        self.assertEqual(faded(now, before), [0])

    def test_at_most_weekly_and_ten_to_fifteen_questions(self) -> None:
        day = datetime(2026, 3, 2, tzinfo=UTC)
        self.assertTrue(freshening_due(2, None, day))
        self.assertFalse(freshening_due(2, day - timedelta(days=6), day))
        self.assertTrue(freshening_due(2, day - timedelta(days=7), day))
        self.assertFalse(freshening_due(0, None, day))
        self.assertEqual([freshening_questions(n) for n in (1, 4, 9)], [10, 12, 15])


def some_paces(learning: float, forgetting: float = 0.0) -> Paces:
    return Paces(np.array([learning]), np.array([forgetting]), np.ones((1, 1)))


class OwnPaceTests(unittest.TestCase):
    def test_nothing_is_said_before_it_is_known(self) -> None:
        change = ChangeSettings()
        self.assertEqual(pace_words(own_pace(paces_of(None, change), 300, change)), "")
        self.assertEqual(pace_words(own_pace(some_paces(1.0, 0.1), 40, change)), "", "few answers")

    def test_in_words(self) -> None:
        change = ChangeSettings()
        said = pace_words(own_pace(some_paces(1.0), 300, change))
        self.assertEqual(
            said,
            "You usually need about 29 questions for a clear step up; after two weeks without "
            "practice you keep nearly all of it.",
        )
        others = pace_words(own_pace(some_paces(1.0), 300, change), own=False)
        self.assertIn("They usually need about 29 questions", others)
        self.assertIn("keep most of it", pace_words(own_pace(some_paces(1.0, 0.03), 300, change)))
        much = pace_words(own_pace(some_paces(0.0, 0.1), 300, change))
        self.assertIn("Practice alone has moved you little so far", much)
        self.assertIn("comes right about 4 times in 10", much)


class EffortTests(unittest.TestCase):
    """Wise and DeMars (2006): effort by time and by answer."""

    def counted(self, *given: tuple[bool, float | None]) -> list[bool]:
        effort, found = Effort(), []
        for right, share in given:
            effort = effort.after(right=right, share=share)
            found.append(not effort.given_up)
        return found

    def test_quick_answers_after_two_misses_count_no_more(self) -> None:
        found = self.counted((False, 0.9), (False, 1.2), (False, 0.2), (True, 0.3), (False, 0.5))
        self.assertEqual(found, [True, True, False, False, False])

    def test_who_takes_their_time_again_is_believed(self) -> None:
        gave_up = [(False, 0.9), (False, 1.0), (False, 0.1)]
        for again in ((False, 0.9), (True, 0.5), (False, None)):
            self.assertTrue(self.counted(*gave_up, again)[-1], again)

    def test_quick_is_not_enough_nor_are_misses(self) -> None:
        self.assertTrue(all(self.counted(*[(True, 0.2)] * 8)))
        self.assertTrue(all(self.counted(*[(False, 0.6)] * 8)))
        self.assertTrue(all(self.counted(*[(False, None)] * 8)))


def look(**more: object) -> TopicLook:
    kept: dict[str, object] = {
        "title": "Tides",
        "reading": reading(60),
        "coverage": lambda: Coverage(1, 3, 4),
        "met": False,
        "secure": False,
        "lost": False,
        "before": 60.0,
        "lately": 0,
    }
    return TopicLook(**(kept | more))  # type: ignore[arg-type]


class AttentionTests(unittest.TestCase):
    def told(self, topic: TopicLook, answers: int = 9, **more: object) -> tuple[Attention, str]:
        kept: dict[str, object] = {"topics": [topic], "answers": answers, "days_away": 1.0}
        kept |= {"paces": some_paces(0.1), "change": ChangeSettings()}
        return attention(LearnerLook(**(kept | more)))  # type: ignore[arg-type]

    def test_what_is_told_apart(self) -> None:
        self.assertEqual(self.told(look(), 0, days_away=None)[0], Attention.NOT_BEGUN)
        kind, says = self.told(look(lately=14, before=59.5))
        says_why = (
            "14 answers on tides in two weeks, no progress: practice alone teaches them little"
        )
        self.assertEqual((kind, says), (Attention.STUCK, f"{says_why} (9 in 10 sure)"))
        self.assertEqual(self.told(look(lately=14, before=50.0))[0], Attention.WORKING)
        self.assertEqual(self.told(look(lately=11, before=60.0))[0], Attention.WORKING)
        kind, says = self.told(look(), left=("Tides", 2, 4.0))
        self.assertEqual(says, "started tides, left after two questions, four days ago")
        self.assertEqual(self.told(look(), days_away=8.0)[0], Attention.AWAY)
        self.assertEqual(self.told(look(lost=True))[0], Attention.LOST)
        kind, says = self.told(look(reading=reading(85, chance=0.8)))
        self.assertEqual((kind, says), (Attention.WAITING, "Tides: two ideas still to cover"))
        self.assertEqual(self.told(look(met=True, secure=True))[0], Attention.SECURE)

    def test_no_rise_is_told_when_it_is_unusual_for_this_learner(self) -> None:
        """Of people who take a step after about thirty questions, two in three take none in 12."""
        flat = {"before": 60.0}
        usual, fast = some_paces(1.0), some_paces(3.2)
        self.assertEqual(self.told(look(lately=14, **flat), paces=usual)[0], Attention.WORKING)
        kind, says = self.told(look(lately=30, **flat), paces=usual)
        self.assertEqual(kind, Attention.STUCK)
        self.assertIn("at their own pace a step up was due (6 in 10 sure)", says)
        self.assertEqual(self.told(look(lately=14, **flat), paces=fast)[0], Attention.STUCK)
        unknown = paces_of(None, ChangeSettings())
        self.assertEqual(self.told(look(lately=14, **flat), paces=unknown)[0], Attention.WORKING)

    def test_a_group_in_a_sentence(self) -> None:
        self.assertEqual(group_headline([Attention.WORKING], 0), "Everybody is active.")
        kinds = [Attention.STUCK, Attention.LEFT, Attention.NOT_BEGUN]
        told = group_headline(kinds, 1)
        self.assertEqual(
            told, "One learner is waiting for your reply, one is stuck, and two are inactive."
        )


class WeekTests(unittest.TestCase):
    def test_a_day_holds_no_more_than_its_minutes_and_nothing_is_lost(self) -> None:
        checks = [Task(f"Recheck {n}", 7, "recheck") for n in range(4)]
        week = fitted([20, 0, 20, 20], [checks, [], [Task("Mistakes", 26, "review")], []])
        titles = [[(task.title, task.minutes) for task in day] for day in week]
        self.assertEqual(titles[0], [("Recheck 0", 7), ("Recheck 1", 7)])
        self.assertEqual(titles[1], [])
        self.assertEqual(titles[2], [("Recheck 2", 7), ("Recheck 3", 7)])
        self.assertEqual(titles[3], [("Mistakes", 20)], "longer than a day: in parts")

    @given(
        st.lists(st.integers(0, 60), min_size=1, max_size=7),
        st.lists(st.integers(1, 90), max_size=8),
    )
    def test_any_week(self, minutes: list[int], lengths: list[int]) -> None:
        due = [[Task(str(n), length, "recheck") for n, length in enumerate(lengths)]]
        week = fitted(minutes, due + [[] for _ in minutes[1:]])
        for day, tasks in zip(minutes, week, strict=True):
            self.assertLessEqual(sum(task.minutes for task in tasks), day)
        done = sum(task.minutes for tasks in week for task in tasks)
        self.assertLessEqual(done, sum(lengths))


class WorkedTests(unittest.TestCase):
    def test_breaks_are_left_out_and_the_order_is_of_no_matter(self) -> None:
        start = datetime(2026, 3, 2, 9, tzinfo=UTC)
        at = [start + timedelta(minutes=n) for n in (0, 3, 4, 90, 93)]
        self.assertEqual(seconds_worked(at, at[2]), 4 * 60, "what comes later doesn't count yet")
        self.assertEqual(seconds_worked(at[::-1], at[-1]), (4 + 5 + 3) * 60)
        self.assertEqual(seconds_worked([], start), 0)


class ReachedTests(unittest.TestCase):
    def test_one_count_with_what_became_doubtful_beside_it(self) -> None:
        topics: list[tuple[TopicState, bool]]
        topics = [("met", True), ("check", False), ("working", True), ("not_yet", False)]
        found = Reached.of(topics)
        self.assertEqual((found.topics, found.reached, found.doubtful), (3, 2, 1))
        self.assertEqual(found.words, "You’ve reached two of three targets, one needs a check")
        self.assertEqual(found.words_of_others, "Two of three targets reached, one needs a check")

    def test_none_reached_though_a_bar_is_beyond_the_post_says_why(self) -> None:
        found = Reached.of([("working", True), ("working", True), ("unknown", False)])
        self.assertEqual(
            found.words,
            "You haven’t reached a target yet: two topics above it, not all ideas covered",
        )
        self.assertEqual(Reached.of([("secure", True)]).words, "You’ve reached every target")
