"""Formulas found from examples: never silently while others would do, and in what words."""

from __future__ import annotations

import math
import re
from typing import Any
from unittest import TestCase

import numpy as np

from vendaval_core.authoring.edits import written
from vendaval_core.authoring.formulas.asking import MOST_EXAMPLES
from vendaval_core.authoring.formulas.marks import marked, read_mark
from vendaval_core.authoring.formulas.question import (
    ExampleError,
    Mark,
    Question,
    as_fields,
    find,
)
from vendaval_core.authoring.formulas.search import Asked, search
from vendaval_core.authoring.formulas.space import build
from vendaval_core.authoring.formulas.trying import try_family
from vendaval_core.authoring.formulas.words import as_maths, in_words
from vendaval_core.items.expressions import evaluate
from vendaval_core.items.versions import make_version
from vendaval_core.packs.families import read_family
from vendaval_core.packs.topic_files import KeptFiles

from .courses import INSHORE

SECONDS = 2.0


class Steps:
    """A clock that goes on with every look at it, so that a search ends at the same place on every
    machine."""

    def __init__(self) -> None:
        self.time = 0.0

    def __call__(self) -> float:
        self.time += 8e-4
        return self.time


def family(path: str) -> Any:
    text = (INSHORE / "topics" / path).read_text()
    found = read_family(text, path, path.split("/")[1].removesuffix(".yaml"), "t", KeptFiles({}))
    assert found.read is not None, found.problems
    return found.read.family


class SearchTests(TestCase):
    def test_it_asks_until_one_formula_is_left(self) -> None:
        """Two examples that several formulas explain are not enough."""
        sums = {"a": [2.0, 3, 5, 7, 4], "b": [2.0, 6, 1, 2, 8]}
        first = search(Asked(sums, [4], 0), Steps(), SECONDS)
        self.assertIsNone(first.taken)
        assert first.ask is not None
        # On the first version a + b, a * b and a doubled are all 4: the one asked for tells them.
        a, b = sums["a"][first.ask], sums["b"][first.ask]
        self.assertEqual(len({a + b, a * b, 2 * a, 2 * b}), 4)

    def test_no_formula_is_made_up_for_answers_that_have_none(self) -> None:
        random = np.random.default_rng(7)
        for _ in range(3):
            marks = {"a": random.integers(2, 30, 50).astype(float)}
            verdict = search(
                Asked(marks, random.integers(5, 90, MOST_EXAMPLES), 0), Steps(), SECONDS
            )
            self.assertIsNone(verdict.taken)
            self.assertIsNone(verdict.ask)

    def test_formulas_of_the_course_are_found_from_few_examples(self) -> None:
        for path in (
            "speed-time-distance/speed-made.yaml",
            "clearance-windows/tide-needed-drying.yaml",
            "course-to-steer/leeway-last.yaml",
            "latitude-and-distance/longitude-to-miles.yaml",
            "compass-errors/compass-to-true.yaml",
        ):
            tried = try_family(family(path), Steps(), SECONDS)
            assert tried is not None, path
            self.assertEqual(tried.outcome, "right", tried)
            self.assertLessEqual(tried.examples, MOST_EXAMPLES)

    def test_a_table_is_not_taken_for_a_formula(self) -> None:
        self.assertIsNone(marked(family("height-at-a-time/twelfths-in-one-hour.yaml")))


class QuestionTests(TestCase):
    text = "The stream runs at [[rate]] kn. How far does it set you in [[minutes]] min?"

    def question(self, *examples: tuple[str, str, str]) -> Question:
        rates, minutes, answers = zip(*examples, strict=True)
        marks = (Mark("rate", rates, 0.5, 4, 0.1), Mark("minutes", minutes, 10, 90, 5))
        return Question(self.text, marks, answers)

    def test_a_question_from_paper_is_asked_back_until_it_is_a_family(self) -> None:
        examples = [("2.0", "30", "1.0")]
        for _ in range(MOST_EXAMPLES):
            reply = find(self.question(*examples), Steps(), SECONDS)
            if reply.state != "asks":
                break
            rate, minutes = reply.ask
            answer = round(float(rate) * float(minutes) / 60 + 1e-9, 1)
            examples.append((rate, minutes, f"{answer:.1f}"))
        self.assertEqual(reply.state, "found", examples)
        fields = as_fields(self.question(*examples), "Drift", "start", reply.fits[0].formula)
        found = read_family(written(fields), "f.yaml", "f", "t", KeptFiles({}))
        assert found.read is not None, found.problems
        version = make_version(found.read.family, 3)
        rate, minutes = (float(one) for one in re.findall(r"\d+(?:\.\d+)?", version.prompt))
        right = float(version.parts[0].examples.right)
        self.assertAlmostEqual(right, rate * minutes / 60, delta=0.051)

    def test_what_is_no_number_is_said_with_its_place(self) -> None:
        with self.assertRaises(ExampleError) as caught:
            find(self.question(("2.0", "half an hour", "1.0")), Steps(), SECONDS)
        self.assertEqual(caught.exception.where, "minutes")

    def test_a_word_with_two_forms_turns_a_sign(self) -> None:
        side = Mark("side", ("flood",), forms=("flood", "ebb"))
        self.assertEqual((side.read("ebb"), side.write(1)), (-1, "flood"))
        self.assertEqual(side.slot(), "[['flood' if side == 1 else 'ebb']]")


class SpaceTests(TestCase):
    def test_every_expression_is_worth_what_it_says_and_no_two_the_same(self) -> None:
        marks = {"a": [3.0, 8, 13, 21], "b": [2.0, 5, 7, 11]}
        space = build(marks, (2.0, 60.0), 10, lambda: False)
        for row in range(0, len(space.cost), 7):
            for column in range(4):
                values = {name: float(all_[column]) for name, all_ in marks.items()}
                value = float(evaluate(space.text(row), values))
                self.assertTrue(math.isclose(value, space.values[row, column], rel_tol=1e-9))
        rows = {tuple(np.round(row, 7)) for row in space.values}
        self.assertEqual(len(rows), len(space.values))


class WordTests(TestCase):
    def test_a_formula_in_words_and_as_maths(self) -> None:
        formula = "miles * 60 / (late - early)"
        self.assertEqual(in_words(formula), "miles times 60, divided by (late less early)")
        self.assertEqual(
            as_maths(formula),
            r"\frac{\text{miles} \times 60}{\text{late} - \text{early}}",
        )
        self.assertEqual(in_words("sqrt(a * a - b)"), "the square root of (a times a, less b)")

    def test_numbers_as_they_stand_in_questions(self) -> None:
        read = {
            "1.8": 1.8,
            "\u22123": -3,
            "07:45": 465,
            "1 h 20 min": 80,
            "40 min": 40,
            "075°": 75,
            "5° W": -5,
            "three eggs": 3,
            "flood": None,
        }
        self.assertEqual({text: read_mark(text) for text in read}, read)
