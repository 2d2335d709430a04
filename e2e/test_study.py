"""Reading: figures that move, and the section that comes first when an idea will not come right."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.browser import BrowserTestCase
from vendaval.work.models import Presentation


class StudyTests(BrowserTestCase):
    def test_an_idea_missed_twice_running_is_read_about_first(self) -> None:
        page = self.page
        self.sign_in()
        page.get_by_role("link", name="Practise", exact=True).click()
        page.get_by_role("button", name="Practise: Compass errors").click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        page.get_by_role("button", name="Show me the working").first.click()
        expect(page.get_by_role("heading", name="Here is the working.")).to_be_focused()
        page.get_by_role("button", name="Same idea, new numbers").click()
        expect(page.get_by_role("region", name="Feedback")).to_have_count(0)
        page.get_by_role("button", name="Show me the working").first.click()
        feedback = page.get_by_role("region", name="Feedback")
        expect(feedback).to_contain_text("You’ve missed this twice in a row.")
        expect(feedback.get_by_role("button", name="Next question")).to_have_count(0)
        self.assert_accessible("Read about it")
        closed = Presentation.objects.latest("pk").pk
        page.reload()
        page.get_by_role("button", name="Read about it").click()
        expect(page.get_by_role("dialog")).to_contain_text("compass")
        expect(page.get_by_text("Loading the section")).to_have_count(0)
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Next question").click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        self.assertGreater(self.waiting().pk, closed)

    def test_a_figure_is_moved_and_read_off(self) -> None:
        page = self.page
        self.sign_in()
        page.goto(self.address("/study/height-at-a-time#height"))
        section = page.locator("section#height")
        slider = section.get_by_role("slider", name="Hours after low water")
        expect(section).to_contain_text("9 of 12 twelfths: 0.8 + 3.6 × 9 ÷ 12 is 3.50 m.")
        slider.focus()
        page.keyboard.press("End")
        told = re.compile(r"^12:00, 12 of 12 twelfths: .+ is 4\.40\sm\.$")
        expect(slider).to_have_attribute("aria-valuetext", told)
        page.keyboard.press("Home")
        expect(section).to_contain_text("06:00, 0 of 12 twelfths")
        track = section.locator("figure [role=slider]").locator("xpath=../..").bounding_box()
        assert track is not None
        page.mouse.click(track["x"] + track["width"] / 2, track["y"] + track["height"] / 2)
        expect(section).to_contain_text("09:00, 6 of 12 twelfths")
        self.assert_accessible("Study page with a figure that moves")
