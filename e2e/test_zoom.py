"""A figure looked at closely, by mouse and keys; the ruler reads it the same at any size."""

from __future__ import annotations

from playwright.sync_api import expect

from e2e.sitting import SittingTestCase
from vendaval_core.packs.reader import Pack
from vendaval_core.tests.courses import inshore_only


class ZoomTests(SittingTestCase):
    def pack(self) -> Pack:
        return inshore_only("tidal-terms")

    def test_a_figure_is_enlarged_and_moved_and_closed(self) -> None:
        self.sign_in()
        page = self.page
        page.goto(self.address("/study/tidal-terms"))
        enlarge = page.get_by_role("button", name="Enlarge the figure").first
        enlarge.focus()
        page.keyboard.press("Enter")
        figure = page.get_by_role("application")
        expect(figure).to_be_focused()
        page.keyboard.press("+")
        page.keyboard.press("+")
        expect(page.get_by_text("196%")).to_be_visible()
        drawing = page.locator(".enlarged")
        before = drawing.bounding_box()
        page.keyboard.press("ArrowRight")
        after = drawing.bounding_box()
        assert before is not None
        assert after is not None
        self.assertAlmostEqual(before["x"] - after["x"], 60, delta=1)
        page.mouse.move(500, 400)
        page.mouse.wheel(0, -100)
        expect(page.get_by_text("274%")).to_be_visible()
        page.mouse.down()
        page.mouse.move(540, 430, steps=3)
        page.mouse.up()
        dragged = drawing.bounding_box()
        self.assertNotEqual(dragged, after)
        self.assert_accessible("a figure enlarged")
        page.keyboard.press("0")
        expect(page.get_by_text("100%")).to_be_visible()
        page.keyboard.press("Escape")
        expect(figure).to_have_count(0)
        expect(enlarge).to_be_focused()
