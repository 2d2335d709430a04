"""Every kind of part: right, partly right, wrong, unreadable; shares, guesses, words.

Scoring as QTI 3 response processing names it (1EdTech, Assessment, Section and Item Information
Model 3.0, from memory): match correct, and map response with bounds.
"""

from fractions import Fraction
from unittest import TestCase

from hypothesis import example, given, settings
from hypothesis import strategies as st

from vendaval_core.items import parts, plane
from vendaval_core.items.keys import PartKey, units_of
from vendaval_core.items.making import make_key
from vendaval_core.items.randomness import SeededStream
from vendaval_core.items.reading import Unreadable, read_number
from vendaval_core.items.versions import Version
from vendaval_core.measure.response import category_of
from vendaval_core.scoring.examples import right_response, wrong_response
from vendaval_core.scoring.marking import Verdict, mark_part
from vendaval_core.scoring.outcomes import family_curve, guess_chance
from vendaval_core.scoring.tries import PRACTICE_TRIES, QuestionState, submit
from vendaval_core.scoring.words import answer_words, pieces, right_words

AXIS = plane.Axis(0, 10, 0.5, 1, "miles")
OPTION = parts.ChoiceOption


def key(part: parts.Part) -> PartKey:
    return make_key(part, {"n": 3}, SeededStream("test", part.id))


KEYS = {
    "one": key(parts.ChoicePart("p", (OPTION("a", True), OPTION("b"), OPTION("c")))),
    "two": key(
        parts.ChoicePart(
            "p", (OPTION("a", True), OPTION("b", True), OPTION("c"), OPTION("d")), choose=2
        )
    ),
    "any": key(
        parts.ChoicePart(
            "p", (OPTION("a", True), OPTION("b", True), OPTION("c")), choose=None, partial=True
        )
    ),
    "number": key(parts.NumberEntryPart("p", "n + 0.5", 0.05, "M", 1)),
    "angle": key(parts.NumberEntryPart("p", 38.5, 0.001, "°", 0, angle=True)),
    "slider": key(parts.NumberEntryPart("p", 30, 0, "kn", slider=(0, 60, 1))),
    "time": key(parts.TimeEntryPart("p", 550, 0)),
    "text": key(parts.TextEntryPart("p", ("Juliett",), slips=1)),
    "formula": key(parts.ExpressionPart("p", "(a+b)*c", ("a", "b", "c"))),
    "order": key(parts.OrderPart("p", ("x", "y", "z"))),
    "order_shares": key(parts.OrderPart("p", ("x", "y", "z"), partial=True)),
    "match": key(
        parts.SlotsPart(
            "p",
            (parts.Slot("1", 0), parts.Slot("2", 1), parts.Slot("3", 2)),
            ("u", "v", "w", "spare"),
            "match",
        )
    ),
    "inline": key(
        parts.SlotsPart(
            "p",
            (parts.Slot("", 0, choices=(0, 1)),),
            ("ebb", "flood"),
            "inline_choice",
            text="It {{0}}s",
            reuse=True,
        )
    ),
    "associate": key(parts.AssociatePart("p", (("a", "b"), ("c", "d")))),
    "table": key(
        parts.TableEntryPart(
            "p",
            ("h", "v"),
            (
                ("r", (parts.NumberEntryPart("q", 6, 0, "M"),)),
                ("s", (parts.TimeEntryPart("t", 60, 0),)),
            ),
        )
    ),
    "points": key(
        plane.PointsPart(
            "p", AXIS, AXIS, (plane.Target(1, 1, 0.2), plane.Target(8, 2, 0.2)), "select_point"
        )
    ),
    "graph": key(
        plane.PointsPart(
            "p",
            AXIS,
            AXIS,
            (plane.Target(3, 0, 0.2), plane.Target(3, 4, 0.2)),
            "graph",
            readings=("M", "°"),
        )
    ),
    "shading": key(plane.ShadingPart("p", 2, 4, "n")),
}


