"""A written answer: every tool by mouse and by keyboard alone, kept, handed in, commented, read."""

from __future__ import annotations

import json
import re
from typing import Any

from playwright.sync_api import Locator, expect

from e2e.sitting import SittingTestCase
from vendaval.exams.columns import NoteInText
from vendaval.exams.marking.actions import mark_answer, release_marks
from vendaval.exams.marking.schemas import MarkIn
from vendaval.exams.models import AnswerSoFar, MarkerRole
from vendaval.groups.actions import put_in_charge
from vendaval.work.tests.builders import an_account
from vendaval_core.items.rich_text import words_of
from vendaval_core.packs.reader import Pack
from vendaval_core.tests.courses import inshore_only

FROM_ELSEWHERE = """
<meta charset="utf-8"><h1 style="color:red" onclick="alert(1)">Radio</h1>
<script>document.title = 'taken'</script><img src="x" onerror="document.title='taken'">
<p class="Mso"><a href="javascript:alert(1)">Channel <b>16</b></a>, then 72.</p>
<iframe src="/"></iframe>
"""


class WritingTests(SittingTestCase):
    def pack(self) -> Pack:
        return inshore_only("passage-planning")

    def written(self) -> str:
        """What the server has of the text, as it is kept."""
        row = AnswerSoFar.objects.get(number=1)
        return str(row.data.responses.get("brief", ""))

    def kept(self, words: str) -> list[dict[str, Any]]:
        """The blocks of the text, once the server has these words."""
        for _ in range(100):
            if words in words_of(self.written()):
                break
            self.page.wait_for_timeout(50)
        self.assertIn(words, words_of(self.written()))
        return list(json.loads(self.written())["content"])

    def editor(self) -> Locator:
        return self.page.get_by_role("textbox", name="Your briefing")

    def tool(self, name: str) -> Locator:
        tools = self.page.get_by_role("toolbar", name=re.compile("Text tools|Table tools"))
        return tools.get_by_role("button", name=name, exact=True)

    def paste(self, html: str) -> None:
        self.editor().evaluate(
            """(node, html) => {
                const data = new DataTransfer()
                data.setData('text/html', html)
                node.dispatchEvent(new ClipboardEvent('paste',
                    {clipboardData: data, bubbles: true, cancelable: true}))
            }""",
            html,
        )

    def test_by_mouse_until_its_learner_reads_the_comment(self) -> None:
        assignment = self.assigned(("briefing",), release={"score": "marks_out"})
        attempt = self.begin(self.address(f"/tests/given-{assignment.pk}"))
        page, keyboard = self.page, self.page.keyboard
        self.editor().click()
        for name, words in (("Bold", "Life"), ("Italic", "jackets"), ("Underline", "on")):
            self.tool(name).click()
            keyboard.type(words)
            self.tool(name).click()
            keyboard.type(" ")
        for name, words in (("Below the line", "2"), ("Above the line", "3")):
            self.tool(name).click()
            keyboard.type(words)
            self.tool(name).click()
        self.tool("Special characters").click()
        page.get_by_role("button", name="Insert °", exact=True).click()
        page.get_by_role("button", name="Back to the text").click()
        expect(self.editor()).to_be_focused()
        keyboard.press("Enter")
        self.tool("Numbered list").click()
        keyboard.type("stop")
        keyboard.press("Enter")
        keyboard.type("call")
        self.tool("List").click()
        self.tool("Undo").click()
        self.tool("Redo").click()
        self.tool("Undo").click()
        keyboard.press("Enter")
        keyboard.press("Enter")
        self.paste(FROM_ELSEWHERE)
        # Chromium tells what its policy would block in what is only read, and never shown.
        page.wait_for_timeout(100)
        self.assertTrue(all("inline event handler" in error for error in self.errors), self.errors)
        self.errors.clear()
        keyboard.press("Enter")
        self.tool("Formula").click()
        field = page.locator("math-field")
        expect(field).to_be_focused()
        keyboard.type("d/v")
        page.get_by_role("button", name="Put in the formula").click()
        expect(page.locator(".rich-formula .katex")).to_be_visible()
        expect(self.editor()).to_be_focused()
        keyboard.press("Enter")
        self.tool("Table").click()
        keyboard.type("who")
        keyboard.press("Tab")
        keyboard.type("what")
        self.tool("Column right").click()
        self.tool("Row below").click()
        keyboard.press("ArrowDown")
        self.tool("Remove row").click()
        expect(self.editor().get_by_role("row")).to_have_count(3)
        self.editor().locator(":scope > p").last.click()
        keyboard.type("The end")
        blocks = self.kept("The end")
        self.assertEqual(
            [one["type"] for one in blocks],
            ["paragraph", "orderedList", *["paragraph"] * 5, "table", "paragraph"],
        )
        first = {run["text"]: run.get("marks", []) for run in blocks[0]["content"]}
        self.assertEqual(
            [first[words][0]["type"] for words in ("Life", "jackets", "on", "2", "3")],
            ["bold", "italic", "underline", "subscript", "superscript"],
        )
        self.assertEqual(blocks[6]["content"][0]["attrs"]["text"], "(d)/(v)")
        self.assertEqual(len(blocks[7]["content"]), 3)
        self.assertEqual(len(blocks[7]["content"][0]["content"]), 4)
        for trace in ("alert", "onerror", "javascript", "style", "href", "img"):
            self.assertNotIn(trace, self.written())
        self.assertIn("Radio\nChannel 16, then 72.", words_of(self.written()))
        self.assertNotEqual(page.title(), "taken")
        expect(page.get_by_text("words, 25 to 90 asked for")).to_be_visible()
        self.assert_accessible("the editor")

        before = self.written()
        keyboard.press("Control+a")
        keyboard.press("Backspace")
        page.get_by_role("button", name="Put the table back").click()
        expect(self.editor().get_by_text("who", exact=True)).to_be_visible()
        expect(self.editor()).to_be_focused()
        for _ in range(8):
            if "Radio" in self.editor().inner_text():
                break
            keyboard.press("Control+z")
        self.kept("Radio")
        self.assertEqual(self.written(), before)
        page.reload()
        expect(self.editor().get_by_text("who", exact=True)).to_be_visible()
        self.assertEqual(self.written(), before, "reading it changes nothing")

        page.get_by_role("button", name="Check and hand in").first.click()
        page.get_by_role("main").get_by_role("button", name="Hand in").click()
        page.get_by_role("dialog").get_by_role("button", name="Hand in").click()
        expect(page.get_by_role("heading", name="Handed in")).to_be_visible()
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, clara)
        at = words_of(before).index("jackets")
        note = NoteInText(at=at, length=len("jackets on"), says="Which ones?")
        body = MarkIn(role=MarkerRole.FIRST, points={0: 2}, notes=[note])  # type: ignore[dict-item]
        answer = AnswerSoFar.objects.get(attempt=attempt)
        mark_answer(assignment, answer.pk, "brief", body, clara)
        release_marks(assignment, [attempt.pk], clara)
        page.goto(self.address(f"/tests/attempts/{attempt.pk}/results/1"))
        marked = page.get_by_role("region", name="Marked by your tutor")
        expect(marked.locator("mark")).to_have_count(3)
        expect(marked.get_by_text("Which ones?")).to_be_visible()
        expect(page.get_by_text("what", exact=True).first).to_be_visible()
        self.assert_accessible("a commented text")

    def test_by_keyboard_alone(self) -> None:
        self.begin(self.given(("briefing",)))
        keyboard = self.page.keyboard
        self.editor().focus()
        for keys, words in (("b", "bold"), ("i", "it"), ("u", "under"), (",", "low"), (".", "up")):
            keyboard.press(f"Control+{keys}")
            keyboard.type(words)
            keyboard.press(f"Control+{keys}")
        keyboard.press("Enter")
        keyboard.press("Control+Shift+8")
        keyboard.type("one")
        keyboard.press("Enter")
        keyboard.type("two")
        keyboard.press("Enter")
        keyboard.press("Enter")
        keyboard.press("Shift+Tab")
        expect(self.tool("Bold")).to_be_focused()
        for _ in range(20):
            if self.tool("Table").evaluate("node => node === document.activeElement"):
                break
            keyboard.press("ArrowRight")
        keyboard.press("Enter")
        expect(self.editor()).to_be_focused()
        for words in "abcdefghi":
            keyboard.type(words)
            keyboard.press("Tab")
        expect(self.editor()).not_to_be_focused()
        keyboard.press("Shift+Tab")
        expect(self.editor()).to_be_focused()
        keyboard.type("j")
        blocks = self.kept("g | h | i")
        kinds = [one["type"] for one in blocks]
        self.assertEqual(kinds, ["paragraph", "bulletList", "table", "paragraph"])
        self.assertEqual(len(blocks[1]["content"]), 2)
        self.assertEqual([len(row["content"]) for row in blocks[2]["content"]], [3, 3, 3])
        self.tool("Special characters").focus()
        keyboard.press("Enter")
        expect(self.page.get_by_role("button", name="Insert °", exact=True)).to_be_focused()
        keyboard.press("ArrowRight")
        keyboard.press("Enter")
        keyboard.press("Escape")
        expect(self.editor()).to_be_focused()
        self.kept("′")
