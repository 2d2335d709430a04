"""An author composes and tries a test, a tutor sets work of each kind, a learner does it."""

from __future__ import annotations

from playwright.sync_api import expect

from e2e.sitting import SittingTestCase
from vendaval.exams.models import Attempt, Test
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.actions import give_role
from vendaval.people.models import Role
from vendaval.work.tests.builders import a_learner, an_account, enrolment_of


class SettingTests(SittingTestCase):
    def test_an_author_composes_a_test_tries_it_and_copies_it(self) -> None:
        rui = an_account("rui", display_name="Rui Prado")
        give_role(rui, self.course.school, Role.AUTHOR)
        page = self.page
        self.enter(page, rui, "/author/tests")
        page.get_by_role("link", name=self.course.title).click()
        page.get_by_role("link", name="Compose a test").click()
        page.get_by_label("Title, as learners see it").fill("Where one may anchor")
        page.get_by_label("Topic").select_option("tidal-terms")
        for title in ("Range between two tides", "Springs, neaps or between"):
            line = page.get_by_role("listitem").filter(has_text=title)
            line.get_by_role("button", name="Add").click()
        page.get_by_role("combobox", name="Working required").select_option("chosen")
        expect(page.get_by_text("No question asks for working").first).to_be_visible()
        page.get_by_role("checkbox", name="Working required for Range between two tides").check()
        for tool in ("calculator", "scientific calculator"):
            page.get_by_role("checkbox", name=tool, exact=True).check()
        expect(page.get_by_text("Rules, tools: Choose one calculator")).to_be_visible()
        expect(page.get_by_role("button", name="Save test")).to_be_disabled()
        page.get_by_role("checkbox", name="calculator", exact=True).uncheck()
        page.get_by_role("button", name="Save test").click()
        expect(page.get_by_text("not set yet")).to_be_visible()
        self.assert_accessible("tests of a course")
        page.get_by_role("button", name="See Where one may anchor as the practice").click()
        page.get_by_role("button", name="Start the test").click()
        page.get_by_role("dialog").get_by_role("button", name="Start").click()
        expect(page.get_by_role("heading", name="1 point. Show your working")).to_be_visible()
        page.get_by_role("button", name="Check and hand in").first.click()
        expect(page.get_by_text(", show your working")).to_have_count(1)
        self.assertEqual(Attempt.objects.get().enrolment.person.practice_for, rui)
        page.goto(self.live_server_url, wait_until="networkidle")
        page.get_by_role("button", name="Back to my own account").click()
        expect(page.get_by_role("link", name="Reported problems", exact=True)).to_be_visible()
        page.goto(f"{self.live_server_url}/author/tests/{self.course.key}")
        page.get_by_role("link", name="Copy Where one may anchor").click()
        title = page.get_by_label("Title, as learners see it")
        expect(title).to_have_value("Where one may anchor, copy")
        expect(page.get_by_text("Range between two tides").first).to_be_visible()
        page.get_by_role("button", name="Save test").click()
        expect(
            page.get_by_role("link", name="Where one may anchor, copy", exact=True)
        ).to_be_visible()
        page.get_by_role("button", name="Remove Where one may anchor, copy").click()
        expect(page.get_by_text("Where one may anchor, copy")).to_have_count(0)
        self.assertEqual(Test.objects.filter(mirror_of=None).count(), 1)

    def test_a_tutor_sets_practice_and_reading_for_some_and_a_learner_does_it(self) -> None:
        group = Group.objects.create(course=self.course, title="Tuesday evening")
        other = a_learner(self.course, "bea", display_name="Bea Faria")
        for learner in (self.learner, other):
            join_group(group, enrolment_of(learner))
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(group, clara)
        page, learner = self.new_page(), self.page
        self.enter(page, clara, f"/tutor/work/{group.pk}/new")
        page.get_by_role("button", name="Practice", exact=True).click()
        page.get_by_role("radio", name="A number of questions").check()
        page.get_by_label("How many questions").fill("1")
        page.get_by_role("checkbox", name="Tidal terms").check()
        expect(page.get_by_text("One practice question in Tidal terms.")).to_be_visible()
        page.get_by_role("checkbox", name="Rita Calado").check()
        expect(page.get_by_text("For one learner: about")).to_be_visible()
        self.assert_accessible("setting practice", page)
        page.get_by_role("button", name="Set work", exact=True).click()
        expect(page.get_by_text("1 not started")).to_be_visible()

        self.sign_in()
        learner.get_by_role("link", name="Practise tidal terms").click()
        self.assert_accessible("set work")
        learner.get_by_role("button", name="Start").click()
        expect(learner.get_by_role("button", name="Send answer")).to_be_visible()
        self.give(right=True)
        learner.goto(self.address("/tests"))
        expect(learner.get_by_text("1 of 1 question answered")).to_be_visible()
        self.assert_accessible("tests and set work")

        page.reload()
        page.get_by_text("1 done", exact=True).click()
        expect(page.get_by_text("done, 1 of 1")).to_be_visible()
        page.get_by_role("link", name="Change dates and learners of Practise tidal terms").click()
        page.get_by_role("checkbox", name="the whole group").check()
        page.get_by_role("button", name="Change it").click()
        expect(page.get_by_text("1 not started, 1 done")).to_be_visible()
        self.assert_accessible("work set", page)
        page.get_by_role("button", name="Withdraw Practise tidal terms").click()
        page.get_by_role("button", name="Yes, withdraw Practise tidal terms").click()
        expect(page.get_by_text("No work set yet.")).to_be_visible()
        expect(page.get_by_text("You withdrew Practise tidal terms.")).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_text("1 not started, 1 done")).to_be_visible()
