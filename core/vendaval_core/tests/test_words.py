"""Sentences made from a learner's own numbers: feedback, reasons, outlooks, foreseen answers."""

from __future__ import annotations

from fractions import Fraction
from typing import Any
from unittest import TestCase

import numpy as np

from vendaval_core.assessment.points import Total
from vendaval_core.assessment.rules import Rules
from vendaval_core.assessment.wording import points_in_words, verdict_words
from vendaval_core.items.kinds.protocol import Key
from vendaval_core.items.versions import Version
from vendaval_core.mastery.outlook import Outlook, outlook, outlook_sentence
from vendaval_core.mastery.practice import misses_on_idea, needs_study
from vendaval_core.mastery.why import why_asked
from vendaval_core.measure.grid import THETA
from vendaval_core.measure.level import LevelReading, LevelScale
from vendaval_core.measure.posterior import LearnerState, Prior, infer
from vendaval_core.measure.response import judged_curve
from vendaval_core.measure.selection import FamilyTable
from vendaval_core.scoring.feedback import (
    feedback_for,
    level_sentence,
    met_sentence,
    rehearsal_sentence,
)
from vendaval_core.scoring.tries import ONE_TRY, PRACTICE_TRIES, QuestionState, submit

from .parts import key, part


def reading(level: float, half: float = 8.0, target: float = 80.0) -> LevelReading:
    return LevelReading(level, level - half, level + half, 0.3, target, 0.5)


TIDE = key(
    "number", id="tide", label="Tide", unit="m", answer=2.5, tolerance=0.05, digits=1, units=["ft"],
    near_misses=[{"answer": 5.0, "says": "Twice. Halve it."}],
)  # fmt: skip
TIME = key("time", id="time", answer=550, tolerance=0, label="Time")
PAIRS = key("match", id="pairs", pairs=[("1", "u"), ("2", "v")], spare=["w"])


