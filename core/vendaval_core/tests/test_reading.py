"""Units, numbers and formulas as people, and others, type them."""

import contextlib
import gc
import time
from dataclasses import replace
from typing import Any
from unittest import TestCase

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sympy.core.cache import clear_cache  # type: ignore[import-untyped]

from vendaval_core.items.drawn import KeyedNearMiss
from vendaval_core.items.formulas.algebra import compare, read_formula, warm_up
from vendaval_core.items.formulas.syntax import FormulaUnreadable, formula_tree, formula_words
from vendaval_core.items.kinds.formula import FormulaKey
from vendaval_core.items.kinds.number import NumberKey
from vendaval_core.items.kinds.short_text import TextKey
from vendaval_core.items.kinds.time_of_day import TimeKey
from vendaval_core.items.mark import Verdict
from vendaval_core.items.numbers import read_number
from vendaval_core.items.reading import Unreadable, read_text, slips_between
from vendaval_core.items.times import read_time
from vendaval_core.items.units import converted
from vendaval_core.items.versions import make_version
from vendaval_core.packs.forms import FormsReport, forms_not_right
from vendaval_core.packs.nouns import nouns_proposed

from .courses import inshore

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
        self.assertEqual(MILES.mark("3").says, "You rounded too much. Give one decimal place.")
        self.assertEqual(MILES.mark("5").says, "Twice.")
        self.assertEqual(MILES.mark("1,000.5").verdict, Verdict.WRONG)
        self.assertIn("could be two numbers", MILES.mark("2,500").says or "")

    def test_slips_of_the_finger(self) -> None:
        """Damerau 1964: insertion, deletion, change, and neighbours swapped."""
        pairs = {("foxtrot", "foxtrt"): 1, ("ab", "ba"): 1, ("kilo", "kylo"): 1, ("a", "bcd"): 3}
        for (one, other), count in pairs.items():
            self.assertEqual(slips_between(one, other, 2), min(count, 3))


