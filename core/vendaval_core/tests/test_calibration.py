"""Calibration against published values and general-purpose libraries.

LSAT6: Law School Admission Test, section 6 (Bock and Lieberman 1970, 1000 persons, 5 items), an
open data set; `data/lsat6.csv`.
"""

import warnings
from pathlib import Path
from unittest import TestCase

import numpy as np
from scipy.special import expit

from vendaval_core.errors import DoesNotSettle, TableInvalid
from vendaval_core.measure.calibration.conditional import fit_conditional, symmetric_functions
from vendaval_core.measure.calibration.course import propose
from vendaval_core.measure.calibration.em import Model
from vendaval_core.measure.calibration.itemfit import item_fit
from vendaval_core.measure.calibration.marginal import fit_marginal
from vendaval_core.measure.calibration.report import item_reports, report_json
from vendaval_core.measure.calibration.screening import screened
from vendaval_core.measure.calibration.sumscores import (
    SumScoreFit,
    score_chances,
    sum_score_fit,
)
from vendaval_core.measure.calibration.table import MISSING, ResponseTable, read_table
from vendaval_core.measure.calibration.tabled import histories, observed_in, table_faults
from vendaval_core.measure.response import ResponseCurve

LSAT6 = read_table((Path(__file__).parent / "data" / "lsat6.csv").read_text())


def simulated(persons: int, items: int, seed: int, *, guess: float = 0.0) -> ResponseTable:
    rng = np.random.default_rng(seed)
    slope, difficulty = rng.lognormal(0.2, 0.3, items), rng.normal(size=items)
    ability = rng.normal(size=(persons, 1))
    ability = (ability - ability.mean()) / ability.std()
    chance = guess + (1 - guess) / (1 + np.exp(-slope * (ability - difficulty)))
    scores = (rng.random((persons, items)) < chance).astype(np.int16)
    return ResponseTable(tuple(f"i{j}" for j in range(items)), scores)


def drawn(curves: list[ResponseCurve], persons: int, rng: np.random.Generator) -> ResponseTable:
    """Answers of persons with abilities N(0, 1) by known curves."""
    ability = rng.normal(size=persons)
    ability = (ability - ability.mean()) / ability.std()
    scores = np.zeros((persons, len(curves)), dtype=np.int16)
    for j, curve in enumerate(curves):
        below = np.cumsum(curve.probabilities(ability), axis=0)[:-1]
        scores[:, j] = (rng.random(persons) > below).sum(axis=0)
    return ResponseTable(tuple(f"i{j}" for j in range(len(curves))), scores)


class PublishedTests(TestCase):
    def test_two_parameter_lsat6(self) -> None:
        """Computed for this project to more digits; agrees with Rizopoulos 2006 (a 0.8254 0.7229
        0.8905 0.6886 0.6575) to the rounding printed there."""
        fit = fit_marginal(LSAT6, Model.TWO)
        self.assertTrue(fit.settled)
        self.assertAlmostEqual(fit.log_likelihood, -2466.653377, delta=0.001)
        slopes = [0.82566, 0.72274, 0.89087, 0.68837, 0.65686]
        intercepts = [2.77323, 0.99020, 0.24915, 1.28476, 2.05327]
        np.testing.assert_allclose(fit.slopes, slopes, atol=0.003)
        np.testing.assert_allclose(fit.parameters[:, 1], intercepts, atol=0.005)

    def test_rasch_lsat6(self) -> None:
        """Rizopoulos 2006, his constrained model with one common slope; from memory."""
        fit = fit_marginal(LSAT6, Model.RASCH)
        self.assertAlmostEqual(fit.log_likelihood, -2466.938, delta=0.001)
        np.testing.assert_allclose(fit.slopes, 0.7551, atol=0.0005)
        wanted = [-3.6153, -1.3224, -0.3176, -1.7301, -2.7802]
        np.testing.assert_allclose([r.b for r in item_reports(fit)], wanted, atol=0.001)

    def test_guessing_and_partial_credit_contain_the_two_parameter_model(self) -> None:
        two = fit_marginal(LSAT6, Model.TWO)
        partial = fit_marginal(LSAT6, Model.PARTIAL)
        self.assertAlmostEqual(two.log_likelihood, partial.log_likelihood, places=5)
        three = fit_marginal(LSAT6, Model.THREE)
        self.assertTrue(three.settled)
        self.assertLess(abs(three.log_likelihood - two.log_likelihood), 2.0)


