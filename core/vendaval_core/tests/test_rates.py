"""What a learner's own answers say about how fast they learn and forget."""

from unittest import TestCase

import numpy as np

from vendaval_core.measure.journal import Entry, SideBySide, after_days, rebuild
from vendaval_core.measure.kernels import ChangeSettings, gaussian_weights
from vendaval_core.measure.posterior import LearnerState, Posterior, Prior
from vendaval_core.measure.rates import COARSE, Paces, paces_of
from vendaval_core.measure.response import ResponseCurve

SETTINGS = ChangeSettings()
# Difficulty, right, days before.
ANSWERS = (
    (-0.4, 0, 0), (-0.4, 0, 0), (-1.2, 1, 0), (-0.4, 0, 2), (-0.4, 1, 0), (0.4, 0, 0),
    (-0.4, 1, 3), (0.4, 1, 0), (0.4, 1, 0), (0.4, 0, 10), (0.4, 1, 0), (1.2, 1, 0),
)  # fmt: skip


class CheckValueTests(TestCase):
    """Dense quadrature at steps of 0.02, 0.01 and 0.005 logits, the same to six digits; computed
    for this project, no published source."""

    SETTINGS = ChangeSettings(
        learning=((0, 0.15), (0.3, 0.13), (0.6, 0.17), (1, 0.25), (1.6, 0.18), (2.5, 0.12)),
        forgetting=((0, 0.55), (0.02, 0.25), (0.05, 0.15), (0.1, 0.05)),
    )

    def setUp(self) -> None:
        self.prior = Prior.of(np.zeros(1), np.array([[1.69]]))
        self.entries = [
            Entry(0, ResponseCurve(1.3, b), right, 1.0, float(days), learning=True)
            for b, right, days in ANSWERS
        ]

    def folded(self, settings: ChangeSettings) -> tuple[LearnerState, Posterior]:
        (state,) = rebuild(self.prior, [self.entries], settings)
        batch = SideBySide(self.prior, [state], settings)
        return state, batch.posterior(batch.converge(np.array([0])), 0, 0)

    def test_evidence_and_paces(self) -> None:
        state, _ = self.folded(self.SETTINGS)
        assert state.followed is not None
        before = paces_of(None, self.SETTINGS).chances
        evidence = state.followed.logs - np.log(before)
        found = [evidence[0, 0], evidence[3, 0], evidence[3, 2]]
        np.testing.assert_allclose(found, [-10.442423, -9.528907, -10.113759], atol=0.004)
        paces = paces_of(state.followed, self.SETTINGS)
        learns = [0.054383, 0.071486, 0.126360, 0.251965, 0.254159, 0.241646]
        np.testing.assert_allclose(paces.learns, learns, atol=5e-4)
        forgets = [0.642504, 0.237995, 0.101657, 0.017844]
        np.testing.assert_allclose(paces.forgets, forgets, atol=5e-4)
        mixture = np.einsum("rfn,rf->n", state.followed.masses[0], paces.chances)
        mean = mixture @ COARSE
        sd = np.sqrt(mixture @ COARSE**2 - mean**2)
        np.testing.assert_allclose([mean, sd], [1.168763, 0.976992], atol=5e-4)

    def test_the_posterior_of_one_known_pace_is_exact(self) -> None:
        usual = ChangeSettings(learning=((1.0, 1.0),), forgetting=((0.0, 1.0),))
        _, posterior = self.folded(usual)
        np.testing.assert_allclose(posterior.mean, 1.136586, atol=5e-4)
        np.testing.assert_allclose(posterior.sd, 0.881802, atol=5e-4)

    def test_the_posterior_of_an_average_pace_is_near_the_mixture(self) -> None:
        """Every level is read from the one posterior, whose kernels are averaged over the paces: how
        far it is from carrying all of them along is part of the model."""
        _, posterior = self.folded(self.SETTINGS)
        self.assertAlmostEqual(float(posterior.mean[0]), 1.168763, delta=0.06)
        self.assertAlmostEqual(float(posterior.sd[0]), 0.976992, delta=0.06)


