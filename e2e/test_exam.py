"""Tests in the browser, each by its learner's own steps: the clock, the connection, the keys."""

from __future__ import annotations

import re
from fractions import Fraction

from playwright.sync_api import expect

from e2e.sitting import CHOICES, NUMBERS, SittingTestCase
from vendaval.exams.models import AnswerSoFar
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.work.models import Try
from vendaval.work.tests.builders import an_account, enrolment_of


class ExamTests(SittingTestCase):
    def test_a_timed_test_with_a_lost_connection_a_reload_another_browser_and_the_clock(
        self,
    ) -> None:
        attempt = self.begin(self.given(minutes=20))
        page = self.page
        expect(page.get_by_text("19:5")).to_be_visible()
        self.assert_accessible("a test")
        self.answer(page, attempt, 1)
        self.saved(attempt, 1)
        page.context.set_offline(True)
        page.keyboard.press("]")
        self.at(page, 2)
        self.answer(page, attempt, 2)
        page.keyboard.press("f")
        expect(page.get_by_text("Offline since")).to_be_visible()
        self.saved(attempt, 1)
        page.context.set_offline(False)
        self.saved(attempt, 2)
        expect(page.get_by_text("Offline since")).to_have_count(0)
        page.reload()
        questions = page.get_by_role("complementary", name="Questions")
        expect(questions.get_by_text("answered", exact=False).first).to_be_attached()
        expect(questions.get_by_role("button", name="Flagged 1")).to_be_visible()
        expect(questions.get_by_role("button", name="Open 2")).to_be_visible()

        other = self.new_page()
        self.enter(other, self.learner, f"/courses/{self.course.key}/attempts/{attempt.pk}")
        self.at(other, 1)
        expect(page.get_by_text("You opened this test elsewhere")).to_be_visible()
        other.get_by_role("complementary").get_by_role("button", name="Open").click()
        other.get_by_role("complementary").get_by_role("button").nth(3).click()
        self.at(other, 3)
        self.answer(other, attempt, 3)
        self.saved(attempt, 3)

        self.clock.forward(minutes=21)
        expect(other.get_by_role("heading", name="Handed in")).to_be_visible()
        expect(other.get_by_text("Handed in automatically")).to_be_visible()
        self.assertEqual(Try.objects.count(), 3)
        attempt.refresh_from_db()
        assert attempt.total is not None
        self.assertEqual(attempt.total.reached, 3)
        other.get_by_role("link", name="See the results").click()
        expect(other.get_by_role("heading", name="3 of 4 points")).to_be_visible()
        self.assert_accessible("results", other)
        self.errors = [e for e in self.errors if "409" not in e]

    def test_with_the_keyboard_alone_to_the_receipt(self) -> None:
        attempt = self.begin(self.given(families=CHOICES))
        page = self.page
        self.answer(page, attempt, 1)
        page.keyboard.press("n")
        page.get_by_role("textbox", name="A note to yourself").press_sequentially("Look again")
        page.keyboard.press("Tab")
        page.keyboard.press("Escape")
        page.get_by_role("heading", name="Question 1").focus()
        page.keyboard.press("x")
        expect(page.locator("main input:checked")).to_have_count(0)
        page.keyboard.press("u")
        expect(page.locator("main input:checked")).to_have_count(1)
        page.keyboard.press("i")
        page.keyboard.press("u")
        page.keyboard.press("]")
        self.at(page, 2)
        page.keyboard.press("s")
        page.get_by_role("button", name="Cross out choice 1").press("Enter")
        expect(page.get_by_text("crossed out")).to_have_count(1)
        self.answer(page, attempt, 2)
        page.keyboard.press("c")
        expect(page.get_by_role("heading", name="Every question has an answer")).to_be_focused()
        self.assert_accessible("the check page")
        page.get_by_role("main").get_by_role("button", name="Hand in").press("Enter")
        page.get_by_role("dialog").get_by_role("button", name="Hand in").press("Enter")
        expect(page.get_by_role("heading", name="Handed in")).to_be_visible()
        expect(page.get_by_text("2 of 2 questions")).to_be_visible()
        self.assert_accessible("the receipt")
        row = AnswerSoFar.objects.get(attempt=attempt, number=1)
        self.assertEqual(row.data.note, "Look again")

    def test_forward_only_asks_before_each_step_and_never_goes_back(self) -> None:
        attempt = self.begin(self.given(navigation="linear"))
        page = self.page
        page.keyboard.press("]")
        dialog = page.get_by_role("dialog")
        expect(dialog).to_contain_text("You haven’t fully answered this question")
        dialog.get_by_role("button", name="Stay here").click()
        self.answer(page, attempt, 1)
        page.keyboard.press("]")
        dialog.get_by_role("button", name="Go on").click()
        self.at(page, 2)
        self.saved(attempt, 1)
        page.keyboard.press("[")
        self.at(page, 2)
        page.go_back()
        page.goto(self.address(f"/attempts/{attempt.pk}"))
        self.at(page, 2)
        first = page.get_by_role("complementary").get_by_role("listitem").first
        expect(first.get_by_role("button")).to_be_disabled()

    def test_four_tries_and_a_narrow_screen_with_large_text(self) -> None:
        self.page.set_viewport_size({"width": 390, "height": 844})
        attempt = self.begin(
            self.given(
                families=CHOICES,
                submission="individual",
                tries=4,
                off_per_miss="1/4",
                release={"correctness": "at_once", "score": "at_once"},
            )
        )
        page = self.page
        expect(page.get_by_text("of 0 points so far, 2 in all; 0 of 2 answered")).to_be_visible()
        page.evaluate("document.documentElement.style.setProperty('--text-scale', '2')")
        self.answer(page, attempt, 1, right=False)
        page.get_by_role("button", name="Send this answer").click()
        expect(page.get_by_text("three tries left", exact=True)).to_be_visible()
        self.answer(page, attempt, 1)
        page.get_by_role("button", name="Send this answer").click()
        expect(page.get_by_role("button", name="Send this answer")).to_have_count(0)
        expect(page.get_by_text("0.75 of 1 points so far, 2 in all; 1 of 2")).to_be_visible()
        self.assert_accessible("a test at 390 and 200 %")
        page.get_by_role("button", name="Questions").click()
        questions = page.get_by_role("dialog")
        questions.get_by_role("button", name="Not tried 1").click()
        expect(questions.get_by_role("listitem")).to_have_count(1)
        questions.get_by_role("button", name="Right 1").click()
        expect(questions.get_by_role("listitem").filter(has_text="right")).to_have_count(1)
        page.reload()
        page.get_by_role("button", name="Questions").click()
        page.get_by_role("dialog").get_by_role("listitem").first.get_by_role("button").click()
        expect(page.get_by_role("radio", checked=True)).to_have_count(1)
        page.get_by_role("button", name="Questions").click()
        page.get_by_role("dialog").get_by_role("button", name="Check and hand in").click()
        page.get_by_role("main").get_by_role("button", name="Hand in").click()
        page.get_by_role("dialog").get_by_role("button", name="Hand in").click()
        expect(page.get_by_role("heading", name="Handed in")).to_be_visible()
        attempt.refresh_from_db()
        assert attempt.total is not None
        self.assertEqual(attempt.total.reached, Fraction(3, 4))

    def test_a_tutor_sets_a_test_and_the_learner_has_it(self) -> None:
        group = Group.objects.create(course=self.course, title="Tuesday evening")
        join_group(group, enrolment_of(self.learner))
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(group, clara)
        page = self.page
        self.enter(page, clara, "/tutor/groups")
        page.get_by_role("link", name="Set work").click()
        expect(page.get_by_text("No work set yet.")).to_be_visible()
        page.get_by_role("main").get_by_role("link", name="Set work").click()
        page.get_by_role("link", name="Compose a new one").click()
        give_it = page.get_by_role("button", name="Save and continue")
        expect(give_it).to_be_disabled()
        page.get_by_label("Title, as learners see it").fill("Tides, a first look")
        page.get_by_label("Topic").select_option("tidal-terms")
        for title in ("Range between two tides", "Springs, neaps or between"):
            line = page.get_by_role("listitem").filter(has_text=title)
            line.get_by_role("button", name="Add").click()
        page.get_by_role("button", name="Range between two tides", exact=True).click()
        sheet = page.get_by_role("dialog")
        expect(sheet.get_by_text("Version 1 of 50")).to_be_visible()
        sheet.get_by_role("button", name="New numbers").click()
        expect(sheet.get_by_text("Version 2 of 50")).to_be_visible()
        page.keyboard.press("Escape")
        ahead = page.get_by_role("complementary", name="Preview")
        expect(ahead.get_by_text("Two questions, 2 points in total.")).to_be_visible()
        page.get_by_label("Tries per question").select_option("4")
        expect(page.get_by_text("Several tries are only possible").first).to_be_visible()
        expect(give_it).to_be_disabled()
        page.get_by_role("combobox", name="Marked", exact=True).select_option("individual")
        page.get_by_label("Right and wrong").select_option("at_once")
        page.get_by_label("Each wrong try costs").select_option("1/4")
        expect(ahead.get_by_text("Four for each question")).to_be_visible()
        self.assert_accessible("composing a test")
        give_it.click()
        expect(page.get_by_role("combobox", name="Which")).to_have_value(re.compile(r"\d+"))
        expect(page.get_by_text("for one learner. About")).to_be_visible()
        page.get_by_text("Study first (optional)").click()
        page.get_by_text("Tidal terms", exact=True).click()
        page.get_by_label("Where heights are measured from").check()
        self.assert_accessible("giving a test")
        expect(page.get_by_role("button", name="Set work", exact=True)).to_be_disabled()
        expect(page.get_by_text("Set this date: results are shown after it").first).to_be_visible()
        page.get_by_label("Closes (optional)", exact=True).fill("1 Dec 2090")
        page.get_by_role("button", name="Set work", exact=True).click()
        expect(page.get_by_role("heading", name="Tides, a first look")).to_be_visible()
        expect(page.get_by_text("1 not started")).to_be_visible()

        learner = self.new_page()
        self.sign_in(learner)
        # What a tutor set comes after the steps, and moves what stands below it.
        learner.wait_for_load_state("networkidle")
        learner.get_by_role("link", name="Tides, a first look").click()
        expect(learner.get_by_role("button", name="Start the test")).to_be_visible()
        expect(learner.get_by_role("heading", name="Study first")).to_be_visible()
        self.assert_accessible("a test’s own page", learner)

        page.get_by_role("link", name="Tides, a first look", exact=True).click()
        page.get_by_role("button", name="Extra time for Rita Calado").click()
        sheet = page.get_by_role("dialog")
        sheet.get_by_role("combobox", name="Time", exact=True).select_option("1.25")
        sheet.get_by_label("Extra attempts").fill("1")
        sheet.get_by_label("Reason (the learner reads this)").fill("as agreed")
        self.assert_accessible("allowing a learner more")
        sheet.get_by_role("button", name="Save").click()
        allowed = "1.25 times the time, 1 more attempt: as agreed (Clara Nunes"
        expect(page.get_by_text(allowed)).to_be_visible()
        learner.reload()
        expect(learner.get_by_text("as agreed")).to_be_visible()

    def test_what_is_typed_is_read_back_and_what_cannot_be_read_waits(self) -> None:
        self.begin(self.given(NUMBERS))
        page = self.page
        field = page.get_by_role("textbox", name="Your answer")
        field.fill("3½ mtr")
        expect(page.get_by_text("We read this as 3.5")).to_be_visible()
        expect(field).to_have_accessible_description(re.compile("We read this as 3.5"))
        field.fill("quite a lot")
        expect(page.get_by_text("Write only the number")).to_be_visible()
        questions = page.get_by_role("complementary", name="Questions")
        expect(questions.get_by_text("can’t be read")).to_be_attached()
        self.assert_accessible("an answer that can’t be read")
        questions.get_by_role("button", name="Check and hand in").click()
        expect(page.get_by_text("We can’t read your answers to one question.")).to_be_visible()
        page.get_by_role("button", name="Hand in", exact=True).click()
        page.get_by_role("dialog").get_by_role("button", name="Hand in").click()
        expect(page.get_by_text("one question. Your tutor will mark it")).to_be_visible()
