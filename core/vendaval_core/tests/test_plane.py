"""Points, areas, lines, tide curves and shaded cells; mapped points; what mix-ups are told."""

import math
from fractions import Fraction
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from vendaval_core.errors import ExpressionError
from vendaval_core.items import parts
from vendaval_core.items.drawn import MixUp, NearMiss
from vendaval_core.items.keys import ChoiceKey, PartKey, units_of
from vendaval_core.items.kinds.points import height_at
from vendaval_core.items.making import make_key
from vendaval_core.items.model import Family
from vendaval_core.items.plane import Axis, Height, Misplaced, PointsKey, PointsPart, Target
from vendaval_core.items.randomness import SeededStream
from vendaval_core.packs.checks import check_family
from vendaval_core.scoring.examples import right_response, wrong_response
from vendaval_core.scoring.marking import Verdict, mark_part
from vendaval_core.scoring.outcomes import guess_chance
from vendaval_core.scoring.words import answer_words, pieces

HOURS = Axis(0, 1440, 15, 120, "time", clock=True)
METRES = Axis(0, 6, 0.1, 1, "m")


def key(part: parts.Part) -> PartKey:
    return make_key(part, {"low": 1.2, "high": 4.4}, SeededStream("plane", part.id))


def tide(**more: object) -> PointsKey:
    made = key(
        PointsPart(
            "curve",
            HOURS,
            METRES,
            (
                Target(300, "high", (10, 0.15), "high water"),
                Target(660, "low", (10, 0.15), "low water"),
            ),
            "graph",
            draws="tide",
            heights=(Height(480, "height at 08:00", "m"),),
            near_misses=(
                Misplaced(300, "low", (10, 0.15), "That is the low height at high water."),
            ),
            **more,  # type: ignore[arg-type]
        )
    )
    assert isinstance(made, PointsKey)
    return made


class CurveTests(TestCase):
    def test_points_of_a_curve_in_any_order_with_a_reach_across_and_up(self) -> None:
        curve = tide()
        for sent in ("300 4.4\n660 1.2", "660 1.2\n300 4.4", "309 4.5\n651 1.1"):
            self.assertIs(mark_part(curve, sent).verdict, Verdict.RIGHT, sent)
        for sent in ("315 4.4\n660 1.2", "300 4.6\n660 1.2"):
            self.assertEqual(mark_part(curve, sent).share, Fraction(1, 2), sent)
        self.assertEqual(
            mark_part(curve, "300 4.4\n300 1.2").says,
            "Two points stand one above the other. Move one sideways.",
        )
        self.assertEqual(mark_part(curve, "300 4.4").says, "1 of 2 placed.")

    def test_a_foreseen_wrong_place_is_told(self) -> None:
        mark = mark_part(tide(), "300 1.2\n660 4.4")
        self.assertEqual(mark.says, "That is the low height at high water.")
        self.assertIsNone(mark_part(tide(), right_response(tide())).says)

    def test_times_are_read_back_as_times_beside_the_nearest_target(self) -> None:
        rows = pieces(tide(), "660 1.2\n420 4.4")
        self.assertEqual(
            [(row.label, row.given, row.right, row.ok) for row in rows],
            [
                ("high water", "07:00, 4.4", "05:00, 4.4", False),
                ("low water", "11:00, 1.2", "11:00, 1.2", True),
            ],
        )
        self.assertEqual(
            answer_words(tide(), right_response(tide())),
            "high water: 05:00, 4.4; low water: 11:00, 1.2",
        )

    def test_a_tide_falls_by_twelfths_nearly(self) -> None:
        """Rule of twelfths 1, 2, 3, 3, 2, 1 (common practice, no published source): half a
        cosine comes within a sixtieth of the range of it at every hour."""
        points = [(0.0, 12.0), (6.0, 0.0)]
        fallen = [0, 1, 3, 6, 9, 11, 12]
        for hour, twelfths in enumerate(fallen):
            height = height_at(tide(), points, float(hour))
            assert height is not None
            self.assertLess(abs(height - (12 - twelfths)), 12 / 60 + 1e-9, hour)
        self.assertIsNone(height_at(tide(), points, 6.5))

    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.floats(0, 100, allow_subnormal=False), min_size=4, max_size=4, unique=True))
    def test_a_line_of_two_points_is_straight_and_goes_on(self, numbers: list[float]) -> None:
        x1, y1, x2, y2 = numbers
        if abs(x1 - x2) < 1e-3:
            return
        line = key(
            PointsPart(
                "l", METRES, METRES, (Target(1, 1, 0.1), Target(2, 3, 0.1)), "graph", draws="line"
            )
        )
        assert isinstance(line, PointsKey)
        beyond = height_at(line, [(x1, y1), (x2, y2)], 2 * x2 - x1)
        assert beyond is not None
        self.assertTrue(math.isclose(beyond, 2 * y2 - y1, rel_tol=1e-9, abs_tol=1e-6))

    def test_examples_stay_apart_for_the_checks(self) -> None:
        one = tide()
        self.assertIs(mark_part(one, wrong_response(one)).verdict, Verdict.WRONG)