class FoundTests(TestCase):
    """Simulated learners of known paces: what is found after 400 answers over six topics."""

    PRIOR = Prior.of_course([0, 0, 0, 1, 1, 1], mean=0, sd=1.3, within=0.5, across=0.3)

    def found(self, pace: float, forgets: float, seed: int) -> Paces:
        rng = np.random.default_rng(seed)
        truth = rng.multivariate_normal(np.zeros(6), self.PRIOR.covariance)
        entries = []
        for number in range(400):
            topic = int(rng.integers(6))
            days = 1.0 if number and number % 20 == 0 else 0.0
            truth -= forgets * days
            curve = ResponseCurve(1.3, float(truth[topic] - 0.9))
            right = int(rng.random() < curve.probabilities(truth[[topic]])[1, 0])
            entries.append(Entry(topic, curve, right, 1.0, days, learning=True))
            if rng.random() < pace * SETTINGS.jump_chance:
                truth[topic] += rng.normal(SETTINGS.jump_mean, SETTINGS.jump_sd)
        (state,) = rebuild(self.PRIOR, [entries], SETTINGS)
        return paces_of(state.followed, SETTINGS)

    def test_who_never_learns_is_told_from_who_learns_fast(self) -> None:
        never = np.mean([self.found(0.0, 0.0, seed).learning_mean for seed in range(4)])
        usual = np.mean([self.found(1.0, 0.0, seed).learning_mean for seed in range(4)])
        fast = np.mean([self.found(3.0, 0.0, seed).learning_mean for seed in range(4)])
        self.assertLess(never, 0.3)
        self.assertAlmostEqual(float(usual), 1.0, delta=0.45)
        self.assertGreater(fast, 1.8)

    def test_who_forgets_is_told_from_who_does_not(self) -> None:
        keeps, forgets = (
            np.mean([self.found(1.0, pace, seed).forgetting_mean for seed in range(4)])
            for pace in (0.0, 0.08)
        )
        self.assertLess(keeps, 0.015)
        self.assertGreater(forgets, 0.04)


class TimeTests(TestCase):
    PRIOR = Prior.of_course([0, 0], mean=0, sd=1.3, within=0.5, across=0.3)

    def state(self, days: list[float]) -> LearnerState:
        answers = [Entry(0, ResponseCurve(1.3, 0.0), 1, 1.0, learning=True)] * 6
        away = [Entry(0, ResponseCurve(1.3, 0.0), 1, 0.0, one) for one in days]
        return rebuild(self.PRIOR, [answers + away], SETTINGS)[0]

    def test_many_days_singly_are_as_many_together(self) -> None:
        together = after_days(self.PRIOR, self.state([]), 28.0, SETTINGS)
        singly = after_days(self.PRIOR, self.state([1.0] * 27), 1.0, SETTINGS)
        np.testing.assert_allclose(singly.mean, together.mean, atol=0.01)
        np.testing.assert_allclose(singly.sd, together.sd, atol=0.05)

    def test_what_is_forgotten_is_less_known_too_and_ends(self) -> None:
        now, month, year, two = (
            after_days(self.PRIOR, self.state([]), days, SETTINGS)
            for days in (0.0, 30.0, 365.0, 730.0)
        )
        self.assertTrue(np.all(month.mean < now.mean))
        self.assertTrue(np.all(month.sd > now.sd))
        np.testing.assert_allclose(year.mean, two.mean, atol=0.02)

    def test_a_kernel_narrower_than_the_grid_keeps_mean_and_variance(self) -> None:
        """Three masses; where they cannot have both, the mean is kept."""
        offsets = 0.125 * np.arange(-112, 113)
        for mean, variance in ((-0.05, 0.005), (0.2, 0.006), (-0.4, 0.003), (0.0, 0.0)):
            weights = gaussian_weights(mean, variance)
            self.assertTrue(np.all(weights >= -1e-12))
            self.assertAlmostEqual(float(weights @ offsets), mean, places=9)
            found = float(weights @ offsets**2) - mean**2
            self.assertAlmostEqual(found, variance, delta=0.004)
