"""Files as an answer from a phone-sized screen, and working on paper beside a worked solution."""

from __future__ import annotations

import io

from PIL import Image
from playwright.sync_api import Route, expect

from e2e.sitting import SittingTestCase
from vendaval.files.models import StoredFile
from vendaval.files.schemas import CHUNK
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.actions import link_guardian
from vendaval.people.models import Role
from vendaval.work.models import Try
from vendaval.work.tests.builders import an_account, enrolment_of, with_role
from vendaval_core.packs.reader import Pack
from vendaval_core.tests.courses import inshore_only


def photograph(side: int) -> bytes:
    out = io.BytesIO()
    Image.effect_noise((side, side), 80).convert("RGB").save(out, "JPEG", quality=90)
    return out.getvalue()


class FilesTests(SittingTestCase):
    def pack(self) -> Pack:
        return inshore_only("passage-planning", "tidal-terms")

    def test_from_a_small_screen_with_a_lost_connection_to_the_marker(self) -> None:
        assignment = self.assigned(("log-page",))
        self.page.set_viewport_size({"width": 390, "height": 844})
        attempt = self.begin(self.address(f"/tests/given-{assignment.pk}"))
        page, data, lost = self.page, photograph(900), []
        self.assertGreater(len(data), 2 * CHUNK)

        def lose(route: Route) -> None:
            lost.append(route.request.url)
            route.abort("internetdisconnected") if len(lost) < 3 else route.continue_()

        page.route("**/chunks/1", lose)
        chooser = page.locator("input[type=file]")
        chooser.set_input_files({"name": "log.jpg", "mimeType": "image/jpeg", "buffer": data})
        expect(page.get_by_text("No connection. It goes on by itself.")).to_be_visible()
        self.assert_accessible("a file on its way")
        expect(page.get_by_text("Save the file")).to_be_visible()
        self.assertEqual(len(lost), 3)
        chooser.set_input_files(
            {"name": "plan.pdf", "mimeType": "application/pdf", "buffer": b"<html>not one"}
        )
        expect(page.get_by_text("isn’t what its name says")).to_be_visible()
        page.get_by_role("button", name="Close").click()
        self.errors = [one for one in self.errors if "422" not in one]
        chooser.set_input_files(
            {"name": "two.jpg", "mimeType": "image/jpeg", "buffer": photograph(60)}
        )
        expect(page.get_by_text("two.jpg")).to_be_visible()
        page.get_by_role("button", name="Remove two.jpg").click()
        expect(page.get_by_text("two.jpg")).to_have_count(0)
        page.reload()
        expect(page.get_by_text("log.jpg")).to_be_visible()
        self.saved(attempt, 1)
        wide = page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, 390)

        page.get_by_role("button", name="Check and hand in").first.click()
        page.get_by_role("main").get_by_role("button", name="Hand in").click()
        page.get_by_role("dialog").get_by_role("button", name="Hand in").click()
        expect(page.get_by_role("heading", name="Handed in")).to_be_visible()
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, clara)
        desk = self.new_page()
        self.enter(desk, clara, "/tutor/marking")
        desk.get_by_role("link", name="Tides, end of unit").click()
        desk.get_by_role("link", name="A page of the log").click()
        sent = desk.get_by_role("img", name="log.jpg, page 1")
        expect(sent).to_be_visible()
        self.assertTrue(sent.evaluate("node => node.decode().then(() => node.naturalWidth > 0)"))
        with desk.expect_download() as download:
            desk.get_by_role("link", name="Save the file").click()
        self.assertEqual(download.value.suggested_filename, "log.jpg")
        self.assert_accessible("files before a marker", desk)
        desk.get_by_role("heading", level=1).click()
        for key in ("1", "2", "k"):
            desk.keyboard.press(key)
        expect(desk.get_by_text("; 1 marked.")).to_be_visible()

    def test_set_work_with_a_file_and_a_link_from_asking_to_the_marks(self) -> None:
        clara = an_account("clara", display_name="Clara Nunes")
        self.group = Group.objects.create(course=self.course, title="Tuesday evening")
        join_group(self.group, enrolment_of(self.learner))
        put_in_charge(self.group, clara)
        desk = self.new_page()
        self.enter(desk, clara, f"/tutor/work/{self.group.pk}/new")
        desk.get_by_role("button", name="Work to hand in").click()
        desk.get_by_label("Title (optional)").fill("Your passage plan")
        desk.get_by_role("combobox", name="Links").select_option("must")
        desk.get_by_label("Points (optional)").fill("10")
        desk.get_by_label("What to hand in").fill("A plan for **two legs**.")
        self.assert_accessible("asking for work", desk)
        desk.get_by_role("button", name="Set work", exact=True).click()
        expect(desk.get_by_text("1 not started")).to_be_visible()

        page, lost = self.page, []

        def lose(route: Route) -> None:
            lost.append(route.request.url)
            route.abort("internetdisconnected") if len(lost) < 2 else route.continue_()

        page.set_viewport_size({"width": 390, "height": 844})
        page.route("**/chunks/0", lose)
        self.sign_in()
        page.goto(self.address("/tests"))
        page.get_by_role("link", name="Your passage plan").click()
        expect(page.get_by_text("two legs")).to_be_visible()
        hand_in = page.get_by_role("button", name="Hand in", exact=True)
        expect(hand_in).to_be_disabled()
        page.locator("input[type=file]").set_input_files(
            {"name": "plan.txt", "mimeType": "text/plain", "buffer": b"14:00 off the mole"}
        )
        expect(page.get_by_role("link", name="Save the file")).to_be_visible()
        self.assertEqual(len(lost), 2)
        page.get_by_label("Address of a page").fill("https://plans.example/mine")
        page.get_by_role("button", name="Add the link").click()
        expect(page.get_by_role("link", name="https://plans.example/mine")).to_be_visible()
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), 390)
        self.assert_accessible("handing in")
        hand_in.click()
        expect(page.get_by_role("strong").filter(has_text="Handed in ")).to_be_visible()
        expect(page.get_by_role("button", name="Remove plan.txt")).to_have_count(0)
        page.get_by_role("button", name="Take it back to change it").click()
        page.reload()
        page.get_by_role("button", name="Hand in", exact=True).click()
        expect(page.get_by_role("strong").filter(has_text="Handed in ")).to_be_visible()

        desk.reload()
        desk.get_by_role("link", name="What was handed in for Your passage plan").click()
        expect(desk.get_by_text("1 of 1 handed in, 1 to mark.")).to_be_visible()
        with desk.expect_download() as download:
            desk.get_by_role("link", name="Save the file").click()
        self.assertEqual(download.value.suggested_filename, "plan.txt")
        desk.get_by_label("Points, of 10").fill("7.5")
        desk.get_by_label("Comment for").fill("And the tide at the bar?")
        self.assert_accessible("what was handed in", desk)
        desk.get_by_role("button", name="Save the mark").click()
        expect(desk.get_by_text("7.5 of 10 points")).to_be_visible()
        page.reload()
        expect(page.get_by_role("heading", name="7.5 of 10 points")).to_be_visible()
        expect(page.get_by_text("And the tide at the bar?")).to_be_visible()

    def test_working_beside_the_solution_as_learner_tutor_and_guardian_see_it(self) -> None:
        clara, guardian = an_account("clara"), with_role(self.course, Role.GUARDIAN)
        group = Group.objects.create(course=self.course, title="Tuesday evening")
        join_group(group, enrolment_of(self.learner))
        put_in_charge(group, clara)
        link_guardian(guardian, self.learner)
        self.sign_in()
        page = self.page
        page.goto(self.address("/topics/tidal-terms"))
        page.get_by_role("button", name="Practise").first.click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        self.think()
        self.give(right=True)
        page.get_by_role("button", name="Add working on paper").click()
        page.locator("input[type=file]").set_input_files(
            {"name": "sums.jpg", "mimeType": "image/jpeg", "buffer": photograph(200)}
        )
        expect(page.get_by_role("img", name="sums.jpg, page 1")).to_be_visible()
        page.get_by_role("button", name="Use your phone").click()
        page.get_by_role("button", name="Show a code for the phone").click()
        with page.expect_popup() as window:
            page.get_by_role("button", name="Open the stand-in phone").click()
        phone = window.value
        expect(phone.get_by_role("heading", name="Working on paper")).to_be_visible()
        phone.get_by_role("button", name="Sheet 1").click()
        expect(phone.get_by_text("Two pages in")).to_be_visible()
        expect(page.get_by_role("img", name="photograph.jpg, page 1")).to_be_visible()
        self.assert_accessible("working on paper")
        self.assertEqual(StoredFile.objects.exclude(arrived_at=None).count(), 2)

        enrolment = enrolment_of(self.learner).pk
        for person, home in ((clara, "tutor"), (guardian, "guardian")):
            other = self.new_page()
            first = Try.objects.get().pk
            self.enter(other, person, f"/{home}/learners/{enrolment}/tries/{first}")
            working = other.get_by_role("region", name="Working on paper")
            expect(working.get_by_role("img", name="sums.jpg, page 1")).to_be_visible()
            expect(other.get_by_role("heading", name="Working", exact=True)).to_be_visible()
            expect(other.get_by_role("button", name="Add")).to_have_count(0)
            self.assert_accessible(f"working before a {home}", other)
