"""The office by its own steps: from an invitation to a first answer with a guardian's consent, a
list taken in, somebody deleted and the group's figures still right."""

from __future__ import annotations

import re
from typing import Any

from django.test import override_settings
from playwright.sync_api import Page, expect

from e2e.browser import BrowserTestCase
from vendaval.groups.actions import enrol, join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.notices.models import Letter
from vendaval.people.actions import give_role
from vendaval.people.models import Role, User
from vendaval.work.models import Try
from vendaval.work.tests.builders import an_account, enrolment_of

PHONE: dict[str, Any] = {"width": 390, "height": 844}


@override_settings(EMAIL_BACKEND="vendaval.notices.outbox.OutboxBackend")
class OfficeTests(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday evening")
        join_group(self.group, enrolment_of(self.learner))
        self.office = an_account("lucia", display_name="Lúcia Prates")
        give_role(self.office, self.course.school, Role.OFFICE)
        self.desk = self.new_page()

    def mailed(self, to: str) -> str:
        """The address in the newest mail to somebody, on this server."""
        body = Letter.objects.filter(to=to).latest("pk").body
        found = re.search(r"/open/\S+", body)
        assert found is not None
        return f"{self.live_server_url}{found[0]}"

    def accept(self, page: Page, mail: str, phrase: str) -> None:
        page.goto(self.mailed(mail))
        page.get_by_label("Password").fill(phrase)
        page.get_by_role("button", name="Activate account").click()
        expect(page.get_by_role("main").get_by_role("status")).to_contain_text("Done")

    def test_from_an_invitation_to_a_first_answer_with_consent(self) -> None:
        desk = self.desk
        self.enter(desk, self.office, "/office")
        expect(desk.get_by_role("heading", name="Nothing to do right now")).to_be_visible()
        self.assert_accessible("the office’s now", desk)
        desk.get_by_role("link", name="Invite a person").click()
        desk.get_by_label("Display name").fill("Duarte Lopo")
        desk.get_by_label("Mail address", exact=True).fill("duarte@lopo.example")
        desk.get_by_label("Course").select_option(label="Tuesday evening, Inshore Navigation")
        desk.get_by_label("Date of birth (if under age)", exact=True).fill("2014-02-03")
        desk.get_by_role("button", name="Invite Duarte Lopo").click()
        expect(desk.get_by_role("alert")).to_contain_text("a guardian has to agree")
        self.errors.clear()
        desk.get_by_label("Guardian’s name").fill("Irene Lopo")
        desk.get_by_label("Guardian’s mail address").fill("irene@lopo.example")
        self.assert_accessible("inviting", desk)
        desk.get_by_role("button", name="Invite Duarte Lopo").click()
        expect(desk.get_by_role("heading", name="Duarte Lopo")).to_be_visible()
        self.assert_accessible("a person", desk)

        learner, guardian = self.new_page(), self.new_page()
        guardian.set_viewport_size(PHONE)
        self.accept(learner, "duarte@lopo.example", "seven green oars")
        expect(learner.get_by_role("main").get_by_role("status")).to_contain_text(
            "You can sign in as soon as your guardian agrees"
        )
        self.assert_accessible("an invitation taken", learner)
        learner.goto(self.live_server_url)
        learner.get_by_label("User name or mail address").fill("duarte@lopo.example")
        learner.get_by_label("Password").fill("seven green oars")
        learner.get_by_role("button", name="Sign in", exact=True).click()
        expect(learner.get_by_role("alert")).to_contain_text("A guardian has to agree")
        self.errors.clear()

        self.accept(guardian, "irene@lopo.example", "nine red buoys")
        guardian.get_by_role("link", name="Start").click()
        expect(guardian.get_by_role("heading", name="We need your consent")).to_be_visible()
        expect(guardian.get_by_text("I am the guardian of Duarte Lopo")).to_be_visible()
        self.assert_accessible("consent on a phone", guardian)
        guardian.get_by_role("button", name="I agree").click()
        expect(guardian.get_by_role("main").get_by_role("status")).to_contain_text("You agreed on")

        learner.get_by_role("button", name="Sign in", exact=True).click()
        expect(learner.get_by_role("heading", name="Your levels", exact=True)).to_be_visible()
        self.learner = User.objects.get(email="duarte@lopo.example")
        self.page = learner
        learner.goto(self.address("/topics/tidal-terms"))
        learner.get_by_role("button", name="Practise", exact=True).click()
        expect(learner.get_by_role("button", name="Send answer")).to_be_visible()
        self.give(right=True)
        self.assertEqual(Try.objects.get().enrolment.person, self.learner)
        desk.reload()
        expect(desk.get_by_text("Irene Lopo agreed")).to_be_visible()

    def test_a_list_is_mended_and_taken_in(self) -> None:
        desk = self.desk
        self.enter(desk, self.office, "/office/people/list")
        head = "name,mail,role,group\n"
        wrong = head + "Nel Reis,nel@x.example,learner,Friday\nPia Sá,pia@x.example,tutor,\n"
        files = desk.get_by_label("File")

        def choose(text: str) -> None:
            files.set_input_files(
                {"name": "people.csv", "mimeType": "text/csv", "buffer": text.encode()}
            )

        choose(wrong)
        said = desk.get_by_role("main").get_by_role("status")
        expect(said).to_contain_text("One row of 2 can’t be imported")
        expect(desk.get_by_text("We can’t find a group called “Friday”.")).to_be_visible()
        expect(desk.get_by_role("button", name="Import")).to_have_count(0)
        self.assert_accessible("a list with faults", desk)
        choose(wrong.replace("Friday", "tuesday evening"))
        desk.get_by_role("button", name="Import and invite all 2").click()
        expect(said).to_contain_text("Imported two people")
        desk.get_by_role("link", name="See who is invited").click()
        expect(desk.get_by_role("listitem").filter(has_text="Nel Reis")).to_contain_text(
            "invited, not accepted yet"
        )
        self.assert_accessible("people", desk)

    def test_somebody_is_deleted_and_the_figures_stay_right(self) -> None:
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, clara)
        other = User.objects.create(username="ines", display_name="Inês Moura")
        join_group(self.group, enrol(other, self.course))
        tutor = self.new_page()
        self.enter(tutor, clara, f"/tutor/groups/{self.group.pk}")
        expect(tutor.get_by_role("link", name="Rita Calado").first).to_be_visible()
        self.enter(self.desk, self.office, f"/office/people/{self.learner.pk}")
        self.desk.get_by_role("button", name="Delete Rita Calado").click()
        sheet = self.desk.get_by_role("dialog")
        expect(sheet.get_by_role("button", name="Delete for good")).to_be_disabled()
        self.assert_accessible("before somebody is deleted", self.desk)
        sheet.get_by_label("Type Rita Calado to be sure").fill("Rita Calado")
        sheet.get_by_role("button", name="Delete for good").click()
        expect(self.desk.get_by_role("heading", name="People")).to_be_visible()
        expect(self.desk.get_by_text("Rita Calado")).to_have_count(0)
        tutor.reload()
        expect(tutor.get_by_role("link", name="Inês Moura").first).to_be_visible()
        expect(tutor.get_by_text("Rita")).to_have_count(0)
        self.desk.get_by_role("link", name="Log").click()
        expect(
            self.desk.get_by_role("listitem").filter(has_text="A person was deleted")
        ).to_contain_text("by Lúcia Prates")
        self.assert_accessible("the log", self.desk)
        for name, heading in (
            ("Groups", "Groups"),
            ("School", "School"),
            ("Mails", "Mails"),
            ("System", re.compile("checks? needs? attention|Everything is working")),
        ):
            self.desk.get_by_role("link", name=name, exact=True).click()
            expect(self.desk.get_by_role("heading", name=heading, level=1)).to_be_visible()
            self.assert_accessible(name, self.desk)
