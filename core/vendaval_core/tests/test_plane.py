"""Points, areas, lines, tide curves and shaded cells; mapped points; what mix-ups are told."""

import math
from fractions import Fraction
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from vendaval_core.errors import ExpressionError
from vendaval_core.items.kinds.protocol import Key, Part
from vendaval_core.items.mark import Verdict, as_it_stands
from vendaval_core.items.model import Family
from vendaval_core.packs.checks import check_family
from vendaval_core.scoring.outcomes import guess_chance

from .parts import key, part

HOURS = {"low": 0, "high": 1440, "step": 15, "mark": 120, "name": "time", "clock": True}
METRES = {"low": 0, "high": 6, "step": 0.1, "mark": 1, "name": "m"}
REACH = (10, 0.15)


def at(x: float | str, y: float | str, tolerance: Any, **more: str) -> dict[str, Any]:
    return {"x": x, "y": y, "tolerance": tolerance} | more


def tide() -> Any:
    return key(
        "graph",
        {"low": 1.2, "high": 4.4},
        x=HOURS,
        y=METRES,
        targets=[
            at(300, "high", REACH, name="high water"),
            at(660, "low", REACH, name="low water"),
        ],
        draws="tide",
        heights=[{"at": 480, "name": "height at 08:00", "unit": "m"}],
        near_misses=[at(300, "low", REACH, says="That is the low height at high water.")],
    )


class CurveTests(TestCase):
    def test_points_of_a_curve_in_any_order_with_a_reach_across_and_up(self) -> None:
        curve = tide()
        for sent in ("300 4.4\n660 1.2", "660 1.2\n300 4.4", "309 4.5\n651 1.1"):
            self.assertIs(curve.mark(sent).verdict, Verdict.RIGHT, sent)
        for sent in ("315 4.4\n660 1.2", "300 4.6\n660 1.2"):
            self.assertEqual(curve.mark(sent).share, Fraction(1, 2), sent)
        self.assertEqual(
            curve.mark("300 4.4\n300 1.2").says,
            "Two points are one above the other. Move one sideways.",
        )
        self.assertEqual(curve.mark("300 4.4").says, "You have placed 1 of 2.")

    def test_a_foreseen_wrong_place_is_told(self) -> None:
        mark = tide().mark("300 1.2\n660 4.4")
        self.assertEqual(mark.says, "That is the low height at high water.")
        self.assertIsNone(tide().mark(tide().examples.right).says)

    def test_times_are_read_back_as_times_beside_the_nearest_target(self) -> None:
        rows = tide().pieces("660 1.2\n420 4.4")
        self.assertEqual(
            [(row.label, row.given, row.right, row.ok) for row in rows],
            [
                ("high water", "07:00, 4.4", "05:00, 4.4", False),
                ("low water", "11:00, 1.2", "11:00, 1.2", True),
            ],
        )
        self.assertEqual(
            tide().answer_words(tide().examples.right),
            "high water: 05:00, 4.4; low water: 11:00, 1.2",
        )

    def test_a_tide_falls_by_twelfths_nearly(self) -> None:
        """Rule of twelfths 1, 2, 3, 3, 2, 1 (common practice, no published source): half a
        cosine comes within a sixtieth of the range of it at every hour."""
        points = [(0.0, 12.0), (6.0, 0.0)]
        fallen = [0, 1, 3, 6, 9, 11, 12]
        for hour, twelfths in enumerate(fallen):
            height = tide().height_at(points, float(hour))
            assert height is not None
            self.assertLess(abs(height - (12 - twelfths)), 12 / 60 + 1e-9, hour)
        self.assertIsNone(tide().height_at(points, 6.5))

    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.floats(0, 100, allow_subnormal=False), min_size=4, max_size=4, unique=True))
    def test_a_line_of_two_points_is_straight_and_goes_on(self, numbers: list[float]) -> None:
        x1, y1, x2, y2 = numbers
        if abs(x1 - x2) < 1e-3:
            return
        line = key(
            "graph", x=METRES, y=METRES, targets=[at(1, 1, 0.1), at(2, 3, 0.1)], draws="line"
        )
        beyond = line.height_at([(x1, y1), (x2, y2)], 2 * x2 - x1)
        assert beyond is not None
        self.assertTrue(math.isclose(beyond, 2 * y2 - y1, rel_tol=1e-9, abs_tol=1e-6))

    def test_examples_stay_apart_for_the_checks(self) -> None:
        one = tide()
        self.assertIs(one.mark(one.examples.wrong).verdict, Verdict.WRONG)


