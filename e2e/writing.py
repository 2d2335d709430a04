"""An author at work, and the steps that every story of writing takes."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from e2e.sitting import SittingTestCase
from vendaval.people.actions import give_role
from vendaval.people.models import Role, User
from vendaval.work.tests.builders import an_account


class WritingTestCase(SittingTestCase):
    """Questions written, varied and published by hand."""

    def author(self, name: str) -> User:
        person = an_account(name.split()[0].lower(), display_name=name)
        give_role(person, self.course.school, Role.AUTHOR)
        return person

    def at_bank(self, name: str = "Rui Sobral", path: str = "") -> Page:
        page = self.new_page()
        self.enter(page, self.author(name), f"/author/bank/inshore{path}")
        return page

    def saved(self, page: Page) -> None:
        expect(page.get_by_text(re.compile("Draft, saved"))).to_be_visible()

    def vary(self, page: Page, number: str) -> None:
        """Let a number of the question vary, by keyboard: what varies already is one step."""
        text = page.get_by_role("textbox", name="The question")
        text.focus()
        page.keyboard.press("Control+Home")
        shown = text.evaluate(
            "node => [...node.querySelector('.cm-line').childNodes]"
            ".map(one => one.dataset?.expression ? '*' : one.textContent).join('')"
        )
        for _ in range(re.search(rf"(?<![\d.]){re.escape(number)}\b", shown).start()):
            page.keyboard.press("ArrowRight")
        page.get_by_role("button", name=f"Let {number} vary").press("Enter")

    def publish(self, page: Page, why: str) -> None:
        page.get_by_role("button", name="Publish").click()
        sheet = page.get_by_role("dialog", name="Publish this draft")
        expect(sheet.get_by_text("All versions were checked")).to_be_visible(timeout=30_000)
        sheet.get_by_label("Why, in one line").fill(why)
        sheet.get_by_role("button", name="Publish").click()
        expect(sheet).to_be_hidden(timeout=30_000)

    def typed(self, page: Page, box: Locator, words: str) -> None:
        """Words in the place of all that a box holds."""
        box.focus()
        page.keyboard.press("Control+a")
        page.keyboard.insert_text(words)
