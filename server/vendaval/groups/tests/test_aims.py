"""What a group sets holds for its members at once: taught, targets, tries, confidence; codes."""

from datetime import date, timedelta
from typing import Any

from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from vendaval.groups.actions import (
    join_group,
    leave_group,
    make_join_code,
    put_in_charge,
    set_up_group,
)
from vendaval.groups.columns import GroupSettings
from vendaval.groups.models import Enrolment, Group
from vendaval.people.models import Guardianship, Role
from vendaval.shared.codes import LETTERS, new_code, shown_code, typed_code
from vendaval.shared.tests.editing import put_over
from vendaval.work.tests.builders import (
    CourseTestCase,
    an_account,
    enrolment_of,
    right,
    with_role,
    wrong,
)


class AimsTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        join_group(self.group, enrolment_of(self.learner))

    def set(self, **settings: Any) -> None:
        set_up_group(self.group, "Tuesday", GroupSettings(**settings))

    def line(self, key: str) -> dict[str, Any]:
        lines = [t for s in self.get("/topics")["subjects"] for t in s["topics"]]
        return next(line for line in lines if line["key"] == key)

    def test_what_is_not_taught_is_neither_asked_nor_counted(self) -> None:
        self.set(not_taught=["height-at-a-time", "clearance-windows"])
        self.assertEqual(self.line("height-at-a-time")["state"], "not_yet")
        self.assertIn("16 still unknown", self.get("/topics")["headline"])
        self.start_practice("height-at-a-time", status=409)
        run = self.diagnose("tides")["run"]
        self.assertEqual([topic["key"] for topic in run["topics"]], ["tidal-terms"])
        steps = [step["topic"] for step in self.get("/practice-plan")["steps"]]
        self.assertNotIn("height-at-a-time", steps)
        self.set(not_taught=["tidal-terms", "height-at-a-time", "clearance-windows"])
        self.diagnose("tides", status=409)
        self.set()
        self.assertEqual(self.line("height-at-a-time")["state"], "unknown")

    def test_a_target_moves_the_post_and_what_is_likely_enough(self) -> None:
        before = self.line("tidal-terms")["reading"]
        self.set(targets={"tidal-terms": 60})
        after = self.line("tidal-terms")["reading"]
        self.assertEqual((before["target"], after["target"]), (80, 60))
        self.assertGreater(after["chance"], before["chance"])
        question = self.practise("tidal-terms")
        told = self.answer(question["id"], right(question["id"]))["feedback"]["level"]
        self.assertEqual(told["after"]["target"], 60)
        self.assertEqual(self.line("buoyage")["reading"]["target"], 80)

    def test_tries_points_off_and_confidence_are_settings(self) -> None:
        """Common practice, no published source: four tries, a quarter off for each miss."""
        self.set(tries=4, miss_takes="1/4", asks_sure=False)
        question = self.practise_family("bridge-clearance")
        self.assertEqual(question["tries_all"], 4)
        self.assertNotIn("sure", question["can"])
        worth = []
        for turn in range(4):
            worth.append(question["worth_now"])
            given = dict.fromkeys(wrong(question["id"]), f"{turn + 1}77")
            question = self.answer(question["id"], given)["question"]
        self.assertEqual(worth, ["1", "0.75", "0.5", "0.25"])
        self.assertTrue(question["closed"])

    def test_own_targets_and_an_own_date_where_the_group_allows(self) -> None:
        exam = (self.clock().date() + timedelta(days=20)).isoformat()
        body = {"targets": {"buoyage": 90}, "exam_on": exam, "minutes": [30] * 7}
        self.put("/aims", body)
        self.assertEqual(self.line("buoyage")["reading"]["target"], 90)
        self.assertEqual(self.get("/today")["exam_on"], exam)
        self.set(own_aims=False, exam_on=date(2026, 3, 30))
        self.assertEqual(self.line("buoyage")["reading"]["target"], 80)
        self.assertEqual(self.get("/today")["exam_on"], "2026-03-30")
        self.assertEqual(self.get("/aims")["minutes"], [30] * 7)
        self.put("/aims", {"targets": {"knots": 70}}, status=422)
        past = (self.clock().date() - timedelta(days=1)).isoformat()
        self.assertIn("exam_on", self.put("/aims", body | {"exam_on": past}, status=422)["fields"])
        self.put("/aims", {"targets": {"buoyage": 20}}, status=422)
        self.put("/aims", {"minutes": [10, 20]}, status=422)

    def put(self, path: str, body: dict[str, Any], *, status: int = 200) -> Any:
        reply = put_over(self.client, self.address(path), body)
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def test_leaving_a_group_ends_what_it_set(self) -> None:
        self.set(targets={"buoyage": 60}, not_taught=["tidal-terms"])
        leave_group(self.group, enrolment_of(self.learner))
        self.assertEqual(self.line("buoyage")["reading"]["target"], 80)
        self.assertEqual(self.line("tidal-terms")["state"], "unknown")

    def test_an_answer_asks_no_more_of_the_database_for_aims(self) -> None:
        self.set(targets={"tidal-terms": 70}, not_taught=["buoyage"])
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        question = self.post(f"/questions/{question['id']}/fresh")["question"]
        given = right(question["id"])
        with CaptureQueriesContext(connection) as captured:
            self.answer(question["id"], given)
        asked = [
            q
            for q in captured
            if not q["sql"].startswith(("BEGIN", "COMMIT", "SAVEPOINT", "RELEASE"))
        ]
        self.assertLessEqual(len(asked), 13)


