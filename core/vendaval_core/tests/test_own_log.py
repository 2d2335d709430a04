"""Calibration from a course's own log: learners move, practice chooses, and a key may be wrong."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from unittest import TestCase
from unittest.mock import patch

import numpy as np

from vendaval_core.measure.calibration.course import LogAnswer, Proposal, propose
from vendaval_core.measure.calibration.em import Priors
from vendaval_core.measure.calibration.itemfit import Answered, spread_of
from vendaval_core.measure.calibration.moving import (
    Given,
    Moving,
    fit_moving,
    normal_start,
    parameters_of,
)
from vendaval_core.measure.grid import NODES, THETA
from vendaval_core.measure.kernels import ChangeSettings
from vendaval_core.measure.response import ResponseCurve

LEARNERS = 200
STILL = ChangeSettings(drift_sd=1e-6, jump_chance=0.0)
JUDGED = {f"f{i}": ResponseCurve(1.3, (-2.0, -1.2, -0.4, 0.4, 1.2)[i % 5], 0.0) for i in range(8)}


@lru_cache(maxsize=2)
def practised(learners: int) -> tuple[dict[str, ResponseCurve], list[list[LogAnswer]]]:
    """Learners who begin as the prior says and learn in steps as the model of change says. Each is
    asked what fits what their answers have shown by then, 30 times in sittings of ten. The true
    curves, and the log."""
    rng, change = np.random.default_rng(11), ChangeSettings()
    true = {
        key: ResponseCurve(
            1.3 * float(rng.lognormal(0, 0.2)), one.b + float(rng.normal(0, 0.5)), 0.0
        )
        for key, one in JUDGED.items()
    }
    log = []
    for learner in range(learners):
        ability, shown, history = float(rng.normal(0, 1.3)), 0.0, list[LogAnswer]()
        for turn in range(30):
            fits = sorted(JUDGED, key=lambda k: abs(JUDGED[k].b + 0.85 - shown))[:4]
            key = fits[int(rng.integers(4))]
            chance = float(true[key].probabilities(np.array([ability]))[1, 0])
            outcome = int(rng.random() < chance)
            shown += 0.5 * (outcome - 1 / (1 + np.exp(1.3 * (JUDGED[key].b - shown))))
            days = 2.0 if turn % 10 == 0 and turn else 0.0
            at = 1000.0 * learner + turn
            history.append(LogAnswer(key, 1 + turn, outcome, 1.0, days, True, at))
            ability += float(rng.normal(0, change.drift_sd))
            if rng.random() < change.jump_chance:
                ability += float(rng.normal(change.jump_mean, change.jump_sd))
        log.append(history)
    return true, log


def proposed(found: list[Proposal]) -> dict[str, ResponseCurve]:
    return {one.family: one.proposed for one in found if one.proposed is not None}


@lru_cache(maxsize=1)
def sound_proposals() -> dict[str, ResponseCurve]:
    return proposed(propose(JUDGED, practised(LEARNERS)[1]))


class MovingTests(TestCase):
    def test_who_stays_as_they_are_is_the_product_of_what_they_said(self) -> None:
        """Without learning and time, the recursions are the plain posterior of each learner."""
        curves = list(JUDGED.values())[:3]
        begins = normal_start(0.2, 1.1)
        moving = Moving(
            [[Given(0, 1, 1.0, 0, False), Given(1, 0, 0.5, 0, True), Given(2, 1, 1.0, 0, True)]],
            begins,
            STILL,
        )
        logs = np.stack([np.log(curve.probabilities(THETA)) for curve in curves])
        plain = begins * np.exp(logs[0, 1] + 0.5 * logs[1, 0] + logs[2, 1])
        found = moving.expect(logs)
        self.assertAlmostEqual(found.log_likelihood, float(np.log(plain.sum())), places=6)
        for row in found.posterior:
            np.testing.assert_allclose(row, plain / plain.sum(), atol=1e-6)
        self.assertAlmostEqual(float(found.counts.sum()), 2.5)

    def test_two_steps_by_hand(self) -> None:
        """Forward and backward against the whole sum over both abilities."""
        settings = ChangeSettings()
        curves = list(JUDGED.values())[:2]
        logs = np.stack([np.log(curve.probabilities(THETA)) for curve in curves])
        moving = Moving(
            [[Given(0, 0, 1.0, 0, True), Given(1, 1, 1.0, 4, False)]],
            normal_start(0, 1.3),
            settings,
        )
        both = moving.begins[:, None] * np.exp(logs[0, 0])[:, None]
        both = both * (moving.passed[3] @ moving.learned).T * np.exp(logs[1, 1])
        found = moving.expect(logs)
        self.assertAlmostEqual(found.log_likelihood, float(np.log(both.sum())), places=9)
        np.testing.assert_allclose(found.posterior[0], both.sum(axis=1) / both.sum(), atol=1e-12)
        np.testing.assert_allclose(found.posterior[1], both.sum(axis=0) / both.sum(), atol=1e-12)
        self.assertEqual(found.posterior.shape, (2, NODES))

    def test_errors_are_those_of_the_likelihood(self) -> None:
        """At the top the likelihood falls off as the standard errors say: half a unit, one away."""
        _, log = practised(120)
        column = {key: item for item, key in enumerate(JUDGED)}
        given = [
            [Given(column[a.family], a.outcome or 0, 1.0, a.days, True) for a in own] for own in log
        ]
        moving = Moving(given, normal_start(0, 1.3), ChangeSettings())
        fit = fit_moving(dict(JUDGED), moving, list(JUDGED)[1:], priors=Priors())
        self.assertTrue(fit.settled)
        slope, intercept, error = fit.parameters[0, 0], fit.parameters[0, 1], fit.errors[0, 0]

        def height(a: float, d: float) -> float:
            curves = [ResponseCurve(a, -d / a, 0.0), *list(JUDGED.values())[1:]]
            logs = np.stack([np.log(curve.probabilities(THETA)) for curve in curves])
            return moving.expect(logs).log_likelihood

        away = max(height(slope + error, intercept + by) for by in np.linspace(-0.5, 0.5, 41))
        self.assertAlmostEqual(height(slope, intercept) - away, 0.5, delta=0.1)


class PractisedTests(TestCase):
    def test_difficulties_are_found_again_and_shrink_no_more(self) -> None:
        """One ability for a whole sitting gives a slope of 0.6 to 0.8 here."""
        true, found = practised(LEARNERS)[0], sound_proposals()
        self.assertEqual(found.keys(), JUDGED.keys())
        b, a = (np.array([getattr(found[key], name) for key in JUDGED]) for name in "ba")
        truth = np.array([true[key].b for key in JUDGED])
        slope = np.polyfit(truth, b, 1)[0]
        self.assertTrue(0.85 <= slope <= 1.1, slope)
        off = (b - truth) - np.mean(b - truth)
        self.assertLess(float(np.sqrt(np.mean(off**2))), 0.25)
        self.assertLess(float(np.abs(np.log(a / [true[key].a for key in JUDGED])).mean()), 0.25)

    def test_a_wrong_key_is_named_and_moves_nobody(self) -> None:
        log, sound = practised(LEARNERS)[1], sound_proposals()
        turned = [
            [
                replace(one, outcome=1 - (one.outcome or 0)) if one.family == "f2" else one
                for one in own
            ]
            for own in log
        ]
        found = {one.family: one for one in propose(JUDGED, turned)}
        self.assertIsNone(found["f2"].proposed)
        self.assertIn("check which answer is right", found["f2"].problems[0])
        moved = {}
        for key in set(sound) - {"f2"}:
            curve = found[key].proposed
            assert curve is not None
            moved[key] = curve.b - sound[key].b
        self.assertLess(float(np.mean(np.abs(list(moved.values())))), 0.1, moved)


class SpreadTests(TestCase):
    def test_a_known_spread_is_found_again(self) -> None:
        """Fifty versions of twelve answers each, whose difficulties have sd 0.6; and none."""
        rng = np.random.default_rng(5)
        curve = ResponseCurve(1.3, 0.0, 0.0)
        shape, parameters = parameters_of([curve])
        beliefs = normal_start(0.3, 0.8)
        for sd in (0.6, 0.0):
            found = []
            for _ in range(6):
                versions = np.repeat(np.arange(50), 12)
                off = rng.normal(0, sd, 50)[versions]
                chances = curve.probabilities(rng.normal(0.3, 0.8, 600) - off)[1]
                outcomes = (rng.random(600) < chances).astype(np.int64)
                answered = Answered(outcomes, np.tile(beliefs, (600, 1)), THETA)
                spread = spread_of(answered, versions, shape, parameters)
                assert spread is not None
                found.append(spread)
            self.assertAlmostEqual(float(np.mean([one.sd for one in found])), sd, delta=0.13)
            self.assertLessEqual(sum(one.sure for one in found) / 6, 1.0 if sd else 0.34)
        few = Answered(np.zeros(4, dtype=np.int64), np.tile(beliefs, (4, 1)), THETA)
        self.assertIsNone(spread_of(few, np.arange(4), shape, parameters))


class CourseTests(TestCase):
    present = {f"f{i}": ResponseCurve(1.3, -1.0 + 0.5 * i, 0.25 * (i % 2)) for i in range(5)}

    def histories(self, learners: int) -> list[list[LogAnswer]]:
        """Versions 1 to 6 of f2 differ by 0.9; f3 grows easier by 1.5 half way through."""
        rng = np.random.default_rng(6)
        shift = {version: 0.9 * (-1) ** version for version in range(1, 7)}
        found = []
        for learner in range(learners):
            ability, own = rng.normal(0, 1.3), list[LogAnswer]()
            for number in rng.choice(5, 4, replace=False):
                key, version = f"f{number}", int(rng.integers(1, 7))
                theta = ability - (shift[version] if key == "f2" else 0.0)
                theta += 1.5 if key == "f3" and learner > learners / 2 else 0.0
                chance = self.present[key].probabilities(np.array([theta]))[1, 0]
                outcome = int(rng.random() < chance)
                own.append(LogAnswer(key, version, outcome, 1.0, 0.0, False, float(learner)))
            found.append(own)
        return found

    def test_proposals_keep_the_scale_and_tell_spread_and_drift(self) -> None:
        proposals = {p.family: p for p in propose(self.present, self.histories(900))}
        curves = [p.proposed for p in proposals.values() if p.proposed]
        self.assertEqual(len(curves), 5)
        moved = sorted(p.proposed.b - p.present.b for p in proposals.values() if p.proposed)
        self.assertAlmostEqual(sum(moved[1:4]), 0.0, places=6, msg="the middle ones keep the scale")
        spreads = {key: one.spread.sd for key, one in proposals.items() if one.spread}
        # Its curve is flatter than that of each version, in whose units it would be 0.9.
        self.assertAlmostEqual(spreads["f2"], 1.05, delta=0.15)
        self.assertLess(spreads["f1"], 0.4)
        self.assertTrue(proposals["f2"].varies)
        self.assertFalse(proposals["f0"].varies)
        self.assertTrue(proposals["f3"].drifted)
        self.assertAlmostEqual(proposals["f3"].drift or 0, -1.5, delta=0.4)
        self.assertFalse(proposals["f0"].drifted)
        asked = {key: " ".join(one.asks) for key, one in proposals.items() if one.asks}
        self.assertEqual(set(asked), {"f2", "f3"})
        self.assertIn("not equally hard", asked["f2"])
        self.assertIn("easier by 1.", asked["f3"])
        self.assertEqual(proposals["f1"].proposed.c, 0.25)  # type: ignore[union-attr]

    def test_a_log_in_which_every_key_is_doubted_moves_nothing(self) -> None:
        log = [
            [
                replace(one, outcome=1 - (one.outcome or 0))
                for one in own
                if one.family in {"f0", "f2"}
            ]
            + [replace(one, outcome=None) for one in own if one.family not in {"f0", "f2"}]
            for own in self.histories(900)
        ]
        with patch("vendaval_core.measure.calibration.course._against") as doubts:
            doubts.return_value = {"f0": "check it", "f2": "check it"}
            found = {one.family: one for one in propose(self.present, log)}
        self.assertFalse(any(one.proposed for one in found.values()))
        self.assertEqual([key for key, one in found.items() if one.against], ["f0", "f2"])

    def test_too_few_answers_are_reported_and_nothing_moves(self) -> None:
        for proposal in propose(self.present, self.histories(19)):
            self.assertIsNone(proposal.proposed)
            self.assertIn("are needed", proposal.problems[0])
