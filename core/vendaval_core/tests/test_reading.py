"""Units, numbers and formulas as people, and others, type them."""

import contextlib
import gc
import time
from dataclasses import replace
from unittest import TestCase

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sympy.core.cache import clear_cache  # type: ignore[import-untyped]

from vendaval_core.items.drawn import KeyedNearMiss
from vendaval_core.items.formulas.algebra import FormulaUnreadable, compare, read_formula, warm_up
from vendaval_core.items.kinds.number import NumberKey
from vendaval_core.items.kinds.time_of_day import TimeKey
from vendaval_core.items.mark import Verdict
from vendaval_core.items.reading import read_number, read_text, read_time, slips_between
from vendaval_core.items.units import converted

MILES = NumberKey("p", "", "M", 2.5, 0.04, "2.5 M", (KeyedNearMiss(5.0, "Twice."),), digits=1)
ANY_LENGTH = replace(MILES, units_taken=("m", "ca"))
LITRES = NumberKey("p", "", "", 27, 0, "27", (), words=("litres", "l", "channel"))
LIMIT = 0.2


class UnitTests(TestCase):
    def test_definitions(self) -> None:
        """SI Brochure (BIPM, 9th edition), table 8; the foot of 0.3048 m (1959)."""
        self.assertEqual(converted(1, "M", "m"), 1852)
        self.assertAlmostEqual(converted(1, "kn", "km/h") or 0, 1.852)
        self.assertEqual(converted(1, "°", "′"), 60)
        self.assertEqual(converted(10, "ft", "m"), 3.048)
        self.assertIsNone(converted(1, "kn", "m"))

    def test_other_units_are_taken_and_said(self) -> None:
        found = ANY_LENGTH.mark("4630 metres")
        self.assertEqual((found.verdict, found.says), (Verdict.RIGHT, "We read this as 2.5 M."))
        self.assertEqual(ANY_LENGTH.mark("25 cables").verdict, Verdict.RIGHT)
        self.assertEqual(MILES.mark("2 1/2 M").verdict, Verdict.RIGHT)
        self.assertEqual(MILES.mark("2,5").verdict, Verdict.RIGHT)

    def test_a_unit_that_the_author_does_not_take_is_no_answer(self) -> None:
        """To convert may be what is asked: “25 cables” copied from a prompt answers nothing."""
        for typed in ("25 cables", "4630 metres", "18 m/s", "1.9 h"):
            found = MILES.mark(typed)
            self.assertEqual(found.verdict, Verdict.UNREADABLE, typed)
            self.assertIn("Write the answer in M", found.says or "")

    def test_degrees_and_minutes_are_two_numbers(self) -> None:
        angle = NumberKey("p", "", "°", 38.625, 0.002, "38° 37.5′", (), 1, angle=True)
        for typed, verdict in (
            ("38 37.5", Verdict.RIGHT),
            ("38° 37.5′", Verdict.RIGHT),
            ("38 62.5", Verdict.UNREADABLE),
            ("38.625", Verdict.UNREADABLE),
            ("38", Verdict.UNREADABLE),
            ("38 30", Verdict.WRONG),
        ):
            self.assertEqual(angle.mark(typed).verdict, verdict, typed)

    def test_words_beside_a_number(self) -> None:
        for typed in ("27", "27 litres", "27 L", "27l", "channel 27", "27 l."):
            self.assertEqual(LITRES.mark(typed).verdict, Verdict.RIGHT, typed)
        for typed in ("27 gallons", "litres", "bottle 27"):
            self.assertEqual(LITRES.mark(typed).verdict, Verdict.UNREADABLE, typed)

    def test_the_nearest_foreseen_slip_speaks(self) -> None:
        slips = (KeyedNearMiss(10.0, "Ten."), KeyedNearMiss(11.0, "Eleven."))
        number = NumberKey("p", "", "", 20, 1.5, "20", slips)
        self.assertEqual(number.mark("10.8").says, "Eleven.")
        self.assertEqual(number.mark("10.2").says, "Ten.")
        times = (KeyedNearMiss(1430.0, "Late."), KeyedNearMiss(4.0, "Past midnight."))
        clock = TimeKey("t", "", 600, 12, "10:00", times)
        self.assertEqual(clock.mark("00:01").says, "Past midnight.")
        self.assertEqual(clock.mark("23:52").says, "Late.")

    def test_the_slips_that_are_told(self) -> None:
        self.assertEqual(
            MILES.mark("4630").says, "The number is right in m. The question asks for M."
        )
        self.assertEqual(MILES.mark("3").says, "You rounded too much. Give 1 decimal place.")
        self.assertEqual(MILES.mark("5").says, "Twice.")
        self.assertIn("spaces or commas", MILES.mark("1,000.5").says or "")

    def test_slips_of_the_finger(self) -> None:
        """Damerau 1964: insertion, deletion, change, and neighbours swapped."""
        pairs = {("foxtrot", "foxtrt"): 1, ("ab", "ba"): 1, ("kilo", "kylo"): 1, ("a", "bcd"): 3}
        for (one, other), count in pairs.items():
            self.assertEqual(slips_between(one, other, 2), min(count, 3))