class FairTests(TestCase):
    """What a fair teacher would take. Common practice, no published source, unless it says so."""

    def each(self, key: Any, verdict: Verdict, *typed: str) -> None:
        for text in typed:
            self.assertIs(key.mark(text).verdict, verdict, text)

    def test_thousands_are_never_decimals(self) -> None:
        """SI Brochure (BIPM, 9th edition), 5.4.4: digits in groups of three, by thin spaces."""
        metres = NumberKey("p", "", "m", 1111, 0.5, "1111 m", ())
        self.each(
            metres, Verdict.RIGHT, "1,111", "1 111", "1\u2009111", "1'111", "1,111.2", "1.111,2"
        )
        miles = NumberKey("p", "", "M", 1.111, 0.001, "1.111 M", (), digits=3)
        self.each(miles, Verdict.UNREADABLE, "1,111")
        self.each(miles, Verdict.RIGHT, "1.111", "1.111 M.", "1.1110")
        self.each(replace(miles, answer=0.125), Verdict.RIGHT, "0,125", "⅛", "1/8")

    def test_signs_that_say_nothing_and_numbers_in_words(self) -> None:
        number = NumberKey("p", "", "", 1.5, 0, "1.5", (), digits=1)
        self.each(
            number, Verdict.RIGHT, "= 1.5", "≈1,5", "1.5.", "1½", "1 ½", "×1.5", "1.5×", "3/2"
        )
        seven = NumberKey("p", "", "", 7, 0, "7", (), words=("day", "loaf", "loaves", "force", "f"))
        self.each(
            seven, Verdict.RIGHT, "seven", "Seven days", "7 days", "7 loaves", "force 7", "F7"
        )
        self.each(seven, Verdict.RIGHT, "force-7", "f 7", "7 day.")
        self.each(seven, Verdict.WRONG, "eight", "f8", "-7")
        self.each(seven, Verdict.UNREADABLE, "seventy", "7 gales", "fx7")

    def test_units_in_full_in_the_plural_and_across_the_ocean(self) -> None:
        for unit, names in {
            "m": ("metres", "meters", "mtr", "Metre"),
            "g": ("grams", "gr", "g."),
            "l": ("litres", "liters", "L"),
            "kn": ("knots", "kts", "kt"),
            "hPa": ("hectopascals", "mbar", "hpa"),
            "min": ("minutes", "mins", "′", "'"),
            "M": ("nautical miles", "NM", "n.m.", "miles"),
        }.items():
            key = NumberKey("p", "", unit, 45, 0, f"45 {unit}", ())
            self.each(key, Verdict.RIGHT, *(f"45 {name}" for name in names))
        self.each(NumberKey("p", "", "m", 45, 0, "45 m", ()), Verdict.UNREADABLE, "45 M", "45 kn")

    def test_hours_and_minutes_where_the_author_takes_hours(self) -> None:
        minutes = NumberKey("p", "", "min", 90, 0.5, "90 min", (), units_taken=("h",))
        self.each(minutes, Verdict.RIGHT, "1 h 30 min", "1:30", "1h30", "1.5 h", "1½ hours", "90′")
        self.each(minutes, Verdict.WRONG, "1:31", "1 h", "1 h 50")
        self.each(replace(minutes, units_taken=()), Verdict.UNREADABLE, "1 h 30 min", "1.5 h")

    def test_letters_beside_an_angle(self) -> None:
        true = NumberKey("p", "", "°", 186, 0, "186°", (), letter="T")
        self.each(true, Verdict.RIGHT, "186", "186° T", "186T", "186 (T)", "186° true", "186°T.")
        self.each(true, Verdict.WRONG, "186 M", "186° C", "187 T")
        self.each(true, Verdict.UNREADABLE, "186 W", "186 N")
        west = NumberKey("p", "", "°", 3, 0, "3°", (), letter="W")
        self.each(west, Verdict.RIGHT, "3° W", "3 west", "3")
        self.each(west, Verdict.WRONG, "3 E")
        self.each(west, Verdict.UNREADABLE, "-3", "3 T")
        self.each(NumberKey("p", "", "°", 71, 0, "71°", ()), Verdict.UNREADABLE, "071 (C)")
        latitude = NumberKey("p", "", "°", 41.3, 0.001, "41° 18.0′", (), 1, angle=True, letter="N")
        self.each(latitude, Verdict.RIGHT, "41° 18.0′ N", "41 18", "41 18,0' N", "41° 18′N")
        self.each(latitude, Verdict.WRONG, "41° 18.0′ S")

    def test_times_of_day(self) -> None:
        """Hours, minutes and their colon: ISO 8601-1:2019; the rest common practice."""
        for text in ("13:50", "1350", "13:50 h", "1350 hrs", "13 50", "1:50 pm", "1.50 p.m.",
                     "13h50", "13,50", "13:50 UTC", "13:50 UT", "1350Z", "13:50."):  # fmt: skip
            self.assertEqual(read_time(text), 830, text)
        self.assertEqual([read_time(text) for text in ("830", "8:30 am", "12:30 am", "1 pm")],
                         [510, 510, 30, 780])  # fmt: skip
        for text in ("13:50 pm", "1:5", "25:00", "0 pm", "13:50 m"):
            self.assertIsInstance(read_time(text), Unreadable, text)

    def test_a_slip_in_a_word_and_never_into_another_answer(self) -> None:
        east = KeyedNearMiss("east", "That is its opposite.")
        west = TextKey("p", "", ("west",), (east,))
        self.each(west, Verdict.RIGHT, "West", "wets", "the west")
        self.each(west, Verdict.WRONG, "best", "wst", "east", "eats")
        flood = TextKey("p", "", ("flooding",), (KeyedNearMiss("flooring", "No."),))
        self.each(flood, Verdict.RIGHT, "floding", "floodign")
        self.each(flood, Verdict.WRONG, "floofing", "fludin")
        self.each(replace(flood, exact=True), Verdict.WRONG, "floding")

    def test_the_check_proposes_the_noun_that_a_question_itself_uses(self) -> None:
        families = {item.family.key: item.family for item in inshore().families}
        self.assertFalse([one for f in families.values() for one in nouns_proposed(f)])
        flashes = families["flashes"]
        bare = tuple(part.model_copy(update={"words": []}) for part in flashes.parts)
        (proposed,) = nouns_proposed(replace(flashes, parts=bare))
        self.assertEqual((proposed.part, proposed.noun), ("count", "flashes"))

    def test_a_usual_form_that_is_not_taken_is_found(self) -> None:
        version = make_version(next(iter(inshore().families)).family, 1)
        odd = NumberKey("p", "", "m", 5, 0, "5 m", (), letter="T")
        report = FormsReport()
        found = list(forms_not_right("odd", replace(version, parts=(odd,)), report))
        self.assertEqual({one.typed for one in found}, {"5T", "5° T", "5 (T)"})
        self.assertEqual(report.counts[Verdict.UNREADABLE], 3)
        self.assertLess(report.share_right, 1)

    def test_enough_decimals_are_asked_for_and_no_more(self) -> None:
        rough = NumberKey("p", "", "M", 2.55, 0.06, "2.55 M", (), digits=2)
        self.assertEqual(rough.mark("3").says, "You rounded too much. Give one decimal place.")