class MappedPointsTests(TestCase):
    """QTI 3 mapping: the sum of the chosen values' points between a lower and an upper bound
    (1EdTech, Assessment, Section and Item Information Model 3.0, from memory)."""

    def setUp(self) -> None:
        self.key = self._key("any")

    def _key(self, choose: int | str) -> Key:
        return key(
            "choice",
            choices=[
                {"text": "chart", "right": True, "points": 2},
                {"text": "almanac", "right": True, "points": 1},
                {"text": "novel", "says": "A novel is no help.", "points": -2},
                {"text": "pencil"},
            ],
            choose=choose,
            bounds=(0, 3),
            shuffle=False,
        )

    def test_points_between_bounds(self) -> None:
        shares = {"a\nb": 3, "a": 2, "b": 1, "a\nb\nc": 1, "c": 0, "b\nc": 0, "a\nd": 2, "d": 0}
        for sent, points in shares.items():
            self.assertEqual(self.key.mark(sent).share, Fraction(points, 3), sent)
        self.assertEqual(self.key.mark("a\nb\nc").says, "A novel is no help.")
        self.assertEqual((self.key.units, guess_chance(self.key)), (3, 0.0))

    def test_too_few_or_too_many_is_incomplete_and_never_full_marks(self) -> None:
        two = self._key(2)
        for sent, points in {"a": 2, "a\nb\nd": 2, "a\nb\nc": 1}.items():
            mark = two.mark(sent)
            self.assertIs(mark.verdict, Verdict.INCOMPLETE, sent)
            self.assertEqual(as_it_stands(mark).share, Fraction(points, 3), sent)
        self.assertIs(two.mark("a\nb").verdict, Verdict.RIGHT)


class MixUpTests(TestCase):
    def test_an_item_too_early(self) -> None:
        late = {"item": "three", "before": "two", "says": "Late."}
        order = key("order", items=["one", "two", "three"], near_misses=[late])
        one, two, three = order.examples.right.splitlines()
        self.assertEqual(order.mark(f"{three}\n{one}\n{two}").says, "Late.")
        self.assertIsNone(order.mark(f"{two}\n{one}\n{three}").says)

    def test_a_token_in_the_wrong_place_and_two_wrongly_joined(self) -> None:
        slots = key(
            "match",
            pairs=[("red", "port"), ("green", "starboard")],
            near_misses=[{"place": "red", "token": "starboard", "says": "Red is port."}],
        )
        mark = slots.mark(slots.examples.wrong)
        self.assertEqual((mark.says, mark.of), ("Red is port.", 2))
        gaps = key(
            "gap_match",
            text="{{0}} {{1}}",
            gaps=["ebb", "flood"],
            near_misses=[{"place": 1, "token": "ebb", "says": "Not there."}],
        )
        self.assertEqual(gaps.mark(gaps.examples.wrong).says, "Not there.")
        pairs = key(
            "associate",
            pairs=[("n", "black"), ("w", "yellow")],
            near_misses=[{"pair": ("w", "n"), "says": "Two of a kind."}],
        )
        (slip,) = pairs.foreseen()
        self.assertEqual(pairs.mark(slip.response).says, "Two of a kind.")

    def test_shaded_cells(self) -> None:
        second = {"answer": 2, "says": "Second hour."}
        grid = key("grid_shading", rows=1, columns=12, answer=3, near_misses=[second])
        says = {2: "Second hour.", 9: "You have shaded the part that should stay clear.", 5: None}
        for count, said in says.items():
            sent = "\n".join(f"0 {i}" for i in range(count))
            self.assertEqual(grid.mark(sent).says, said, count)

    def test_a_mix_up_that_is_right_or_names_nothing_is_a_fault(self) -> None:
        items = ["one", "two", "three"]
        right = {"item": "one", "before": "two", "says": "Wrong to say."}
        self.assertIn("mix-up", faults(part("order", items=items, near_misses=[right])))
        unknown = {"item": "four", "before": "two", "says": "?"}
        with self.assertRaises(ExpressionError):
            key("order", items=items, near_misses=[unknown])
        close = at(1.2, 1, 0.1, says="Close.")
        plane = {"x": METRES, "y": METRES}
        near = part("select_point", **plane, targets=[at(1, 1, 0.3)], near_misses=[close])
        self.assertIn("near miss 1.2, 1 is right", faults(near))
        between = part("select_point", **plane, targets=[at(1.05, 1, 0.01)])
        self.assertIn("no point of the grid", faults(between))


def faults(part: Part) -> str:
    family = Family("f", "t", "F", "Do it.", (part,), ("So.",), 1, 30, "s", "made up")
    return "; ".join(fault.what for fault in check_family(family))
