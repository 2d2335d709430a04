"""Practice choice, coverage, targets and recommendations."""

from collections.abc import Sequence
from unittest import TestCase

import numpy as np

from vendaval_core.errors import NothingToAsk
from vendaval_core.mastery.next_steps import OpenRun, carry_on_steps, diagnose_steps, mend_steps
from vendaval_core.mastery.practice import (
    PracticeFamily,
    choose_practice,
    coverage,
    next_seed,
    steady_after,
    target_met,
)
from vendaval_core.mastery.recommend import recommend_practice
from vendaval_core.mastery.steps import StepKind, TopicStanding, in_order
from vendaval_core.measure.grid import THETA, normalised
from vendaval_core.measure.kernels import ChangeSettings
from vendaval_core.measure.level import LevelScale, read_level
from vendaval_core.measure.response import judged_curve

SETTINGS = ChangeSettings()
SCALE = LevelScale.of([judged_curve(d, 1, 0.0) for d in (1, 2, 3, 4, 5)])


def family(
    key: str,
    success: float,
    *,
    right: int = 0,
    seen: int = -1,
    versions: int = 50,
    essential: bool = True,
) -> PracticeFamily:
    return PracticeFamily(key, essential, versions, right, seen, success)


def standing(
    key: str, mean: float, sd: float = 0.4, *, right: int = 0, **more: object
) -> TopicStanding:
    mass = normalised(-0.5 * ((THETA - mean) / sd) ** 2)
    values: dict[str, object] = {
        "key": key,
        "title": key.capitalize(),
        "reading": read_level(mass, sd, SCALE, 80.0),
        "marginal": mass,
        "scale": SCALE,
        "importance": 1.0,
        "coverage": coverage([family("a", 0.5, right=right), family("b", 0.5, right=right)]),
        "seconds": 60.0,
    } | more
    return TopicStanding(**values)  # type: ignore[arg-type]


def ahead(topics: Sequence[str]) -> tuple[int, tuple[int, int]]:
    return 9, (5, 14)


class PracticeTests(TestCase):
    def test_nearest_to_three_in_four(self) -> None:
        pool = [family("hard", 0.3), family("good", 0.74), family("easy", 0.97)]
        self.assertEqual(choose_practice(pool, 0, None).family, "good")
        self.assertNotEqual(choose_practice(pool, 0, "good").family, "good")
        with self.assertRaises(NothingToAsk):
            choose_practice([], 0, None)

    def test_uncovered_ideas_come_first_until_all_are_covered(self) -> None:
        pool = [family("done", 0.75, right=2), family("needed", 0.4)]
        self.assertEqual(choose_practice(pool, 0, None).family, "needed")
        done = [family("done", 0.75, right=2), family("other", 0.4, right=2)]
        self.assertEqual(choose_practice(done, 0, None).family, "done")

    def test_two_misses_bring_the_easier_half(self) -> None:
        pool = [family("a", 0.62), family("b", 0.75), family("c", 0.88), family("d", 0.95)]
        choice = choose_practice(pool, 2, None)
        self.assertTrue(choice.easier)
        self.assertIn(choice.family, {"c", "d"})

    def test_least_recently_seen_breaks_ties(self) -> None:
        pool = [family("new", 0.75, seen=9), family("old", 0.76, seen=2)]
        self.assertEqual(choose_practice(pool, 0, None).family, "old")

    def test_coverage_and_target(self) -> None:
        fixed = family("fixed", 0.5, right=1, versions=1)
        part = coverage([family("a", 0.5, right=2), family("b", 0.5, right=1), fixed])
        self.assertEqual((part.covered, part.essential, part.answers_left), (2, 3, 1))
        self.assertFalse(target_met(3, part))
        whole = coverage([fixed, family("x", 0.1, essential=False)])
        self.assertEqual([target_met(steady, whole) for steady in (2.5, 3)], [False, True])

    def test_steady_by_the_weight_of_answers_running(self) -> None:
        steady = [0.0]
        for chance, weight in [(0.8, 1), (0.76, 0.5), (0.1, 0), (0.9, 0.5), (0.74, 0.5)]:
            steady.append(steady_after(steady[-1], chance, weight))
        self.assertEqual(steady, [0, 1, 1.5, 1.5, 2, 0])

    def test_forty_ideas_twice_are_eighty_answers(self) -> None:
        """Common practice, no published source."""
        self.assertEqual(coverage([family(str(i), 0.5) for i in range(40)]).answers_left, 80)

    def test_unseen_versions_first_then_the_oldest(self) -> None:
        self.assertIn(next_seed(3, {1: 10}, "ana"), {2, 3})
        self.assertEqual(next_seed(3, {1: 10, 2: 4, 3: 8}, "ana"), 2)

    def test_learners_meet_versions_in_orders_of_their_own(self) -> None:
        """With the first four of fifty versions from three accounts, a fourth is not known."""
        held = {seed for who in "abc" for seed in _first_four(who)}
        fresh = _first_four("d")
        self.assertEqual(len(set(fresh)), 4)
        self.assertLessEqual(len(held & set(fresh)), 1)


