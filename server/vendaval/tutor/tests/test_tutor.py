"""A tutor's group before a lesson, and a learner's pages as others read them."""

from datetime import timedelta
from typing import Any

from django.test import Client

from vendaval.assigning.schemas import TaskIn
from vendaval.assigning.tasks import set_task
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.actions import link_guardian
from vendaval.people.models import Role
from vendaval.shared.tests.editing import put_over
from vendaval.work.models import Run
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    enrolment_of,
    right,
    with_role,
    wrong,
)


class GroupTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        join_group(self.group, enrolment_of(self.learner))
        self.tutor = with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, self.tutor)
        self.desk = Client()
        self.desk.force_login(self.tutor)

    def page(self) -> Any:
        return self.desk.get(f"/api/groups/{self.group.pk}").json()

    def row(self) -> Any:
        return self.page()["learners"][0]

    def test_not_begun_begun_and_left_and_at_work(self) -> None:
        self.assertEqual((self.row()["kind"], self.row()["says"]), ("not_begun", "hasn’t started"))
        self.diagnose("tides")
        self.clock.forward(days=3)
        self.assertEqual(self.row()["kind"], "left", "begun is told apart from never opened")
        Run.objects.update(ended_at=self.clock())
        question = self.practise("tidal-terms")
        self.answer(question["id"], right(question["id"]))
        self.assertEqual(self.row()["kind"], "working")
        self.clock.forward(days=9)
        Run.objects.update(ended_at=self.clock())
        self.assertEqual(self.row()["kind"], "away")

    def test_many_answers_without_a_rise_are_said(self) -> None:
        question = self.practise("height-at-a-time")
        for turn in range(70):
            if turn == 30:
                self.clock.forward(days=15)
            elif turn < 30:
                self.clock.forward(minutes=40)
            well = turn % 2 and turn < 30
            given = right(question["id"]) if well else wrong(question["id"])
            reply = self.answer(question["id"], given, after=150)
            if not reply["question"]["closed"]:
                reply = self.post(f"/questions/{question['id']}/working")
            question = self.onward(reply)
        row = self.row()
        self.assertEqual(row["kind"], "stuck", row["says"])
        self.assertIn("40 answers on height at a time in two weeks, no progress", row["says"])
        self.assertRegex(row["says"], r"practice alone teaches them little \(\d in 10 sure\)")

    def test_means_are_of_known_levels_and_say_of_how_many(self) -> None:
        column = next(t for t in self.page()["topics"] if t["key"] == "tidal-terms")
        self.assertEqual((column["mean"], column["known"]), (None, 0))
        question = self.practise("tidal-terms")
        for _ in range(12):
            question = self.onward(self.answer(question["id"], right(question["id"])))
        column = next(t for t in self.page()["topics"] if t["key"] == "tidal-terms")
        level = self.get("/topics/tidal-terms")["line"]["reading"]["level"]
        self.assertEqual((column["mean"], column["known"]), (level, 1))

    def test_as_many_queries_for_many_learners_as_for_few(self) -> None:
        self.page()
        for count in (1, 9):
            while self.group.members.count() < count:
                name = f"learner-{self.group.members.count()}"
                join_group(self.group, enrolment_of(a_learner(self.course, name)))
            with self.assertNumQueries(10):
                self.page()

    def test_settings_are_kept_whole_or_refused(self) -> None:
        address = f"/api/groups/{self.group.pk}/settings"
        exam = (self.clock().date() + timedelta(days=9)).isoformat()
        body = {"title": "Wednesday", "exam_on": exam, "targets": {"buoyage": 85}}
        body |= {"importance": {"buoyage": 2}, "not_taught": ["tidal-terms"], "tries": 2}
        kept = put_over(self.desk, address, body).json()
        self.assertEqual((kept["title"], kept["exam_on"], kept["tries"]), ("Wednesday", exam, 2))
        buoyage = next(t for t in kept["topics"] if t["key"] == "buoyage")
        self.assertEqual((buoyage["target"], buoyage["importance"]), (85, 2))
        for wrong_body in ({"targets": {"knots": 80}}, {"tries": 9}, {"not_taught": ["knots"]}):
            refused = put_over(self.desk, address, body | wrong_body)
            self.assertEqual(refused.status_code, 422, wrong_body)
        self.assertEqual(self.desk.get(address).json(), kept)

    def test_tutor_and_guardian_read_the_learners_own_figures(self) -> None:
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        guardian, teresa = Client(), with_role(self.course, Role.GUARDIAN)
        link_guardian(teresa, self.learner)
        guardian.force_login(teresa)
        own = self.get("/topics/tidal-terms")
        learner = f"/api/learners/{enrolment_of(self.learner).pk}"
        for client in (self.desk, guardian):
            page = client.get(learner).json()
            self.assertEqual((page["name"], page["misses"]), ("Ana Lima", 1))
            self.assertEqual(client.get(f"{learner}/topics/tidal-terms").json(), own)
            tries = client.get(f"{learner}/record/tries").json()
            self.assertEqual(tries, self.get("/record/tries"))
        self.assertEqual(guardian.get("/api/wards").json()["wards"][0]["name"], "Ana Lima")

    def test_a_guardian_sees_what_was_set_and_how_to_help(self) -> None:
        guardian, teresa = Client(), with_role(self.course, Role.GUARDIAN)
        link_guardian(teresa, self.learner)
        guardian.force_login(teresa)
        goal = {"kind": "questions", "topics": ["tidal-terms"], "questions": 2}
        due = (self.clock() + timedelta(days=1)).isoformat()
        work = TaskIn.model_validate({"goal": goal, "due": due})
        set_task(self.group, work, self.tutor)
        at = f"/api/learners/{enrolment_of(self.learner).pk}"
        page = guardian.get(at).json()
        self.assertEqual([one["says"] for one in page["set_work"]], ["not started"])
        self.assertIn("Ana hasn’t started", page["help"][0])
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]), after=90)
        self.clock.forward(days=2)
        page = guardian.get(at).json()
        self.assertEqual([one["says"] for one in page["set_work"]], ["late"])
        self.assertRegex(page["help"][0], "is late. Ask when they have time")
        self.assertEqual(page["weeks"][-1]["minutes"], 2)
        self.assertEqual(self.desk.get(at).json()["help"], [], "that is for home")
