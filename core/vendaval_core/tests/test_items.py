"""Versions, expressions and templates."""

import contextlib
import sys
from concurrent.futures import ThreadPoolExecutor
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from vendaval_core.errors import ExpressionError, FamilyError
from vendaval_core.items.expressions import evaluate
from vendaval_core.items.fields import NearMissModel
from vendaval_core.items.kinds.protocol import Part
from vendaval_core.items.model import (
    DerivedVariable,
    Family,
    PickVariable,
    RangeVariable,
    Variable,
)
from vendaval_core.items.randomness import SeededStream
from vendaval_core.items.template import fill
from vendaval_core.items.versions import make_version
from vendaval_core.packs.checks import check_family

from .parts import choices, part

SUM = part(
    "number", id="sum", answer="a + b", tolerance=0.05, unit="m", digits=1,
    near_misses=[{"answer": "a - b", "says": "Added."}],
)  # fmt: skip
VARIABLES: tuple[Variable, ...] = (
    RangeVariable("a", 1.0, 9.0, 0.5),
    RangeVariable("b", "a", "a + 4", 0.1),
    PickVariable("port", ("Vila Mareta", "Cabo Brando")),
    DerivedVariable("total", "a + b"),
)


def family(*parts: Part, variables: tuple[Variable, ...] = VARIABLES, **more: object) -> Family:
    values: dict[str, object] = {
        "key": "example",
        "topic": "t",
        "title": "Sum at [[port]]" if variables else "Fixed",
        "prompt": "Add [[fixed(a, 1)]] and [[fixed(b, 1)]]." if variables else "Which?",
        "parts": parts or (SUM,),
        "solution": ("It is so.",),
        "difficulty": 2,
        "seconds": 30.0,
        "study": "s",
        "source": "none",
        "variables": variables,
    } | more
    return Family(**values)  # type: ignore[arg-type]


CHOICE = part("choice", id="c", choices=choices("yes", "no", "maybe"))


class VersionTests(TestCase):
    def test_the_generator_never_changes(self) -> None:
        """Frozen values: were they to change, every stored presentation would be another question."""
        stream = SeededStream("family", "a", 1, 0)
        self.assertEqual([stream.below(1000) for _ in range(5)], [230, 979, 813, 540, 489])
        self.assertEqual("".join(SeededStream("x").shuffled("abcdef")), "dcefab")

    def test_same_seed_same_version_other_seed_another(self) -> None:
        one, again = make_version(family(), 3), make_version(family(), 3)
        self.assertEqual(one, again)
        prompts = {make_version(family(), seed).prompt for seed in range(1, 51)}
        self.assertGreater(len(prompts), 40)
        with self.assertRaises(FamilyError):
            make_version(family(), 51)

    def test_variables_stay_in_their_ranges_and_meet_constraints(self) -> None:
        strict = family(constraints=("b - a > 1", "total < 14"))
        for seed in range(1, 51):
            values = make_version(strict, seed).variables
            self.assertGreater(values["b"] - values["a"], 1)  # type: ignore[operator]
            self.assertLess(values["total"], 14)  # type: ignore[operator]
        with self.assertRaisesRegex(FamilyError, "constraints"):
            make_version(family(constraints=("a > 100",)), 1)

    def test_a_fault_names_the_variable_or_the_field(self) -> None:
        """What an author reads: where it is, and the expression that could not be worked out."""
        draw: tuple[Variable, ...] = (RangeVariable("a", 1.0, 9.0, 1.0),)
        empty = (*draw, RangeVariable("b", "a + 1", "a", 1.0))
        still = (*draw, RangeVariable("b", 1, 2, "a - a"))
        words = (*draw, RangeVariable("b", "'one'", 9.0, 1.0))
        for faulty, where, what in (
            (family(variables=empty, title="Sum"), "variables.b", "the range of b is empty"),
            (family(variables=still, title="Sum"), "variables.b", "the step of b is 0"),
            (
                family(variables=words, title="Sum"),
                "variables.b",
                "gives 'one' where a number is wanted",
            ),
            (family(variables=(*draw, DerivedVariable("b", "a / 0"))), "variables.b", "a / 0"),
            (family(constraints=("a > c",)), "constraints", "cannot work out “a > c”"),
            (family(title="Sum of [[c]]"), "title", "cannot work out “c”"),
            (family(prompt="What is [[a"), "prompt", "[["),
            (family(hints=("Try [[a /]]",)), "hints.0", "a /"),
            (family(solution=("So", "it is [[1 / 0]]")), "solution.1", "1 / 0"),
            (
                family(part("number", id="sum", answer="a + c", tolerance=0.1)),
                "parts.sum",
                "cannot work out “a + c”",
            ),
        ):
            found = check_family(faulty)
            self.assertEqual(found[0].where, where, found)
            self.assertIn(what, found[0].what)
            self.assertEqual((len(found), found[0].seed), (1, 1), found)

    def test_choices_are_shuffled_by_seed_and_again_by_order(self) -> None:
        fixed = family(CHOICE, variables=())
        self.assertEqual(fixed.versions, 1)

        def texts(order: int) -> list[str]:
            key = make_version(fixed, 1, order).parts[0]
            self.assertEqual(key.right[0].text, "yes")
            return [choice.text for choice in key.choices]

        self.assertGreater(len({tuple(texts(order)) for order in range(20)}), 3)

    def test_checks_find_what_would_mislead_a_learner(self) -> None:
        self.assertEqual(check_family(family()), [])
        near = SUM.model_copy(update={"near_misses": [NearMissModel(answer="b + a", says="No.")]})
        coarse = SUM.model_copy(update={"answer": "a + b / 3", "tolerance": 0.001})
        twins = part("choice", id="c", choices=choices("x", "x"))
        two_right = part(
            "choice",
            id="c",
            choices=[{"text": "x", "right": True}, {"text": "y", "right": "a > 0"}],
        )
        far = SUM.model_copy(update={"most": 10})
        faulty = (
            (near, "is right"),
            (coarse, "not marked right"),
            (twins, "same"),
            (two_right, "exactly one"),
            (far, "is above 10"),
        )
        for faulted, what in faulty:
            faults = check_family(family(faulted))
            self.assertTrue(any(what in fault.what for fault in faults), (what, faults))
            self.assertLess(len(faults), 4, "the first of each kind is enough")


