"""A tutor reads everybody's results of a test, saves them, and finds a wrong key through them."""

from __future__ import annotations

from datetime import timedelta
from io import BytesIO
from pathlib import Path
from random import Random

from django.utils import timezone
from openpyxl import load_workbook
from playwright.sync_api import Page, expect

from e2e.sitting import CHOICES, NUMBERS, SittingTestCase
from vendaval.demo.sittings import sit
from vendaval.exams.columns import SoFarData
from vendaval.exams.models import AnswerSoFar, Assignment, Regrade
from vendaval.exams.regrading.jobs import apply_in_background
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.marks.actions import start_term
from vendaval.marks.schemas import TermIn
from vendaval.people.models import Role
from vendaval.shared import clock
from vendaval.work.tests.builders import a_learner, enrolment_of, keys_of, with_role

LEARNERS = 60
FAMILIES = (*CHOICES, *NUMBERS, "bridge-clearance", "time-for-height")
# From which learner on a question is right, the weakest being the first.
RIGHT_FROM = {1: 10, 3: 20, 4: 30, 5: 40, 6: 15}


class OutcomesStory(SittingTestCase):
    lasts = 240

    def sat(self) -> Assignment:
        """The second question is the other way round: only the weaker half has it right."""
        given = self.assigned(FAMILIES, pass_mark="60")
        for place in range(LEARNERS):

            def answer(row: AnswerSoFar, place: int = place) -> SoFarData:
                good = place < 25 if row.number == 2 else place >= RIGHT_FROM[row.number]
                (key,) = keys_of(row.presentation)
                said = key.examples.right if good else key.examples.wrong
                return SoFarData(responses={key.id: said})

            learner = a_learner(self.course, f"sitter{place:02}", display_name=f"Sitter {place:02}")
            join_group(self.group, enrolment_of(learner))
            at = given.given_at + timedelta(seconds=place + 1)
            sit(learner, given, at, 1.0, Random(place), answer=answer)
        return given

    def test_from_results_to_the_key(self) -> None:
        given, tutor = self.sat(), with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, tutor)
        today = timezone.localtime(clock.now()).date()
        days = {"begins": today - timedelta(days=9), "ends": today + timedelta(days=9)}
        start_term(self.group, TermIn(title="Autumn", like=None, **days))
        page = self.page
        self.enter(page, tutor, f"/tutor/work/{self.group.pk}/{given.pk}")
        page.get_by_role("link", name="Results", exact=True).click()
        expect(page.get_by_role("heading", level=1)).to_contain_text("The middle result is")
        rows = page.get_by_role("row")
        expect(rows).to_have_count(LEARNERS + 2)
        self.assert_accessible("results of a group")

        page.get_by_role("button", name="Mark of 20").click()
        expect(page.get_by_role("columnheader", name="Mark of 20")).to_have_attribute(
            "aria-sort", "descending"
        )
        page.get_by_role("button", name="below the pass mark").click()
        few = rows.count() - 1
        self.assertGreater(few, 2)
        self.assertLess(few, LEARNERS)
        page.get_by_role("button", name="all 61").click()
        page.get_by_label("Find a learner").fill("sitter 03")
        expect(rows).to_have_count(2)

        with page.expect_download() as saved:
            page.get_by_role("link", name="Save as a workbook").click()
        book = load_workbook(BytesIO(Path(saved.value.path()).read_bytes()))
        names = [row[0] for row in book.worksheets[0].values]
        self.assertEqual((len(names), names[0]), (LEARNERS + 2, "learner"))

        page.get_by_role("row", name="Sitter 03").get_by_role("link").nth(1).click()
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        page.go_back()
        page.get_by_role("link", name="What the test says about itself").click()
        expect(page.get_by_role("heading", name="One key to look at.")).to_be_visible()
        expect(page.get_by_text("Is the key right?")).to_be_visible()
        self.assert_accessible("what a test says about itself")
        page.get_by_role("link", name="Look at the key and regrade").click()
        page.wait_for_url(f"**/regrade/{FAMILIES[1]}")
        self.regrade(page)
        page.goto(f"{self.live_server_url}/tutor/groups/{self.group.pk}/marks")
        mark = page.get_by_role("button", name="Sitter 59: 20")
        expect(mark).to_be_visible()

    def regrade(self, page: Page) -> None:
        """The question with its key and an answer to look at; then it counts for nobody."""
        asked = page.get_by_role("region", name="The question and its key")
        expect(asked.get_by_text("Look at an answer:")).to_be_visible()
        expect(asked.get_by_role("link")).to_have_count(5)
        page.get_by_role("radio", name="Drop it").check()
        expect(page.get_by_text("60 attempts of 60 would change")).to_be_visible()
        page.get_by_label("Reason (learners will read it)").fill("Its key was wrong.")
        self.assert_accessible("a question to be regraded")
        page.get_by_role("button", name="Change 60 attempts").click()
        expect(page.get_by_text("waiting, 0 of 60 attempts")).to_be_visible()
        apply_in_background.func(Regrade.objects.get().pk)
        expect(page.get_by_text("applied", exact=True)).to_be_visible()