class TableOfACourseTests(TestCase):
    """A table of a course's questions, calibrated as its own log is."""

    TWO = (-3.359, -1.370, -0.280, -1.866, -3.126)

    def test_it_finds_what_is_published_of_lsat6(self) -> None:
        """Difficulties from the slopes and intercepts of Rizopoulos 2006, as above. Slopes are
        held near the present ones here, so they come within 0.3 of them."""
        present = {name: ResponseCurve(0.75, -2.0) for name in LSAT6.items}
        (own,) = histories(LSAT6, dict.fromkeys(LSAT6.items, "law")).values()
        self.assertEqual(len(own), 1000)
        found = propose(present, own, (0.0, 1.0))
        curves = {one.family: one.proposed or one.present for one in found}
        np.testing.assert_allclose([curves[n].b for n in LSAT6.items], self.TWO, atol=0.3)
        for name, points in observed_in(LSAT6, curves, (0.0, 1.0)).items():
            at = np.array([one.ability for one in points])
            share = [one.share for one in points]
            np.testing.assert_allclose(curves[name].share(at)[0], share, atol=0.12)

    def test_what_is_no_question_of_the_course_is_refused(self) -> None:
        table = read_table("one,two\n" + "2,1\n" * 12, most_score=20)
        faults = table_faults(table, {"one": ResponseCurve(1.0, 0.0)})
        self.assertIn("one: 2 is more than its 1", faults[0])
        self.assertIn("“two” is no question", faults[1])
        wide = ",".join(f"q{n}" for n in range(60_000))
        self.assertLess(
            len(
                table_faults(read_table(f"{wide}\n" + f"{',' * 59_999}\n1{',' * 59_999}\n" * 6), {})
            ),
            30,
        )
        with self.assertRaisesRegex(TableInvalid, "can’t be read as CSV"):
            read_table(f"one,two\n{'1' * 200_000},1\n")


class PeerTests(TestCase):
    """girth 0.8 and mirt 1.2, libraries of item response theory from PyPI."""

    def test_conditional_rasch_agrees_with_girth(self) -> None:
        import girth

        fit = fit_conditional(LSAT6)
        other = girth.rasch_conditional(LSAT6.scores.T.astype(int))["Difficulty"]
        np.testing.assert_allclose(fit.difficulties, other, atol=2e-4)

    def test_two_parameters_agree_with_mirt(self) -> None:
        import mirt

        table = simulated(800, 12, seed=4)
        fit = fit_marginal(table, Model.TWO)
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            other = mirt.fit_mirt(table.scores.astype(int), model="2PL", n_quadpts=61, tol=1e-7)
        self.assertGreaterEqual(fit.log_likelihood, other.log_likelihood - 0.01)
        slopes = np.asarray(other.model.parameters["discrimination"]).ravel()
        np.testing.assert_allclose(fit.slopes, slopes, atol=0.02)


