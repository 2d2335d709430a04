"""A tutor watches over a test: pauses it, gives time, and reopens what was handed in too early."""

from __future__ import annotations

from playwright.sync_api import expect

from e2e.sitting import SittingTestCase
from vendaval.exams.models import Attempt
from vendaval.groups.actions import put_in_charge
from vendaval.work.tests.builders import an_account


class WatchingTests(SittingTestCase):
    def test_a_fire_drill_five_minutes_more_and_a_slip_of_the_finger(self) -> None:
        attempt = self.begin(self.given(minutes=20))
        page, desk = self.page, self.new_page()
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, clara)
        self.answer(page, attempt, 1)
        self.saved(attempt, 1)
        self.enter(desk, clara, f"/tutor/work/{self.group.pk}/{attempt.assignment_id}")
        desk.get_by_role("button", name="Pause the test").click()
        sheet = desk.get_by_role("dialog", name="Pause: everyone taking the test")
        sheet.get_by_label("Reason (the learner reads this)").fill(
            "Fire drill: leave by the stairs."
        )
        self.assert_accessible("pausing a test", desk)
        sheet.get_by_role("button", name="Pause it").click()
        expect(desk.get_by_text("one learner: 1 paused", exact=False)).to_be_visible()
        expect(page.get_by_role("heading", name="The test is paused")).to_be_visible()
        expect(page.get_by_text("Fire drill: leave by the stairs.")).to_be_visible()
        expect(page.get_by_role("button", name="Check and hand in").first).to_be_hidden()
        self.assert_accessible("a paused test")
        self.clock.forward(minutes=30)
        desk.get_by_role("button", name="Resume for one learner").click()
        self.at(page, 1)
        expect(page.get_by_text("19:", exact=False).first).to_be_visible()
        page.keyboard.press("]")
        self.answer(page, attempt, 2)
        self.saved(attempt, 2)

        desk.get_by_role("button", name="Give everyone more time").click()
        sheet = desk.get_by_role("dialog", name="More time: everyone taking the test")
        sheet.get_by_label("Reason (the learner reads this)").fill("The drill was loud.")
        sheet.get_by_role("button", name="Give more time").click()
        expect(desk.get_by_text("5 min more: The drill was loud.")).to_be_visible()
        expect(page.get_by_text("24:", exact=False).first).to_be_visible()

        page.get_by_role("button", name="Check and hand in").first.click()
        page.get_by_role("main").get_by_role("button", name="Hand in").click()
        page.get_by_role("dialog").get_by_role("button", name="Hand in").click()
        expect(page.get_by_role("heading", name="Handed in")).to_be_visible()
        desk.get_by_role("button", name=f"Reopen for {self.learner.display_name}").click()
        sheet = desk.get_by_role("dialog", name=f"Reopen: {self.learner.display_name}")
        expect(
            sheet.get_by_text("Since handing in, the learner has been able to see: points")
        ).to_be_visible()
        sheet.get_by_label("Reason (the learner reads this)").fill("A slip of the finger.")
        self.assert_accessible("reopening a test", desk)
        sheet.get_by_role("button", name="Reopen it").click()
        expect(desk.get_by_text("started, not here now").first).to_be_visible()
        page.goto(self.address(f"/attempts/{attempt.pk}"))
        questions = page.get_by_role("complementary", name="Questions")
        expect(questions.get_by_role("button", name="Open 2")).to_be_visible()
        self.assertIsNone(Attempt.objects.get().handed_in_at)
        self.errors = [error for error in self.errors if "409" not in error]
