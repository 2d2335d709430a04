"""Level, response curves, selection and stopping."""

import random
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from vendaval_core.errors import NothingToAsk, OutOfRange
from vendaval_core.mastery.diagnostic import plan_diagnostic
from vendaval_core.measure.evidence import rapid_threshold, starts_sitting, weight_of
from vendaval_core.measure.grid import THETA, normalised, probability_above, quantile
from vendaval_core.measure.level import (
    LevelReading,
    LevelScale,
    level_error,
    level_quantile,
    read_level,
)
from vendaval_core.measure.posterior import LearnerState, Prior, infer
from vendaval_core.measure.response import (
    ResponseCurve,
    category_count,
    category_of,
    judged_curve,
)
from vendaval_core.measure.selection import (
    FamilyTable,
    choose_diagnostic,
    gains,
    spreads_of_means,
    success_chances,
)
from vendaval_core.measure.stopping import TopicStatus, topic_status

CURVES = [judged_curve(d, 1, 0.25 if d % 2 else 0.0) for d in (1, 2, 3, 3, 4, 5)]
GRADED = ResponseCurve(1.0, 0.3, 0.0, (-0.6, 0.4, 1.1))


def course(topics: int = 3) -> tuple[FamilyTable, Prior]:
    families = [(f"t{t}-{i}", t, c) for t in range(topics) for i, c in enumerate(CURVES)]
    prior = Prior.of_course([0] * topics, mean=0, sd=1.3, within=0.5, across=0.3)
    return FamilyTable.of(families, topics), prior


class CurveTests(TestCase):
    def test_three_parameter_curve_at_its_difficulty(self) -> None:
        """Birnbaum 1968: at θ = b the chance is half way between c and 1."""
        curve = ResponseCurve(1.7, 0.4, 0.2)
        self.assertAlmostEqual(curve.probabilities(np.array([0.4]))[1, 0], 0.6)

    def test_partial_credit_steps_are_where_neighbours_cross(self) -> None:
        """Muraki 1992: at a step's difficulty its two categories are equally likely."""
        for category, step in enumerate(GRADED.steps):
            chances = GRADED.probabilities(np.array([step]))[:, 0]
            self.assertAlmostEqual(chances[category], chances[category + 1])

    def test_outcomes_are_a_distribution_and_their_logs_agree(self) -> None:
        for curve in (*CURVES, GRADED):
            chances = curve.probabilities(THETA)
            np.testing.assert_allclose(chances.sum(axis=0), 1.0)
            for outcome in range(curve.categories):
                logs = curve.log_likelihood(outcome, THETA)
                np.testing.assert_allclose(np.exp(logs), chances[outcome], atol=1e-12)

    def test_information_is_that_of_the_handbooks(self) -> None:
        """Birnbaum (1968): two parameters tell most at b, a²/4; with guessing most lies higher, at
        b + ln((1 + √(1 + 8c)) / 2) / a. Muraki (1993): partial credit a² times the variance of the
        score. All against the slope of the chances, by differences."""
        two = ResponseCurve(1.4, 0.3, 0.0)
        self.assertAlmostEqual(float(two.information(np.array([0.3]))[0]), 1.4**2 / 4)
        three = ResponseCurve(1.2, -0.5, 0.25)
        grid = np.linspace(-3, 3, 60001)
        most = grid[three.information(grid).argmax()]
        self.assertAlmostEqual(most, -0.5 + np.log((1 + np.sqrt(1 + 8 * 0.25)) / 2) / 1.2, places=3)
        partial = ResponseCurve(0.9, 0.0, 0.0, (-0.7, 0.1, 0.8))
        theta, h = np.array([-1.3, 0.0, 0.4, 2.1]), 1e-5
        for curve in (two, three, partial):
            slope = (curve.probabilities(theta + h) - curve.probabilities(theta - h)) / (2 * h)
            expected = (slope**2 / curve.probabilities(theta)).sum(axis=0)
            np.testing.assert_allclose(curve.information(theta), expected, rtol=1e-6)

    def test_an_error_of_a_level_falls_with_the_root_of_the_answers(self) -> None:
        curves = [judged_curve(d, 1, 0.0) for d in (1, 2, 3, 4, 5)]
        once, four_times = (level_error(curves, 50, n) for n in (1, 4))
        self.assertAlmostEqual(once, 2 * four_times)
        self.assertLess(level_error(curves, 50, 20), 5)

    def test_not_taught_has_no_guess_in_it(self) -> None:
        curve = ResponseCurve(1.3, 0.0, 0.5)
        at_zero = np.exp(curve.log_likelihood("not_taught", np.array([0.0])))[0]
        self.assertAlmostEqual(at_zero, 0.5)

    def test_categories_have_equal_width(self) -> None:
        self.assertEqual([category_count(n) for n in (1, 2, 3, 7)], [2, 3, 4, 4])
        self.assertEqual([category_of(x / 3, 4) for x in range(4)], [0, 1, 2, 3])
        self.assertEqual([category_of(x / 2, 3) for x in range(3)], [0, 1, 2])

    def test_curves_out_of_range_are_refused(self) -> None:
        for a, c, steps in ((0.0, 0.0, ()), (1.0, 1.0, ()), (1.0, 0.2, (0.0, 1.0))):
            with self.assertRaises(OutOfRange):
                ResponseCurve(a, 0.0, c, steps)