class ExpressionTests(TestCase):
    def test_formats_are_those_of_the_chart_table(self) -> None:
        cases = {
            "clock(550)": "09:10",
            "clock(1450)": "00:10",
            "fixed(-1.25, 1)": "\u22121.3",
            "fixed(2.675, 2)": "2.68",
            "duration(75)": "1 h 15 min",
            "three_figures(-5)": "355°",
            "east_west(-4)": "4° W",
            "degrees_minutes(38.625)": "38° 37.5′",
            "count(1, 'twelfth')": "1 twelfth",
        }
        for expression, expected in cases.items():
            self.assertEqual(evaluate(expression, {}), expected)
        self.assertEqual(fill("[[a]] and [[a / 4]]", {"a": 3}), "3 and 0.75")

    def test_nothing_but_arithmetic_is_there(self) -> None:
        hostile = [
            "__import__('os').system('true')",
            "().__class__.__bases__",
            "open('/etc/hostname')",
            "[x for x in (1, 2)]",
            "lambda: 1",
            "9 ** 9 ** 9 ** 9",
            "'a' * 10 ** 9",
            "round(1, 10 ** 8)",
            "fixed(1, 10 ** 8)",
            "whole(1e300) ** 99",
            "a.real",
            "1 / 0",
            "sqrt(-1)",
            "b",
            "",
            "(" * 300,
        ]
        for expression in hostile:
            with self.assertRaises(ExpressionError, msg=expression):
                evaluate(expression, {"a": 1})

    @settings(max_examples=300, deadline=None)
    @given(st.text(alphabet="ab0123456789+-*/().,'[] <>=_x", max_size=40))
    def test_any_text_is_a_value_or_an_expression_error(self, text: str) -> None:
        with contextlib.suppress(ExpressionError):
            evaluate(text, {"a": 2, "b": 0.5})

    def test_threads_read_expressions_at_once(self) -> None:
        before = sys.getswitchinterval()
        sys.setswitchinterval(1e-6)
        self.addCleanup(sys.setswitchinterval, before)

        def work(start: int) -> float:
            return sum(
                float(evaluate(f"(({start}+{i})*(2+3*(4-a)))/(1+b)", {"a": 1, "b": 2}))
                for i in range(300)
            )

        with ThreadPoolExecutor(8) as threads:
            found = list(threads.map(work, range(0, 8000, 1000)))
        for start, total in zip(range(0, 8000, 1000), found, strict=True):
            self.assertAlmostEqual(total, sum((start + i) * 11 / 3 for i in range(300)), places=4)
