"""A tutor's practice learner: sees what learners see, counts for nobody, leads back."""

from __future__ import annotations

from typing import Any

from django.test import Client

from vendaval.exams.tests.builders import ExamTestCase
from vendaval.groups.actions import put_in_charge
from vendaval.measurement.queries import log_answers
from vendaval.people.models import AuditEntry, AuditKind, Role, User
from vendaval.people.sessions import end_sessions
from vendaval.work.tests.builders import with_role


class PracticeLearnerTests(ExamTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.tutor = with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, self.tutor)
        self.client.force_login(self.tutor)

    def begin_practice(self, *, status: int = 200) -> Any:
        return self.post("/practice-learner", status=status)

    def test_it_takes_a_test_of_the_group_and_counts_for_nobody(self) -> None:
        assignment = self.given()
        account = self.begin_practice()["account"]
        self.assertTrue(account["practising"])
        self.assertEqual(account["roles"], ["learner"])
        for _ in range(2):
            self.assertEqual(self.taken(assignment, 2)["ref"], f"given-{assignment.pk}")
        self.assertEqual(log_answers(self.course), {})
        self.assertEqual(self.begin_practice(status=409)["code"], "practising")
        back = self.client.delete("/api/practice-learner").json()["account"]
        self.assertEqual((back["id"], back["practising"]), (self.tutor.pk, False))
        tests = self.client.get(f"/api/groups/{self.group.pk}/tests").json()["tests"]
        self.assertEqual((tests[0]["states"]["not_begun"], tests[0]["mean"]), (1, None))
        again = self.begin_practice()["account"]
        self.assertEqual(again["id"], account["id"], "it is the same one")
        kinds = AuditEntry.objects.filter(kind=AuditKind.PRACTISING).count()
        self.assertEqual(kinds, 3)

    def test_it_goes_by_the_name_and_the_sessions_of_whose_it_is(self) -> None:
        self.begin_practice()
        self.client.delete("/api/practice-learner")
        User.objects.filter(pk=self.tutor.pk).update(display_name="Clara Nunes")
        self.assertEqual(self.begin_practice()["account"]["name"], "Clara Nunes, practising")
        end_sessions(self.tutor)
        self.assertIsNone(self.client.get("/api/session").json()["account"])

    def test_nobody_else_has_one_and_nobody_comes_back_as_somebody_else(self) -> None:
        self.client.force_login(self.learner)
        self.begin_practice(status=404)
        self.assertEqual(self.client.delete("/api/practice-learner").status_code, 409)
        self.client.force_login(self.tutor)
        self.begin_practice()
        self.tutor.is_active = False
        self.tutor.save()
        self.assertEqual(self.client.delete("/api/practice-learner").status_code, 409)
        learner = User.objects.get(practice_for=self.tutor)
        self.assertFalse(learner.has_usable_password())
        body = {"username": learner.username, "password": ""}
        reply = Client().post("/api/session", body, content_type="application/json")
        self.assertIn(reply.status_code, {400, 401, 403, 422})
