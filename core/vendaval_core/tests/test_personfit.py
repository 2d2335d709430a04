"""Person fit and effort. Values computed for this project and cross-checked in R; no published
source for the numbers themselves."""

from unittest import TestCase

import numpy as np

from vendaval_core.errors import OutOfRange
from vendaval_core.measure.personfit import (
    Answered,
    effort,
    fit_at,
    fit_at_maximum,
    fit_at_mode,
)
from vendaval_core.measure.response import ResponseCurve

DIFFICULTIES = (-2, -1.5, -1, -0.5, -0.25, 0.25, 0.5, 1, 1.5, 2)


def answers(pattern: str) -> list[Answered]:
    return [
        Answered(0, ResponseCurve(1.0, b), int(x))
        for b, x in zip(DIFFICULTIES, pattern, strict=True)
    ]


class PersonFitTests(TestCase):
    def test_at_a_known_ability(self) -> None:
        """Drasgow, Levine and Williams 1985."""
        fit = fit_at(answers("1110110010"), np.array([0.5]))
        found = (fit.log_likelihood, fit.expectation, fit.variance, fit.lz)
        np.testing.assert_allclose(found, (-5.365202, -5.417255, 2.119206, 0.035757), atol=1e-6)

    def test_at_the_maximum_and_the_mode(self) -> None:
        """Snijders 2001."""
        fit = fit_at_maximum(answers("1110110010"))
        found = (fit.theta[0], fit.lz, fit.lz_star)
        np.testing.assert_allclose(found, (0.542045, 0.021994, 0.022851), atol=1e-6)
        fit = fit_at_mode(answers("1110110010"), np.zeros(1), np.eye(1))
        np.testing.assert_allclose((fit.theta[0], fit.lz_star), (0.350158, 0.011901), atol=1e-6)
        strange = fit_at_mode(answers("0100111101"), np.zeros(1), np.eye(1))
        self.assertAlmostEqual(strange.lz_star, -3.506531, places=6)
        self.assertTrue(strange.strange)
        self.assertFalse(fit.strange)

    def test_over_several_topics_few_honest_learners_are_asked(self) -> None:
        """Under the model l_z* is near standard normal, and with several topics conservative."""
        rng = np.random.default_rng(8)
        covariance = np.where(np.eye(3) > 0, 1.69, 0.8)
        root, found = np.linalg.cholesky(covariance), []
        for _ in range(150):
            theta = root @ rng.normal(size=3)
            given = []
            for i in range(24):
                curve = ResponseCurve(1.3, -1.5 + 0.15 * i, 0.25 * (i % 2))
                chance = curve.probabilities(theta[[i % 3]])[1, 0]
                given.append(Answered(i % 3, curve, int(rng.random() < chance)))
            found.append(fit_at_mode(given, np.zeros(3), covariance))
        self.assertLess(np.mean([fit.strange for fit in found]), 0.08)
        self.assertLess(abs(np.mean([fit.lz_star for fit in found])), 0.35)

    def test_what_cannot_be_told(self) -> None:
        with self.assertRaises(OutOfRange):
            fit_at_maximum(answers("1111111111"))
        with self.assertRaises(OutOfRange):
            fit_at([], np.zeros(1))

    def test_effort_is_the_share_that_is_not_rapid(self) -> None:
        self.assertEqual(effort([True, False, False, False]), 0.75)
        self.assertEqual(effort([]), 1.0)
