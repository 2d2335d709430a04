"""Slips behind wrong answers: named where they explain more than chance, and never in noise."""

from __future__ import annotations

import ast
from collections.abc import Callable
from unittest import TestCase

import numpy as np

from vendaval_core.authoring.slips.arithmetic import Array, NotArithmetic, parsed, worked_out
from vendaval_core.authoring.slips.changes import changes
from vendaval_core.authoring.slips.families import numbers_of
from vendaval_core.authoring.slips.search import Known, Wrong, slips
from vendaval_core.authoring.slips.trying import try_family

from .test_formulas import Steps, family

RNG = np.random.default_rng(3)
SPEED = RNG.choice(np.arange(3.0, 8, 0.5), 50)
MINS = RNG.choice(np.arange(10.0, 90, 5), 50)


def known(*covered: Array) -> Known:
    every = {"speed": SPEED, "mins": MINS}
    return Known(parsed("speed * mins / 60"), every, every, 0.05, covered)


def wrong(answer: Array, many: int, noise: int) -> Wrong:
    """So many wrong answers from a slip, and some from nothing."""
    versions = RNG.integers(0, 50, many + noise)
    right = SPEED * MINS / 60
    answers = np.round(answer[versions], 1)
    answers[many:] = np.round(right[versions[many:]] * RNG.uniform(0.3, 2.2, noise), 1)
    return Wrong(answers, versions, np.arange(many + noise))


def soon() -> Callable[[], bool]:
    steps = Steps()
    return lambda: steps() > 1


class SlipTests(TestCase):
    by_hundred = SPEED * MINS / 100

    def test_the_slip_is_named_with_what_it_explains(self) -> None:
        found = slips(known(), wrong(self.by_hundred, 12, 28), soon())
        self.assertEqual((found[0].formula, found[0].how), ("speed * mins / 100", "100 for 60"))
        self.assertGreaterEqual(found[0].answers, 12)
        self.assertEqual(found[0].of, 40)

    def test_a_slip_that_a_near_miss_covers_is_not_named_again(self) -> None:
        self.assertEqual(slips(known(self.by_hundred), wrong(self.by_hundred, 12, 28), soon()), [])

    def test_a_few_answers_or_noise_name_nothing(self) -> None:
        self.assertEqual(slips(known(), wrong(self.by_hundred, 3, 0), soon()), [])
        self.assertEqual(slips(known(), wrong(self.by_hundred, 0, 40), soon()), [])

    def test_families_of_the_course(self) -> None:
        for path in ("speed-time-distance/distance-run.yaml", "course-to-steer/made-good.yaml"):
            named, noise = (
                try_family(family(path), soon()),
                try_family(family(path), soon(), noise=True),
            )
            assert named is not None
            assert noise is not None
            self.assertTrue(named.right, named)
            self.assertEqual(noise.named, ())

    def test_only_what_is_a_number_is_looked_at(self) -> None:
        self.assertIsNone(numbers_of(family("buoyage/bands.yaml")))


class ArithmeticTests(TestCase):
    def test_small_changes_are_each_another_formula(self) -> None:
        node = parsed("sqrt(a * a + b) - 60 if up == 1 else a / b")
        texts = [one.text for one in changes(node, ["a", "b"])]
        self.assertEqual(len(texts), len(set(texts)))
        self.assertIn("sqrt(a * a - b) - 60 if up == 1 else a / b", texts)
        self.assertIn("sqrt(a * a + b) - 60 if up == 1 else b / a", texts)
        self.assertNotIn(ast.unparse(node), texts)

    def test_formulas_that_are_no_arithmetic_are_refused(self) -> None:
        for formula in ("a.real", "open('x')", "a[0]", "lambda: 1", "a if"):
            with self.assertRaises(NotArithmetic):
                worked_out(parsed(formula), {"a": np.ones(3)}, 3)
