"""Two texts held against each other: from the second text to a verdict and a published question;
and a calibration looked at and run."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from e2e.browser import BrowserTestCase
from vendaval.authoring.tests.trial_log import readers
from vendaval.bank.models import Trial
from vendaval.people.actions import give_role
from vendaval.people.models import Role
from vendaval.work.tests.builders import an_account

SECOND = "Think of a post on the beach: between which two marks does the sea move?"


class TrialStory(BrowserTestCase):
    lasts = 40

    def author(self) -> Page:
        rui = an_account("rui", display_name="Rui Sobral")
        give_role(rui, self.course.school, Role.AUTHOR)
        page = self.new_page()
        self.enter(page, rui, "/author/bank/inshore/range-of-tide")
        return page

    def test_from_a_second_text_to_its_verdict_and_into_the_question(self) -> None:
        page = self.author()
        page.get_by_role("link", name="Compare two texts").press("Enter")
        expect(page.get_by_role("heading", name=re.compile("^Compare two texts"))).to_be_visible()
        self.assert_accessible("a second text", page)
        page.get_by_label("Second text").fill(SECOND)
        page.get_by_role("button", name="Start the trial").press("Enter")
        expect(page.get_by_text("Nothing can be said before there are 60.")).to_be_visible(
            timeout=60_000
        )
        trial = Trial.objects.select_related("family__latest", "revision", "course").get()
        readers(trial, 420, 0.3)
        self.clock.forward(days=9)
        page.reload()
        expect(page.get_by_text("The second text helps more")).to_be_visible()
        expect(page.get_by_role("img", name=re.compile("makes a difference of"))).to_be_visible()
        self.assert_accessible("a trial that was decided", page)
        page.set_viewport_size({"width": 390, "height": 844})
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)
        page.set_viewport_size({"width": 1280, "height": 800})
        page.get_by_role("button", name="Make a draft with the second text").press("Enter")
        expect(page.get_by_text("The second text was put into a draft.")).to_be_visible()
        page.get_by_role("link", name=re.compile("hint 1$")).press("Enter")
        page.get_by_role("button", name="Publish").press("Enter")
        sheet = page.get_by_role("dialog", name="Publish this draft")
        expect(sheet.get_by_text("All versions were checked")).to_be_visible(timeout=60_000)
        sheet.get_by_label("Why, in one line").fill("It helped more in a trial.")
        sheet.get_by_role("button", name="Publish").press("Enter")
        expect(page.get_by_text(re.compile("^Revision 3, published"))).to_be_visible(timeout=60_000)
        trial.family.refresh_from_db()  # type: ignore[union-attr]
        self.assertIn(SECOND, trial.family.latest.source.text)  # type: ignore[union-attr]

    def test_a_calibration_is_run_and_looked_at(self) -> None:
        page = self.author()
        page.goto(f"{self.live_server_url}/author/course/inshore")
        page.get_by_role("link", name=re.compile("^Calibration")).press("Enter")
        expect(page.get_by_text("No calibration has been run yet.")).to_be_visible()
        page.get_by_text("Calibrate a table instead").click()
        wrong = {"name": "paper.csv", "mimeType": "text/csv", "buffer": b"a,b\n1,x\n" * 12}
        page.get_by_label("Table", exact=True).set_input_files(wrong)
        page.get_by_role("button", name="Calibrate this table").click()
        expect(page.get_by_text("line 2, b: “x” is not a whole number")).to_be_visible()
        self.errors = [error for error in self.errors if "422" not in error]
        page.get_by_role("button", name="Run a calibration").press("Enter")
        expect(page.get_by_text(re.compile("^Running: 0 of 4 topics done"))).to_be_visible()
        self.assert_accessible("a calibration being run", page)