class MarginalTests(TestCase):
    def test_errors_are_those_of_the_likelihood(self) -> None:
        """Standard errors against the curvature of the marginal likelihood, by differences."""
        fit = fit_marginal(LSAT6, Model.RASCH)
        again = fit_marginal(
            ResponseTable(LSAT6.items, np.repeat(LSAT6.scores, 4, axis=0)), Model.RASCH
        )
        np.testing.assert_allclose(again.errors[:, :2], fit.errors[:, :2] / 2, rtol=1e-3)
        np.testing.assert_allclose(again.parameters, fit.parameters, atol=1e-4)

    def test_known_parameters_are_found_again(self) -> None:
        table = simulated(3000, 15, seed=7)
        rng = np.random.default_rng(7)
        slope, difficulty = rng.lognormal(0.2, 0.3, 15), rng.normal(size=15)
        fit = fit_marginal(table, Model.TWO)
        reports = item_reports(fit)
        off = np.array([r.b for r in reports]) - difficulty
        errors = np.array([r.errors["b"] for r in reports], dtype=float)
        self.assertLess(np.sqrt(np.mean((off / errors) ** 2)), 1.5)
        self.assertLess(np.abs(fit.slopes - slope).max(), 0.45)

    def test_partial_credit_steps_are_found_again(self) -> None:
        """Four categories simulated from known curves; errors as large as the fit says they are."""
        rng = np.random.default_rng(12)
        curves = [
            ResponseCurve(a, float(np.mean(steps)), 0.0, tuple(steps))
            for a, steps in zip(
                rng.lognormal(0.1, 0.25, 8),
                np.sort(rng.normal(0, 0.9, (8, 3)), axis=1),
                strict=True,
            )
        ]
        fit = fit_marginal(drawn(curves, 3000, rng), Model.PARTIAL)
        self.assertTrue(fit.settled)
        reports = item_reports(fit)
        for curve, report in zip(curves, reports, strict=True):
            np.testing.assert_allclose(report.steps, curve.steps, atol=0.25)
        off = np.array([r.b - curve.b for r, curve in zip(reports, curves, strict=True)])
        errors = np.array([r.errors["b"] for r in reports], dtype=float)
        self.assertLess(np.sqrt(np.mean((off / errors) ** 2)), 1.7)
        self.assertGreater(np.sqrt(np.mean((off / errors) ** 2)), 0.4)

    def test_guessing_is_found_again(self) -> None:
        """Three parameters from known curves, half of which cannot be guessed."""
        rng = np.random.default_rng(21)
        guesses = np.tile([0.0, 0.25], 10)
        curves = [
            ResponseCurve(a, b, c)
            for a, b, c in zip(
                rng.lognormal(0.4, 0.2, 20), np.linspace(-1.5, 2, 20), guesses, strict=True
            )
        ]
        fit = fit_marginal(drawn(curves, 4000, rng), Model.THREE)
        self.assertTrue(fit.settled)
        hard = np.linspace(-1.5, 2, 20) > 0
        apart = fit.guesses[hard & (guesses > 0)].mean() - fit.guesses[hard & (guesses == 0)].mean()
        self.assertGreater(apart, 0.12)
        # Slope, difficulty and guessing trade off: what is known well is the curve itself.
        theta = np.linspace(-2, 2, 41)
        for curve, report in zip(curves, item_reports(fit), strict=True):
            found = ResponseCurve(report.a, report.b, report.c).probabilities(theta)[1]
            self.assertLess(np.abs(found - curve.probabilities(theta)[1]).mean(), 0.03)

    def test_what_an_item_cannot_tell_is_said(self) -> None:
        """One scored the wrong way round, one that few answered: each with its reason."""
        table = simulated(900, 14, seed=5)
        scores = table.scores.copy()
        scores[:, 0] = 1 - scores[:, 2]
        scores[20:, 1] = MISSING
        reports = item_reports(fit_marginal(ResponseTable(table.items, scores), Model.TWO))
        self.assertIn("only 20 answers", reports[1].problems[0])
        self.assertIn("the slope can’t be estimated within its range", reports[0].problems)
        self.assertEqual([r.problems for r in reports[2:]], [()] * 12)
        rasch = item_reports(fit_marginal(ResponseTable(table.items, scores), Model.RASCH))
        self.assertRegex(" ".join(rasch[0].problems), r"infit 1\.\d\d is outside")

    def test_missing_answers_are_left_out(self) -> None:
        table = simulated(2000, 8, seed=3)
        holes = table.scores.copy()
        holes[np.random.default_rng(1).random(holes.shape) < 0.25] = MISSING
        whole = fit_marginal(table, Model.TWO)
        part = fit_marginal(ResponseTable(table.items, holes), Model.TWO)
        self.assertLess(np.abs(whole.parameters[:, 1] - part.parameters[:, 1]).max(), 0.3)
        self.assertGreater(part.errors[:, 1].mean(), 1.05 * whole.errors[:, 1].mean())

    def test_fixed_guessing_and_categories(self) -> None:
        table = simulated(2500, 10, seed=5, guess=0.25)
        fit = fit_marginal(table, Model.TWO, guess=np.full(10, 0.25))
        np.testing.assert_allclose(fit.guesses, 0.25)
        plain = fit_marginal(table, Model.TWO)
        self.assertGreater(fit.log_likelihood, plain.log_likelihood)
        with self.assertRaises(DoesNotSettle):
            fit_marginal(ResponseTable(table.items, table.scores * 2), Model.TWO)

    def test_mean_squares_are_one_and_a_random_item_stands_out(self) -> None:
        table = simulated(1500, 12, seed=9)
        mixed = table.scores.copy()
        mixed[:, 0] = np.random.default_rng(2).integers(0, 2, 1500)
        fit = fit_marginal(ResponseTable(table.items, mixed), Model.RASCH)
        found = item_fit(fit)
        self.assertGreater(found[0].outfit, 1.25)
        self.assertLess(np.abs(np.mean([f.infit for f in found]) - 1), 0.05)

    def test_sum_scores_follow_the_curves_and_not_a_wrong_key(self) -> None:
        """S-X² (Orlando and Thissen 2000) is chi-squared where the model holds: its mean is its
        degrees of freedom, and one in twenty is beyond the 5% point."""
        self.assertEqual(len(score_chances(np.full((4, 1), 0.5))), 5)
        np.testing.assert_allclose(
            score_chances(np.full((4, 1), 0.5))[:, 0], np.array([1, 4, 6, 4, 1]) / 16
        )
        rng = np.random.default_rng(1)
        found: list[SumScoreFit] = []
        for _ in range(10):
            slopes, difficulties = rng.lognormal(0.2, 0.3, 12), rng.normal(size=12)
            logits = slopes * (rng.normal(size=(800, 1)) - difficulties)
            scores = (rng.random((800, 12)) < expit(logits)).astype(np.int16)
            table = ResponseTable(tuple(f"i{n}" for n in range(12)), scores)
            found += filter(None, sum_score_fit(fit_marginal(table, Model.TWO), table))
        self.assertAlmostEqual(
            sum(one.value for one in found) / sum(one.freedom for one in found), 1.0, delta=0.12
        )
        self.assertLess(np.mean([one.chance < 0.05 for one in found]), 0.12)
        turned = table.scores.copy()
        turned[:, 3] = 1 - turned[:, 3]
        table = ResponseTable(table.items, turned)
        fit = fit_marginal(table, Model.TWO)
        report = report_json(fit, sums=sum_score_fit(fit, table))
        bad = [item for item in report["items"] if "S-X²" in str(item.get("problems"))]  # type: ignore[attr-defined]
        self.assertEqual([item["item"] for item in bad], ["i3"])
        self.assertLess(bad[0]["s_x2"]["chance"], 1e-5)
        missing = table.scores.copy()
        missing[0, 0] = MISSING
        table = ResponseTable(table.items, missing)
        self.assertEqual(sum_score_fit(fit, table), [None] * 12)

    def test_the_report_says_everything_that_is_asked(self) -> None:
        report = report_json(fit_marginal(LSAT6, Model.TWO), fit_conditional(LSAT6))
        item = report["items"][0]  # type: ignore[index]
        self.assertEqual(set(item), {"item", "a", "b", "c", "d", "se", "fit"})
        self.assertAlmostEqual(item["d"], -item["a"] * item["b"], places=5)
        self.assertEqual(set(item["se"]), {"a", "b", "d"})


