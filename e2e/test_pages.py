"""Sections of a test: shown as one page, without a way back, or with a time of their own."""

from __future__ import annotations

from playwright.sync_api import expect

from e2e.browser import FEW_TOPICS
from e2e.sitting import CHOICES, NUMBERS, SittingTestCase, section
from vendaval.exams.models import AnswerSoFar
from vendaval_core.packs.reader import Pack
from vendaval_core.tests.courses import inshore_only

TRIP = ("plan-first-leg", "plan-water", "plan-arrival")


class PagesTests(SittingTestCase):
    def pack(self) -> Pack:
        return inshore_only(*FEW_TOPICS, "passage-planning")

    def test_a_section_on_one_page_forward_only(self) -> None:
        trip = section("The day trip", TRIP, one_page=True)
        sections = [section("Before", NUMBERS[:1]), trip, section("After", CHOICES[:1])]
        given = self.assigned(sections=sections, navigation="linear", minutes=30)
        page = self.page
        self.sign_in()
        page.goto(self.address(f"/tests/given-{given.pk}"))
        expect(page.get_by_text("you can’t go back to a question or a page")).to_be_visible()
        expect(page.get_by_text("All questions on one page: “The day trip”.")).to_be_visible()
        attempt = self.begin(self.address(f"/tests/given-{given.pk}"))
        questions = page.get_by_role("complementary", name="Questions").get_by_role("listitem")
        expect(questions.nth(1).get_by_role("button")).to_be_disabled()
        self.answer(page, attempt, 1)
        page.keyboard.press("Enter")
        page.get_by_role("dialog", name="Go to the next question?").get_by_role(
            "button", name="Go on"
        ).click()

        expect(page.get_by_role("heading", name="Questions 2 to 4 of 5")).to_be_visible()
        expect(page.get_by_role("complementary", name="Text for this question")).to_have_count(1)
        self.assert_accessible("a section on one page")
        places = [page.get_by_role("region", name=f"Question {n}:") for n in (2, 3, 4)]
        fields = [place.get_by_role("textbox") for place in places]
        expect(fields[0]).to_be_focused()
        fields[0].press_sequentially("1")
        page.keyboard.press("Enter")
        expect(fields[1], "Enter goes to the next one").to_be_focused()
        fields[1].press_sequentially("2")
        self.saved(attempt, 3)
        page.keyboard.press("Escape")
        page.keyboard.press("f")
        expect(questions.nth(2)).to_contain_text("flagged")
        questions.nth(3).get_by_role("button").click()
        expect(fields[2], "the list goes to a question of the page").to_be_focused()
        tools = page.get_by_role("toolbar", name="Tools")
        expect(tools.get_by_role("button", name="Flag")).to_have_attribute("aria-pressed", "false")
        fields[0].focus()
        page.keyboard.press("Escape")
        page.keyboard.press("u")
        expect(fields[0], "each has its own way back").to_have_value("")
        expect(fields[1]).to_have_value("2")
        page.keyboard.press("i")

        page.context.set_offline(True)
        fields[2].fill("3")
        page.keyboard.press("Escape")
        page.keyboard.press("]")
        dialog = page.get_by_role("dialog", name="Go to the next page?")
        expect(dialog).to_contain_text("You can’t come back to this page")
        dialog.get_by_role("button", name="Go on").click()
        expect(page.get_by_text("Offline since")).to_be_visible()
        expect(fields[2], "nobody leaves a page that was not sent").to_have_value("3")
        page.context.set_offline(False)
        self.saved(attempt, 4)
        page.keyboard.press("]")
        dialog.get_by_role("button", name="Go on").click()
        self.at(page, 5)
        expect(questions.nth(3).get_by_role("button")).to_be_disabled()
        kept = AnswerSoFar.objects.filter(attempt=attempt, number__in=(2, 3, 4))
        said = [next(iter(row.data.responses.values())) for row in kept.order_by("number")]
        self.assertEqual(said, ["1", "2", "3"])
        page.reload()
        self.at(page, 5)
        page.set_viewport_size({"width": 390, "height": 844})
        page.keyboard.press("[")
        self.at(page, 5)

    def test_sections_with_a_time_of_their_own_come_one_after_the_other(self) -> None:
        sections = [
            section("First", NUMBERS, minutes=5),
            section("Second", CHOICES, minutes=5, forward_only=True),
            section("Third", ("table-of-twelfths",), minutes=5),
        ]
        attempt = self.begin(self.address(f"/tests/given-{self.assigned(sections=sections).pk}"))
        page = self.page
        self.answer(page, attempt, 1)
        self.saved(attempt, 1)
        self.clock.forward(minutes=6)
        self.at(page, 3)
        self.answer(page, attempt, 3)
        self.saved(attempt, 2)
        for number in (4, 5):
            page.keyboard.press("]")
            page.get_by_role("dialog").get_by_role("button", name="Go on").click()
            self.at(page, number)
        self.clock.forward(minutes=6)
        expect(page.get_by_text("Handed in automatically")).to_be_visible()
        self.errors = [e for e in self.errors if "409" not in e]