class FormulaTests(TestCase):
    def verdict(self, answer: str, typed: str, form: str = "any") -> str:
        return compare(answer, typed, ("d", "v", "r", "t"), form)[0]

    def test_equal_as_mathematics(self) -> None:
        for typed in ("d/(v+r)", "d / (r + v)", "1/(v+r)*d", "d(v+r)**-1", "d÷(v+r)"):
            self.assertEqual(self.verdict("d/(v+r)", typed), "right", typed)
        self.assertEqual(self.verdict("d/(v+r)", "d/(v-r)"), "wrong")
        self.assertEqual(self.verdict("v*t", "vt"), "right")
        self.assertEqual(self.verdict("2v^2", "2*v*v"), "right")
        self.assertEqual(self.verdict("2v", "sqrt(4)v"), "right")
        self.assertEqual(self.verdict("sqrt(v^2-r^2)", "((v-r)(v+r))^0.5"), "right")
        self.assertEqual(self.verdict("sqrt(v^2-r^2)", "v-r"), "wrong")

    def test_forms(self) -> None:
        self.assertEqual(self.verdict("v^2+2v", "v(v+2)", "expanded"), "form")
        self.assertEqual(self.verdict("v^2+2v", "v^2+2v", "expanded"), "right")
        self.assertEqual(self.verdict("v^2-1", "(v-1)(v+1)", "factorised"), "right")
        self.assertEqual(self.verdict("v^2-1", "v^2-1", "factorised"), "form")
        self.assertEqual(self.verdict("2v", "v+v+v-v", "simplified"), "form")
        self.assertEqual(self.verdict("2v", "v*2", "simplified"), "right")

    def test_what_is_not_a_formula_is_said(self) -> None:
        for typed in (
            "",
            "v+",
            "__import__('os')",
            "x+1",
            "v**999",
            "lambda: 1",
            "1e309",
            "v" * 300,
        ):
            self.assertEqual(self.verdict("v", typed), "unreadable", typed)


class HostileTests(TestCase):
    """Ten thousand inputs to the readers: none runs past 0.2 s, none raises."""

    @classmethod
    def setUpClass(cls) -> None:
        warm_up()
        # Collecting the garbage of all tests before would be counted as reading.
        gc.disable()
        cls.addClassCleanup(gc.enable)

    def spent(self, text: str) -> float:
        """Processor time of all readers together, in seconds."""
        started = time.thread_time()
        read_number(text, "M", angle=True)
        read_time(text)
        read_text(text)
        with contextlib.suppress(FormulaUnreadable):
            read_formula(text, ("x", "y"))
        return time.thread_time() - started

    def timed(self, text: str) -> None:
        if self.spent(text) > LIMIT:
            clear_cache()
            self.assertLess(self.spent(text), LIMIT, "twice, and without what was remembered")

    @settings(max_examples=6000, deadline=None, suppress_health_check=list(HealthCheck))
    @given(st.text(alphabet="xy0123456789+-*/^().,°′ '=sqrtincoe", max_size=120))
    def test_like_formulas(self, text: str) -> None:
        self.timed(text)

    @settings(max_examples=4000, deadline=None, suppress_health_check=list(HealthCheck))
    @given(st.text(max_size=250))
    def test_anything(self, text: str) -> None:
        self.timed(text)