def _first_four(who: str) -> list[int]:
    seen: dict[int, int] = {}
    for turn in range(4):
        seen[next_seed(50, seen, who)] = turn
    return list(seen)


class RecommendationTests(TestCase):
    def test_met_targets_are_not_recommended(self) -> None:
        self.assertEqual(
            recommend_practice([standing("met", 3.0, right=2, steady=3)], SETTINGS), []
        )

    def test_order_follows_importance_misses_effort_and_prerequisites(self) -> None:
        base = standing("base", 0.3)
        better = {
            "importance": standing("top", 0.3, importance=2.0),
            "misses": standing("top", 0.3, misses=3),
        }
        for name, other in better.items():
            self.assertEqual(recommend_practice([base, other], SETTINGS)[0].topic, "top", name)
        worse = {
            "recent": standing("low", 0.3, recent=1.0),
            "waiting": standing("low", 0.3, waiting_for=("Terms",)),
        }
        for name, other in worse.items():
            self.assertEqual(recommend_practice([other, base], SETTINGS)[0].topic, "base", name)

    def test_reasons_use_the_learners_own_numbers(self) -> None:
        level = round(standing("x", 0.3).reading.level)
        plain = recommend_practice([standing("x", 0.3)], SETTINGS)[0].reason
        self.assertEqual(
            plain,
            f"You’re probably at {level}. The target is 80. None of two ideas are covered.",
        )
        missed = recommend_practice([standing("x", 0.3, misses=1)], SETTINGS)[0].reason
        self.assertIn("You have one mistake to correct here.", missed)

    def test_a_newcomer_is_sent_to_a_diagnostic(self) -> None:
        wide = [standing(key, 0.0, 1.3) for key in ("a", "b")]
        steps = diagnose_steps(wide, [("s", "Tides", ["a", "b"])], [], ahead)
        self.assertEqual([step.kind for step in steps], [StepKind.DIAGNOSE])
        self.assertIn("You haven’t answered anything here yet", steps[0].reason)
        self.assertEqual((steps[0].questions, steps[0].between), (9, (5, 14)))

    def test_a_diagnostic_under_way_hides_only_what_it_covers(self) -> None:
        wide = [standing(key, 0.0, 1.3) for key in ("a", "b", "c")]
        subjects = [("s", "Tides", ["a", "b"]), ("t", "Weather", ["c"])]
        for covered, offered in ((("a", "b"), ["t"]), (("a", "b", "c"), [])):
            run = OpenRun(4, "Carry on", 1, frozenset(covered), 7)
            steps = [*carry_on_steps([run], wide), *diagnose_steps(wide, subjects, [run], ahead)]
            self.assertEqual((steps[0].kind, steps[0].run), (StepKind.CARRY_ON, 4))
            self.assertEqual([s.topic for s in steps[1:]], offered)

    def test_an_open_run_comes_first_and_misses_among_practice(self) -> None:
        many = [standing(f"t{i}", 0.2, misses=1) for i in range(9)]
        run = OpenRun(4, "Carry on", 2, frozenset(s.key for s in many[:3]), 7)
        practice = recommend_practice(many, SETTINGS)
        steps = in_order([*mend_steps(many, 2), *practice, *carry_on_steps([run], many)])
        kinds = [step.kind for step in steps[:4]]
        first = [StepKind.CARRY_ON, StepKind.PRACTISE, StepKind.REVIEW, StepKind.PRACTISE]
        self.assertEqual(kinds, first)
        self.assertEqual(steps[0].reason, "One of three topics is still open.")
        review = next(step for step in steps if step.kind is StepKind.REVIEW)
        self.assertEqual(review.title, "Nine mistakes to correct")
        self.assertTrue(all(step.minutes >= 1 and np.isfinite(step.value) for step in steps))