class MappedPointsTests(TestCase):
    """QTI 3 mapping: the sum of the chosen values' points between a lower and an upper bound
    (1EdTech, Assessment, Section and Item Information Model 3.0, from memory)."""

    def setUp(self) -> None:
        option = parts.ChoiceOption
        options = (
            option("chart", True, points=2),
            option("almanac", True, points=1),
            option("novel", False, "A novel is no help.", points=-2),
            option("pencil", False),
        )
        made = key(parts.ChoicePart("p", options, choose=None, bounds=(0, 3), shuffle=False))
        assert isinstance(made, ChoiceKey)
        self.key = made

    def test_points_between_bounds(self) -> None:
        shares = {"a\nb": 3, "a": 2, "b": 1, "a\nb\nc": 1, "c": 0, "b\nc": 0, "a\nd": 2, "d": 0}
        for sent, points in shares.items():
            self.assertEqual(mark_part(self.key, sent).share, Fraction(points, 3), sent)
        self.assertEqual(mark_part(self.key, "a\nb\nc").says, "A novel is no help.")
        self.assertEqual((units_of(self.key), guess_chance(self.key)), (3, 0.0))


class MixUpTests(TestCase):
    def test_an_item_too_early(self) -> None:
        order = key(
            parts.OrderPart("p", ("one", "two", "three"), mix_ups=(MixUp("three", "two", "Late."),))
        )
        one, two, three = right_response(order).splitlines()
        self.assertEqual(mark_part(order, f"{three}\n{one}\n{two}").says, "Late.")
        self.assertIsNone(mark_part(order, f"{two}\n{one}\n{three}").says)

    def test_a_token_in_the_wrong_place_and_two_wrongly_joined(self) -> None:
        slots = key(
            parts.SlotsPart(
                "p",
                (parts.Slot("red", 0), parts.Slot("green", 1)),
                ("port", "starboard"),
                "match",
                mix_ups=(MixUp("red", "starboard", "Red is port."),),
            )
        )
        swapped = wrong_response(slots)
        mark = mark_part(slots, swapped)
        self.assertEqual((mark.says, mark.of), ("Red is port.", 2))
        gaps = key(
            parts.SlotsPart(
                "g",
                (parts.Slot("", 0), parts.Slot("", 1)),
                ("ebb", "flood"),
                "gap_match",
                text="{{0}} {{1}}",
                mix_ups=(MixUp(1, "ebb", "Not there."),),
            )
        )
        self.assertEqual(mark_part(gaps, wrong_response(gaps)).says, "Not there.")
        pairs = key(
            parts.AssociatePart(
                "a", (("n", "black"), ("w", "yellow")), mix_ups=(MixUp("w", "n", "Two of a kind."),)
            )
        )
        self.assertEqual(mark_part(pairs, _joined(pairs, "n", "w")).says, "Two of a kind.")

    def test_shaded_cells(self) -> None:
        grid = key(parts.ShadingPart("s", 1, 12, 3, near_misses=(NearMiss(2, "Second hour."),)))
        says = {2: "Second hour.", 9: "You have shaded the part that should stay clear.", 5: None}
        for count, said in says.items():
            sent = "\n".join(f"0 {i}" for i in range(count))
            self.assertEqual(mark_part(grid, sent).says, said, count)

    def test_a_mix_up_that_is_right_or_names_nothing_is_a_fault(self) -> None:
        right = MixUp("one", "two", "Wrong to say.")
        self.assertIn(
            "mix-up", faults(parts.OrderPart("p", ("one", "two", "three"), mix_ups=(right,)))
        )
        unknown = MixUp("four", "two", "?")
        with self.assertRaises(ExpressionError):
            key(parts.OrderPart("p", ("one", "two", "three"), mix_ups=(unknown,)))
        near = PointsPart(
            "p",
            METRES,
            METRES,
            (Target(1, 1, 0.3),),
            "select_point",
            near_misses=(Misplaced(1.2, 1, 0.1, "Close."),),
        )
        self.assertIn("near miss 1.2, 1 is right", faults(near))
        between = PointsPart("p", METRES, METRES, (Target(1.05, 1, 0.01),), "select_point")
        self.assertIn("no point of the grid", faults(between))


def _joined(pairs: PartKey, *wanted: str) -> str:
    """A response that joins two items, and the two that are left."""
    ids = {item.text: item.id for item in pairs.items}  # type: ignore[union-attr]
    left = [id_ for text, id_ in ids.items() if text not in wanted]
    return f"{ids[wanted[0]]} {ids[wanted[1]]}\n{left[0]} {left[1]}"


def faults(part: parts.Part) -> str:
    family = Family("f", "t", "F", "Do it.", (part,), ("So.",), 1, 30, "s", "made up")
    return "; ".join(fault.what for fault in check_family(family))
