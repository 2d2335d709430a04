"""Trials of two texts: who gets which, what the belief in an effect is, and when it ends."""

from __future__ import annotations

from typing import ClassVar
from unittest import TestCase

import numpy as np
from scipy.optimize import minimize
from scipy.special import expit, logit

from vendaval_core.authoring.trial_texts import texts_in, with_text
from vendaval_core.measure.after_reading import after_reading
from vendaval_core.measure.calibration.observed import observed_points
from vendaval_core.measure.level import LevelReading, LevelScale
from vendaval_core.measure.response import ResponseCurve
from vendaval_core.measure.trials import (
    EFFECT_SD,
    EFFECTS,
    FEWEST,
    MOST,
    SHIFT_SD,
    Posterior,
    TrialAnswer,
    Verdict,
    chance_before,
    followed,
    gets_second,
    simulate,
    sure_after,
)


def answers(effect: float, many: int, seed: int = 1) -> list[TrialAnswer]:
    random = np.random.default_rng(seed)
    found = []
    for _ in range(many):
        chance, second = float(random.uniform(0.3, 0.9)), bool(random.random() < 0.5)
        truth = expit(logit(chance) + (effect / 2 if second else -effect / 2))
        found.append(TrialAnswer(second, chance, bool(random.random() < truth)))
    return found


class TrialTests(TestCase):
    def test_each_learner_gets_one_text_always_and_half_of_them_each(self) -> None:
        given = [gets_second(7, learner) for learner in range(2000)]
        self.assertEqual(given, [gets_second(7, learner) for learner in range(2000)])
        self.assertLess(abs(sum(given) - 1000), 90)
        other = [gets_second(8, learner) for learner in range(2000)]
        self.assertLess(abs(sum(a == b for a, b in zip(given, other, strict=True)) - 1000), 90)

    def test_the_belief_is_that_of_a_logistic_model_with_an_offset(self) -> None:
        """Its mean against the mode that scipy finds of the same model, with many answers."""
        given = answers(0.5, 900)
        posterior = Posterior()
        for one in given:
            posterior.add(one)
        half = np.array([0.5 if one.second else -0.5 for one in given])
        offset = logit(np.array([one.chance for one in given]))
        sign = np.array([1 if one.right else -1 for one in given])

        def loss(at: np.ndarray) -> float:  # type: ignore[type-arg]
            fit = np.logaddexp(0, -sign * (offset + at[0] + half * at[1])).sum()
            return float(fit + 0.5 * (at[0] / SHIFT_SD) ** 2 + 0.5 * (at[1] / EFFECT_SD) ** 2)

        mode = minimize(loss, np.zeros(2)).x[1]
        self.assertAlmostEqual(float(posterior.effect() @ EFFECTS), float(mode), delta=0.01)

    def test_it_ends_by_itself_and_what_comes_later_changes_nothing(self) -> None:
        given = answers(1.2, 900)
        found = followed(given)
        self.assertEqual(found.verdict, Verdict.SECOND)
        self.assertEqual(followed([*given[: found.answers], *answers(-3, 300)]), found)
        self.assertGreater(found.low, 0)
        self.assertEqual(followed(answers(-1.2, 900)).verdict, Verdict.FIRST)

    def test_nothing_is_called_of_few_answers_and_what_takes_too_long_is_undecided(self) -> None:
        certain = [TrialAnswer(i % 2 == 0, 0.5, i % 2 == 0) for i in range(FEWEST - 1)]
        self.assertEqual(followed(certain).verdict, Verdict.RUNNING)
        self.assertEqual(followed(answers(0.1, 80), over=True).verdict, Verdict.UNDECIDED)
        self.assertNotEqual(followed(answers(0.2, MOST + 50)).verdict, Verdict.RUNNING)
        self.assertGreater(sure_after(100), sure_after(280))

    def test_simulated_trials_call_what_is_there(self) -> None:
        """The figures of many trials are those of `simulate --trials`, in docs/measurement.md."""
        self.assertGreater(simulate(0.3, 10, 300).second, 0.8)
        self.assertLess(simulate(0.0, 10, 300).second, 0.3)


