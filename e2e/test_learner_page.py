"""A tutor about one learner: notes, a try that counts for no level, a test handed in for them."""

from __future__ import annotations

from playwright.sync_api import expect

from e2e.sitting import SittingTestCase
from vendaval.exams.models import Attempt
from vendaval.groups.actions import put_in_charge
from vendaval.levels.models import Voided
from vendaval.work.models import Try
from vendaval.work.tests.builders import an_account, enrolment_of


class LearnerPageTests(SittingTestCase):
    def test_notes_a_voided_try_and_a_hand_in(self) -> None:
        given = self.assigned()
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, clara)
        learner = enrolment_of(self.learner).pk
        self.sign_in()
        self.page.goto(self.address("/topics/tidal-terms"))
        self.page.get_by_role("button", name="Practise", exact=True).click()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
        self.give(right=False)
        tried = Try.objects.get()

        desk = self.new_page()
        self.enter(desk, clara, f"/tutor/learners/{learner}")
        note = desk.get_by_label("Note (the group’s tutors can read it)")
        note.fill("Hurries; ask why.")
        desk.get_by_role("button", name="Save note").click()
        notes = desk.get_by_role("region", name="Notes").get_by_role("listitem")
        expect(notes).to_contain_text(["Hurries; ask why."])
        note.fill("Well done on tides.")
        desk.get_by_role("checkbox", name="share it with the learner").check()
        desk.get_by_role("button", name="Save note").click()
        expect(desk.get_by_text("shared with the learner")).to_be_visible()
        self.assert_accessible("a learner with notes", desk)
        desk.get_by_role("button", name="Remove the note").first.click()
        expect(notes).to_have_count(1)
        note.fill("Well done on tides.")
        desk.get_by_role("checkbox", name="share it with the learner").check()
        desk.get_by_role("button", name="Save note").click()
        expect(notes).to_have_count(2)

        desk.goto(f"{self.live_server_url}/tutor/learners/{learner}/tries/{tried.pk}")
        desk.get_by_text("Was this answered by someone else?").click()
        desk.get_by_label("Why it shouldn’t count").fill("A brother answered.")
        desk.get_by_role("button", name="Exclude from level").click()
        expect(desk.get_by_text("Not counted: A brother answered.")).to_be_visible()
        self.assert_accessible("a voided try", desk)
        self.assertEqual(Voided.objects.get().by, clara)

        self.page.goto(self.address("/record"))
        expect(self.page.get_by_text("Well done on tides.")).to_be_visible()
        expect(self.page.get_by_text("Hurries; ask why.")).to_have_count(0)
        self.page.goto(self.address(f"/record/tries/{tried.pk}"))
        expect(self.page.get_by_text("A brother answered.")).to_be_visible()
        expect(self.page.get_by_text("Was this answered by someone else?")).to_have_count(0)
        desk.get_by_role("button", name="Count it again").click()
        expect(desk.get_by_text("Not counted")).to_have_count(0)

        self.page.goto(self.address(f"/tests/given-{given.pk}"))
        self.page.get_by_role("button", name="Start the test").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Start").click()
        self.at(self.page, 1)
        desk.goto(f"{self.live_server_url}/tutor/work/{self.group.pk}/{given.pk}")
        name = self.learner.display_name
        desk.get_by_role("button", name=f"Hand in for {name}").click()
        self.assertIsNone(Attempt.objects.get().handed_in_at, "asked once more")
        desk.get_by_role("button", name=f"Hand in now for {name}").click()
        expect(desk.get_by_text("check number")).to_be_visible()
        self.assertIsNotNone(Attempt.objects.get().handed_in_at)