class ConditionalTests(TestCase):
    def test_symmetric_functions_of_four_ones_are_binomials(self) -> None:
        whole, without = symmetric_functions(np.zeros(4))
        np.testing.assert_allclose(np.exp(whole), [1, 4, 6, 4, 1])
        np.testing.assert_allclose(np.exp(without[2][:4]), [1, 3, 3, 1])

    def test_a_missing_answer_is_refused(self) -> None:
        holes = LSAT6.scores.copy()
        holes[3, 2] = MISSING
        with self.assertRaises(TableInvalid):
            fit_conditional(ResponseTable(LSAT6.items, holes))


class FaultyTests(TestCase):
    """Each ends with a reason beside the item, and soon: steps are counted, not seconds."""

    def scores(self, rows: int = 400) -> np.ndarray:
        rng = np.random.default_rng(3)
        ability, difficulty = rng.normal(size=(rows, 1)), np.linspace(-1.5, 1.5, 8)
        chance = 1 / (1 + np.exp(-1.2 * (ability - difficulty)))
        return (rng.random((rows, 8)) < chance).astype(np.int16)

    def fit(self, scores: np.ndarray, model: Model) -> tuple[dict[str, str], dict[str, object]]:
        whole = ResponseTable(tuple(f"i{j}" for j in range(scores.shape[1])), scores)
        table, why = screened(whole, model)
        fit = fit_marginal(table, model)
        self.assertLess(fit.steps, 300)
        self.assertTrue(np.isfinite(fit.log_likelihood))
        return why, report_json(fit, left_out=why)

    def test_each_fault_has_its_reason_and_spoils_no_other_item(self) -> None:
        perfect, turned, twice, gap = (self.scores() for _ in range(4))
        perfect[:, 0] = 1
        turned[:, 1] = 1 - turned[:, 1]
        twice[:, 3] = twice[:, 2]
        gap[:, 4] *= 2
        for scores, item, said, models in (
            (perfect, "i0", "every answer is 1", tuple(Model)),
            (turned, "i1", "is its key right?", (Model.TWO, Model.THREE, Model.PARTIAL)),
            (twice, "i3", "its answers are the same as those of i2", tuple(Model)),
            (gap, "i4", "nobody has a score of 1", (Model.PARTIAL,)),
        ):
            for model in models:
                why, told = self.fit(scores, model)
                self.assertEqual(list(why), [item], model)
                self.assertIn(said, why[item])
                items = {one["item"]: one for one in told["items"]}  # type: ignore[index, attr-defined]
                self.assertIn(said, items[item]["problems"][0])
                self.assertEqual(len(items), 8)
                self.assertTrue(told["settled"], (item, model))
                others = [one for name, one in items.items() if name != item]
                self.assertTrue(all(0.3 < one["a"] < 3 for one in others), (item, model))

    def test_forty_rows_end_with_what_cannot_be_told(self) -> None:
        for model in Model:
            _, told = self.fit(self.scores(40), model)
            if not told["settled"]:
                problems = [one.get("problems") for one in told["items"]]  # type: ignore[attr-defined]
                self.assertTrue(any(problems), model)

    def test_nothing_left_is_refused_with_every_reason(self) -> None:
        ones = np.ones((30, 3), dtype=np.int16)
        with self.assertRaisesRegex(TableInvalid, "item b: every answer is 1"):
            screened(ResponseTable(("a", "b", "c"), ones), Model.TWO)