class TextTests(TestCase):
    DATA: ClassVar = {
        "title": "Drying rock",
        "hints": ["Draw chart datum."],
        "parts": [
            {
                "kind": "text_entry",
                "near_misses": [
                    {"answer": "tide", "says": "That leaves out the rock."},
                    {"answer": "rock", "says": ""},
                ],
            }
        ],
        "solution": ["Two heights.", "Take one from the other."],
    }

    def test_each_text_can_have_a_second_one_and_nothing_else_changes(self) -> None:
        texts = texts_in(self.DATA)
        self.assertEqual(
            [one.name for one in texts], ["hint 1", "worked solution", "feedback to tide"]
        )
        for one in texts:
            self.assertEqual(with_text(self.DATA, one.place, one.text), self.DATA)
            new = with_text(self.DATA, one.place, "Another text.")
            changed = {
                old.place for old, now in zip(texts, texts_in(new), strict=True) if old != now
            }
            self.assertEqual(changed, {one.place})
        with self.assertRaises(IndexError):
            with_text(self.DATA, "hints.4", "Another.")


class ChanceTests(TestCase):
    def test_it_is_what_the_curve_gives_over_the_belief(self) -> None:
        """Against the mean over many draws; without doubt it is the curve itself."""
        curve, scale = ResponseCurve(1.3, 0.4, 0.2), LevelScale.of([ResponseCurve(1.0, 0.0)])
        draws = 0.7 + 0.6 * np.random.default_rng(1).standard_normal(200_000)
        reading = LevelReading(scale.level(0.7), 0.0, 0.0, 0.6, 80.0, 0.0)
        wanted = float(curve.share(draws)[0].mean())
        self.assertAlmostEqual(chance_before(curve, scale, reading), wanted, 2)
        sure = LevelReading(scale.level(0.7), 0.0, 0.0, 0.0, 80.0, 0.0)
        exact = float(curve.share(np.array([0.7]))[0][0])
        self.assertAlmostEqual(chance_before(curve, scale, sure), exact, 3)


class ObservedTests(TestCase):
    def test_groups_are_of_one_size_and_lose_no_answer(self) -> None:
        random = np.random.default_rng(2)
        answers = [(float(a), float(random.random() < expit(a))) for a in random.normal(size=83)]
        points = observed_points(answers)
        self.assertEqual(sum(one.answers for one in points), 83)
        self.assertTrue(all(8 <= one.answers <= 9 for one in points))
        self.assertEqual([one.ability for one in points], sorted(one.ability for one in points))
        total = sum(one.share * one.answers for one in points)
        self.assertAlmostEqual(total, sum(share for _, share in answers))
        self.assertEqual(observed_points(answers[:7]), [])

    def test_those_of_one_ability_are_never_parted_by_what_they_answered(self) -> None:
        answers = [(0.0, float(n % 2)) for n in range(40)] + [(1.0, 1.0)] * 20
        found = [(one.ability, one.share, one.answers) for one in observed_points(answers)]
        self.assertEqual(found, [(0.0, 0.5, 40), (1.0, 1.0, 20)])


class AfterReadingTests(TestCase):
    def test_its_intervals_hold_the_truth_as_often_as_they_say(self) -> None:
        """Effects drawn from what is believed before: simulation-based calibration (Cook, Gelman
        and Rubin, J. Comput. Graph. Stat. 15, 2006). Of 400, 90% give or take 3 standard errors."""
        random, held = np.random.default_rng(5), 0
        for _ in range(400):
            effect = float(random.normal(0, EFFECT_SD))
            chances = random.uniform(0.3, 0.9, 60)
            right = random.random(60) < expit(logit(chances) + effect)
            found = after_reading(zip(chances.tolist(), right.tolist(), strict=True))
            assert found is not None
            mean = float(chances.mean())
            held += found.low <= 100 * (expit(logit(mean) + effect) - mean) <= found.high
        self.assertAlmostEqual(held / 400, 0.90, delta=0.045)

    def test_a_text_helps_little_only_once_that_is_known(self) -> None:
        self.assertIsNone(after_reading([]))
        few = [(0.6, n % 5 < 3) for n in range(40)]
        for tries, little in ((few, False), (few * 10, True), ([(0.6, True)] * 400, False)):
            found = after_reading(tries)
            assert found is not None
            self.assertEqual(found.helps_little, little)
