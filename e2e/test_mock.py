"""A mock test for three groups: set at once, paused for a fire alarm and extended everywhere; one
learner has standing extra time."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from e2e.sitting import SittingTestCase
from vendaval.exams.models import Assignment, Attempt
from vendaval.exams.taking import actions as attempts
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.models import User
from vendaval.work.tests.builders import a_learner, an_account, enrolment_of


class MockTests(SittingTestCase):
    def test_a_mock_for_three_groups(self) -> None:
        test = self.assigned(minutes=20).test
        Assignment.objects.all().delete()
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, clara)
        others = [self.another_group(title, clara) for title in ("Sunday", "Friday")]
        desk = self.new_page()
        self.allow(desk, clara)
        desk.goto(f"{self.live_server_url}/tutor/work/{self.group.pk}/new?test={test.pk}")
        desk.get_by_label("and Sunday").check()
        desk.get_by_label("and Friday").check()
        self.assert_accessible("a test for several groups", desk)
        desk.get_by_role("button", name="Set work").click()
        desk.wait_for_url(f"**/tutor/work/{self.group.pk}")
        self.assertEqual(Assignment.objects.count(), 3)

        mine = Assignment.objects.get(group=self.group)
        attempt = self.begin(self.address(f"/tests/given-{mine.pk}"))
        expect(self.page.get_by_text("24:", exact=False).first).to_be_visible()
        elsewhere = [self.sits(learner, group) for group, learner in others]
        desk.goto(f"{self.live_server_url}/tutor/work/{self.group.pk}/{mine.pk}")
        expect(
            desk.get_by_text("in every test: 1.25 times the time, a separate room")
        ).to_be_visible()
        expect(desk.get_by_label("pause, resume and extend in Sunday, Friday too")).to_be_checked()
        desk.get_by_role("button", name="Pause the test").click()
        self.because(desk, "Fire alarm", "Pause it")
        expect(self.page.get_by_role("heading", name="The test is paused")).to_be_visible()
        self.clock.forward(minutes=15)
        desk.get_by_role("button", name="Resume for one learner").click()
        desk.get_by_role("button", name="Give everyone more time").click()
        self.because(desk, "Fire alarm", "Give more time")
        expect(desk.get_by_text("5 min more: Fire alarm")).to_be_visible()
        for one in Attempt.objects.filter(pk__in=elsewhere):
            self.assertEqual((one.standing.paused, one.standing.limits), (None, [1500]))
        attempt.refresh_from_db()
        self.assertEqual(attempt.standing.limits, [1800])

        desk.goto(f"{self.live_server_url}/tutor/work/{self.group.pk}/{mine.pk}/results")
        expect(desk.get_by_role("row")).to_have_count(2)
        desk.get_by_label("with Sunday, Friday").check()
        expect(desk.get_by_role("row")).to_have_count(4)
        self.assert_accessible("results of three groups", desk)

    def another_group(self, title: str, tutor: User) -> tuple[Group, User]:
        group = Group.objects.create(course=self.course, title=title)
        learner = a_learner(self.course, f"of{title}", display_name=f"{title} Reis")
        join_group(group, enrolment_of(learner))
        put_in_charge(group, tutor)
        return group, learner

    def allow(self, desk: Page, tutor: User) -> None:
        """A quarter more time and a separate room in every test."""
        self.enter(desk, tutor, f"/tutor/learners/{enrolment_of(self.learner).pk}")
        desk.get_by_role("button", name="Change it").click()
        sheet = desk.get_by_role("dialog")
        sheet.get_by_role("combobox").select_option("1.25")
        sheet.get_by_label("a separate room").check()
        sheet.get_by_label("Reason").fill("As agreed.")
        self.assert_accessible("what a learner has in every test", desk)
        sheet.get_by_role("button", name="Save").click()
        expect(desk.get_by_text("1.25 times the time, a separate room")).to_be_visible()

    def sits(self, learner: User, group: Group) -> int:
        given = Assignment.objects.get(group=group)
        begun = attempts.start(learner, self.course.key, "given", given.pk)
        return attempts.enter(learner, self.course.key, begun.pk).pk

    def because(self, desk: Page, why: str, act: str) -> None:
        sheet = desk.get_by_role("dialog")
        sheet.get_by_label("Reason (the learner reads this)").fill(why)
        sheet.get_by_role("button", name=act).click()
