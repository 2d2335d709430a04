"""Review of answers that were drawn, joined or placed: as given, beside what is right."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.browser import WholeCourseTestCase
from vendaval.bank.snapshot import course_bank
from vendaval.review.models import Miss
from vendaval.work.tests.builders import ask_instead


class DrawnReviewTests(WholeCourseTestCase):
    def ask(self, key: str) -> None:
        """Practise, with a family of the test's choice as the question that waits."""
        bank = course_bank(self.course)
        topic = bank.topic(bank.families[key].family.topic)
        self.page.goto(self.address("/practise"))
        self.page.get_by_role("button", name=f"Practise: {topic.title}").click()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
        ask_instead(self.learner, key, "practice", self.clock())
        self.page.reload()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()

    def miss(self, key: str) -> None:
        self.ask(key)
        self.give(right=False)
        self.page.get_by_role("button", name="Show me the working").first.click()
        expect(self.page.get_by_role("heading", name="Here is the working.")).to_be_visible()

    def open_miss(self, title: str) -> None:
        page = self.page
        page.goto(self.address("/review"))
        page.get_by_role("link", name=re.compile(title)).first.click()
        expect(page.get_by_role("heading", name="Why")).to_be_visible()

    def test_a_curve_stands_beside_the_right_one(self) -> None:
        self.sign_in()
        self.miss("curve-fit")
        self.open_miss("A curve through two tides")
        page = self.page
        grid = page.get_by_role("application", name="The curve")
        expect(grid.locator("polyline")).to_have_count(2)
        expect(grid.locator("circle[r='13']")).to_have_count(2)
        expect(grid.locator("[role=slider][tabindex]")).to_have_count(0)
        row = page.get_by_role("row", name=re.compile("^The curve, low water"))
        expect(row).to_contain_text(re.compile(r"\d\d:\d\d, [\d.]+.*\d\d:\d\d, [\d.]+"))
        expect(page.get_by_role("row", name=re.compile("^Height at"))).to_be_visible()
        self.assert_accessible("Review of a curve")

    def test_arrows_places_and_shaded_cells_are_shown_as_they_were_given(self) -> None:
        self.sign_in()
        for key in ("stream-first", "find-on-the-map", "shaded-twelfths"):
            self.miss(key)
        self.open_miss("The first arrow")
        page = self.page
        expect(page.get_by_role("application").locator("circle[r='13']")).to_have_count(1)
        self.open_miss("Where on the weather map")
        expect(page.get_by_role("img", name=re.compile("^A low with circles"))).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("^[ABCD], ")).first).to_be_disabled()
        self.open_miss("Twelfths to shade")
        expect(page.get_by_role("row").nth(1)).to_contain_text("of 12 cells")
        page.get_by_role("button", name="Try it with new numbers").click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        self.give(right=True)
        expect(page.get_by_text("Well done. This one is off your list")).to_be_visible()
        self.assertEqual(Miss.objects.filter(state="mended").count(), 1)

    def test_pairs_are_compared_one_by_one(self) -> None:
        self.sign_in()
        self.miss("topmarks")
        expect(self.page.get_by_role("columnheader", name="Your answer").first).to_be_visible()
        self.open_miss("Cones on cardinal marks")
        rows = self.page.get_by_role("row")
        expect(rows).to_have_count(5)
        for side in ("north", "east", "south", "west"):
            expect(self.page.get_by_role("rowheader", name=side, exact=True)).to_be_visible()
        expect(rows.filter(has_text="both points up").first).to_be_visible()
