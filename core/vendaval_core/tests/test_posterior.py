"""The posterior against the check value and against dense quadrature."""

from unittest import TestCase
from unittest.mock import patch

import numpy as np

from vendaval_core.errors import OutOfRange
from vendaval_core.measure import sweeps
from vendaval_core.measure.grid import THETA, Array
from vendaval_core.measure.posterior import LearnerState, Posterior, Prior, infer, posterior_of
from vendaval_core.measure.response import NOT_TAUGHT, ResponseCurve

from .quadrature import Answer, exact_moments


def after(prior: Prior, answers: list[Answer]) -> Posterior:
    state = LearnerState.of(prior)
    for topic, curve, outcome in answers:
        state = state.with_evidence(topic, curve.log_likelihood(outcome, THETA), 1.0)
        _, state = infer(prior, state)
    return infer(prior, state)[0]


def random_answers(rng: np.random.Generator, topics: int, count: int) -> list[Answer]:
    """2PL, 3PL, not-taught and part-credit answers, as the bars ask."""
    answers: list[Answer] = []
    for _ in range(count):
        topic, a, b = int(rng.integers(topics)), float(rng.lognormal(0.2, 0.3)), float(rng.normal())
        kind = rng.integers(4)
        if kind == 3:
            curve = ResponseCurve(a, b, 0.0, (b - 0.5, b, b + 0.5))
            answers.append((topic, curve, int(rng.integers(4))))
        else:
            outcome = NOT_TAUGHT if rng.random() < 0.1 else int(rng.integers(2))
            answers.append((topic, ResponseCurve(a, b, (0.0, 0.2, 0.25)[kind]), outcome))
    return answers


