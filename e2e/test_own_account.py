"""One's own account by its owner's steps: a forgotten password, another mail address, a second
factor; and what the office changes about groups, the school and somebody's account."""

from __future__ import annotations

import re

import pyotp
from django.test import override_settings
from playwright.sync_api import expect

from e2e.browser import BrowserTestCase
from vendaval.bank.models import Course
from vendaval.groups.models import Group
from vendaval.notices.models import Letter
from vendaval.people.actions import give_role
from vendaval.people.models import Role, School, User
from vendaval.shared import clock
from vendaval.work.tests.builders import an_account

PHRASE, NEW = "a long pass phrase", "nine green oars"


@override_settings(EMAIL_BACKEND="vendaval.notices.outbox.OutboxBackend")
class OwnAccountTests(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.clara = an_account("clara", display_name="Clara Nunes", email="clara@x.example")
        give_role(self.clara, self.course.school, Role.TUTOR)

    def mailed(self, to: str) -> str:
        found = re.search(r"/open/\S+", Letter.objects.filter(to=to).latest("pk").body)
        assert found is not None
        return f"{self.live_server_url}{found[0]}"

    def sign_in_by_hand(self, name: str, password: str) -> None:
        self.page.get_by_label("User name or mail address").fill(name)
        self.page.get_by_label("Password").fill(password)
        self.page.get_by_role("button", name="Sign in", exact=True).click()

    def test_from_a_forgotten_password_to_another_address(self) -> None:
        page = self.page
        page.goto(self.live_server_url)
        page.get_by_role("link", name="I’ve forgotten my password").click()
        page.get_by_label("Your mail address").fill("clara@x.example")
        page.get_by_role("button", name="Mail me a link").click()
        expect(page.get_by_text("we’ve sent a mail there")).to_be_visible()
        self.assert_accessible("a new password asked for")
        page.goto(self.mailed("clara@x.example"))
        page.get_by_label("Password").fill("clara-nunes")
        page.get_by_role("button", name="Save password").click()
        expect(page.get_by_role("alert")).to_contain_text("too similar")
        self.errors.clear()
        page.get_by_label("Password").fill(NEW)
        page.get_by_role("button", name="Save password").click()
        page.get_by_role("link", name="To Vendaval").click()
        self.sign_in_by_hand("clara@x.example", NEW)
        expect(page.get_by_role("heading", name="You have no groups at present")).to_be_visible()
        page.get_by_role("button", name="Clara Nunes: settings").click()
        page.get_by_role("menuitem", name="My account").click()
        section = page.locator("section").filter(
            has=page.get_by_role("heading", name="Mail address")
        )
        section.get_by_label("New mail address").fill("new@x.example")
        section.get_by_label("Current password").fill("a guess")
        section.get_by_role("button", name="Send the link").click()
        expect(section.get_by_role("alert")).to_have_text("That isn’t your password.")
        self.errors.clear()
        section.get_by_label("Current password").fill(NEW)
        section.get_by_role("button", name="Send the link").click()
        expect(section.get_by_role("status")).to_contain_text("new@x.example")
        self.assert_accessible("my account")
        page.goto(self.mailed("new@x.example"))
        page.get_by_role("button", name="Use this address").click()
        expect(page.get_by_text("Done. We’ll write to new@x.example.")).to_be_visible()
        self.assertEqual(User.objects.get(pk=self.clara.pk).email, "new@x.example")
        self.assertTrue(Letter.objects.filter(to="clara@x.example", subject__contains="changed"))

    def test_a_second_factor_is_set_up_and_asked_for(self) -> None:
        page = self.page
        elsewhere = self.new_page()
        self.enter(elsewhere, self.clara, "/account")
        expect(elsewhere.get_by_text("this one")).to_be_visible()
        self.enter(page, self.clara, "/account")
        page.get_by_role("button", name="Sign out everywhere else").click()
        expect(page.get_by_text("Only this browser is signed in now.")).to_be_visible()
        elsewhere.reload()
        expect(elsewhere.get_by_role("heading", name="Sign in")).to_be_visible()

        factor = page.locator("section").filter(has_text="Two-step sign-in")
        factor.get_by_label("Current password").fill(PHRASE)
        factor.get_by_role("button", name="Set it up").click()
        expect(factor.get_by_role("img", name="QR code")).to_be_visible()
        secret = re.search(r"\b[A-Z2-7]{32}\b", factor.inner_text())
        assert secret is not None
        device = pyotp.TOTP(secret[0])
        self.assert_accessible("a second factor on its way")
        factor.get_by_label("Six-digit code it shows now").fill(device.at(clock.now()))
        factor.get_by_role("button", name="Turn on").click()
        expect(factor.get_by_text("we show them only now")).to_be_visible()
        expect(factor.get_by_text("Eight spare codes left")).to_be_visible()
        spare = factor.get_by_role("status").get_by_role("listitem").first.inner_text()

        page.get_by_role("button", name="Clara Nunes: settings").click()
        page.get_by_role("menuitem", name="Sign out").click()
        self.sign_in_by_hand("clara", PHRASE)
        expect(page.get_by_role("alert")).to_contain_text("Type the six-digit code")
        page.get_by_label("Six-digit code from your device").fill(spare)
        page.get_by_role("button", name="Sign in", exact=True).click()
        self.errors.clear()
        expect(factor.get_by_text("Seven spare codes left")).to_be_visible()
        factor.get_by_label("Current password").fill(PHRASE)
        factor.get_by_role("button", name="Turn off").click()
        expect(factor.get_by_role("button", name="Set it up")).to_be_visible()

    def test_what_the_office_changes(self) -> None:
        office = an_account("lucia", display_name="Lúcia Prates")
        give_role(office, self.course.school, Role.OFFICE)
        page = self.page
        self.enter(page, office, "/office/groups")
        page.get_by_label("Name of the new group").fill("Monday")
        page.get_by_role("button", name="Add group").click()
        page.get_by_role("checkbox", name="Clara Nunes").check()
        page.get_by_label("Name", exact=True).fill("Monday morning")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("Saved.")).to_be_visible()
        self.assert_accessible("a group at the office")
        group = Group.objects.get()
        self.assertEqual((group.title, group.tutors.get().person), ("Monday morning", self.clara))

        page.get_by_role("link", name="People", exact=True).click()
        page.get_by_label("User name or mail address").fill("rita")
        page.get_by_role("link", name="Rita Calado").click()
        page.get_by_label("Add to group").select_option(index=1)
        page.get_by_role("button", name="Add").click()
        expect(page.get_by_role("link", name="Monday morning")).to_be_visible()
        page.get_by_role("checkbox", name="Tutor").check()
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_text("Saved.")).to_be_visible()
        page.get_by_role("button", name="Close account").click()
        expect(page.get_by_text("Account closed")).to_be_visible()
        self.assertEqual(group.members.filter(until=None).count(), 1)
        learner = User.objects.get(pk=self.learner.pk)
        self.assertEqual((learner.is_active, learner.roles), (False, {Role.LEARNER, Role.TUTOR}))

        page.get_by_role("link", name="School", exact=True).click()
        page.get_by_label("A guardian must agree below").fill("14")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("Saved.")).to_be_visible()
        page.get_by_role("checkbox", name=re.compile("Open to everyone")).check()
        expect(page.get_by_role("checkbox", name=re.compile("Open to everyone"))).to_be_enabled()
        self.assertEqual(School.objects.get().consent_until, 14)
        self.assertTrue(Course.objects.get(pk=self.course.pk).open_to_all)
        page.get_by_role("link", name="Log", exact=True).click()
        page.get_by_label("Name, address or word").fill("Rita")
        for what in ("An account was closed", "A role was given", "Joined a group"):
            expect(page.get_by_role("listitem").filter(has_text=what).first).to_be_visible()