class LevelTests(TestCase):
    def test_the_scale_rises_and_inverts(self) -> None:
        scale = LevelScale.of([*CURVES, GRADED])
        self.assertTrue(np.all(np.diff(scale.levels) > 0))
        for level in (5.0, 35.0, 80.0, 95.0):
            self.assertAlmostEqual(scale.level(scale.ability(level)), level, places=6)
        self.assertEqual((scale.ability(0.0), scale.ability(100.0)), (-7.0, 7.0))
        with self.assertRaises(OutOfRange):
            scale.ability(101)

    def test_quantiles_agree_with_the_normal_distribution(self) -> None:
        """Standard normal quantiles, any table of them: 1.2816 at 0.9."""
        mass = normalised(-0.5 * THETA**2)
        self.assertAlmostEqual(quantile(mass, 0.9), 1.2816, places=4)
        self.assertAlmostEqual(probability_above(mass, 1.2816), 0.1, places=4)
        with self.assertRaises(OutOfRange):
            level_quantile(mass, LevelScale.of(CURVES), 1.0)

    @given(st.floats(-3, 3), st.floats(0.2, 1.3))
    def test_readings_are_ordered(self, mean: float, sd: float) -> None:
        mass = normalised(-0.5 * ((THETA - mean) / sd) ** 2)
        reading = read_level(mass, sd, LevelScale.of(CURVES), 80.0)
        self.assertLess(0, reading.low)
        self.assertTrue(reading.low < reading.level < reading.high < 100)
        self.assertTrue(0 <= reading.chance <= 1)


