"""A tutor writes to the group, lets another cover, stops a faulty question and moderates marks."""

from __future__ import annotations

from datetime import timedelta

from django.utils import timezone
from playwright.sync_api import Page, expect

from e2e.sitting import SittingTestCase
from vendaval.bank.snapshot import course_bank
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.actions import give_role
from vendaval.people.models import Role
from vendaval.shared import clock
from vendaval.work.tests.builders import an_account, enrolment_of


class DeskStory(SittingTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday evening")
        join_group(self.group, enrolment_of(self.learner))
        self.clara = an_account("clara", display_name="Clara Nunes")
        self.otto = an_account("otto", display_name="Otto Reis")
        give_role(self.otto, self.course.school, Role.TUTOR)
        put_in_charge(self.group, self.clara)

    def test_a_message_and_a_cover(self) -> None:
        page, own = self.page, self.new_page()
        self.enter(page, self.clara, f"/tutor/groups/{self.group.pk}")
        page.get_by_role("button", name="Write", exact=True).click()
        sheet = page.get_by_role("dialog")
        sheet.get_by_label("Message to the whole group").fill("Otto takes you on Tuesday.")
        self.assert_accessible("writing to a group")
        sheet.get_by_role("button", name="Send to the whole group").click()
        expect(sheet.get_by_text("Sent.")).to_be_visible()
        page.keyboard.press("Escape")
        self.enter(own, self.learner, "/messages")
        expect(own.get_by_text("Otto takes you on Tuesday.")).to_be_visible()

        page.get_by_role("link", name="Group settings").click()
        self.cover(page)
        desk = self.new_page()
        self.enter(desk, self.otto, f"/tutor/groups/{self.group.pk}")
        expect(desk.get_by_role("link", name="Rita Calado").first).to_be_visible()
        page.get_by_role("button", name="End the cover by Otto Reis").click()
        expect(page.get_by_text("teaching now")).to_be_hidden()
        desk.reload()
        expect(desk.get_by_text("This page belongs to somebody else.")).to_be_visible()
        self.errors = [one for one in self.errors if "404" not in one]

    def cover(self, page: Page) -> None:
        today = timezone.localtime(clock.now()).date()
        covers = page.get_by_role("region", name="Cover")
        covers.get_by_role("combobox").select_option("Otto Reis")
        for name, day in (("First day", today), ("Last day", today + timedelta(days=3))):
            covers.get_by_role("textbox", name=name).fill(day.strftime("%-d %b %Y"))
            page.keyboard.press("Tab")
        covers.get_by_role("button", name="Let them cover").click()
        expect(covers.get_by_text("teaching now")).to_be_visible()
        self.assert_accessible("group settings with a cover")

    def test_a_faulty_question_is_stopped_and_asked_again(self) -> None:
        page, course = self.page, self.course.key
        self.enter(page, self.clara, f"/tutor/tests/{course}/new")
        page.get_by_label("Topic").select_option("tidal-terms")
        title = next(
            item.title
            for item in course_bank(self.course).families.values()
            if item.family.topic == "tidal-terms"
        )
        page.get_by_role("button", name=title, exact=True).click()
        sheet = page.get_by_role("dialog")
        sheet.get_by_role("button", name="Stop asking this question").click()
        expect(sheet.get_by_text("leave it out from now on")).to_be_visible()
        sheet.get_by_label("What is wrong with it").fill("Its key is wrong.")
        self.assert_accessible("stopping a question")
        sheet.get_by_role("button", name="Stop asking it").click()
        expect(sheet.get_by_text("Nobody is asked this question now.")).to_be_visible()
        page.goto(f"{self.live_server_url}/tutor/tests/{course}")
        stopped = page.get_by_role("region", name="Questions that nobody is asked now")
        expect(stopped.get_by_role("heading", name=title)).to_be_visible()
        stopped.get_by_role("button", name="Ask it again").click()
        expect(stopped).to_be_hidden()
