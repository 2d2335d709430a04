"""The whole rehearsal: from Today's offer to the results, with every tool used once."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.sitting import NUMBERS, SittingTestCase
from vendaval.exams.models import AnswerSoFar, Attempt
from vendaval.exams.models import Page as PaperRow
from vendaval.levels.models import Observation
from vendaval.review.models import Miss

LAST = 27
SIZES = 7


class RehearsalTests(SittingTestCase):
    def test_a_whole_rehearsal_with_every_tool_once(self) -> None:
        self.given(NUMBERS)
        self.sign_in()
        page = self.page
        page.get_by_role("link", name="Rehearse one first").click()
        expect(page.get_by_role("heading", name="Rehearsal")).to_be_visible()
        expect(page.get_by_text("Nothing here counts").first).to_be_visible()
        expect(page.get_by_text("no way back: “The last part”")).to_be_visible()
        self.assert_accessible("the rehearsal’s start page")
        attempt = self.begin_here()
        self.assert_accessible("the rehearsal")
        self.use_the_tools_of_choices()
        self.use_what_lies_on_the_page(attempt)
        self.write_a_formula_and_a_text()
        self.lose_the_connection(attempt)
        self.go_forward_only()
        self.hand_in_and_add_a_page()

        page.get_by_role("link", name="See the results").click()
        # Three right, and half of the drop-downs; what a tutor marks is in neither figure.
        expect(page.get_by_role("heading", name="3.5 of 25 points")).to_be_visible()
        expect(page.get_by_text("a tutor would mark this").first).to_be_visible()
        self.assert_accessible("the results of a rehearsal")
        for model in (Observation, Miss):
            self.assertFalse(model.objects.exists(), "it never counts")
        page.goto(self.address("/tests/rehearsal-0"))
        page.get_by_role("button", name="Start another attempt").click()
        page.get_by_role("dialog").get_by_role("button", name="Start").click()
        self.at(page, 1)
        expect(page.locator("main input:checked")).to_have_count(0)
        page.goto(self.address())
        expect(page.get_by_role("link", name="Tides, end of unit")).to_be_visible()
        expect(page.get_by_role("link", name="Rehearse one first")).to_have_count(0)
        self.assertFalse(PaperRow.objects.exclude(attempt=attempt).exists())

    def begin_here(self) -> Attempt:
        self.page.get_by_role("button", name="Start the test").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Start").click()
        self.at(self.page, 1)
        return Attempt.objects.get()

    def use_the_tools_of_choices(self) -> None:
        """Cross out, choose, undo, redo, clear; flag, note, working, text size, clock."""
        page = self.page
        tools = page.get_by_role("toolbar", name="Tools")
        page.keyboard.press("s")
        choices = page.locator("main label").all_inner_texts()
        shackle = 1 + next(i for i, text in enumerate(choices) if "shackle" in text)
        page.get_by_role("button", name=f"Cross out choice {shackle}").click()
        expect(page.get_by_text("crossed out")).to_be_attached()
        floats = page.get_by_role("radio", name="A fender")
        floats.check(force=True)
        for name, chosen in (("Undo", False), ("Redo", True), ("Clear", False), ("Undo", True)):
            tools.get_by_role("button", name=name).click()
            expect(floats).to_be_checked(checked=chosen)
        page.get_by_role("heading", name="Question 1 of").focus()
        page.keyboard.press("f")
        expect(page.get_by_role("button", name="Flagged 1")).to_be_visible()
        page.keyboard.press("n")
        page.get_by_role("textbox", name="A note to yourself").fill("Sure of this")
        tools.get_by_role("button", name="Working").click()
        page.get_by_role("textbox", name="Your working").fill("It is full of air")
        size = tools.get_by_role("button", name="Text size")
        size.click()
        expect(size).to_have_accessible_name(re.compile("Text size 115 per cent"))
        for _ in range(SIZES - 1):
            size.click()
        expect(size).to_have_accessible_name(re.compile("Text size 100 per cent"))
        page.get_by_role("button", name="Hide", exact=True).click()
        expect(page.get_by_text("left", exact=False).filter(has_text=":")).to_have_count(0)
        page.get_by_role("button", name="Show the clock").click()
        expect(page.get_by_text(re.compile(r"\d+:\d\d left"))).to_be_visible()

    def use_what_lies_on_the_page(self, attempt: Attempt) -> None:
        """Both calculators, ruler, protractor, marker, reading aloud."""
        page = self.page
        page.get_by_role("complementary").get_by_role("button", name="A number with").click()
        self.at(page, 3)
        page.get_by_role("textbox", name="Your answer").fill("1852")
        page.keyboard.press("Escape")
        page.keyboard.press("k")
        calculator = page.get_by_role("region", name="Calculator")
        expect(calculator.get_by_label("Calculation")).to_be_focused()
        page.keyboard.type("6 × 7")
        page.keyboard.press("Enter")
        expect(calculator.get_by_text("6 × 7 is 42")).to_be_attached()
        calculator.get_by_role("button", name="Change to scientific").click()
        calculator.get_by_label("Calculation").fill("sin(30)")
        page.keyboard.press("Enter")
        expect(calculator.get_by_text("sin(30) is 0.5")).to_be_attached()
        self.assert_accessible("both calculators")
        page.keyboard.press("Escape")
        for name, key in (("ruler", "r"), ("protractor", "p")):
            page.get_by_role("heading", name="Question 3 of").focus()
            page.keyboard.press(key)
            reading = page.get_by_role("slider", name=f"Reading of the {name}")
            expect(reading).to_have_count(1)
            page.get_by_role("heading", name="Question 3 of").focus()
            page.keyboard.press(key)
            expect(reading).to_have_count(0)
        page.keyboard.press("m")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="Unmark")).to_be_focused()
        page.get_by_role("heading", name="Question 3 of").focus()
        page.keyboard.press("o")
        page.get_by_role("button", name="Stop reading").click()
        self.saved(attempt, 2)

    def write_a_formula_and_a_text(self) -> None:
        page = self.page
        page.get_by_role("complementary").get_by_role("button", name="A formula").click()
        self.at(page, 6)
        page.get_by_role("textbox").first.fill("v*t")
        page.get_by_role("complementary").get_by_role("button", name="Your own words").click()
        self.at(page, 7)
        page.locator(".ProseMirror").click()
        page.keyboard.type("So that her side is not hurt.")

    def lose_the_connection(self, attempt: Attempt) -> None:
        page = self.page
        self.saved(attempt, 4)
        page.get_by_role("button", name="Go offline").click()
        page.get_by_role("complementary").get_by_role("button", name="Drop-downs").click()
        expect(page.get_by_role("heading", name="Questions 23 to 25 of 27")).to_be_visible()
        first = page.get_by_role("region", name="Question 23:")
        first.get_by_role("combobox").first.select_option(label="floods")
        expect(page.get_by_text("Offline since")).to_be_visible()
        kept = AnswerSoFar.objects.get(attempt=attempt, number=23)
        self.assertFalse(kept.data.answered)
        page.get_by_role("button", name="Go online again").click()
        self.saved(attempt, 5)
        expect(page.get_by_text("Offline since")).to_have_count(0)

    def go_forward_only(self) -> None:
        page = self.page
        page.get_by_role("button", name="Next page").click()
        self.at(page, LAST - 1)
        page.keyboard.press("]")
        dialog = page.get_by_role("dialog", name="Go to the next question?")
        expect(dialog).to_contain_text("you can’t come back to it")
        dialog.get_by_role("button", name="Go on").click()
        self.at(page, LAST)
        left = page.get_by_role("complementary").get_by_role("button", name="Exactly two")
        expect(left).to_be_disabled()
        page.get_by_role("checkbox", name="done on paper").check()

    def hand_in_and_add_a_page(self) -> None:
        page = self.page
        page.get_by_role("button", name="Check and hand in").last.click()
        expect(page.get_by_role("heading", name="questions not fully answered")).to_be_visible()
        self.assert_accessible("the check page of a rehearsal")
        page.get_by_role("main").get_by_role("button", name="Hand in").click()
        page.get_by_role("dialog").get_by_role("button", name="Hand in").click()
        expect(page.get_by_text("This is how a receipt looks.")).to_be_visible()
        page.get_by_role("link", name="Add your pages").click()
        page.get_by_role("button", name="Show a code for the phone").click()
        with page.expect_popup() as window:
            page.get_by_role("button", name="Open the stand-in phone").click()
        window.value.get_by_role("button", name="Sheet 1").click()
        expect(page.get_by_role("heading", name="One page in")).to_be_visible()
        page.get_by_role("button", name="That’s all my pages").click()
        page.get_by_role("button", name="Yes, that’s all").click()