class SelectionTests(TestCase):
    def test_the_gain_is_the_expected_fall_of_variance(self) -> None:
        """The law of total variance: prior variance less the mean posterior variance."""
        table = FamilyTable.of([("a", 0, CURVES[4]), ("g", 0, GRADED)], 1)
        prior = Prior.of(np.zeros(1), np.array([[1.69]]))
        state = LearnerState.of(prior)
        posterior, state = infer(prior, state)
        fall = spreads_of_means(table, posterior)[0]
        for row, curve in enumerate((CURVES[4], GRADED)):
            chances = curve.probabilities(THETA) @ posterior.marginals[0]
            after = [
                infer(prior, state.with_evidence(0, curve.log_likelihood(y, THETA), 1.0))[0].sd[0]
                for y in range(curve.categories)
            ]
            expected = posterior.sd[0] ** 2 - chances @ np.square(after)
            self.assertAlmostEqual(fall[row], expected, places=6)

    def test_families_do_not_repeat_and_topics_take_turns(self) -> None:
        table, prior = course()
        posterior, _ = infer(prior, LearnerState.of(prior))
        gain = gains(table, posterior, np.array([9.0, 1.0, 1.0]), [0, 1, 2])
        asked: list[str] = []
        for turn in range(12):
            asked.append(
                choose_diagnostic(table, gain, [0, 1, 2], asked, random.Random(turn)).family
            )
        for turn, key in enumerate(asked):
            if key in asked[:turn]:
                self.assertEqual(len({k for k in asked[:turn] if k[:2] == key[:2]}), len(CURVES))
        topics = [key[:2] for key in asked]
        self.assertFalse(any(len(set(topics[i : i + 4])) == 1 for i in range(9)))

    def test_the_swap_is_of_another_topic_and_nearly_as_good(self) -> None:
        table, prior = course()
        posterior, _ = infer(prior, LearnerState.of(prior))
        gain = gains(table, posterior, np.ones(3), [0, 1, 2])
        choice = choose_diagnostic(table, gain, [0, 1, 2], [], random.Random(1))
        assert choice.swap is not None
        self.assertNotEqual(table.topics[table.position[choice.swap]], choice.topic)
        self.assertGreaterEqual(gain[table.position[choice.swap]], 0.85 * choice.gain)
        alone = choose_diagnostic(table, gain, [0], [], random.Random(1))
        self.assertIsNone(alone.swap)
        with self.assertRaises(NothingToAsk):
            choose_diagnostic(table, gain, [], [], random.Random(1))

    def test_what_is_left_out_is_never_asked(self) -> None:
        table, prior = course(2)
        posterior, _ = infer(prior, LearnerState.of(prior))
        gain = gains(table, posterior, np.ones(2), [0, 1])
        one, other = (key for key in table.keys if key[:2] == table.keys[0][:2]), table.keys
        left_out = set(other) - {table.keys[-1]}
        for asked in ([], [table.keys[-1]]):
            choice = choose_diagnostic(table, gain, [0, 1], asked, random.Random(1), left_out)
            self.assertEqual((choice.family, choice.swap), (table.keys[-1], None))
        with self.assertRaises(NothingToAsk):
            choose_diagnostic(table, gain, [0], [], random.Random(1), set(one))
        with self.assertRaises(NothingToAsk):
            twice = [table.keys[-1]] * 2
            choose_diagnostic(table, gain, [0, 1], twice, random.Random(1), left_out)

    def test_a_simulated_diagnostic_stops_and_is_right(self) -> None:
        table, prior = course(2)
        truth = np.array([1.9, -1.6])
        rng = random.Random(4)
        scale = LevelScale.of(CURVES)
        state, asked, answers = LearnerState.of(prior), [], [0, 0]
        for _ in range(60):
            posterior, state = infer(prior, state)
            readings = [
                read_level(posterior.marginals[t], float(posterior.sd[t]), scale, 80.0)
                for t in (0, 1)
            ]
            plan = plan_diagnostic(
                table,
                posterior,
                readings,
                [scale, scale],
                [1, 1],
                [0, 1],
                answers,
                asked,
                random.Random(len(asked)),
            )
            if plan.choice is None:
                break
            topic, key = plan.choice.topic, plan.choice.family
            curve = CURVES[int(key[-1])]
            right = rng.random() < curve.probabilities(truth[[topic]])[1, 0]
            state = state.with_evidence(topic, curve.log_likelihood(int(right), THETA), 1.0)
            asked.append(key)
            answers[topic] += 1
        self.assertIsNone(plan.choice)
        self.assertLess(len(asked), 40)
        self.assertGreater(readings[0].chance, 0.5)
        self.assertLess(readings[1].chance, 0.1)

    def test_stopping_rules(self) -> None:
        def status(sd: float, chance: float, answers: int = 5, gain: float = 1.0) -> TopicStatus:
            width = 60 if sd > 0.6 else 20
            reading = LevelReading(50, 50 - width / 2, 50 + width / 2, sd, 80, chance)
            return topic_status(reading, answers, gain, 1.0)

        self.assertEqual(status(0.44, 0.5), TopicStatus.SETTLED)
        self.assertEqual(status(0.44, 0.5, answers=1), TopicStatus.OPEN)
        self.assertEqual(status(0.59, 0.95), TopicStatus.SETTLED)
        self.assertEqual(status(0.59, 0.5), TopicStatus.OPEN)
        self.assertEqual(status(0.9, 0.95), TopicStatus.OPEN)
        self.assertEqual(status(0.9, 0.5, gain=0.01), TopicStatus.EXHAUSTED)

    def test_a_level_that_stays_close_to_the_target_is_called_so(self) -> None:
        def status(low: float, high: float, answers: int = 5, chance: float = 0.5) -> TopicStatus:
            reading = LevelReading((low + high) / 2, low, high, 0.59, 80, chance)
            return topic_status(reading, answers, 1.0, 1.0)

        self.assertEqual(status(62, 90), TopicStatus.CLOSE)
        self.assertEqual(status(62, 90, answers=4), TopicStatus.OPEN)
        self.assertEqual(status(54, 79), TopicStatus.OPEN, "it may still prove to be below")
        self.assertEqual(status(82, 96, chance=0.93), TopicStatus.SETTLED)

    def test_success_counts_guessing_and_the_level_does_not(self) -> None:
        table = FamilyTable.of(
            [("typed", 0, ResponseCurve(1.3, 0)), ("chosen", 0, ResponseCurve(1.3, 0, 0.25))], 1
        )
        prior = Prior.of(np.zeros(1), np.eye(1))
        posterior, _ = infer(prior, LearnerState.of(prior))
        success = success_chances(table, posterior, 0)
        self.assertAlmostEqual(success["typed"], 0.5)
        self.assertAlmostEqual(success["chosen"], 0.625)


class EvidenceTests(TestCase):
    def test_rapid_threshold(self) -> None:
        """NT10, Wise and Ma 2012: a tenth of the mean time, at most 10 seconds."""
        self.assertEqual((rapid_threshold(40), rapid_threshold(150)), (4.0, 10.0))

    def test_weights(self) -> None:
        cases = {
            (False, False, 30.0): (1.0, "full"),
            (True, False, 30.0): (0.5, "same_family"),
            (True, True, 30.0): (0.0, "helped"),
            (False, False, 3.0): (0.0, "rapid"),
        }
        for (again, helped, seconds), expected in cases.items():
            found = weight_of(
                family_in_sitting=again, helped=helped, seconds=seconds, mean_seconds=40
            )
            self.assertEqual(found, expected)

    def test_not_taught_is_never_too_fast(self) -> None:
        for again, expected in ((False, (1.0, "full")), (True, (0.5, "same_family"))):
            found = weight_of(
                family_in_sitting=again,
                helped=False,
                seconds=1.0,
                mean_seconds=40,
                not_taught=True,
            )
            self.assertEqual(found, expected)

    def test_sittings(self) -> None:
        self.assertEqual([starts_sitting(x) for x in (None, 1799.0, 1801.0)], [True, False, True])