class TableTests(TestCase):
    def problems(self, text: str) -> str:
        with self.assertRaises(TableInvalid) as caught:
            read_table(text)
        return str(caught.exception)

    def test_what_is_wrong_is_said_with_its_place(self) -> None:
        rows = "".join(f"{i % 2},{(i + 1) % 2},1\n" for i in range(12))
        cases = {
            "a,b\n" + rows: "line 2: 3 values under a header of 2 names",
            "a,b,c\n0,1,2\n": "line 2, c: “2” is not 0, 1 or blank",
            "a,b,c\n0,x,1\n": "line 2, b: “x” is not 0, 1 or blank",
            "a,a,c\n" + rows: "“a” names two columns",
            "0,1,1\n" + rows: "it must be a header with the items' names",
            "a,b\n0,1\n1,0\n": "at least 10 rows are needed, not 2",
            "a\n0\n": "at least 2 items are needed, not 1",
            "": "the file is empty",
        }
        for text, expected in cases.items():
            self.assertIn(expected, self.problems(text))

    def test_other_delimiters_quotes_and_blanks(self) -> None:
        body = "".join(f'{i % 2};;"{(i // 2) % 2}"\n{i % 2};{i % 2};1\n' for i in range(6))
        table = read_table('\ufeff"one";"two";"three"\n' + body)
        self.assertEqual(table.items, ("one", "two", "three"))
        self.assertEqual(table.scores[0].tolist(), [0, MISSING, 0])
