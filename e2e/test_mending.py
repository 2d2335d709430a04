"""Questions mended: a slip nobody expected is given feedback, a wrong key is put right and regraded."""

from __future__ import annotations

import re
from random import Random

from playwright.sync_api import expect

from e2e.writing import WritingTestCase
from vendaval.authoring.families import opened
from vendaval.bank.actions import refresh_digest
from vendaval.bank.loading import load_families
from vendaval.bank.models import Family
from vendaval.bank.snapshot import version_of
from vendaval.demo.made_answers import Made, store_answers
from vendaval.demo.sittings import sit
from vendaval.exams.columns import SoFarData
from vendaval.exams.models import AnswerSoFar, Regrade
from vendaval.exams.regrading.jobs import apply_in_background
from vendaval.groups.actions import put_in_charge
from vendaval.people.models import Role
from vendaval.threads.actions import report_fault
from vendaval.threads.schemas import ReportFaultIn
from vendaval.work.models import Presentation
from vendaval.work.tests.builders import a_learner, enrolment_of, keys_of, with_role

KEY = "range-of-tide"
SLIP = "That is the height at low water. Take it from the height at high water."


class MendingTests(WritingTestCase):
    def family(self) -> Family:
        self.course.refresh_from_db()
        found = Family.objects.select_related("topic", "latest").get(key=KEY)
        found.course, found.latest.family = self.course, found
        return found

    def test_a_slip_that_nobody_expected_gets_its_feedback(self) -> None:
        family = self.family()
        made = []
        for place in range(12):
            learner = a_learner(self.course, f"before{place:02}")
            for seed in (place + 1, place + 13):
                version = version_of(family.latest, seed, 0)
                low = version.variables["low"]
                given = {version.parts[0].id: f"{low:.1f} m"}
                made.append(Made(enrolment_of(learner), family, seed, given, self.clock()))
        store_answers(made)
        page = self.at_bank(path=f"/{KEY}")
        page.get_by_role("button", name="Common wrong answers").press("Enter")
        expect(page.get_by_text("24 first answers, 24 of them wrong")).to_be_visible(timeout=40_000)
        expect(page.get_by_text("Explains 24 of 24 unexpected wrong answers")).to_be_visible()
        self.assert_accessible("common wrong answers", page)
        page.get_by_role("button", name="Expect this answer").press("Enter")
        self.typed(page, page.get_by_role("textbox", name="Feedback").last, SLIP)
        self.saved(page)
        row = page.get_by_role("row", name=re.compile("^Try version 1 "))
        low = version_of(self.family().latest, 1, 0).variables["low"]
        expect(row).to_contain_text(f"{low:.1f}")
        self.publish(page, "Many answer low water.")
        self.assertIn(SLIP, str(self.family().latest.data.model_dump()))

    def test_a_reported_key_is_put_right_and_the_test_regraded(self) -> None:
        rui, tutor = self.author("Rui Sobral"), with_role(self.course, Role.TUTOR)
        family = opened(self.course, KEY, rui)
        wrong = family.text.replace("answer: range_\n", "answer: range_ + 1\n")
        read = family.read(wrong).read
        load_families(family.topic, {KEY: read}, self.clock(), by=rui, why="Rounded up.")
        refresh_digest(self.course)
        self.course.refresh_from_db()
        given = self.assigned((KEY,))
        put_in_charge(self.group, tutor)
        sit(self.learner, given, given.given_at, 1.0, Random(1), answer=self.really_right)
        shown = Presentation.objects.get(run__enrolment__person=self.learner)
        says = ReportFaultIn(text="The range is a metre less than the key says.")
        report_fault(self.learner, self.course.key, shown.pk, says)

        page = self.new_page()
        self.enter(page, rui, "/author/faults")
        page.get_by_role("main").get_by_role("link").first.click()
        page.get_by_role("link", name="Open this question").click()
        expect(page.get_by_label("The answer", exact=True)).to_have_value("range_ + 1")
        page.get_by_label("The answer", exact=True).fill("range_")
        self.saved(page)
        self.publish(page, "The key was a metre too high.")

        desk = self.new_page()
        self.enter(desk, tutor, f"/tutor/work/{self.group.pk}/{given.pk}/regrade/{KEY}")
        desk.get_by_role("radio", name="Mark it again with the corrected key").check()
        expect(desk.get_by_text("One attempt of 1 would change")).to_be_visible()
        desk.get_by_label("Reason (learners will read it)").fill("Its key was wrong.")
        desk.get_by_role("button", name="Change one attempt").click()
        expect(desk.get_by_text("waiting, 0 of")).to_be_visible()
        apply_in_background.func(Regrade.objects.get().pk)
        expect(desk.get_by_text("applied", exact=True)).to_be_visible()
        self.sign_in()
        self.page.goto(self.address(f"/tests/given-{given.pk}"))
        expect(self.page.get_by_text("1 of 1").first).to_be_visible()

    def really_right(self, row: AnswerSoFar) -> SoFarData:
        (key,) = keys_of(row.presentation)
        right = float(key.examples.right.split()[0]) - 1
        return SoFarData(responses={key.id: f"{right:.1f} m"})
