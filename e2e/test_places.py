"""Places of a question, set where a learner will meet them: on its figure and on its plane."""

from __future__ import annotations

from playwright.sync_api import Locator, Page, expect

from e2e.writing import WritingTestCase
from vendaval.authoring.models import Draft


class PlacesTests(WritingTestCase):
    def test_places_are_drawn_on_a_figure_and_points_set_on_a_plane(self) -> None:
        page = self.at_bank()
        self.begun(page, "Where to anchor", "A place picked on a figure")
        first, second = (page.get_by_role("slider", name=f"Place {n}") for n in (1, 2))
        was = second.get_attribute("aria-valuetext")
        self.dragged(page, first, 40)
        self.saved(page)
        first.focus()
        for key in ("Shift+ArrowDown", "ArrowDown", "+"):
            page.keyboard.press(key)
        expect(first).to_have_attribute("aria-valuetext", "120 across, 91 down, radius 22")
        expect(second).to_have_attribute("aria-valuetext", was)
        self.assert_accessible("places on a figure", page)
        self.saved(page)
        self.assertIn("circle: [120, 91, 22]", Draft.objects.get(key="where-to-anchor").text)

        page.get_by_role("link", name="Save and exit").click()
        self.begun(page, "Plot the buoy", "A point on a plane")
        point = page.get_by_role("slider").first
        expect(point).to_be_visible()
        self.assert_accessible("points on a plane", page)
        for name, value in (("Across", "4"), ("Up", "6")):
            page.get_by_role("group", name="Points that are right, 1").get_by_label(name).fill(
                value
            )
        expect(point).to_have_attribute("aria-valuetext", "4, 6")
        point.focus()
        page.keyboard.press("ArrowRight")
        expect(point).to_have_attribute("aria-valuetext", "5, 6")
        expect(page.get_by_role("table").get_by_text("5, 6").first).to_be_visible()

    def begun(self, page: Page, title: str, kind: str) -> None:
        page.get_by_role("link", name="New question").click()
        page.get_by_label("Title, for lists").fill(title)
        page.get_by_role("combobox", name="Topic").select_option("tidal-terms")
        page.get_by_role("button", name="Show all kinds").click()
        page.get_by_role("radio", name=kind).check()
        page.get_by_role("button", name="Start writing").click()

    def dragged(self, page: Page, place: Locator, units: int) -> None:
        """A place pulled to the right by so many units of its drawing."""
        middle = place.evaluate(
            "(node, units) => { const to = node.ownerSVGElement.getScreenCTM();"
            " const [x, y] = [+node.firstChild.getAttribute('cx'),"
            " +node.firstChild.getAttribute('cy')];"
            " return [x, x + units].map(one => [one * to.a + to.e, y * to.d + to.f]) }",
            units,
        )
        page.mouse.move(*middle[0])
        page.mouse.down()
        page.mouse.move(*middle[1], steps=4)
        page.mouse.up()
