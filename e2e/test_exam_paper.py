"""Pages of paper by each way, from the test to the results, and whoever watches over it."""

from __future__ import annotations

import time

from playwright.sync_api import expect

from e2e.sitting import CHOICES, SittingTestCase
from vendaval.exams.models import Page as PaperRow
from vendaval.groups.actions import put_in_charge
from vendaval.work.tests.builders import an_account
from vendaval_core.assessment.paper import PagesWanted


class PaperPagesTests(SittingTestCase):
    def test_from_the_stand_in_phone_the_camera_and_a_file_to_the_results(self) -> None:
        assignment = self.assigned(CHOICES, pages=PagesWanted.MUST)
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, clara)
        attempt = self.begin(self.address(f"/tests/given-{assignment.pk}"))
        page = self.page
        self.answer(page, attempt, 1)
        page.keyboard.press("]")
        self.at(page, 2)
        page.get_by_label("done on paper").check()
        page.get_by_label("sheet number").fill("1")
        page.keyboard.press("Escape")
        page.get_by_role("heading", name="Question 2 of").focus()
        page.keyboard.press("c")
        expect(page.get_by_role("listitem").filter(has_text="paper").first).to_be_visible()
        page.get_by_role("main").get_by_role("button", name="Hand in").click()
        page.get_by_role("dialog").get_by_role("button", name="Hand in").click()
        page.get_by_role("link", name="Add your pages").click()

        page.get_by_role("button", name="Show a code for the phone").click()
        with page.expect_popup() as window:
            page.get_by_role("button", name="Open the stand-in phone").click()
        phone = window.value
        phone.get_by_role("button", name="Sheet 1").click()
        expect(phone.get_by_text("One page in")).to_be_visible()
        sent = time.monotonic()
        expect(page.get_by_role("heading", name="One page in")).to_be_visible()
        self.assertLess(time.monotonic() - sent, 3, "it appears here within three seconds")
        self.assert_accessible("the phone’s page", phone)
        answers = page.get_by_label("Page 1 answers 2")
        expect(answers).to_be_checked()

        page.get_by_role("button", name="Use this computer’s camera").click()
        page.get_by_role("button", name="Photograph this sheet").click()
        expect(page.get_by_text("Two pages in").first).to_be_attached()
        page.get_by_role("button", name="Close").click()
        page.get_by_label("Files with pages").set_input_files(
            {"name": "no.jpg", "mimeType": "image/jpeg", "buffer": b"not a picture"}
        )
        expect(page.get_by_text("We can’t read this file.")).to_be_visible()
        self.errors = [one for one in self.errors if "422" not in one]
        page.get_by_role("button", name="Move page 2 forward").click()
        expect(page.get_by_label("Page 2 answers 2")).to_be_checked()
        page.get_by_role("button", name="Remove page 1").click()
        expect(page.get_by_role("heading", name="One page in")).to_be_visible()
        page.get_by_role("button", name="Turn page 1").click()
        self.assert_accessible("pages of paper")
        page.set_viewport_size({"width": 390, "height": 844})
        self.assert_accessible("pages of paper at 390 px")
        page.get_by_role("button", name="That’s all my pages").click()
        page.get_by_role("button", name="Yes, that’s all").click()
        expect(page.get_by_text("Your tutor has all your pages.")).to_be_visible()
        self.assertEqual(PaperRow.objects.get().came, "phone")

        page.get_by_role("link", name="See the results").click()
        expect(page.get_by_role("heading", name="so far")).to_be_visible()
        expect(page.get_by_text("not marked yet", exact=True)).to_be_visible()

        desk = self.new_page()
        self.enter(desk, clara, f"/tutor/work/{self.group.pk}/{assignment.pk}")
        expect(desk.get_by_text("One learner: 1 pages in.")).to_be_visible()
        desk.get_by_label("sheets shown").click()
        expect(desk.get_by_text("Clara Nunes,")).to_be_visible()
        expect(
            desk.get_by_role("img", name="Page 1 of Rita Calado, answers question 2")
        ).to_be_visible()
        self.assert_accessible("who sits a test", desk)
