"""A tutor keeps a mark book through a term; its learner and their guardian read the marks."""

from __future__ import annotations

from datetime import timedelta
from io import BytesIO
from pathlib import Path
from random import Random

from django.utils import timezone
from openpyxl import load_workbook
from playwright.sync_api import Page, expect

from e2e.sitting import SittingTestCase
from vendaval.demo.sittings import sit
from vendaval.exams.columns import SoFarData
from vendaval.exams.models import AnswerSoFar
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.people.actions import link_guardian
from vendaval.people.models import Role
from vendaval.shared import clock
from vendaval.work.tests.builders import a_learner, enrolment_of, keys_of, with_role


def three_right(row: AnswerSoFar) -> SoFarData:
    """Right but for the last question."""
    (key,) = keys_of(row.presentation)
    return SoFarData(responses={key.id: key.examples.right if row.number < 4 else ""})


class MarksStory(SittingTestCase):
    def test_a_term_from_its_start_to_a_correction(self) -> None:
        given, tutor = self.assigned(), with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, tutor)
        join_group(self.group, enrolment_of(a_learner(self.course, "bea", display_name="Bea Reis")))
        sit(self.learner, given, given.given_at + timedelta(seconds=1), 1.0, Random(1), three_right)
        page = self.page
        self.enter(page, tutor, f"/tutor/groups/{self.group.pk}")
        page.get_by_role("link", name="Marks", exact=True).click()
        self.start_a_term(page)
        expect(page.get_by_role("heading", name="The middle mark is 15")).to_be_visible()
        self.assert_accessible("a mark book")

        page.get_by_role("link", name="What counts").click()
        self.add_an_oral(page)
        self.type_marks(page)
        page.get_by_role("button", name="Rita Calado: 15").click()
        sheet = page.get_by_role("dialog")
        expect(sheet.get_by_text("Tests: 15", exact=True)).to_be_visible()
        expect(sheet.get_by_text("18 not released")).to_be_visible()
        self.assert_accessible("how a mark was worked out")
        page.keyboard.press("Escape")

        page.get_by_role("button", name="Close the term").click()
        expect(sheet.get_by_text("Rita Calado, Oral: not released")).to_be_visible()
        expect(sheet.get_by_role("button", name="Close the term")).to_be_disabled()
        page.keyboard.press("Escape")
        page.get_by_role("link", name="What counts").click()
        page.get_by_label("Learners see it").check()
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_role("button", name="Rita Calado: 16")).to_be_visible()

        with page.expect_download() as saved:
            page.get_by_role("link", name="Save as a workbook").click()
        book = load_workbook(BytesIO(Path(saved.value.path()).read_bytes()))
        rows = {row[0]: row for row in book.worksheets[0].values}
        self.assertEqual(rows["Rita Calado"][1:3], (15, 18))
        self.assertIn("SUMPRODUCT", rows["Rita Calado"][5])

        page.get_by_role("button", name="Bea Reis, Tides").click()
        sheet.get_by_label("Count instead").select_option("excused")
        sheet.get_by_label("Reason").fill("She joined after it.")
        sheet.get_by_role("button", name="Save").click()
        page.get_by_role("button", name="Close the term").click()
        sheet.get_by_role("button", name="Close the term").click()
        expect(page.get_by_text("These marks are fixed.")).to_be_visible()

        page.get_by_role("button", name="Rita Calado: 16").click()
        sheet.get_by_label("New mark").fill("17")
        sheet.get_by_label("Reason").fill("A point of the oral was missed.")
        sheet.get_by_role("button", name="Correct the mark").click()
        expect(page.get_by_role("button", name="Rita Calado: 17")).to_be_visible()
        self.assert_accessible("a closed term")
        self.read_by_learner_and_guardian()

    def start_a_term(self, page: Page) -> None:
        today = timezone.localtime(clock.now()).date()
        page.get_by_label("Name of the term").fill("Autumn term")
        for name, day in (("First day", today), ("Last day", today + timedelta(days=60))):
            page.get_by_role("textbox", name=name).fill(day.strftime("%-d %b %Y"))
            page.keyboard.press("Tab")
        page.get_by_role("button", name="Start the term").click()

    def add_an_oral(self, page: Page) -> None:
        page.get_by_role("button", name="Add a column").click()
        page.get_by_label("What it is").fill("Oral")
        page.get_by_label("Out of").fill("10")
        page.get_by_label("Learners see it").uncheck()
        self.assert_accessible("what counts in a term")
        page.get_by_role("button", name="Save", exact=True).click()

    def type_marks(self, page: Page) -> None:
        """Enter goes down; what can't be is said at its field."""
        page.get_by_role("button", name="Oral", exact=True).click()
        sheet = page.get_by_role("dialog")
        sheet.get_by_label("Bea Reis").fill("11")
        page.keyboard.press("Enter")
        page.keyboard.type("9")
        sheet.get_by_role("button", name="Save marks").click()
        expect(sheet.get_by_text("From 0 to 10.")).to_be_visible()
        self.errors = [one for one in self.errors if "422" not in one]
        sheet.get_by_label("Bea Reis").fill("6,5")
        sheet.get_by_role("button", name="Save marks").click()
        expect(sheet).to_be_hidden()

    def read_by_learner_and_guardian(self) -> None:
        own = self.new_page()
        own.set_viewport_size({"width": 390, "height": 844})
        self.enter(own, self.learner, f"/courses/{self.course.key}/record")
        own.get_by_role("link", name="My marks").click()
        expect(own.get_by_text("Corrected to 17", exact=False)).to_be_visible()
        expect(own.get_by_text("the term was closed with 16", exact=False)).to_be_visible()
        guardian = with_role(self.course, Role.GUARDIAN)
        link_guardian(guardian, self.learner)
        reading = self.new_page()
        learner = enrolment_of(self.learner).pk
        self.enter(reading, guardian, f"/guardian/learners/{learner}")
        reading.get_by_role("link", name="Marks").click()
        expect(reading.get_by_text("Corrected to 17", exact=False)).to_be_visible()
