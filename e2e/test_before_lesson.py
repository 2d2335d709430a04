"""A tutor before a lesson, and a guardian at home: the group by keyboard, what is worth asking,
the calendar, and a talk between the two."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from playwright.sync_api import expect

from e2e.browser import BrowserTestCase
from vendaval.assigning.schemas import TaskIn
from vendaval.assigning.tasks import set_task
from vendaval.groups.actions import enrol, join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.actions import give_role, link_guardian
from vendaval.people.models import Role, User
from vendaval.practice.run import StartPracticeIn
from vendaval.shared import clock
from vendaval.tutor.models import LookedAt
from vendaval.work import actions
from vendaval.work.grading import Sent
from vendaval.work.models import Purpose
from vendaval.work.tests.builders import an_account, enrolment_of, wrong

PHONE: dict[str, Any] = {"width": 390, "height": 844}


class BeforeLessonTests(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday evening")
        join_group(self.group, enrolment_of(self.learner))
        ines = User.objects.create(username="ines", display_name="Inês Moura")
        join_group(self.group, enrol(ines, self.course))
        self.clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, self.clara)
        self.desk = self.new_page()

    def guess_at_once(self, many: int) -> None:
        """So many answers by the learner, each after a second."""
        wanted = StartPracticeIn(purpose=Purpose.PRACTICE, topics=["tidal-terms"])
        question = actions.start_run(self.learner, self.course.key, wanted).current
        for number in range(many):
            assert question is not None
            self.clock.forward(seconds=1)
            sent = Sent(f"hasty-{number}", wrong(question.pk))
            answered = actions.submit_try(self.learner, self.course.key, question.pk, sent)
            following = answered.next
            if following is None and answered.question.presentation.closed_at is None:
                _, following = actions.show_working(self.learner, self.course.key, question.pk)
            if following is None:
                run = actions.finish_run(self.learner, self.course.key, question.run_id)
                assert run.ended_at is not None
                following = actions.start_run(self.learner, self.course.key, wanted).current
            question = following

    def test_from_the_overview_to_what_came_of_asking(self) -> None:
        self.guess_at_once(24)
        goal = {"kind": "target", "topics": ["tidal-terms"]}
        due = (clock.now() + timedelta(days=2)).isoformat()
        set_task(self.group, TaskIn.model_validate({"goal": goal, "due": due}), self.clara)
        desk = self.desk
        self.enter(desk, self.clara, f"/tutor/groups/{self.group.pk}")
        first = desk.get_by_role("link", name="Inês Moura, Compass errors")
        expect(first).to_be_visible()
        first.focus()
        desk.keyboard.press("ArrowRight")
        expect(desk.get_by_role("link", name="Inês Moura, Tidal terms")).to_be_focused()
        desk.keyboard.press("ArrowDown")
        expect(desk.get_by_role("link", name="Rita Calado, Tidal terms")).to_be_focused()
        desk.keyboard.press("End")
        expect(desk.get_by_role("link", name="Rita Calado, Clearance windows")).to_be_focused()
        self.assert_accessible("the group", desk)
        desk.get_by_label("Sort by").select_option("name")
        names = desk.get_by_role("rowheader")
        expect(names.first).to_contain_text("Inês Moura")
        desk.get_by_label("Find a learner").fill("rita")
        expect(names).to_have_count(2)
        desk.get_by_label("Find a learner").fill("")
        desk.get_by_role("button", name="inactive").click()
        expect(names).to_have_count(2)
        desk.get_by_role("link", name="Worth a conversation: 1").click()
        expect(desk.get_by_role("heading", name="One thing worth a conversation")).to_be_visible()
        expect(desk.get_by_text("of the latest 24 first answers")).to_be_visible()
        self.assert_accessible("who to talk to", desk)
        desk.get_by_label("What did you find out?").fill("Had no time; will do it again.")
        desk.get_by_role("button", name="Save note").click()
        expect(desk.get_by_role("heading", name="Nothing to ask about")).to_be_visible()
        expect(desk.get_by_text("Had no time; will do it again.")).to_be_visible()
        self.assertEqual(LookedAt.objects.get().by, self.clara)
        desk.get_by_role("link", name="Tuesday evening").click()
        desk.get_by_role("link", name="Calendar").click()
        expect(
            desk.get_by_role("heading", name="One piece of work due, the first in two")
        ).to_be_visible()
        self.assert_accessible("the calendar", desk)
        desk.set_viewport_size(PHONE)
        self.assert_accessible("the calendar on a phone", desk)
        desk.goto(f"{self.live_server_url}/tutor/groups/{self.group.pk}")
        expect(desk.get_by_role("link", name="Calendar")).to_be_visible()
        self.assert_accessible("the group on a phone", desk)

    def test_a_guardian_reads_how_to_help_and_writes_to_the_tutor(self) -> None:
        vera = an_account("vera", display_name="Vera Calado")
        give_role(vera, self.course.school, Role.GUARDIAN)
        link_guardian(vera, self.learner)
        home = self.new_page()
        home.set_viewport_size(PHONE)
        self.enter(home, vera, "/guardian")
        expect(home.get_by_role("heading", name="How you can help")).to_be_visible()
        expect(home.get_by_text("Rita hasn’t started. Sit with them")).to_be_visible()
        self.assert_accessible("a guardian on a phone", home)
        home.get_by_role("link", name="Write to the tutor").click()
        home.get_by_label("Write to the tutor").fill("When should Rita begin?")
        home.get_by_role("button", name="Send").click()
        expect(home.get_by_role("listitem")).to_contain_text(["When should Rita begin?"])
        self.assert_accessible("a talk on a phone", home)
        self.enter(self.desk, self.clara, "/tutor/help")
        self.desk.get_by_role("link", name="Vera Calado about Rita Calado").click()
        expect(self.desk.get_by_text("When should Rita begin?")).to_be_visible()
        self.desk.get_by_label("Write to Vera Calado").fill("This week, 20 minutes at a time.")
        self.desk.get_by_role("button", name="Send").click()
        expect(self.desk.get_by_text("waiting for an answer")).to_have_count(0)
        self.assert_accessible("a talk at the tutor’s", self.desk)
        home.reload()
        expect(home.get_by_text("This week, 20 minutes at a time.")).to_be_visible()