class PosteriorTests(TestCase):
    def test_check_value(self) -> None:
        """Computed for this project by dense quadrature; no published source."""
        prior = Prior.of(np.array([0.0, 0.2]), np.array([[1.0, 0.6], [0.6, 1.2]]))
        answers: list[Answer] = [
            (0, ResponseCurve(1.2, -0.5), 1),
            (0, ResponseCurve(0.9, 0.8, 0.2), 1),
            (0, ResponseCurve(1.5, 0.3), 0),
            (1, ResponseCurve(1.1, 0.0, 0.25), 1),
            (1, ResponseCurve(1.4, 1.0), NOT_TAUGHT),
            (1, ResponseCurve(0.8, -1.2, 0.2), 0),
        ]
        found = after(prior, answers)
        np.testing.assert_allclose(found.mean, (-0.0881708, -0.2720808), atol=0.001)
        np.testing.assert_allclose(found.sd, (0.7395441, 0.8564124), rtol=0.002)
        graded = ResponseCurve(1.0, 0.3, 0.0, (-0.6, 0.4, 1.1))
        found = after(prior, [*answers, (1, graded, 2)])
        np.testing.assert_allclose(found.mean, (0.0595021, 0.1718225), atol=0.001)
        np.testing.assert_allclose(found.sd, (0.7132242, 0.6696799), rtol=0.002)

    def test_accuracy_bars(self) -> None:
        """Mean within 0.005 logits and sd within 1 % for up to 3 topics and |ρ| up to 0.6."""
        rng = np.random.default_rng(7)
        for size in (1, 2, 3, 3, 2, 3, 3, 2):
            rho = rng.uniform(-0.3 if size == 3 else -0.6, 0.6)
            covariance = np.full((size, size), rho) + (1 - rho) * np.eye(size)
            mean = rng.normal(0, 0.3, size)
            answers = random_answers(rng, size, int(rng.integers(5, 31)))
            found = after(Prior.of(mean, covariance), answers)
            exact_mean, exact_sd = exact_moments(mean, covariance, answers)
            self.assertTrue(found.converged)
            np.testing.assert_allclose(found.mean, exact_mean, atol=0.005)
            np.testing.assert_allclose(found.sd, exact_sd, rtol=0.01)

    def test_stress_bars(self) -> None:
        """ρ 0.8, every c 0.3, a up to 3, contradictory answers: 0.02 logits and 5 %."""
        rng = np.random.default_rng(3)
        covariance = np.array([[1.0, 0.8], [0.8, 1.0]])
        for _ in range(6):
            answers: list[Answer] = []
            for _ in range(20):
                curve = ResponseCurve(rng.uniform(1, 3), rng.normal(), 0.3)
                answers.append((int(rng.integers(2)), curve, int(rng.integers(2))))
            found = after(Prior.of(np.zeros(2), covariance), answers)
            exact_mean, exact_sd = exact_moments(np.zeros(2), covariance, answers, nodes=401)
            np.testing.assert_allclose(found.mean, exact_mean, atol=0.02)
            np.testing.assert_allclose(found.sd, exact_sd, rtol=0.05)

    def test_order_does_not_matter_and_a_warm_start_changes_nothing(self) -> None:
        rng = np.random.default_rng(11)
        prior = Prior.of_course([0, 0, 1, 1], mean=0, sd=1.3, within=0.5, across=0.3)
        answers = random_answers(rng, 4, 40)
        one, other = after(prior, answers), after(prior, answers[::-1])
        np.testing.assert_allclose(one.mean, other.mean, atol=1e-6)
        np.testing.assert_allclose(one.sd, other.sd, atol=1e-6)

    def test_answers_in_one_topic_inform_a_related_one(self) -> None:
        prior = Prior.of_course([0, 0, 1], mean=0, sd=1.3, within=0.5, across=0.3)
        found = after(prior, [(0, ResponseCurve(1.3, 0.0), 1)] * 6)
        self.assertGreater(found.mean[1], found.mean[2])
        self.assertGreater(found.mean[2], 0.1)
        self.assertLess(found.sd[1], 1.3)

    def test_eighteen_topics_with_contradictions_settle(self) -> None:
        rng = np.random.default_rng(5)
        prior = Prior.of_course([i // 6 for i in range(18)], mean=0, sd=1.5, within=0.9, across=0.9)
        found = after(prior, random_answers(rng, 18, 200))
        self.assertTrue(found.converged)
        self.assertTrue(np.all(np.isfinite(found.mean)) and np.all(found.sd > 0.05))

    def test_steps_that_go_too_far_are_halved_and_it_settles_where_it_should(self) -> None:
        """Few steep answers of strongly related topics that contradict each other: far beyond a
        course's prior (at most sd 1.5 and ρ 0.9). Held to the same bars where it had to step back,
        and the same learners all at once to what they are alone."""
        rng = np.random.default_rng(2)
        covariance = np.array([[4.0, 3.8], [3.8, 4.0]])
        prior = Prior.of(np.zeros(2), covariance)
        stepped_back: list[list[Answer]] = []
        states = []
        real, improper = sweeps._inverses, list[bool]()

        def noting(precision: Array, negative: bool) -> Array | None:
            found = real(precision, negative)
            improper.append(found is None)
            return found

        for _ in range(150):
            answers: list[Answer] = []
            for _ in range(int(rng.integers(2, 12))):
                a, c = rng.uniform(2, 6), float(rng.choice([0, 0.3, 0.5]))
                curve = ResponseCurve(a, rng.normal() * 2, c)
                answers.append((int(rng.integers(2)), curve, int(rng.integers(2))))
            state = LearnerState.of(prior)
            for topic, curve, outcome in answers:
                state = state.with_evidence(topic, curve.log_likelihood(outcome, THETA), 1.0)
            improper.clear()
            with patch.object(sweeps, "_inverses", noting):
                found = infer(prior, state)[0]
            self.assertTrue(found.converged)
            states.append((state, found))
            if any(improper):
                stepped_back.append(answers)
                mean, sd = exact_moments(np.zeros(2), covariance, answers, nodes=301)
                np.testing.assert_allclose(found.mean, mean, atol=0.005)
                np.testing.assert_allclose(found.sd, sd, rtol=0.01)
        self.assertGreater(len(stepped_back), 2)
        rows = np.stack([state.rows for state, _ in states])
        joint = sweeps.converge(prior.gaussian, rows, np.zeros((len(rows), 4)))
        for learner, (state, alone) in enumerate(states):
            together = posterior_of(joint, state.rows, learner)
            np.testing.assert_allclose(together.mean, alone.mean, atol=1e-6)
            np.testing.assert_allclose(together.sd, alone.sd, atol=1e-6)

    def test_improper_priors_are_refused(self) -> None:
        with self.assertRaises(OutOfRange):
            Prior.of(np.zeros(2), np.ones((2, 2)))
        with self.assertRaises(OutOfRange):
            Prior.of(np.zeros(3), np.eye(2))
