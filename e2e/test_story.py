"""The way through as one story: diagnostic, topics, practice to the target, review."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.browser import WholeCourseTestCase
from vendaval.levels.models import TargetMet
from vendaval.review.models import Miss
from vendaval.work.models import Run, Try


class StoryTests(WholeCourseTestCase):
    lasts = 35

    def test_from_the_first_question_to_a_met_target(self) -> None:
        page = self.page
        page.goto(f"{self.live_server_url}/")
        page.get_by_role("button", name="Rita Calado").click()
        expect(page.get_by_role("heading", name="Your levels", exact=True)).to_be_visible()
        self.assert_accessible("Today, new")
        page.get_by_role("button", name="Start the diagnostic: Diagnostic: tides").click()
        expect(page.get_by_text("0 of 3 topics settled")).to_be_visible()
        self.assert_accessible("Diagnostic")
        self.diagnose()
        self.topics()
        self.practise_to_the_target()
        self.review()

    def diagnose(self) -> None:
        page = self.page
        bar = page.get_by_role("img", name=re.compile("^Tidal terms: "))
        before = bar.get_attribute("aria-label")
        page.get_by_role("button", name="I haven’t been taught this").click()
        expect(
            page.get_by_role("heading", name="Saved: you haven’t been taught this yet.")
        ).to_be_focused()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("region", name="Feedback")).to_have_count(0)
        swap = page.get_by_role("button", name=re.compile("^Swap to "))
        if swap.count():
            swap.click()
            expect(swap).to_have_count(0)
        self.give(right=False)
        expect(
            page.get_by_role("heading", name=re.compile("Not this time|Partly right"))
        ).to_be_focused()
        expect(page.get_by_text("What this answer changed")).to_be_visible()
        self.assert_accessible("Diagnostic, answered")
        self.go_on()
        self.give(right=True)
        expect(page.get_by_role("heading", name="That’s right.")).to_be_focused()
        self.go_on()
        expect(bar).not_to_have_attribute("aria-label", before or "")
        self.leave_and_resume()
        for turn in range(40):
            if page.get_by_role("link", name="See what comes next").count():
                break
            topic = self.waiting().revision.family.topic.key
            self.give(right=topic == "tidal-terms" or turn % 4 == 0)
            self.go_on()
        expect(page.get_by_role("heading", name=re.compile("settled, after"))).to_be_visible()
        self.assert_accessible("Diagnostic, finished")
        page.get_by_role("link", name="See what comes next").click()

    def leave_and_resume(self) -> None:
        """The same place after leaving, after a reload, and from another browser."""
        page = self.page
        expect(page.locator(".prose-question .math:not([data-set])")).to_have_count(0)
        prompt = page.locator(".prose-question").inner_text()
        field = page.locator("main form input:not([type=radio])")
        if field.count():
            field.first.fill("12.5")
        page.reload()
        expect(page.locator(".prose-question")).to_have_text(prompt, use_inner_text=True)
        if field.count():
            expect(field.first).to_have_value("12.5")
        page.get_by_role("button", name="Save and exit").click()
        page.get_by_role("link", name=re.compile("^Continue: ")).click()
        expect(page.locator(".prose-question")).to_have_text(prompt, use_inner_text=True)
        other = self.new_page()
        self.sign_in(other)
        other.get_by_role("link", name=re.compile("^Continue: ")).click()
        expect(other.locator(".prose-question")).to_have_text(prompt, use_inner_text=True)

    def topics(self) -> None:
        page = self.page
        page.get_by_role("link", name="Topics").click()
        expect(page.get_by_role("img", name=re.compile("^Tidal terms: level"))).to_be_visible()
        expect(
            page.get_by_role("img", name=re.compile("^Compass errors: not known yet"))
        ).to_be_visible()
        self.assert_accessible("Topics")
        page.get_by_role("link", name="Tidal terms").click()
        expect(page.get_by_role("heading", name="Answers behind this level")).to_be_visible()
        expect(page.get_by_role("heading", name="What would make it certain")).to_be_visible()
        expect(page.get_by_role("img", name=re.compile("next one right: level"))).to_be_visible()
        self.assert_accessible("Topic")
        page.get_by_role("link", name="Study page").click()
        expect(page.get_by_role("heading", name="Where heights are measured from")).to_be_visible()
        self.assert_accessible("Study page")

    def practise_to_the_target(self) -> None:
        """Follow the recommendation; a miss, its feedback, hint, fresh version, working; then met."""
        page = self.page
        self.clock.forward(hours=2)
        page.get_by_role("link", name="Practise", exact=True).click()
        expect(page.get_by_text(re.compile("The target is 80")).first).to_be_visible()
        self.assert_accessible("Practise")
        page.get_by_role("button", name="Practise: Tidal terms").click()
        expect(page.get_by_text("3 of 3")).to_be_visible()
        self.give(right=False)
        expect(page.get_by_role("heading", name=re.compile("^Not "))).to_be_focused()
        expect(page.get_by_text("0.67 of 1")).to_be_visible()
        self.assert_accessible("Practice, missed")
        page.get_by_role("button", name="Try again").click()
        self.give(right=True)
        expect(page.get_by_role("heading", name="Working")).to_be_visible()
        self.assert_accessible("Practice, closed")
        fresh = page.get_by_role("button", name="Same idea, new numbers")
        if fresh.count():
            fresh.click()
            expect(page.get_by_role("region", name="Feedback")).to_have_count(0)
        page.get_by_role("button", name="Show me the working").click()
        expect(page.get_by_role("heading", name="Here is the working.")).to_be_focused()
        self.go_on()
        for _ in range(30):
            self.clock.forward(minutes=40)
            self.give(right=True)
            if page.get_by_text("You’ve reached the target for tidal terms").count():
                break
            self.go_on()
        expect(page.get_by_text("You’ve reached the target for tidal terms")).to_be_visible()
        self.assertEqual(TargetMet.objects.get().topic.key, "tidal-terms")
        self.assert_accessible("Target reached")
        page.get_by_role("button", name="Finish here").click()
        page.get_by_role("link", name="Review your mistakes").click()

    def review(self) -> None:
        page = self.page
        before = Miss.objects.filter(state="open").count()
        self.assertGreater(before, 2)
        expect(page.get_by_role("columnheader", name="Your answer")).to_be_visible()
        expect(page.get_by_role("heading", name="Why")).to_be_visible()
        self.assert_accessible("Review")
        page.get_by_role("button", name="Try it with new numbers").click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        self.give(right=True)
        expect(page.get_by_text("Well done. This one is off your list")).to_be_visible()
        page.get_by_role("link", name="All mistakes").click()
        expect(page.get_by_role("heading", name=re.compile("to correct"))).to_be_visible()
        expect(
            page.get_by_role("link", name=f"Review {before - 1} mistakes to correct")
        ).to_be_visible()
        self.assertEqual(Miss.objects.filter(state="open").count(), before - 1)
        page.get_by_role("button", name="Set aside").click()
        expect(
            page.get_by_role("link", name=f"Review {before - 2} mistakes to correct")
        ).to_be_visible()
        self.assertFalse(Run.objects.filter(purpose="missed", ended_at=None).exists())
        self.assertGreater(Try.objects.count(), 20)


class KeyboardTests(WholeCourseTestCase):
    """The same way without a mouse."""

    def press(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)

    def tab_to(self, name: str) -> None:
        """Tab until the focus is on the control of a name."""
        for _ in range(120):
            self.press("Tab")
            named = self.page.evaluate(
                "(a => a === document.body ? '' : `${a.ariaLabel ?? ''}|${a.innerText}`)"
                "(document.activeElement)"
            )
            if name in named:
                return
        self.fail(f"the keyboard does not reach “{name}”")

    def give_by_keys(self, *, right: bool) -> None:
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
        self.think()
        first = True
        answers = self.answers(right=right)
        if any(kind == "other" for _, kind, _ in answers):
            self.keep_draft(self.responses(right=right))
            self.page.get_by_role("button", name="Send answer").focus()
            self.press("Enter")
            expect(self.page.get_by_role("region", name="Feedback")).to_be_visible()
            return
        for _, kind, value in answers:
            if kind == "choice" and len(answers) == 1:
                self.press("Escape", value)
                self.page.locator("fieldset input").nth(int(value) - 1).focus()
            elif kind == "choice":
                self.press("Tab", *["ArrowDown"] * (int(value) - 1))
                if value == "1":
                    self.press("Space")
            else:
                if not first:
                    self.press("Tab")
                self.press("Control+a")
                self.page.keyboard.type(value)
            first = False
        self.press("Enter")
        expect(self.page.get_by_role("region", name="Feedback")).to_be_visible()

    def test_the_way_through_by_keyboard_alone(self) -> None:
        page = self.page
        page.goto(f"{self.live_server_url}/")
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
        self.assert_accessible("Sign in")
        self.tab_to("Rita Calado")
        self.press("Enter")
        expect(page.get_by_role("heading", name="Your levels", exact=True)).to_be_visible()
        self.press("?")
        expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
        self.press("Escape")
        self.tab_to("Start the diagnostic: Diagnostic: chartwork")
        self.press("Enter")
        for turn in range(3):
            self.give_by_keys(right=turn > 0)
            self.press("Enter")
            expect(page.get_by_role("region", name="Feedback")).to_have_count(0)
        self.press("Escape", "y")
        why = page.get_by_role("dialog", name="Why this question")
        expect(why.get_by_text("of what we don’t know yet")).to_be_visible()
        self.press("Escape")
        self.press("Escape", "t")
        expect(
            page.get_by_role("heading", name="Saved: you haven’t been taught this yet.")
        ).to_be_focused()
        self.press("]")
        expect(page.get_by_role("region", name="Feedback")).to_have_count(0)
        self.press("Escape", "e")
        expect(page.get_by_role("link", name="See what comes next")).to_be_visible()
        self.tab_to("See what comes next")
        self.press("Enter")
        expect(page.get_by_role("link", name="Practise", exact=True)).to_be_visible()
        self.tab_to("Practise")
        self.press("Enter")
        expect(page.get_by_role("heading", name="What to practise next")).to_be_visible()
        self.tab_to("Practise: Compass errors")
        self.press("Enter")
        self.give_by_keys(right=False)
        self.press("Enter")
        expect(page.get_by_role("region", name="Feedback")).to_have_count(0)
        page.wait_for_function("document.activeElement.closest('main') !== null")
        self.press("Escape", "h")
        expect(page.get_by_text(re.compile("^Hint( 1)?:"))).to_be_visible()
        expect(page.get_by_role("button", name="Show me the working").first).to_be_enabled()
        self.press("w")
        expect(page.get_by_role("heading", name="Here is the working.")).to_be_focused()
        self.press("]")
        expect(page.get_by_role("region", name="Feedback")).to_have_count(0)
        self.press("Escape", "r")
        expect(page.get_by_role("dialog")).to_be_visible()
        self.press("Escape")
        self.press("l")
        expect(page.get_by_role("heading", name="Your levels", exact=True)).to_be_visible()
        self.tab_to("Review")
        self.press("Enter")
        expect(page.get_by_role("heading", name="Why")).to_be_visible()
        self.tab_to("Try it with new numbers")
        self.press("Enter")
        self.give_by_keys(right=True)
        expect(page.get_by_text("Well done. This one is off your list")).to_be_visible()

    def test_letters_can_be_switched_off(self) -> None:
        page = self.page
        self.sign_in()
        self.tab_to("settings and signing out")
        self.press("Enter")
        page.get_by_role("menuitemcheckbox", name=re.compile("Keyboard shortcuts")).press("Enter")
        self.press("Escape")
        page.get_by_role("button", name="Start the diagnostic: Diagnostic: chartwork").click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        self.press("Escape", "t", "e", "l")
        self.frames()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        self.assertEqual(Try.objects.count(), 0)
