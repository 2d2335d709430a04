"""Answers with a finger, on a narrow screen."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from playwright.sync_api import CDPSession, Locator, expect

from e2e.browser import BrowserTestCase, on_grid, rehearsal_versions

Place = tuple[float, float]


class TouchTests(BrowserTestCase):
    finger: CDPSession

    def setUp(self) -> None:
        super().setUp()
        self.page = self.new_page(has_touch=True, is_mobile=True)
        self.page.set_viewport_size({"width": 390, "height": 844})
        self.finger = self.page.context.new_cdp_session(self.page)
        self.sign_in()
        self.open_rehearsal()

    def section(self, title: str) -> Locator:
        found = self.page.locator("section").filter(
            has=self.page.get_by_role("button", name=f"Check: {title}")
        )
        found.evaluate("node => node.scrollIntoView({ block: 'start' })")
        return found

    def grid(self, title: str, key: str) -> tuple[Locator, Callable[[float, float], Place]]:
        """The section of a grid, and where its points lie."""
        section, (part, *_) = self.section(title), rehearsal_versions()[key].parts
        return section, on_grid(section.get_by_role("application"), part)

    def touch(self, kind: str, *points: Place) -> None:
        self.finger.send(
            "Input.dispatchTouchEvent",
            {"type": kind, "touchPoints": [{"x": x, "y": y} for x, y in points]},
        )
        self.frames()

    def draw(self, start: Place, end: Place) -> None:
        """A finger put down, moved in small steps, lifted."""
        self.touch("touchStart", start)
        for step in range(1, 9):
            share = step / 8
            x, y = start[0] + (end[0] - start[0]) * share, start[1] + (end[1] - start[1]) * share
            self.touch("touchMove", (x, y))
        self.touch("touchEnd")

    def middle(self, what: Locator) -> Place:
        box = what.bounding_box()
        assert box is not None
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def check(self, section: Locator, title: str) -> None:
        section.get_by_role("button", name=f"Check: {title}").tap()
        expect(section.get_by_text("That’s right. (Nothing counts here.)")).to_be_visible()

    def test_an_arrow_is_drawn_and_drawn_out_further(self) -> None:
        section, place = self.grid("An arrow to draw", "19-arrow")
        self.draw(place(1, 1), place(2, 2))
        expect(section.get_by_text("2.8 M, 045°")).to_be_visible()
        before = self.page.evaluate("window.scrollY")
        self.draw(place(2, 2), place(4, 0))
        expect(section.get_by_text("4.0 M, 090°")).to_be_visible()
        self.assertEqual(self.page.evaluate("window.scrollY"), before, "the page moved too")
        self.check(section, "An arrow to draw")

    def test_a_curve_is_moved_and_its_height_follows(self) -> None:
        section, place = self.grid("A curve to move", "25-curve")
        self.draw(place(360, 2), place(360, 1))
        expect(section.get_by_text("not read yet")).to_be_visible()
        self.draw(place(700, 3), place(720, 4))
        expect(section.locator("dd")).to_have_text(re.compile(r"^2\.[456] m$"))
        fields = section.get_by_role("textbox")
        fields.first.fill("06:00")
        section.get_by_role("spinbutton", name="low water, metres").fill("1")
        self.check(section, "A curve to move")

    def drag(self, what: Locator, to: Locator) -> None:
        """A finger put on something and moved onto something else."""
        what.evaluate("node => node.scrollIntoView({ block: 'center' })")
        self.draw(self.middle(what), self.middle(to))
        self.frames()

    def test_tokens_and_items_are_dragged_or_tapped(self) -> None:
        """One of each is dragged, the others are tapped; all count the same."""
        ways = {
            "match": self.fill_slots,
            "gap_match": self.fill_slots,
            "graphic_gap_match": self.fill_slots,
            "associate": self.join,
            "hotspot": self.tap_place,
        }
        for key, version in rehearsal_versions().items():
            for part in version.parts:
                if part.kind in ways:
                    ways[part.kind](self.section(version.title), part)
                    with self.subTest(key):
                        self.check(self.section(version.title), version.title)

    def fill_slots(self, section: Locator, part: Any) -> None:
        for number, slot in enumerate(part.slots):
            text = next(t.text for t in part.tokens if t.id == slot.right)
            token = section.get_by_role("button", name=text, exact=True)
            target = section.locator(f"[data-slot='{slot.id}']")
            if number == 0:
                self.drag(token, target)
            else:
                token.tap()
                target.tap()
            expect(target).to_contain_text(text)

    def join(self, section: Locator, part: Any) -> None:
        for pair in sorted(part.pairs):
            for item in pair:
                section.locator(f"[data-item='{item}']").tap()

    def tap_place(self, section: Locator, part: Any) -> None:
        section.locator(f"[data-hotspot='{part.right[0].id}']").tap()

    def test_an_order_is_dragged_into_place(self) -> None:
        version = next(v for v in rehearsal_versions().values() if v.parts[0].kind == "order")
        (part,) = version.parts
        section = self.section(version.title)
        texts = {item.id: item.text for item in part.items}
        rows = section.locator("ol > li")
        expect(rows).to_have_count(len(part.items))
        for place, item in enumerate(part.right):
            shown = [text.split("\n") for text in rows.all_inner_texts()]
            now = next(i for i, lines in enumerate(shown) if texts[item] in lines)
            if now != place:
                self.drag(rows.nth(now).locator("svg").first, rows.nth(place))
            expect(rows.nth(place)).to_contain_text(texts[item])
        self.check(section, version.title)

    def test_two_fingers_enlarge_a_figure_with_its_places(self) -> None:
        page = self.page
        section = self.section("A place on a figure")
        places = section.locator("[data-hotspot]").count()
        section.get_by_role("button", name="Enlarge the figure").tap()
        figure = page.get_by_role("application", name=re.compile("Plus and minus"))
        expect(figure).to_be_focused()
        x, y = self.middle(figure)
        for kind, apart in (("touchStart", 20), ("touchMove", 40), ("touchMove", 60)):
            self.touch(kind, (x - apart, y), (x + apart, y))
        self.touch("touchEnd")
        expect(page.get_by_text(re.compile(r"^300%|^29\d%"))).to_be_visible()
        expect(figure.locator("[data-hotspot]")).to_have_count(places)
        self.assert_accessible("a figure with places, enlarged")
        page.get_by_role("button", name="Close").tap()
        expect(section.get_by_role("button", pressed=True)).to_have_count(0)

    def test_taps_and_strokes(self) -> None:
        shading = self.section("A grid to shade")
        for place in range(6):
            shading.locator(f"[data-cell='{place // 4} {place % 4}']").tap()
        self.check(shading, "A grid to shade")
        sketch = self.section("A sketch, and paper")
        paper = sketch.locator("svg").first
        x, y = self.middle(paper)
        self.draw((x - 60, y), (x + 60, y + 30))
        expect(sketch.get_by_role("img", name="Sketch of 1 strokes")).to_be_visible()
        choice = self.section("One of several")
        choice.locator("label").first.tap()
        expect(choice.locator("input").first).to_be_checked()
        self.assert_accessible("Rehearsal by touch")