class ReadBackTests(TestCase):
    """What a learner is told of how a text was read, before anybody marks it."""

    def test_how_it_was_read_is_said_where_it_is_not_what_was_typed(self) -> None:
        time = TimeKey("p", "", 830, 1, "13:50", ())
        for key, typed, says in (
            (time, "13:50", ""),
            (time, "1350 hrs", "We read this as 13:50."),
            (time, "1:50 pm", "We read this as 13:50."),
            (MILES, "2.5", ""),
            (MILES, "2.5 M", ""),
            (MILES, "-2", ""),
            (MILES, "2,5", "We read this as 2.5\xa0M."),
            (MILES, "2½", "We read this as 2.5\xa0M."),
            (ANY_LENGTH, "4630 metres", "We read this as 2.5\xa0M."),
            (LITRES, "twelve", "We read this as 12."),
            (NumberKey("p", "", "°", 186, 0, "", ()), "186°", ""),
            (NumberKey("p", "", "°", 38.5, 0, "", (), 1, angle=True), "38 30", ""),
            (FormulaKey("p", "", "v*t", ("v", "t"), "any", ()), "vt", "We read this as v·t."),
            (FormulaKey("p", "", "x", ("x", "y"), "any", ()), "2x + y^2", ""),
        ):
            read = key.read_back(typed)
            self.assertEqual((read.state, read.says), ("read", says), typed)

    def test_what_cannot_be_read_says_how_to_write_it(self) -> None:
        time = TimeKey("p", "", 830, 1, "13:50", ())
        formula = FormulaKey("p", "", "v*t", ("v", "t"), "any", ())
        for key, typed, says in (
            (time, "ten to two", "Write it like this: 09:10."),
            (MILES, "2.5 kn", "Write the answer in M"),
            (formula, "v*x", "The question has no “x”. Use v, t."),
            (formula, "v*", "isn’t finished"),
            (TextKey("p", "", ("ebb",), ()), "…", "You haven’t typed anything yet."),
        ):
            read = key.read_back(typed)
            self.assertEqual(read.state, "unreadable", typed)
            self.assertIn(says, read.says)

    @settings(max_examples=200, deadline=None)
    @given(
        st.one_of(st.sampled_from(["1,111", "1 111", "3 W", "27 litres"]), st.text(max_size=40)),
        st.floats(-5000, 5000),
    )
    def test_it_says_nothing_of_what_is_right(self, typed: str, answer: float) -> None:
        for key in (MILES, ANY_LENGTH, LITRES):
            other = replace(key, answer=answer, tolerance=1, shown="?", near_misses=())
            self.assertEqual(key.read_back(typed), other.read_back(typed))


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

    def test_signs_and_letters_as_people_type_them(self) -> None:
        for typed in ("v × t", "v·t", "v•t", "v⋅t", "V*T", "d = vt", "s=v t", "vt."):
            self.assertEqual(compare("v*t", typed, ("v", "t"), "any")[0], "right", typed)
        for minus in "-–−":
            self.assertEqual(self.verdict("v-r", f"v {minus} r"), "right", minus)
        self.assertEqual(compare("V-v", "v-V", ("v", "V"), "any")[0], "wrong", "both are letters")
        self.assertIn("Use v, t", compare("v*t", "v*x", ("v", "t"), "any")[2])

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
            formula_words(formula_tree(text, ("x", "y")))
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