class CodeTests(CourseTestCase):
    def test_a_code_is_typed_as_it_is_read(self) -> None:
        code = new_code()
        self.assertLessEqual(set(code), set(LETTERS))
        for typed in (shown_code(code), code.lower(), f" {code[:4]} {code[4:]} "):
            self.assertEqual(typed_code(typed), code)

    def test_a_group_is_joined_until_the_code_ends(self) -> None:
        tutor = with_role(self.course, Role.TUTOR)
        group = Group.objects.create(course=self.course, title="Tuesday")
        put_in_charge(group, tutor)
        newcomer = Client()
        newcomer.force_login(an_account("rui"))

        def join(code: str) -> int:
            return newcomer.post("/api/join", {"code": code}, "application/json").status_code

        self.assertEqual(join("ABCD-EFGH"), 404)
        first, second = make_join_code(group, tutor), make_join_code(group, tutor)
        self.assertEqual(join(first.code), 404, "a new code ends the one before")
        self.clock.forward(days=7, seconds=1)
        self.assertEqual(join(second.code), 404)
        self.assertEqual(Enrolment.objects.filter(person__username="rui").count(), 0)
        third = make_join_code(group, tutor)
        self.assertEqual((join(third.code), join(third.code)), (200, 200))
        self.assertEqual(group.members.count(), 1, "joined twice is joined once")
        self.assertEqual(newcomer.get("/api/courses/inshore/today").status_code, 200)

    def test_a_guardian_is_linked_once_by_a_code_and_either_side_ends_it(self) -> None:
        code = self.client.post("/api/links/code").json()["code"]
        teresa, other = an_account("teresa"), an_account("other")
        guardian, stranger = Client(), Client()
        guardian.force_login(teresa)
        stranger.force_login(other)
        own = self.client.post("/api/links", {"code": code}, "application/json")
        self.assertEqual(own.status_code, 409, "not one’s own guardian")
        linked = guardian.post("/api/links", {"code": code}, "application/json")
        self.assertEqual(linked.json()["wards"][0]["name"], "Ana Lima")
        again = stranger.post("/api/links", {"code": code}, "application/json")
        self.assertEqual(again.status_code, 404, "a code opens once")
        link = linked.json()["wards"][0]["id"]
        learner = f"/api/learners/{enrolment_of(self.learner).pk}"
        self.assertEqual(guardian.get(learner).status_code, 200)
        self.assertEqual(stranger.delete(f"/api/links/{link}").status_code, 404)
        self.assertEqual(self.client.delete(f"/api/links/{link}").json()["guardians"], [])
        self.assertEqual(guardian.get(learner).status_code, 404)
        self.assertIsNotNone(Guardianship.objects.get().until)

    def test_a_course_that_is_open_is_begun_by_whoever_likes(self) -> None:
        newcomer = Client()
        newcomer.force_login(an_account("rui"))
        begin = "/api/courses/inshore/begin"
        self.assertEqual(newcomer.post(begin).status_code, 404)
        self.course.open_to_all = True
        self.course.save()
        listed = newcomer.get("/api/courses").json()
        self.assertEqual([one["key"] for one in listed["open"]], ["inshore"])
        self.assertEqual(newcomer.post(begin).status_code, 200)
        self.assertEqual(newcomer.post(begin).status_code, 404, "begun already")
        listed = newcomer.get("/api/courses").json()
        self.assertEqual(
            ([one["key"] for one in listed["courses"]], listed["open"]), (["inshore"], [])
        )
