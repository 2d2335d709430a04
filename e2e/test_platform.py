"""From a platform and back: it is let in, work is picked there, a learner comes, does it, and the
mark is in the platform once, although its reply was lost."""

from __future__ import annotations

import json
from urllib.request import urlopen

from playwright.sync_api import Page, expect

from e2e.sitting import NUMBERS, SittingTestCase, section
from standins.running import Standins, running
from vendaval.exams.columns import CompositionData, RulesData
from vendaval.exams.composing.actions import make_test
from vendaval.exams.models import Attempt
from vendaval.groups.models import GroupMember
from vendaval.lti import jobs, scores
from vendaval.lti.models import Platform, PlatformAccount, ScoreSent, ScoreState
from vendaval.people.models import Role, User
from vendaval.shared import clock
from vendaval.work.tests.builders import with_role


class PlatformTests(SittingTestCase):
    standins: Standins

    def test_a_launch_to_a_mark_that_came_back(self) -> None:
        with running(self.live_server_url) as self.standins:
            office = with_role(self.course, Role.OFFICE)
            composition = CompositionData(sections=[section("All", NUMBERS[:1])])
            make_test(self.course, "Range of the tide", composition, RulesData(), None)
            self.let_in(office)
            self.pick_work()
            learner = self.come_as("Noa Brás", "u-101")
            self.hand_in(learner)
            self.mark_goes_back()
            self.tutor_sees_it()

    def let_in(self, office: User) -> None:
        page = self.new_page()
        self.enter(page, office, "/office/programs")
        expect(page.get_by_role("heading", name="Platforms (LTI 1.3)")).to_be_visible()
        self.assert_accessible("other programs", page)
        page.goto(f"{self.standins.address}/platform")
        page.get_by_role("link", name="Register Vendaval here").click()
        page.get_by_role("button", name="Let it in").click()
        expect(page.get_by_role("heading", name="may launch")).to_be_visible()
        page.get_by_role("link", name="Other programs").click()
        page.get_by_role("button", name="Change Platform stand-in").click()
        page.get_by_role("checkbox", name="Tutors may come from it").check()
        page.get_by_role("button", name="Save").first.click()
        expect(page.get_by_text("Learners and tutors may come.")).to_be_visible()
        self.assertTrue(Platform.objects.get().tutors)

    def pick_work(self) -> None:
        self.tutors_page = page = self.new_page()
        page.goto(f"{self.standins.address}/platform?who=u-900")
        page.get_by_role("link", name="Pick work for this course").click()
        expect(page.get_by_role("heading", name="Set work")).to_be_visible()
        self.assert_accessible("picking work", page)
        page.get_by_role("radio", name="Range of the tide").check()
        page.get_by_role("button", name="Set it").click()
        page.get_by_role("button", name="Go back to").click()
        expect(page.get_by_role("cell", name="Range of the tide")).to_be_visible()

    def come_as(self, name: str, key: str) -> Page:
        """Come from a frame on the platform's page: a window of our own opens."""
        page = self.new_page()
        page.goto(f"{self.standins.address}/platform?who={key}")
        page.get_by_role("link", name="in a frame").click()
        with page.context.expect_page() as opened:
            page.frame_locator("iframe").get_by_role("button", name="Open Vendaval").click()
        window = opened.value
        expect(window.get_by_role("heading", name="Range of the tide")).to_be_visible()
        self.assertEqual(PlatformAccount.objects.get(subject=key).person.display_name, name)
        return window

    def hand_in(self, page: Page) -> None:
        page.get_by_role("button", name="Start the test").click()
        page.get_by_role("dialog").get_by_role("button", name="Start").click()
        self.at(page, 1)
        attempt = Attempt.objects.get()
        self.answer(page, attempt, 1)
        self.saved(attempt, 1)
        page.get_by_role("button", name="Check and hand in").first.click()
        page.get_by_role("main").get_by_role("button", name="Hand in").click()
        page.get_by_role("dialog").get_by_role("button", name="Hand in").click()
        expect(page.get_by_role("heading", name="Handed in")).to_be_visible()

    def sent(self) -> ScoreSent:
        """Have what is due sent, as the jobs do it."""
        self.clock.forward(seconds=90)
        jobs.look_at_scores.call()
        for platform in scores.platforms_due(clock.now()):
            jobs.send_scores.call(platform.pk)
        return ScoreSent.objects.get()

    def mark_goes_back(self) -> None:
        self.standins.behave("platform", "loses")
        waits = self.sent()
        self.assertEqual((waits.state, waits.tries), (ScoreState.DUE, 1))
        self.standins.behave("platform", "down")
        self.assertEqual(self.sent().tries, 2)
        self.standins.behave("platform", "well")
        self.clock.forward(minutes=5)
        self.assertEqual(self.sent().state, ScoreState.SENT)
        self.assertEqual(self.sent().tries, 3, "nothing is sent again")
        with urlopen(f"{self.standins.address}/platform/told") as reply:
            (mark,) = json.load(reply)["scores"]
        self.assertEqual((mark["who"], mark["given"], mark["of"]), ("u-101", 100, 100))

    def tutor_sees_it(self) -> None:
        page = self.tutors_page
        group = GroupMember.objects.get().group
        page.goto(f"{self.live_server_url}/tutor/groups/{group.pk}/settings")
        line = page.get_by_role("listitem").filter(has_text="Noa Brás")
        expect(line).to_contain_text("100.0 of 100")
        expect(line).to_contain_text("sent")
        self.assert_accessible("group from a platform", page)
        page.get_by_role("button", name="Take in everybody from its course").click()
        expect(page.get_by_text("In the group from there: 2.")).to_be_visible()
        self.assertEqual(GroupMember.objects.filter(group=group, until=None).count(), 2)
