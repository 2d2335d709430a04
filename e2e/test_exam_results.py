"""What comes after a test: results beside the group, files, a contested mark, the tutor's view."""

from __future__ import annotations

import csv
from io import StringIO
from pathlib import Path

from playwright.sync_api import expect

from e2e.sitting import CHOICES, SittingTestCase
from vendaval.exams.columns import SoFarData
from vendaval.exams.models import AnswerSoFar, Assignment
from vendaval.exams.taking import actions as attempts
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.people.models import User
from vendaval.work.tests.builders import a_learner, an_account, enrolment_of, keys_of


class ExamResultsTests(SittingTestCase):
    def sits(self, person: User, assignment: Assignment, rights: int) -> None:
        """Somebody else takes the test, so many questions right and the rest empty."""
        attempt = attempts.start(person, self.course.key, "given", assignment.pk)
        attempt = attempts.enter(person, self.course.key, attempt.pk)
        interval = attempt.standing.intervals[-1].id
        for number in range(1, rights + 1):
            row = AnswerSoFar.objects.select_related("presentation__revision__family__topic").get(
                attempt=attempt, number=number
            )
            responses = {key.id: key.examples.right for key in keys_of(row.presentation)}
            saving = attempts.Saving(interval, 1, SoFarData(responses=responses), 30)
            attempts.save(person, self.course.key, attempt.pk, number, saving)
        attempts.give_in(person, self.course.key, attempt.pk, interval)

    def test_beside_the_group_to_keep_and_contested(self) -> None:
        assignment = self.assigned(CHOICES)
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, clara)
        for n in range(9):
            other = a_learner(self.course, f"other-{n}", display_name="Zulmira Paz")
            join_group(self.group, enrolment_of(other))
            self.sits(other, assignment, n % 3)
        attempt = self.begin(self.address(f"/tests/given-{assignment.pk}"))
        page = self.page
        self.answer(page, attempt, 1)
        page.keyboard.press("]")
        self.at(page, 2)
        self.answer(page, attempt, 2, right=False)
        page.keyboard.press("c")
        page.get_by_role("main").get_by_role("button", name="Hand in").click()
        page.get_by_role("dialog").get_by_role("button", name="Hand in").click()
        page.get_by_role("link", name="See the results").click()
        expect(page.get_by_role("heading", name="1 of 2 points")).to_be_visible()
        expect(
            page.get_by_text("Ten learners took it. Their results go from 0% to 100%")
        ).to_be_visible()
        expect(page.get_by_text("You got 50%.")).to_be_visible()
        expect(page.get_by_text("Zulmira")).to_have_count(0)
        # Nothing to compare with: no level was known before.
        expect(page.get_by_role("heading", name="How it changed your levels")).to_have_count(0)
        self.assert_accessible("results")

        page.get_by_label("with the questions").check()
        with page.expect_download() as saved:
            page.get_by_role("link", name="Save as CSV").click()
        text = Path(saved.value.path()).read_text("utf-8-sig")
        rows = list(csv.DictReader(StringIO(text)))
        self.assertEqual([row["result"] for row in rows], ["right", "wrong"])
        self.assertEqual(rows[0]["answer"], rows[0]["right_answer"])
        self.assertNotEqual(rows[1]["answer"], rows[1]["right_answer"])
        page.get_by_role("link", name="Print").click()
        expect(page.get_by_role("article")).to_have_count(2)
        self.assert_accessible("results with the questions")

        page.goto(self.address(f"/tests/attempts/{attempt.pk}/results/2"))
        page.get_by_role("button", name="Contest this mark").click()
        page.get_by_label("Why do you think").fill("Both levels can be meant.")
        page.get_by_role("button", name="Contest it").click()
        expect(page.get_by_text("Your tutor will look at it.")).to_be_visible()

        desk = self.new_page()
        self.enter(desk, clara, "/tutor/help")
        contested = desk.get_by_role("listitem").filter(has_text="says a mark is wrong")
        contested.get_by_role("link").click()
        expect(desk.get_by_text("Contested mark")).to_be_visible()
        expect(desk.get_by_text("Both levels can be meant.")).to_be_visible()

        desk.goto(f"{self.live_server_url}/tutor/work/{self.group.pk}")
        desk.get_by_role("button", name="as the practice learner").click()
        expect(desk.get_by_role("note")).to_contain_text("Nothing you do here counts")
        expect(desk.get_by_role("button", name="Start the test")).to_be_visible()
        self.assert_accessible("as the practice learner", desk)
        desk.get_by_role("button", name="Back to my own account").click()
        expect(desk.get_by_role("link", name="Set work").first).to_be_visible()