class FeedbackTests(TestCase):
    def told(self, keys: list[Key], sent: dict[str, str], **more: Any) -> tuple[str, str, str]:
        """Verdict, headline and detail of what is sent first."""
        version = Version("f", 1, "", "", tuple(keys), (), (), {})
        state = QuestionState.fresh(version.parts)
        for earlier in more.get("after", ()):
            state = submit(version, state, earlier, PRACTICE_TRIES).after
        found = submit(
            version, state, sent, more.get("rules", PRACTICE_TRIES), whole=more.get("whole", False)
        )
        said = feedback_for(found, sent, more.get("reveal", True))
        return said.verdict, said.headline, said.detail

    def test_one_part(self) -> None:
        for sent, expected in (
            ("2.5", ("right", "That’s right.", "")),
            ("8.2 ft", ("right", "That’s right.", "We read this as 2.499 m.")),
            ("5", ("wrong", "Not 5. Twice.", "Halve it.")),
            ("4", ("wrong", "Not 4.", "")),
            ("", ("not_counted", "You haven’t answered yet.", "We didn’t count a try.")),
        ):
            verdict, headline, detail = self.told([TIDE], {"tide": sent})
            self.assertEqual((verdict, headline), expected[:2], sent)
            self.assertEqual(detail, expected[2])
        unread = self.told([TIDE], {"tide": "about 3"})
        self.assertEqual(unread[:2], ("not_counted", "We couldn’t read that."))
        self.assertTrue(unread[2].endswith("We didn’t count a try."))

    def test_the_same_again_costs_nothing(self) -> None:
        told = self.told([TIDE], {"tide": "4.0"}, after=[{"tide": "4"}])
        self.assertEqual(told[1], "Nothing has changed.")

    def test_several_parts(self) -> None:
        both = [TIDE, TIME]
        self.assertEqual(
            self.told(both, {"tide": "2.5", "time": "08:00"})[:2],
            ("partly", "1 of 2 parts right so far."),
        )
        self.assertEqual(
            self.told(both, {"tide": "2.5"}),
            ("right", "That’s right.", "Now answer the rest of the question."),
        )
        self.assertEqual(
            self.told(both, {"tide": "2.5"}, whole=True, rules=ONE_TRY)[1],
            "Part of your answer is empty.",
        )
        self.assertEqual(self.told(both, {"tide": "1", "time": "08:00"})[1], "Not yet.")

    def test_shares(self) -> None:
        ids = {token.text: token.id for token in PAIRS.tokens}
        told = self.told([PAIRS], {"pairs": f"s0 {ids['u']}\ns1 {ids['w']}"})
        self.assertEqual(told[:2], ("partly", "Partly right: 1 of 2."))
        told = self.told([PAIRS], {"pairs": f"s0 {ids['v']}\ns1 {ids['w']}"})
        self.assertEqual(told[:2], ("wrong", "Not yet."))

    def test_a_diagnostic_tells_no_more_than_right_or_wrong(self) -> None:
        wrong = self.told([TIDE], {"tide": "5"}, reveal=False, rules=ONE_TRY)
        self.assertEqual(
            wrong, ("wrong", "Not this time.", "You can look at it afterwards in Review.")
        )
        partly = self.told([TIDE, TIME], {"tide": "2.5", "time": "8:00"}, reveal=False)
        self.assertEqual(partly[1], "Partly right.")

    def test_the_rehearsal(self) -> None:
        version = Version("f", 1, "", "", (TIDE, TIME), (), (), {})
        fresh = QuestionState.fresh(version.parts)
        for sent, said in (
            ({"tide": "2.5", "time": "09:10"}, "That’s right. (Nothing counts here.)"),
            ({"tide": "2.5", "time": "09:00"}, "Not quite right. (Nothing counts here.)"),
            ({"tide": "2.5"}, "Part of your answer is empty."),
            ({"tide": "2.5", "time": "noon"}, "We couldn’t read that."),
        ):
            found = rehearsal_sentence(submit(version, fresh, sent, ONE_TRY))
            self.assertTrue(found.startswith(said), found)

    def test_what_an_answer_did_to_a_level(self) -> None:
        wide, now = reading(50, half=30), reading(61)
        for before, after, reason, said in (
            (reading(60), reading(63), "full", "Your level is now about 63, up 3."),
            (reading(63), reading(60), "full", "Your level is now about 60, down 3."),
            (reading(60.2), reading(60.4), "full", "Your level is still about 60."),
            (wide, now, "full", "First estimate of your level: about 61."),
            (
                wide,
                wide,
                "full",
                "Your level is between 20 and 80. A few more answers will make it clearer.",
            ),
            (now, now, "helped", "You opened help first, so this answer doesn’t count"),
            (now, now, "rapid", "You answered faster than the question can be read"),
        ):
            self.assertTrue(level_sentence(before, after, reason, 3).startswith(said), said)
        first = level_sentence(reading(60), reading(63), "full", 2)
        self.assertTrue(first.startswith("First estimate of your level: about 63."))
        met = LevelReading(86, 81, 90, 0.2, 80, 0.93)
        self.assertIn("all 4 ideas covered, and 93 chances in 100", met_sentence("Tides", met, 4))
        self.assertIn("its only idea covered", met_sentence("Tides", met, 1))


class ReasonTests(TestCase):
    def test_why_a_question_was_asked(self) -> None:
        diagnostic = {"rule": "diagnostic", "gain": 0.02, "uncertain": 0.8, "near": 3}
        told = " ".join(why_asked(diagnostic, "Tidal terms"))
        self.assertIn("your level in tidal terms", told)
        self.assertIn("remove 2.5% of what we don’t know yet", told)
        self.assertIn("Three questions were nearly as good (within 10%)", told)
        self.assertEqual(len(why_asked({"rule": "diagnostic", "gain": 1, "near": 1}, "T")), 1)
        covering = why_asked({"rule": "coverage", "success": 0.71, "easier": True}, "T")
        self.assertIn("right first time, on two versions", covering[0])
        self.assertIn("After two wrong answers in a row", covering[1])
        self.assertIn("about 71 chances in 100", covering[2])
        practice = why_asked({"rule": "practice", "success": 0.8, "easier": False}, "T")
        self.assertEqual(len(practice), 1)
        for rule, said in (("fresh", "new numbers"), ("mend", "missed"), ("swapped", "swapped")):
            self.assertIn(said, why_asked({"rule": rule}, "T")[0])
        self.assertIn("no reason on file", why_asked({}, "T")[0])

    def test_an_idea_is_read_about_after_two_misses_in_a_row(self) -> None:
        misses: dict[str, int] = {}
        for family, right, due in (
            ("a", False, False),
            ("b", False, False),
            ("a", True, False),
            ("a", False, False),
            ("b", False, True),
            ("a", False, True),
        ):
            misses = misses_on_idea(misses, family, right)
            self.assertEqual(needs_study(misses[family]), due, (family, misses))

    def test_outlook_moves_both_ways_and_says_how_far(self) -> None:
        curves = [judged_curve(d, 1, 0.0) for d in (1, 2, 3, 4, 5)]
        table = FamilyTable.of([(f"f{i}", 0, curve) for i, curve in enumerate(curves)], 1)
        prior = Prior.of(np.zeros(1), np.eye(1))
        posterior, _ = infer(prior, LearnerState.of(prior))
        scale = LevelScale.of(curves)
        found = outlook(table, posterior, [scale], [80.0], [0], curves, 0)
        now = scale.level(float((posterior.marginals[0] * THETA).sum()))
        self.assertTrue(found.if_missed.level < now < found.if_right.level)
        self.assertGreater(found.questions, 1)
        told = outlook_sentence(found, found.if_right)
        self.assertRegex(told, r"^After about \w+ more answers we’ll know your level well\.$")

    def test_a_settled_level_says_which_way(self) -> None:
        settled = Outlook(0, reading(70), reading(60))
        for chance, half, said in (
            (0.02, 5, "you’re below the target"),
            (0.98, 5, "you’re at the target"),
            (0.5, 5, "well enough"),
            (0.5, 30, "won’t make it much clearer"),
        ):
            now = LevelReading(70, 70 - half, 70 + half, 0.3, 80, chance)
            self.assertIn(said, outlook_sentence(settled, now))
        self.assertIn(
            "one more answer", outlook_sentence(Outlook(1, reading(1), reading(1)), reading(5))
        )


