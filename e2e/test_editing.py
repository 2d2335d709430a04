"""Two people change the same thing, and somebody leaves before saving: nothing is lost."""

from __future__ import annotations

from playwright.sync_api import expect

from e2e.browser import BrowserTestCase
from vendaval.groups.actions import put_in_charge
from vendaval.groups.models import Group
from vendaval.work.tests.builders import an_account


class EditingTests(BrowserTestCase):
    def test_two_tutors_change_a_group_and_both_changes_stand(self) -> None:
        group = Group.objects.create(course=self.course, title="Tuesday")
        pages = []
        for name in ("Clara Nunes", "Bento Reis"):
            tutor = an_account(name.split()[0].lower(), display_name=name)
            put_in_charge(group, tutor)
            page = self.new_page()
            self.enter(page, tutor, f"/tutor/groups/{group.pk}/settings")
            pages.append(page)
        mine, theirs = pages
        mine.get_by_label("Name of the group").fill("Tuesday evening")
        mine.get_by_label("Target in Tidal terms").fill("85")
        expect(theirs.get_by_label("Name of the group")).to_have_value("Tuesday")
        theirs.get_by_label("Name of the group").fill("Tuesday crew")
        theirs.get_by_label("Tries in practice").select_option("2")
        theirs.get_by_role("button", name="Save settings").click()
        expect(theirs.get_by_text("Saved for every member.")).to_be_visible()

        mine.get_by_role("link", name="Messages").click()
        dialog = mine.get_by_role("alertdialog", name="This is not saved yet")
        self.assert_accessible("leaving what is not saved", mine)
        dialog.get_by_role("button", name="Leave").click()
        expect(mine.get_by_role("heading", name="Messages", exact=True)).to_be_visible()
        mine.goto(f"{self.live_server_url}/tutor/groups/{group.pk}/settings")
        expect(mine.get_by_text("This is what you typed earlier")).to_be_visible()
        expect(mine.get_by_label("Name of the group")).to_have_value("Tuesday evening")

        mine.get_by_role("button", name="Save settings").click()
        conflict = mine.get_by_role("alert", name="Changed by somebody else")
        expect(conflict.get_by_text("Only they changed: Tries in practice.")).to_be_visible()
        expect(conflict.get_by_label("Yours: Tuesday evening")).to_be_checked()
        self.assert_accessible("two changes of the same thing", mine)
        conflict.get_by_label("Theirs: Tuesday crew").check()
        conflict.get_by_role("button", name="Save both").click()
        expect(mine.get_by_text("Saved for every member.")).to_be_visible()
        expect(mine.get_by_label("Name of the group")).to_have_value("Tuesday crew")
        group.refresh_from_db()
        kept = group.settings
        self.assertEqual(
            (group.title, kept.tries, kept.targets), ("Tuesday crew", 2, {"tidal-terms": 85})
        )
        self.errors = [error for error in self.errors if "409" not in error]
