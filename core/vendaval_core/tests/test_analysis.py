"""Statistics of a test, against published examples and a reference library."""

from __future__ import annotations

import csv
import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np
import pandas as pd
from pingouin import cronbach_alpha
from scipy.stats import f as f_distribution
from scipy.stats import f_oneway
from statsmodels.stats.contingency_tables import StratifiedTable

from vendaval_core.measure.analysis.beside import differs
from vendaval_core.measure.analysis.expected import Placed, agreement, expected_result
from vendaval_core.measure.analysis.fairness import (
    Difference,
    MantelHaenszel,
    mantel_haenszel,
    matched_tables,
)
from vendaval_core.measure.analysis.foreseen import Asked, foreseen
from vendaval_core.measure.analysis.numbers import Versions, between_versions, due_to_numbers
from vendaval_core.measure.analysis.questions import (
    answers_by_thirds,
    by_thirds,
    question_figures,
)
from vendaval_core.measure.analysis.reliability import feldt_interval, other_side, reliability
from vendaval_core.measure.response import ResponseCurve

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
        alpha, (low, high) = cronbach_alpha(pd.DataFrame(rows, dtype=float))
        self.assertAlmostEqual(found.alpha, alpha, places=12)
        self.assertAlmostEqual(found.low, low, delta=0.0006, msg="rounded there")
        self.assertAlmostEqual(found.high, high, delta=0.0006)

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


class ForeseenTests(unittest.TestCase):
    """What is foreseen of a test, against the test given to many simulated learners."""

    CURVES = tuple(ResponseCurve(1.2, b) for b in np.linspace(-1.5, 1.5, 14)) + tuple(
        ResponseCurve(1.0, b, 0.25) for b in (-0.5, 0.5)
    )

    def test_against_simulated_answers(self) -> None:
        rng = np.random.default_rng(8)
        means = rng.normal(0.3, 0.8, (60, 2))
        sds = np.full((60, 2), 0.4)
        asked = [Asked((curve,), (n % 2,), 1 + n % 2) for n, curve in enumerate(self.CURVES)]
        found = foreseen(asked, means, sds, 60)
        assert found is not None
        theta = np.repeat(means, 400, axis=0) + 0.4 * rng.standard_normal((24_000, 2))
        points = np.stack(
            [
                one.points
                * (rng.random(len(theta)) < one.curves[0].share(theta[:, one.topics[0]])[0])
                for one in asked
            ],
            axis=1,
        )
        results = 100 * points.sum(axis=1) / sum(one.points for one in asked)
        self.assertAlmostEqual(found.mean, results.mean(), delta=1)
        self.assertAlmostEqual(found.sd, results.std(), delta=0.8)
        self.assertAlmostEqual(found.low, np.quantile(results, 0.1), delta=3)
        self.assertAlmostEqual(found.high, np.quantile(results, 0.9), delta=3)
        assert found.passing is not None
        self.assertAlmostEqual(found.passing, (results >= 60).mean(), delta=0.03)
        again = np.stack(
            [
                one.points
                * (rng.random(len(theta)) < one.curves[0].share(theta[:, one.topics[0]])[0])
                for one in asked
            ],
            axis=1,
        ).sum(axis=1)
        parallel = float(np.corrcoef(points.sum(axis=1), again)[0, 1])
        assert found.reliability is not None
        self.assertAlmostEqual(found.reliability, parallel, delta=0.03, msg="of parallel tests")

    def test_a_draw_spreads_like_its_pool(self) -> None:
        pool = (ResponseCurve(1.5, -3), ResponseCurve(1.5, 3))
        means, sds = np.zeros((20, 1)), np.zeros((20, 1))
        found = foreseen([Asked(pool, (0, 0), 1)], means, sds)
        assert found is not None
        self.assertAlmostEqual(found.mean, 50, delta=0.5)
        self.assertAlmostEqual(found.sd, 50, delta=0.5)
        self.assertIsNone(found.reliability)
        self.assertIsNone(foreseen([], means, sds))


class FairnessTests(unittest.TestCase):
    # Bickel, Hammel and O'Connell (1975), Sex bias in graduate admissions: men and women, admitted
    # and rejected, in six departments.
    ADMISSIONS = np.array(
        [
            [[512, 313], [89, 19]], [[353, 207], [17, 8]], [[120, 205], [202, 391]],
            [[138, 279], [131, 244]], [[53, 138], [94, 299]], [[22, 351], [24, 317]],
        ]
    )  # fmt: skip

    def test_published_admissions(self) -> None:
        """Common odds ratio 0.9046968, squared 1.4269, chance 0.2323: as printed by R's manual for
        the same test, from memory."""
        found = mantel_haenszel(self.ADMISSIONS)
        assert found is not None
        self.assertAlmostEqual(found.odds, 0.9046968, places=6)
        self.assertAlmostEqual(found.squared, 1.4269, places=4)
        self.assertAlmostEqual(found.chance, 0.2323, places=4)
        low, high = (np.exp(np.log(found.odds) + z * found.error / 2.35) for z in (-1.96, 1.96))
        self.assertAlmostEqual(low, 0.7719, places=3)
        self.assertAlmostEqual(high, 1.0603, places=3)
        library = StratifiedTable(self.ADMISSIONS.transpose(1, 2, 0).astype(float))
        self.assertAlmostEqual(found.odds, library.oddsratio_pooled, places=12)
        self.assertAlmostEqual(found.error / 2.35, library.logodds_pooled_se, places=12)
        self.assertAlmostEqual(
            found.squared, library.test_null_odds(correction=True).statistic, places=9
        )

    def test_classes(self) -> None:
        for delta, error, chance, size in (
            (-0.9, 0.1, 0.0001, Difference.SLIGHT), (-1.8, 0.6, 0.2, Difference.SLIGHT),
            (1.2, 0.2, 0.01, Difference.MODERATE), (-1.8, 0.6, 0.01, Difference.MODERATE),
            (-2.4, 0.3, 0.001, Difference.LARGE),
        ):  # fmt: skip
            found = MantelHaenszel(1.0, 1.0, chance, delta, error)
            self.assertEqual(found.size, size, (delta, error))

    def test_a_planted_difference_is_found_and_ability_is_none(self) -> None:
        rng = np.random.default_rng(9)
        focal = np.arange(800) % 2
        ability = rng.normal(0, 1, 800) - 0.7 * focal
        b = np.linspace(-1.5, 1.5, 16)
        harder = np.zeros((800, 16))
        harder[:, 3] = 1.2 * focal
        chance = 1 / (1 + np.exp(-(ability[:, None] - b - harder)))
        right = (rng.random((800, 16)) < chance).astype(int)
        totals = right.sum(axis=1)
        sizes = []
        for number in range(16):
            found = mantel_haenszel(matched_tables(right[:, number], totals, focal))
            assert found is not None
            sizes.append(found.size)
        self.assertEqual(sizes[3], Difference.LARGE)
        self.assertLessEqual(sum(size is not Difference.SLIGHT for size in sizes), 3)
        self.assertIsNone(mantel_haenszel(np.array([[[5, 0], [5, 0]]])))


