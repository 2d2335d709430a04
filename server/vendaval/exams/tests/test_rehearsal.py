"""The whole test to rehearse: taken like any other, and it counts for nothing anywhere."""

from __future__ import annotations

from typing import Any

from vendaval.bank.snapshot import course_bank
from vendaval.exams.models import Attempt, Test
from vendaval.groups.actions import put_in_charge
from vendaval.levels.models import LearnerState, Observation
from vendaval.notices.models import Notice
from vendaval.people.models import Role
from vendaval.record.statements import statements
from vendaval.review.models import Miss
from vendaval.work.tests.builders import enrolment_of, with_role
from vendaval_core.assessment.rules import Tool

from .builders import ExamTestCase


class RehearsalTests(ExamTestCase):
    def rehearse(self) -> Any:
        attempt = self.post("/tests/rehearsal-0/start")
        clock = self.post(f"/attempts/{attempt['id']}/enter")
        return attempt | {"interval": clock["interval"]}

    def test_everything_is_in_it_and_nothing_counts(self) -> None:
        self.given()
        self.assertEqual(self.get("/work/waiting")["rehearsal"], "rehearsal-0")
        page = self.get("/tests/rehearsal-0")
        self.assertTrue(page["rehearsal"] and page["can_start"])
        self.assertFalse(Test.objects.filter(rehearsal=True).exists(), "looking begins nothing")
        before = list(LearnerState.objects.values_list("presented", "answers"))
        attempt = self.rehearse()
        self.assertEqual(set(attempt["tools"]), set(Tool))
        bank = course_bank(self.course)
        asked = {place.family for place in Attempt.objects.get().places}
        # What comes from elsewhere with its rules is answered as the kinds in it are.
        self.assertEqual(
            asked, set(bank.rehearsed) - {"28-by-rules"}, "each kind that authors write"
        )
        wrong = self.wrong_at(attempt, 1)
        self.save(attempt, 1, wrong)
        self.save(attempt, 3, self.right_at(attempt, 3))
        on = self.post(f"/attempts/{attempt['id']}/move-on", {"section": 0, "position": 26})
        self.assertEqual((on["position"], on["onward"]), (27, None))
        self.assertEqual(self.save(attempt, 26, {}, status=409)["code"], "behind")
        self.hand_in(attempt)
        results = self.get(f"/attempts/{attempt['id']}/results")
        points = results["attempt"]["points"]
        self.assertEqual((points["reached"], points["waiting"]), ("1", 0))
        told = {line["number"]: line["result"] for line in results["lines"]}
        self.assertEqual((told[1], told[3], told[7]), ("wrong", "right", "empty"))
        solved = self.get(f"/attempts/{attempt['id']}/results/1")
        self.assertIsNotNone(solved["question"]["solution"])
        self.assertFalse(solved["can_contest"])
        for model in (Observation, Miss, Notice):
            self.assertFalse(model.objects.exists())
        record = self.get("/record")
        self.assertEqual((record["tries"], record["minutes"], record["runs"]), (0, 0, []))
        self.assertEqual(self.get("/record/tries")["total"], 0)
        self.assertEqual(list(statements(enrolment_of(self.learner))), [])
        after = list(LearnerState.objects.values_list("presented", "answers"))
        self.assertIn(before, ([], after), "the learner’s state knows nothing of it")
        self.assertFalse(any(row[1] for row in after))
        self.assertEqual(len(self.get("/tests")["tests"]), 1, "the one that was given")
        self.assertIsNone(self.get("/work/waiting")["rehearsal"], "offered before the first only")
        again = self.rehearse()
        self.assertEqual((again["number"], again["places"][0]["data"]["responses"]), (2, {}))

    def test_what_a_tutor_would_mark_stays_out_of_the_points(self) -> None:
        attempt = self.rehearse()
        written = next(
            place for place in attempt["places"] if place["question"]["title"] == "Your own words"
        )
        self.save(attempt, written["number"], self.right_at(attempt, written["number"]))
        self.hand_in(attempt)
        results = self.get(f"/attempts/{attempt['id']}/results")
        self.assertEqual(results["lines"][written["number"] - 1]["result"], "by_hand")
        points = results["attempt"]["points"]
        self.assertEqual((points["of"], points["waiting"], points["reached"]), ("26", 0, "0"))

    def test_staff_find_it_nowhere_and_cannot_ask_its_questions(self) -> None:
        self.rehearse()
        tutor = with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, tutor)
        self.client.force_login(tutor)
        seen = self.client.get(f"/api/groups/{self.group.pk}").content.decode()
        self.assertIn(self.learner.display_name, seen)
        self.assertNotIn("Rehearsal", seen, "nothing that was begun and left")
        author = with_role(self.course, Role.AUTHOR)
        self.client.force_login(author)
        listed = self.client.get(f"/api/courses/{self.course.key}/composed").json()
        self.assertEqual(listed["tests"], [])
        rehearsal = Test.objects.get(rehearsal=True)
        found = self.client.get(f"/api/courses/{self.course.key}/composed/{rehearsal.pk}")
        self.assertEqual(found.status_code, 404)
