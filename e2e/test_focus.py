"""The focus never falls to the page's body: after an action it is on what came of it."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from e2e.browser import BrowserTestCase
from e2e.sitting import SittingTestCase
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.models import Role
from vendaval.work.tests.builders import enrolment_of, with_role

# What was disabled keeps the focus until the browser draws next, and then it falls to the body.
HELD = """document.activeElement !== document.body
  && !document.activeElement.matches(':disabled')"""


class FocusTestCase(BrowserTestCase):
    """Whether something holds the focus, a moment after an action."""

    def held(self, page: Page, after: str) -> None:
        for _ in range(60):
            if page.evaluate(HELD):
                return
            page.wait_for_timeout(100)
        self.fail(after)


class LearnerFocusTests(FocusTestCase):
    def test_today_a_run_and_review(self) -> None:
        page = self.page
        self.sign_in()
        page.get_by_role("button", name="Not now").first.click()
        page.get_by_role("menuitem", name="Hide it").click()
        self.held(page, "Hide it")
        page.get_by_role("button", name="Not now").first.focus()
        page.keyboard.press("Enter")
        page.keyboard.press("Enter")
        self.held(page, "Not now, by keyboard")
        page.get_by_role("link", name="Practise", exact=True).click()
        page.get_by_role("button", name="Practise: Compass errors").click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        self.held(page, "Practise")
        for key, sheet in (("q", "Ask"), ("y", "Why this question"), ("?", "Keys")):
            page.keyboard.press("Escape")
            page.keyboard.press(key)
            expect(page.get_by_role("dialog")).to_be_visible()
            self.held(page, sheet)
            page.keyboard.press("Escape")
            expect(page.get_by_role("dialog")).to_have_count(0)
            self.held(page, f"{sheet} closed")
        page.get_by_role("button", name="Show me the working").first.click()
        self.held(page, "Show me the working")
        page.get_by_role("button", name="Next question").click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        self.held(page, "Next question")
        self.fill(right=False)
        self.think()
        page.get_by_role("button", name="Send answer").click()
        expect(page.get_by_role("region", name="Feedback")).to_be_visible()
        self.held(page, "Send answer")
        page.goto(self.address("/review"))
        page.get_by_role("button", name="Set aside").click()
        expect(page.get_by_role("button", name="Set aside")).to_have_count(0)
        self.held(page, "Set aside")

    def test_what_is_made_and_ended_on_the_people_page(self) -> None:
        page = self.page
        self.sign_in()
        page.goto(f"{self.live_server_url}/people")
        page.get_by_role("button", name="Make a code for a guardian").click()
        expect(page.get_by_text("works once")).to_be_visible()
        self.held(page, "Make a code")
        page.get_by_role("button", name="Make an address").click()
        expect(page.get_by_role("button", name="Make an address")).to_have_count(0)
        self.held(page, "Make an address")


class SittingFocusTests(SittingTestCase, FocusTestCase):
    def test_in_a_test(self) -> None:
        page = self.page
        self.begin(self.given(tools=["calculator", "notes", "working"]))
        page.keyboard.press("Escape")
        for key in ("k", "k", "n", "a", "]", "v", "Escape", "c"):
            page.keyboard.press(key)
            page.wait_for_timeout(150)
            self.held(page, f"after {key}")
            page.keyboard.press("Escape")


class TutorFocusTests(FocusTestCase):
    def test_composing_a_test(self) -> None:
        page, tutor = self.page, with_role(self.course, Role.TUTOR)
        group = Group.objects.create(course=self.course, title="Tuesday")
        join_group(group, enrolment_of(self.learner))
        put_in_charge(group, tutor)
        self.enter(page, tutor, f"/tutor/tests/{self.course.key}/new")
        for _ in range(2):
            page.get_by_role("button", name="Add", exact=True).first.click()
            self.held(page, "Add")
        for act in ("down", "up"):
            moves = page.get_by_role("button", name=re.compile(f"^Move .* {act}$"))
            moves.nth(0 if act == "down" else 1).click()
            self.held(page, f"Move {act}")
        for _ in range(2):
            page.get_by_role("button", name=re.compile("^Remove ")).first.click()
            self.held(page, "Remove")
