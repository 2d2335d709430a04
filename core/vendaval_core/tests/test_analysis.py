"""Statistics of a test, against published examples and a reference library."""

from __future__ import annotations

import csv
import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np
from scipy.stats import f as f_distribution

from vendaval_core.measure.analysis.questions import (
    answers_by_thirds,
    by_thirds,
    question_figures,
)
from vendaval_core.measure.analysis.reliability import feldt_interval, other_side, reliability

DATA = Path(__file__).parent / "data"


class ReliabilityTests(unittest.TestCase):
    def test_law_school_admission_test_section_6(self) -> None:
        """Bock and Lieberman (1970), 1000 × 5; alpha 0.295 as printed in the manual of ltm
        (Rizopoulos 2006), from memory."""
        with (DATA / "lsat6.csv").open(newline="") as file:
            rows = list(csv.reader(file))[1:]
        found = reliability(np.array(rows, dtype=float))
        assert found is not None
        self.assertAlmostEqual(found.alpha, 0.295, places=3)
        self.assertLess(found.low, found.alpha)
        self.assertGreater(found.high, found.alpha)

    def test_by_hand(self) -> None:
        """Two questions, four attempts: totals 0, 1, 1, 2, variances 1/3 each and 2/3."""
        found = reliability(np.array([[0, 0], [0, 1], [1, 0], [1, 1]], dtype=float))
        assert found is not None
        self.assertAlmostEqual(found.alpha, 0.0)
        self.assertAlmostEqual(found.error, (2 / 3) ** 0.5)
        self.assertIsNone(reliability(np.ones((12, 4))))
        self.assertIsNone(reliability(np.ones((1, 4))))

    def test_the_interval_holds_what_it_says(self) -> None:
        """Feldt's own distribution: (1 − true)/(1 − found) is F with n − 1 and (n − 1)(k − 1)."""
        low, high = feldt_interval(0.8, 41, 8)
        for end, tail in ((low, 0.975), (high, 0.025)):
            ratio = (1 - end) / (1 - 0.8)
            self.assertAlmostEqual(float(f_distribution.cdf(ratio, 40, 280)), tail, places=6)
        rng = np.random.default_rng(3)
        held = 0
        for _ in range(300):
            points = rng.normal(size=(40, 1)) + rng.normal(size=(40, 5))
            found = reliability(points)
            assert found is not None
            held += found.low <= 5 / 6 <= found.high
        self.assertAlmostEqual(held / 300, 0.95, delta=0.035)

    def test_near_the_pass_mark(self) -> None:
        """Against two parallel tests drawn many times."""
        rng = np.random.default_rng(5)
        true = rng.normal(12, 3, 200_000)
        one, other = (np.round(true + rng.normal(0, 1.7, true.size)) for _ in range(2))
        found = reliability(np.stack([one, other], axis=1))
        assert found is not None
        single = one.var(ddof=1)
        alpha = float(np.corrcoef(one, other)[0, 1])
        exact = float((other[one == 10] < 9.5).mean())
        own = replace(found, alpha=alpha, sd=float(single**0.5))
        self.assertAlmostEqual(other_side(10, 9.5, 12, own), exact, delta=0.02)
        self.assertAlmostEqual(
            other_side(9, 9.5, 12, own), float((other[one == 9] >= 9.5).mean()), delta=0.02
        )


class QuestionTests(unittest.TestCase):
    SHARES = np.array(
        [[0, 0, 1], [0, 1, 0], [1, 0, 0], [1, 1, 0], [1, 1, 0], [1, 1, 1]], dtype=float
    )

    def test_each_question_beside_the_rest(self) -> None:
        """Against numpy's correlation, by hand."""
        totals = self.SHARES.sum(axis=1)
        first, _, third = (question_figures(own, totals - own, totals) for own in self.SHARES.T)
        self.assertAlmostEqual(first.share, 4 / 6)
        assert first.rest is not None
        assert third.rest is not None
        rest = self.SHARES[:, 1:].sum(axis=1)
        self.assertAlmostEqual(first.rest, float(np.corrcoef(self.SHARES[:, 0], rest)[0, 1]))
        self.assertLess(third.rest, 0, "the strong miss it: is the key right?")
        self.assertEqual(first.thirds, (0.0, 1.0, 1.0))
        same = question_figures(np.ones(6), np.ones(6), np.ones(6))
        self.assertIsNone(same.rest)

    def test_wrong_answers_by_thirds(self) -> None:
        thirds = by_thirds(np.array([1, 2, 3, 4, 5, 6]))
        told = answers_by_thirds(["a", "b", "b", "", "b", "c"], thirds)
        self.assertEqual(told["b"], (1, 1, 1))
        self.assertEqual(next(iter(told)), "b")
        self.assertEqual(told[""], (0, 1, 0))
