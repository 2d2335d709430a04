"""Every tool of a test by its keys alone, and no request while questions are opened."""

from __future__ import annotations

from playwright.sync_api import expect

from e2e.sitting import CHOICES, NUMBERS, SittingTestCase
from vendaval.exams.models import AnswerSoFar
from vendaval_core.assessment.rules import Tool

TOOLS = [tool for tool in Tool if tool is not Tool.CALCULATOR]


class ExamToolsTests(SittingTestCase):
    def test_every_tool_by_its_keys(self) -> None:
        attempt = self.begin(self.given(NUMBERS, tools=TOOLS))
        page = self.page
        heading = page.get_by_role("heading", name="Question 1 of")

        heading.focus()
        page.keyboard.press("m")
        marker = page.get_by_role("region", name="Marker")
        page.keyboard.press("ArrowRight")
        page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("Enter")
        expect(marker.get_by_role("button", name="Unmark")).to_be_focused()
        heading.focus()
        page.keyboard.press("m")
        expect(marker).to_have_count(0)
        marked = page.evaluate("() => [...CSS.highlights.get('marked')].join(' ')")
        self.assertEqual(len(marked.split()), 2)

        page.keyboard.press("k")
        expect(page.get_by_label("Calculation")).to_be_focused()
        page.keyboard.type("3 × sin(30) ÷ 4")
        page.keyboard.press("Enter")
        calculator = page.get_by_role("region", name="Calculator")
        expect(calculator.get_by_text("3 × sin(30) ÷ 4 is 0.375")).to_be_attached()
        page.keyboard.type("ans^")
        page.keyboard.press("Enter")
        expect(calculator.get_by_text("Something is missing")).to_be_visible()
        self.assert_accessible("the calculator")
        page.keyboard.press("Escape")
        expect(calculator).to_have_count(0)

        heading.focus()
        page.keyboard.press("r")
        reading = page.get_by_role("slider", name="Reading of the ruler")
        before = int(reading.get_attribute("aria-valuenow") or 0)
        reading.focus()
        page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("ArrowRight")
        expect(reading).to_have_attribute("aria-valuetext", f"{before + 11} mm")
        page.get_by_role("slider", name="Turn the ruler").focus()
        page.keyboard.press("Shift+ArrowDown")
        expect(page.get_by_role("slider", name="Turn the ruler")).to_have_attribute(
            "aria-valuenow", "10"
        )
        page.get_by_role("application").focus()
        page.keyboard.press("ArrowUp")
        self.assert_accessible("the ruler")
        page.keyboard.press("Escape")
        expect(reading).to_have_count(0)
        heading.focus()
        page.keyboard.press("p")
        expect(page.get_by_role("slider", name="Reading of the protractor")).to_have_attribute(
            "aria-valuetext", "60°"
        )
        heading.focus()
        page.keyboard.press("p")

        self.answer(page, attempt, 1)
        self.saved(attempt, 1)
        row = AnswerSoFar.objects.get(attempt=attempt, number=1)
        self.assertEqual(len(row.data.marked), 1)
        page.reload()
        self.at(page, 1)
        again = page.evaluate("() => [...CSS.highlights.get('marked')].join(' ')")
        self.assertEqual(again, marked, "marks are kept with the attempt")

    def test_opening_a_question_asks_for_nothing(self) -> None:
        families = CHOICES + NUMBERS + tuple(self.several_kinds())
        self.begin(self.given(families, tools=TOOLS))
        page = self.page
        self.saved_everything()
        asked: list[str] = []
        page.on("request", lambda request: asked.append(f"{request.method} {request.url}"))
        for number in range(2, len(families) + 1):
            page.keyboard.press("Escape")
            page.get_by_role("button", name="Next question").click()
            self.at(page, number)
            expect(page.get_by_text("Loading this part")).to_have_count(0)
        page.get_by_role("button", name="Calculator").click()
        expect(page.get_by_label("Calculation")).to_be_visible()
        page.wait_for_timeout(300)
        saves = [one for one in asked if one.startswith("PUT") and "/answers/" in one]
        self.assertEqual([one for one in asked if one not in saves and "/sign" not in one], [])

    def several_kinds(self) -> list[str]:
        """A family of every kind of part that the course has."""
        found: dict[str, str] = {}
        for item in self.pack().families:
            for part in item.family.parts:
                found.setdefault(part.kind, item.family.key)
        return sorted(set(found.values()) - set(CHOICES + NUMBERS))

    def saved_everything(self) -> None:
        expect(self.page.get_by_text("saved", exact=False).first).to_be_visible()
