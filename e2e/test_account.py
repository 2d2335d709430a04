"""What a browser keeps for an account, and two courses of one learner."""

from __future__ import annotations

from dataclasses import replace

from playwright.sync_api import expect

from e2e.browser import BrowserTestCase
from vendaval.bank.loading import load_pack
from vendaval.groups.actions import enrol
from vendaval.work.models import Try

KEPT = "Object.keys(localStorage).filter((key) => key.includes(':draft:'))"
FORBID = """
Object.defineProperty(window, 'localStorage', {
  get() { throw new DOMException('no storage here', 'SecurityError') },
})
"""


class AccountTests(BrowserTestCase):
    def begin(self) -> None:
        self.sign_in()
        self.page.goto(self.address("/topics/tidal-terms"))
        self.page.get_by_role("button", name="Practise", exact=True).click()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()

    def test_what_was_typed_is_kept_under_the_account_and_gone_when_it_signs_out(self) -> None:
        page = self.page
        self.begin()
        self.keep_draft(self.responses(right=True))
        kept = page.evaluate(KEPT)
        self.assertEqual(kept, [f"vendaval:{self.learner.pk}:draft:{self.waiting().pk}"])
        page.get_by_role("button", name="Save and exit").click()
        page.get_by_role("button", name="settings and signing out").click()
        page.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
        self.assertEqual(page.evaluate(KEPT), [])

    def test_a_browser_that_keeps_nothing_is_no_hindrance(self) -> None:
        self.page.add_init_script(FORBID)
        self.begin()
        self.think()
        self.page.get_by_role("radio", name="90% sure").click()
        for part in self.page.locator("main form fieldset").all():
            part.locator("label").first.click()
        fields = self.page.locator("main form input:not([type=radio]):not([type=checkbox])")
        for field in fields.all():
            field.fill("1")
        self.page.get_by_role("button", name="Send answer").click()
        expect(self.page.get_by_role("region", name="Feedback")).to_be_visible()
        self.assertEqual(Try.objects.get().confidence, 90)

    def test_another_course_is_one_choice_away_and_keeps_its_own_levels(self) -> None:
        pack = self.pack()
        course = pack.course.model_copy(update={"key": "offshore", "title": "Offshore"})
        enrol(self.learner, load_pack(replace(pack, course=course)))
        self.begin()
        self.give(right=True)
        self.page.goto(self.address())
        expect(self.page.get_by_text("practice, 1 answered")).to_be_visible()
        self.page.get_by_role("combobox", name="Course").select_option(label="Offshore")
        expect(self.page).to_have_url(f"{self.live_server_url}/courses/offshore")
        expect(self.page.get_by_text("Start with a diagnostic")).to_be_visible()
        expect(self.page.get_by_text("practice, 1 answered")).to_have_count(0)
        self.assert_accessible("Today of another course")
        self.page.goto(f"{self.live_server_url}/courses/nowhere")
        expect(self.page.get_by_role("heading", name="This page doesn’t exist")).to_be_visible()
