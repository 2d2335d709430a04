"""A tutor sets a test: picked from the bank, checked field by field, given to the group."""

from __future__ import annotations

import json
from typing import Any

from django.test import Client

from vendaval.exams.models import Assignment, Test
from vendaval.groups.actions import put_in_charge
from vendaval.people.models import Role
from vendaval.work.tests.builders import enrolment_of, with_role

from .builders import ExamTestCase


class SettingTests(ExamTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.desk = Client()
        tutor = with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, tutor)
        self.desk.force_login(tutor)

    def ask(self, path: str, body: Any = None, *, status: int = 200) -> Any:
        address = f"/api/groups/{self.group.pk}{path}"
        if body is None:
            reply = self.desk.get(address)
        else:
            reply = self.desk.post(address, json.dumps(body), content_type="application/json")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def wanted(self, *families: str, **more: Any) -> dict[str, Any]:
        entries = [{"families": [key], "points": "2"} for key in families]
        composition = {"sections": [{"title": "All", "entries": entries}]}
        return {"title": "Tides", "composition": composition, "rules": {}} | more

    def test_the_bank_is_searched_and_looked_at(self) -> None:
        found = self.ask("/bank?topic=tidal-terms")
        self.assertEqual({line["topic"]["key"] for line in found["families"]}, {"tidal-terms"})
        self.assertTrue(found["families"][0]["essential"], "what everyone must manage comes first")
        self.assertEqual(self.ask("/bank?words=no-such-thing")["total"], 0)
        one = self.ask(f"/bank/{found['families'][0]['key']}?seed=3")["question"]
        self.assertTrue(one["solution"])
        self.ask("/bank/no-such-family", status=404)

    def test_what_cannot_be_is_said_field_by_field_and_nothing_is_stored(self) -> None:
        wrong = self.wanted(
            self.families[0],
            "gone",
            rules={"tries": 3, "telling": {"answers": "due"}, "pass_mark": "140"},
        )
        found = self.ask("/tests/check", wrong)["problems"]
        self.assertEqual(
            set(found),
            {
                "sections.0.entries.1.families",
                "rules.tries",
                "rules.telling.correctness",
                "rules.pass_mark",
                "due",
            },
        )
        refused = self.ask("/tests", wrong, status=422)
        self.assertEqual(refused["fields"], found)
        self.assertEqual((Test.objects.count(), Assignment.objects.count()), (0, 0))

    def test_one_learner_is_allowed_more_by_name_and_with_a_reason(self) -> None:
        assignment = self.given(minutes=20)
        at = f"/tests/{assignment.pk}/allowances"
        learner = enrolment_of(self.learner).pk
        wanted = {"learner": learner, "times": 1.25, "attempts": 1, "why": "as agreed"}
        (line,) = self.ask(at, wanted)["learners"]
        self.assertEqual(
            (line["allowance"]["times"], line["allowance"]["why"]), (1.25, "as agreed")
        )
        self.assertEqual(self.begin(assignment)["left"], 25 * 60)
        (line,) = self.ask(at, wanted | {"times": 1, "minutes": 3})["learners"]
        self.assertEqual(line["allowance"]["minutes"], 3, "the newest counts")
        early = {"opens": "2030-01-02T10:00:00Z", "closes": "2030-01-01T10:00:00Z"}
        self.assertIn("closes", self.ask(at, wanted | early, status=422)["fields"])
        self.ask(at, wanted | {"why": ""}, status=422)
        self.ask(at, wanted | {"learner": learner + 999}, status=404)

    def test_a_test_is_set_with_its_mirror_and_says_who_stands_where(self) -> None:
        said = self.ask("/tests/check", self.wanted(*self.families))
        self.assertEqual((said["questions"], said["points"], said["problems"]), (4, "8", {}))
        (line,) = self.ask("/tests", self.wanted(*self.families))["tests"]
        self.assertEqual(line["states"]["not_begun"], 1)
        self.assertEqual(Test.objects.filter(mirror_of__isnull=False).count(), 1)
        assignment = Assignment.objects.get()
        attempt = self.begin(assignment)
        self.assertEqual(self.ask("/tests")["tests"][0]["states"]["under_way"], 1)
        self.clock.forward(hours=2)
        self.assertEqual(self.ask("/tests")["tests"][0]["states"]["left"], 1)
        self.save(attempt, 1, self.right_at(attempt, 1))
        self.hand_in(attempt)
        (line,) = self.ask("/tests")["tests"]
        self.assertEqual((line["states"]["marked"], line["mean"]), (1, "25 %"))
