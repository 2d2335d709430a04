"""The Brier score and its parts."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from vendaval_core.measure.confidence import FEW, calibration, calibration_sentence

Pairs = list[tuple[float, bool]]
STEPS = st.sampled_from([0.5, 0.7, 0.9, 1.0])


class CalibrationTests(unittest.TestCase):
    @given(st.lists(st.tuples(STEPS, st.booleans()), min_size=1, max_size=80))
    def test_the_parts_add_up_to_the_score(self, given_: Pairs) -> None:
        """Murphy (1973), equation for groups of equal forecasts: an identity, checked against the
        score worked out on its own from its definition (Brier 1950, for one event)."""
        found = calibration(given_)
        said, right = np.array(given_, dtype=float).T
        self.assertAlmostEqual(found.score, float(np.mean((said - right) ** 2)), places=12)
        parts = found.reliability - found.resolution + found.uncertainty
        self.assertAlmostEqual(parts, found.score, places=12)
        self.assertGreaterEqual(min(found.reliability, found.resolution), 0)
        self.assertAlmostEqual(found.bias, float(np.mean(said - right)), places=12)

    def test_by_hand(self) -> None:
        """Ten answers at 90 % of which six are right, ten at 50 % of which five are: worked out on
        paper. 0.09 = 0.3²; the base rate is 11 in 20."""
        given_ = [(0.9, i < 6) for i in range(10)] + [(0.5, i < 5) for i in range(10)]
        found = calibration(given_)
        self.assertAlmostEqual(found.reliability, 0.5 * 0.09)
        self.assertAlmostEqual(found.resolution, 0.05**2)
        self.assertAlmostEqual(found.uncertainty, 0.55 * 0.45)
        self.assertIn("often too sure", calibration_sentence(found))
        self.assertEqual([(s.said, s.answers, s.right) for s in found.steps][1], (0.9, 10, 0.6))

    def test_what_it_means_is_said_only_when_there_is_enough(self) -> None:
        self.assertIn(f"{FEW} more", calibration_sentence(calibration([])))
        well = [(0.9, i < 18) for i in range(20)]
        self.assertIn(f"{FEW - 19} more", calibration_sentence(calibration(well[1:])))
        self.assertIn("judge yourself well", calibration_sentence(calibration(well)))
        humble = [(0.5, i < 18) for i in range(20)]
        self.assertIn("more than you think", calibration_sentence(calibration(humble)))
        # Never right where sure, always right where not: on the whole it comes out even.
        crossed = [(0.9, False)] * 10 + [(0.1, True)] * 10
        self.assertIn("but not yet for each step", calibration_sentence(calibration(crossed)))