class ForeseenTests(TestCase):
    def test_every_kind_in_words(self) -> None:
        axis = {"low": 0, "high": 600, "step": 15, "mark": 60, "clock": True}
        up = {"low": 0, "high": 5, "step": 1, "mark": 1}
        half = part("number", id="q", answer=6, near_misses=[{"answer": 3, "says": "Half."}])
        cases: list[tuple[Key, list[tuple[str, str]]]] = [
            (
                key(
                    "choice", choices=[{"text": "a", "right": True}, {"text": "b", "says": "No b."}]
                ),
                [("b", "No b.")],
            ),
            (
                key("time", answer=550, near_misses=[{"answer": 490, "says": "An hour."}]),
                [("08:10", "An hour.")],
            ),
            (
                key("text", accepted=["ebb"], near_misses=[{"answer": "flood", "says": "Out."}]),
                [("flood", "Out.")],
            ),
            (
                key(
                    "order",
                    items=["x", "y", "z"],
                    near_misses=[{"item": "z", "before": "x", "says": "Late."}],
                ),
                [("z before x", "Late.")],
            ),
            (
                key(
                    "associate",
                    pairs=[("a", "b"), ("c", "d")],
                    near_misses=[{"pair": ("a", "c"), "says": "?"}],
                ),
                [("a with c", "?")],
            ),
            (
                key(
                    "grid_shading",
                    rows=1,
                    columns=9,
                    answer=3,
                    near_misses=[{"answer": 2, "says": "One more."}],
                ),
                [("2", "One more.")],
            ),
            (
                key(
                    "select_point",
                    x=axis,
                    y=up,
                    targets=[{"x": 300, "y": 1, "tolerance": 1}],
                    near_misses=[{"x": 360, "y": 2, "tolerance": 1, "says": "Too late."}],
                ),
                [("06:00, 2", "Too late.")],
            ),
            (
                key("table_entry", columns=["h", "v"], rows=[{"label": "r", "cells": [half]}]),
                [("3", "Half.")],
            ),
            (key("upload", model="model"), []),
        ]
        for one, expected in cases:
            self.assertEqual([(slip.words, slip.says) for slip in one.foreseen()], expected)


class VerdictTests(TestCase):
    def test_a_result_says_what_it_is_on_every_scale(self) -> None:
        total = Total(Fraction(7), Fraction(11), Fraction(11), 0)
        self.assertEqual(
            verdict_words(total, Rules(pass_mark=Fraction(60))),
            "63.64%, or 12.73 of 20. Band: nearly. Passed (60% needed).",
        )
        late = Total(Fraction(1), Fraction(11), Fraction(11), 0, Fraction(1, 4))
        self.assertEqual(
            verdict_words(late, Rules(pass_mark=Fraction(60))),
            "9.09%, or 1.82 of 20. Band: not yet. Not passed (60% needed). 25% off for being late.",
        )
        self.assertEqual(points_in_words(Fraction(1)), "1 point")
        self.assertEqual(points_in_words(Fraction(5, 2)), "2.5 points")
