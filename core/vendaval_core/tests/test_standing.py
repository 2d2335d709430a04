"""How a family stands: on one axis, told apart or not, and what it needs its author for."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

from vendaval_core.authoring.standing import (
    FEWEST,
    Figures,
    apart,
    measured_range,
    needs,
    on_axis,
    separates,
)

FINE = Figures(40, 0.6, 1.1, 0.0, 0.2, 0.2, 1.3)


class NeedTests(TestCase):
    def says(self, **changed: object) -> list[str]:
        return [need.says for need in needs(replace(FINE, **changed))]  # type: ignore[arg-type]

    def test_a_family_that_is_fine_needs_nobody(self) -> None:
        self.assertEqual(self.says(), [])

    def test_the_most_urgent_comes_first(self) -> None:
        found = self.says(reports=2, asks=("its versions are not equally hard",), took=2.5)
        self.assertEqual(
            found,
            [
                "Two learners report a problem with it.",
                "Its versions are not equally hard.",
                "It takes 2.5 times as long as you estimated.",
            ],
        )

    def test_a_share_says_something_only_of_enough_answers(self) -> None:
        nobody, everybody = {"right": 0.0}, {"right": 1.0}
        self.assertEqual(self.says(answers=FEWEST - 1, took=9.0, **nobody), [])
        hardly = self.says(answers=FEWEST, **nobody)
        self.assertEqual(hardly, ["Hardly anybody gets it right: 0% of 20 first tries."])
        self.assertIn("Nearly everybody", self.says(answers=FEWEST, **everybody)[0])


class AxisTests(TestCase):
    def test_difficulties_lie_between_nought_and_a_hundred(self) -> None:
        self.assertEqual([on_axis(b) for b in (-9, -3, 0, 1.5, 3, 9)], [0, 0, 50, 75, 100, 100])
        low, high = measured_range(0.0, 0.3)
        self.assertAlmostEqual(high - low, 2 * 1.96 * 0.3 * 50 / 3)

    def test_judgement_and_measurement_are_apart_by_what_both_leave_open(self) -> None:
        self.assertIsNone(apart(0.0, None, None))
        sharp, blunt = apart(0.0, 1.0, 0.1), apart(0.0, 1.0, 1.0)
        assert sharp is not None
        assert blunt is not None
        self.assertAlmostEqual(sharp, 1 / (0.1**2 + 0.5**2) ** 0.5)
        self.assertGreater(sharp, blunt)

    def test_how_well_it_tells_apart_in_a_word(self) -> None:
        self.assertEqual(
            [separates(a) for a in (1.5, 0.9, 0.2, None)], ["well", "fairly", "little", ""]
        )