class BesideTests(unittest.TestCase):
    def test_only_what_chance_hardly_explains(self) -> None:
        half, most = [0.0, 1.0] * 20, [0.0] + [1.0] * 19
        self.assertAlmostEqual(differs(half, most) or 0, 0.5 - 0.95)
        self.assertIsNone(differs(half[:4], most), "too few")
        self.assertIsNone(differs(half, [0.0, 1.0, 1.0] * 4), "chance explains it")
        self.assertIsNone(differs([0.55] * 40, [0.5] * 40), "small")

    def test_seldom_where_nothing_differs(self) -> None:
        rng = np.random.default_rng(4)
        named = 0
        for _ in range(1000):
            here, there = (rng.binomial(1, 0.6, size).astype(float).tolist() for size in (30, 25))
            named += differs(here, there) is not None
        self.assertLess(named, 80)


class ExpectedTests(unittest.TestCase):
    def test_who_does_as_expected_seldom_stands_out(self) -> None:
        rng = np.random.default_rng(6)
        curves = [ResponseCurve(1.2, b) for b in np.linspace(-1.5, 1.5, 20)]
        results, expected, out = [], [], 0
        for _ in range(1000):
            believed = float(rng.normal(0, 1))
            true = believed + 0.4 * float(rng.standard_normal())
            found = expected_result([Placed(curve, 1, believed, 0.4) for curve in curves])
            assert found is not None
            chances = np.array([curve.share(np.array([true]))[0][0] for curve in curves])
            share = float((rng.random(20) < chances).mean())
            out += found.stands_out(share)
            results.append(share)
            expected.append(found.share)
        self.assertLess(out, 25)
        self.assertGreater(agreement(results, expected) or 0, 0.8)
        self.assertAlmostEqual(float(np.mean(results)), float(np.mean(expected)), delta=0.01)

    def test_far_from_expected(self) -> None:
        found = expected_result([Placed(ResponseCurve(1.2, 0), 1, 2.0, 0.3)] * 20)
        assert found is not None
        self.assertTrue(found.stands_out(0.4))
        self.assertFalse(found.stands_out(0.85))
        self.assertIsNone(expected_result([]))
        self.assertIsNone(agreement([0.1] * 9, [0.2] * 9))
        self.assertIsNone(agreement([0.5] * 12, list(np.linspace(0, 1, 12))))


class NumbersTests(unittest.TestCase):
    def test_the_share_that_was_put_in_is_found(self) -> None:
        """Twenty questions of four versions, 400 learners: true share 0.25, and none."""
        rng = np.random.default_rng(7)
        for spread in (0.0, 0.5):
            ability = rng.normal(0, 0.15, 400)
            questions, total = [], np.zeros(400)
            moved = np.zeros(400)
            for _ in range(20):
                versions = rng.integers(0, 4, 400)
                effect = spread * rng.normal(0, 1, 4)
                points = 0.5 + ability + effect[versions] + rng.normal(0, 0.4, 400)
                moved += effect[versions]
                total += points
                questions.append(Versions(points, versions, 1))
            found = due_to_numbers(questions, total)
            assert found is not None
            true = float(moved.var() / total.var()) if spread else 0.0
            self.assertAlmostEqual(found, true, delta=0.06)

    def test_one_way_analysis_of_variance(self) -> None:
        """Balanced groups: F of scipy's f_oneway is 1 + n · between / within."""
        rng = np.random.default_rng(2)
        groups = rng.normal(size=(5, 8)) + rng.normal(size=(5, 1))
        asked = Versions(groups.ravel(), np.repeat(np.arange(5), 8), 1)
        within = float(groups.var(axis=1, ddof=1).mean())
        statistic = float(f_oneway(*groups).statistic)
        self.assertAlmostEqual(1 + 8 * between_versions(asked) / within, statistic)

    def test_too_little_to_tell(self) -> None:
        own = Versions(np.arange(40.0), np.arange(40), 1)
        self.assertIsNone(due_to_numbers([own], np.arange(40.0)), "everybody had another version")
        shared = Versions(np.arange(12.0), np.arange(12) % 3, 1)
        self.assertIsNone(due_to_numbers([shared], np.arange(12.0)))
