"""A contested mark, the question regraded for everybody after a look at who it changes."""

from __future__ import annotations

from playwright.sync_api import expect

from e2e.sitting import SittingTestCase
from vendaval.exams.columns import SoFarData
from vendaval.exams.models import AnswerSoFar, Regrade, RegradeState
from vendaval.exams.regrading.jobs import apply_in_background, undo_in_background
from vendaval.exams.taking import actions as attempts
from vendaval.groups.actions import put_in_charge
from vendaval.threads.actions import contest
from vendaval.threads.schemas import ContestIn
from vendaval.work.tests.builders import an_account, keys_of


class RegradingTests(SittingTestCase):
    def test_a_contest_upheld_changes_every_attempt_it_concerns(self) -> None:
        assignment = self.assigned()
        person, course = self.learner, self.course.key
        attempt = attempts.start(person, course, "given", assignment.pk)
        attempt = attempts.enter(person, course, attempt.pk)
        interval = attempt.standing.intervals[-1].id
        rows = AnswerSoFar.objects.filter(attempt=attempt).order_by("number")
        for row in rows.select_related("presentation__revision__family__topic"):
            examples = {key.id: key.examples for key in keys_of(row.presentation)}
            third = row.number == 3
            given = {part: one.wrong if third else one.right for part, one in examples.items()}
            data = SoFarData(responses=given)
            saving = attempts.Saving(interval, 1, data, 30)
            attempts.save(person, course, attempt.pk, row.number, saving)
        attempts.give_in(person, course, attempt.pk, interval)
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, clara)
        contest(person, course, rows[2].presentation_id, ContestIn(text="Mine is right too."))
        page = self.new_page()
        self.enter(page, clara, "/tutor/help")
        page.get_by_role("main").get_by_role("link").filter(has_text="tide").first.click()
        page.get_by_role("link", name="Regrade this question for everyone").click()
        page.get_by_role("radio", name="Accept").first.check()
        expect(page.get_by_text("One attempt of 1 would change")).to_be_visible()
        expect(page.get_by_role("row").filter(has_text=person.display_name)).to_contain_text(
            "4 of 4"
        )
        page.get_by_label("Reason (learners will read it)").fill("The answer is right too.")
        self.assert_accessible("a question to be regraded", page)
        page.get_by_role("button", name="Change one attempt").click()
        expect(page.get_by_text("waiting, 0 of one attempt")).to_be_visible()
        apply_in_background.func(Regrade.objects.get().pk)
        expect(page.get_by_text("applied", exact=True)).to_be_visible()
        self.assert_accessible("what was regraded", page)

        self.sign_in()
        self.page.goto(self.address(f"/tests/attempts/{attempt.pk}/results"))
        expect(self.page.get_by_text("4 of 4").first).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_text("being undone")).to_be_visible()
        undo_in_background.func(Regrade.objects.get().pk)
        expect(page.get_by_text("undone by Clara Nunes")).to_be_visible()
        self.assertEqual(Regrade.objects.get().state, RegradeState.UNDONE)
        attempt.refresh_from_db()
        assert attempt.total is not None
        self.assertEqual(attempt.total.reached, 3)
