"""Checks of a pack that keep a course's old faults from coming back."""

from __future__ import annotations

from unittest import TestCase

from vendaval_core.packs.copied import values_in
from vendaval_core.packs.language import language, language_faults

from .courses import refused, replaced

RANGE = "topics/tidal-terms/range-of-tide.yaml"


SAILING = language(counted=("mile", "hour"), three_figures=("course", "steer"), doubled=("mayday",))


class LanguageTests(TestCase):
    def test_what_reads_wrongly(self) -> None:
        for text, fault in (
            ("a **east** cardinal mark", "needs “an”"),
            ("an **west** mark", "needs “a”"),
            ("You can see **1 miles**.", "has no plural"),
            ("After 3 hour you are there", "needs a plural"),
            ("Steer a course of 68°.", "three figures"),
            ("38° 7′ N", "two figures"),
            ("the the harbour", "is there twice"),
            ("It is None here", "reads oddly"),
        ):
            self.assertIn(fault, "; ".join(language_faults(text.replace("**", ""), SAILING)), text)
            self.assertIn(fault, "; ".join(language_faults(text, SAILING)), text)

    def test_what_reads_well(self) -> None:
        for text in (
            "an **east** mark, a west mark, an hour, a one-metre rise, an 8 m boat, an M of miles",
            "1 mile, 1.5 miles, 21 miles, 0.5 miles, an 8-mile leg",
            "Steer 068°, with deviation on this heading 4° W, and turn by 40°.",
            "38° 07′ N, 1° 09.5′ E, Mayday, mayday",
        ):
            self.assertEqual(list(language_faults(text, SAILING)), [], text)

    def test_values_of_a_prompt(self) -> None:
        self.assertEqual(
            values_in("Sail **8 cables** at [[v]] 18 m/s for 1.9 h from 38.625° at 09:10."),
            ["8 cables", "8", "18 m/s", "18", "1.9 h", "1.9", "38.625°", "38.625", "09:10"],
        )


class CopiedTests(TestCase):
    def test_a_prompt_that_gives_its_answer_away(self) -> None:
        """Copying the prompt is marked right: refused, unless the author says it is to be found."""
        found = refused(
            replaced(RANGE, "prompt: |\n", "prompt: |\n  It is [[fixed(high - low, 1)]] m.\n")
        )
        self.assertTrue(any("typed back, is right" in line for line in found), found)

    def test_two_slips_of_one_value(self) -> None:
        found = refused(replaced(RANGE, "near_misses:\n", "near_misses:\n" + 2 * SLIP))
        self.assertTrue(any("two slips give the same value" in line for line in found), found)


SLIP = "      - {answer: high + 99, says: That is far.}\n"
