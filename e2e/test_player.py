"""The player's own manners: a key that comes too soon, help in one place, what goes on below, and
questions that nobody answered."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Route, expect

from e2e.browser import BrowserTestCase
from vendaval.work.models import HelpOpened
from vendaval.work.tests.builders import ask_instead


class PlayerTests(BrowserTestCase):
    lasts = 25

    def practise(self, family: str = "range-of-tide") -> None:
        """A family's question, in a run of practice."""
        self.sign_in()
        self.page.goto(self.address("/topics/tidal-terms"))
        self.page.get_by_role("button", name="Practise", exact=True).click()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
        ask_instead(self.learner, family, "practice", self.clock())
        self.page.reload()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()

    def press(self, key: str) -> None:
        self.page.evaluate("document.activeElement.blur()")
        self.page.keyboard.press(key)

    def places(self, name: str) -> Locator:
        return self.page.get_by_role("button", name=re.compile(name))

    def test_a_key_while_a_step_is_under_way_is_told_of(self) -> None:
        self.practise()
        held: list[Route] = []
        self.page.route("**/hint", lambda route: held.append(route))
        self.press("h")
        self.press("w")
        soon = self.page.get_by_text("Still sending. Please wait.")
        expect(soon).to_be_visible()
        held[0].continue_()
        expect(soon).to_have_count(0)
        expect(self.page.get_by_text("Hint:")).to_be_visible()
        self.assertEqual(HelpOpened.objects.filter(kind="solution").count(), 0)

    def test_each_help_is_offered_once(self) -> None:
        self.practise()
        for width in (1280, 390):
            self.page.set_viewport_size({"width": width, "height": 800})
            for name in ("[Hh]int", "^Read(:|$| R$)", "[Nn]ew numbers"):
                seen = [one for one in self.places(name).all() if one.is_visible()]
                self.assertEqual(len(seen), 1, (width, name))
        self.page.set_viewport_size({"width": 1280, "height": 800})
        self.press("w")
        expect(self.page.get_by_role("heading", name="Here is the working.")).to_be_visible()
        seen = [one for one in self.places("[Nn]ew numbers").all() if one.is_visible()]
        self.assertEqual(len(seen), 1)

    def test_a_working_opened_first_leaves_the_question_unanswered(self) -> None:
        self.practise()
        self.press("w")
        expect(self.page.get_by_text("Not answered.")).to_be_visible()
        main = self.page.locator("main")
        expect(main.get_by_text("Wrong:")).to_have_count(0)
        expect(main.get_by_text("It doesn’t count.")).to_be_visible()

    def test_the_sign_of_a_choice_stands_once(self) -> None:
        self.practise("spring-moon")
        self.think()
        self.fill(right=True)
        self.page.get_by_role("button", name="Send answer").click()
        expect(self.page.get_by_role("region", name="Feedback")).to_be_visible()
        expect(self.page.locator("main form").get_by_text("Right:")).to_have_count(1)

    def test_goes_on_below_only_where_something_is_below(self) -> None:
        self.practise()
        below = self.page.get_by_text("more below")
        last = self.page.get_by_role("button", name="Send answer")
        box = last.bounding_box()
        assert box is not None
        height = int(box["y"] + box["height"] + 70)
        self.page.set_viewport_size({"width": 1280, "height": height})
        self.frames()
        expect(below).to_have_count(0)
        self.page.set_viewport_size({"width": 1280, "height": height - 110})
        expect(below).to_be_visible()


class TopicsTests(BrowserTestCase):
    lasts = 10

    def test_not_known_stands_on_one_line_and_everything_can_be_diagnosed(self) -> None:
        self.sign_in()
        self.page.goto(self.address("/topics"))
        unknown = self.page.get_by_text("not known", exact=True)
        expect(unknown.first).to_be_visible()
        for one in unknown.all():
            box = one.bounding_box()
            assert box is not None
            self.assertLess(box["height"], 30)
        self.page.get_by_role("button", name="Diagnostic: all subjects").click()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
        self.page.goto(self.address("/topics"))
        self.page.get_by_role("button", name="Diagnostic: tides").click()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
