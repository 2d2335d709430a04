"""Learner, classmate, tutor, guardian and author, each in a browser of their own."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from e2e.browser import BrowserTestCase
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.actions import give_role
from vendaval.people.models import Guardianship, Role, User
from vendaval.work.models import Try
from vendaval.work.tests.builders import a_learner, an_account, enrolment_of


class PeopleTests(BrowserTestCase):
    lasts = 60

    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday evening")
        self.clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, self.clara)

    def page_of(self, person: User, path: str, *, narrow: bool = False) -> Page:
        page = self.new_page()
        if narrow:
            page.set_viewport_size({"width": 390, "height": 844})
        self.enter(page, person, path)
        return page

    def test_help_goes_to_tutor_and_classmate_and_the_answer_comes_back(self) -> None:
        bea = a_learner(self.course, "bea", display_name="Beatriz Sá")
        for person in (self.learner, bea):
            join_group(self.group, enrolment_of(person))
        self.sign_in()
        page = self.page
        page.goto(self.address("/topics/tidal-terms"))
        page.get_by_role("button", name="Practise", exact=True).click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        self.give(right=False)
        page.get_by_role("button", name="Ask or report").click()
        sheet = page.get_by_role("dialog")
        sheet.get_by_label(re.compile("^What don’t you understand")).fill("From where do I count?")
        sheet.get_by_label("Beatriz Sá").check()
        self.assert_accessible("asking for help")
        sheet.get_by_role("button", name="Ask", exact=True).click()
        expect(sheet.get_by_text("You’ll find the answer in your messages.")).to_be_visible()

        tutor = self.page_of(self.clara, "/tutor")
        heading = tutor.get_by_role(
            "heading", name=re.compile("^One learner is waiting for your reply")
        )
        expect(heading).to_be_visible()
        self.assert_accessible("a group", tutor)
        tutor.get_by_role("link", name="Answer one question").click()
        tutor.get_by_role("link", name=re.compile("^new")).first.click()
        expect(tutor.get_by_text("From where do I count?")).to_be_visible()
        expect(tutor.get_by_role("heading", name="Working")).to_be_visible()
        self.assert_accessible("a thread as the tutor sees it", tutor)
        tutor.get_by_label(re.compile("^Your reply")).fill("From low water: $h = 3$.")
        tutor.get_by_role("button", name="Send", exact=True).click()
        expect(tutor.get_by_text("From low water")).to_be_visible()

        classmate = self.page_of(bea, "/threads", narrow=True)
        classmate.get_by_role("link", name=re.compile("new")).first.click()
        expect(classmate.get_by_text("From where do I count?")).to_be_visible()
        expect(classmate.get_by_role("heading", name="Working")).to_have_count(0)
        expect(classmate.get_by_text("It is", exact=False)).to_have_count(0)
        expect(classmate.get_by_text("Right answer")).to_have_count(0)
        self.assert_accessible("a thread as a classmate sees it, at 390 px", classmate)

        page.goto(f"{self.live_server_url}/messages")
        page.get_by_role("link", name=re.compile("Clara Nunes wrote about")).click()
        expect(page.get_by_text("From low water")).to_be_visible()
        expect(page.locator(".katex").first).to_be_visible()
        page.get_by_role("button", name="Mark as answered").click()
        expect(page.get_by_text("Answered")).to_be_visible()
        expect(page.get_by_role("button", name="Send", exact=True)).to_have_count(0)

    def test_a_code_brings_a_learner_in_and_what_is_taught_changes_their_course(self) -> None:
        tutor = self.page_of(self.clara, f"/tutor/groups/{self.group.pk}")
        tutor.get_by_role("button", name="Create a joining code").click()
        code = tutor.locator("strong").first.inner_text()
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/people")
        self.page.get_by_label("Group code").fill(code.lower())
        self.page.get_by_role("button", name="Join group").click()
        expect(self.page.get_by_role("heading", name="Your levels", exact=True)).to_be_visible()

        tutor.get_by_role("link", name="Group settings").click()
        tutor.get_by_label("Clearance windows", exact=True).uncheck()
        tutor.get_by_label("Target in Tidal terms").fill("70")
        self.assert_accessible("a group’s settings", tutor)
        tutor.get_by_role("button", name="Save settings").click()
        expect(tutor.get_by_text("Saved for every member.")).to_be_visible()
        self.page.goto(self.address("/topics"))
        expect(self.page.get_by_text("not taught yet")).to_have_count(1)
        bar = self.page.get_by_role("img", name=re.compile("^Tidal terms: .*target 70$"))
        expect(bar).to_be_visible()
        tutor.goto(f"{self.live_server_url}/tutor/groups/{self.group.pk}")
        expect(tutor.get_by_role("link", name="Rita Calado", exact=True)).to_be_visible()
        expect(tutor.get_by_text("hasn’t started")).to_be_visible()

    def test_a_guardian_reads_and_can_change_nothing(self) -> None:
        self.sign_in()
        self.page.goto(self.address("/topics/tidal-terms"))
        self.page.get_by_role("button", name="Practise", exact=True).click()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
        self.give(right=True)
        self.page.goto(f"{self.live_server_url}/people")
        self.page.get_by_role("button", name="Make a code for a guardian").click()
        code = self.page.get_by_role("status").locator("strong").inner_text()

        teresa = an_account("teresa", display_name="Teresa Moura")
        guardian = self.page_of(teresa, "/people")
        guardian.get_by_label("Learner’s code").fill(code)
        guardian.get_by_role("button", name="Link learner").click()
        expect(guardian.get_by_text("Rita Calado", exact=True)).to_be_visible()
        guardian.goto(f"{self.live_server_url}/guardian")
        expect(guardian.get_by_role("heading", name="Rita Calado")).to_be_visible()
        self.assert_accessible("a learner as a guardian sees them", guardian)
        for begins in ("Practise", "Start the diagnostic", "Not now", "Set aside"):
            expect(guardian.get_by_role("button", name=begins)).to_have_count(0)
        guardian.get_by_role("link", name="All answers").click()
        expect(guardian.get_by_text("1 try, the latest first")).to_be_visible()
        guardian.set_viewport_size({"width": 390, "height": 844})
        self.assert_accessible("the record at 390 px", guardian)
        guardian.get_by_role("region", name="Every try").get_by_role("link").first.click()
        expect(guardian.get_by_role("heading", level=1)).to_be_visible()

        self.page.reload()
        self.page.get_by_role("button", name=re.compile("^End the link with Teresa")).click()
        expect(self.page.get_by_text("You have no guardian here")).to_be_visible()
        self.assertIsNotNone(Guardianship.objects.get().until)
        self.errors.clear()
        guardian.reload()
        expect(guardian.get_by_role("heading", name="Nothing here")).to_be_visible()
        self.errors.clear()
        self.assertEqual(Try.objects.count(), 1)

    def test_a_fault_reaches_the_author_without_a_name(self) -> None:
        rui = an_account("rui", display_name="Rui Sobral")
        give_role(rui, self.course.school, Role.AUTHOR)
        self.sign_in()
        self.page.goto(self.address("/topics/tidal-terms"))
        self.page.get_by_role("button", name="Practise", exact=True).click()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
        self.page.get_by_role("button", name="Ask or report").click()
        self.page.get_by_label("I think the question is wrong").check()
        self.page.get_by_label("What is wrong?").fill("The table has a typo.")
        self.page.get_by_role("button", name="Report it").click()
        expect(self.page.get_by_text("The authors have it")).to_be_visible()
        author = self.page_of(rui, "/author/faults")
        author.get_by_role("main").get_by_role("link").first.click()
        expect(author.get_by_text("The table has a typo.")).to_be_visible()
        expect(author.get_by_text("Nobody else has answered it yet.")).to_be_visible()
        expect(author.get_by_text("Rita")).to_have_count(0)
        self.assert_accessible("a fault report", author)

    def test_several_roles_one_switch(self) -> None:
        put_in_charge(self.group, self.learner)
        self.sign_in()
        self.page.get_by_label("Role").select_option("tutor")
        expect(self.page.get_by_role("link", name="Group", exact=True)).to_be_visible()
        self.page.get_by_role("link", name="Messages").click()
        expect(self.page.get_by_role("link", name="Group", exact=True)).to_be_visible()
        self.page.get_by_label("Role").select_option("learner")
        expect(self.page.get_by_role("heading", name="Your levels", exact=True)).to_be_visible()