class KindTests(TestCase):
    def test_right_and_wrong_of_every_kind(self) -> None:
        for name, one in KEYS.items():
            self.assertEqual(mark_part(one, right_response(one)).verdict, Verdict.RIGHT, name)
            wrong = mark_part(one, wrong_response(one)).verdict
            self.assertIn(wrong, {Verdict.WRONG, Verdict.PARTLY}, name)
            junk = Verdict.WRONG if name == "text" else Verdict.UNREADABLE
            self.assertEqual(mark_part(one, "\x00 junk").verdict, junk, name)
            self.assertTrue(right_words(one), name)
            self.assertTrue(answer_words(one, right_response(one)), name)
            self.assertTrue(all(piece.ok for piece in pieces(one, right_response(one))), name)

    @settings(max_examples=150, deadline=None)
    @given(st.text(alphabet="abcps0123 \n.,-", max_size=60))
    def test_nothing_sent_raises(self, text: str) -> None:
        for name, one in KEYS.items():
            if name != "formula":
                mark_part(one, text)
            pieces(one, text)
            answer_words(one, text)

    def test_shares(self) -> None:
        cases = {
            ("any", "a-right one"): Fraction(1, 2),
            ("order_shares", "last two swapped"): Fraction(1, 3),
            ("match", "two of three"): Fraction(2, 3),
            ("table", "one cell"): Fraction(1, 2),
            ("points", "one of two"): Fraction(1, 2),
            ("graph", "the first arrow"): Fraction(1, 2),
        }
        sent = {
            "any": right_response(KEYS["any"]).splitlines()[0],
            "order_shares": "\n".join(
                right_response(KEYS["order_shares"]).splitlines()[i] for i in (0, 2, 1)
            ),
            "table": "q 6\nt 02:00",
            "points": "8 2\n5 5",
            "graph": "3 0\n9 9",
        }
        lines = right_response(KEYS["match"]).splitlines()
        spare = next(t.id for t in KEYS["match"].tokens if t.text == "spare")  # type: ignore[union-attr]
        sent["match"] = "\n".join([*lines[:2], f"{lines[2].split()[0]} {spare}"])
        for (name, what), share in cases.items():
            mark = mark_part(KEYS[name], sent[name])
            self.assertEqual((mark.verdict, mark.share), (Verdict.PARTLY, share), what)

    def test_an_exact_number_is_asked_for(self) -> None:
        mark = mark_part(KEYS["two"], "a\nb\nc")
        self.assertEqual(mark.says, "Choose exactly 2. You have chosen 3.")

    def test_points_in_any_order_but_arrows_in_theirs(self) -> None:
        self.assertEqual(mark_part(KEYS["points"], "8 2\n1 1").verdict, Verdict.RIGHT)
        self.assertNotEqual(mark_part(KEYS["graph"], "3 4\n3 0").verdict, Verdict.RIGHT)

    def test_lucky_answers(self) -> None:
        """1/n, 1/C(n, m), 2^-n, 1/n!: elementary probability."""
        chances = {
            "one": 1 / 3,
            "two": 1 / 6,
            "order": 1 / 6,
            "inline": 1 / 2,
            "number": 0.0,
            "match": 0.0,
        }
        for name, chance in chances.items():
            self.assertAlmostEqual(guess_chance(KEYS[name]), chance, msg=name)

    def test_part_credit_makes_outcomes_of_equal_width(self) -> None:
        version = Version("f", 1, "", "", (KEYS["match"],), (), (), {})
        curve = family_curve(version, 3)
        self.assertEqual((curve.categories, units_of(KEYS["match"])), (4, 3))
        self.assertEqual(category_of(2 / 3, 4), 2)

    def test_a_share_is_kept_and_a_later_try_is_worth_less(self) -> None:
        version = Version("f", 1, "", "", (KEYS["points"],), (), (), {})
        state = QuestionState.fresh(version.parts)
        state = submit(version, state, {"p": "8 2\n5 5"}, PRACTICE_TRIES).after
        self.assertEqual(state.score(PRACTICE_TRIES), Fraction(1, 2))
        state = submit(version, state, {"p": "8 2\n1 1"}, PRACTICE_TRIES).after
        self.assertEqual(state.score(PRACTICE_TRIES), Fraction(2, 3))

    def test_what_cannot_be_marked_is_kept_and_not_counted(self) -> None:
        written = key(parts.WrittenPart("w", "a model", "extended_text"))
        version = Version("f", 1, "", "", (KEYS["number"], written), (), (), {})
        state = QuestionState.fresh(version.parts)
        after = submit(version, state, {"p": "3.5", "w": "my own words"}, PRACTICE_TRIES).after
        self.assertEqual(after.score(PRACTICE_TRIES), 1)
        self.assertTrue(after.closed(PRACTICE_TRIES))
        told = answer_words(written, "Keep **well** *clear*, 2 * 3 * 4 metres. ")
        self.assertEqual(told, "Keep well clear, 2 * 3 * 4 metres.")

    @settings(max_examples=400, deadline=None)
    @given(st.floats(-180, 180), st.integers(0, 2))
    @example(38.9999, 1)
    @example(-0.0001, 0)
    def test_an_angle_as_shown_is_read_as_what_it_is(self, angle: float, digits: int) -> None:
        made = key(parts.NumberEntryPart("p", angle, 1 / 60, "°", digits, angle=True))
        shown = right_words(made)
        self.assertRegex(shown, r"^\u2212?\d+° [0-5]\d(\.\d+)?′$")
        self.assertNotRegex(shown, r"^\u22120° [0.]+′$")
        read = read_number(shown, "°", angle=True)
        assert not isinstance(read, Unreadable)
        self.assertLessEqual(abs(read.value - angle) * 60, 0.5 * 10**-digits + 1e-6)

    def test_an_angle_and_a_slip(self) -> None:
        for typed in ("38 30", "38° 30′", "38 30,0", "38° 30.0'"):
            self.assertEqual(mark_part(KEYS["angle"], typed).verdict, Verdict.RIGHT, typed)
        self.assertEqual(mark_part(KEYS["angle"], "38 61").verdict, Verdict.UNREADABLE)
        self.assertEqual(mark_part(KEYS["text"], "juliet").says, "Spelt Juliett.")
        self.assertEqual(mark_part(KEYS["text"], "juliana").verdict, Verdict.WRONG)
