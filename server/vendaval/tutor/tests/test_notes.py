"""Notes on learners, and tries that count no more."""

from __future__ import annotations

import json
from typing import Any

from django.test import Client

from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.levels.rebuild import rebuilt_state
from vendaval.people.actions import link_guardian
from vendaval.people.models import AuditEntry, AuditKind, Role
from vendaval.work.models import Try
from vendaval.work.tests.builders import (
    CourseTestCase,
    an_account,
    enrolment_of,
    learning_for,
    with_role,
    wrong,
)


class NotesTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        self.enrolment = enrolment_of(self.learner)
        join_group(self.group, self.enrolment)
        tutor, self.desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, tutor)
        self.desk.force_login(tutor)

    def ask(
        self, path: str, body: Any = None, *, method: str = "", status: int = 200, who: Any = None
    ) -> Any:
        way = method or ("GET" if body is None else "POST")
        address = f"/api/learners/{self.enrolment.pk}{path}"
        reply = (who or self.desk).generic(way, address, json.dumps(body or {}), "application/json")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def test_a_learner_reads_shared_notes_only_and_a_guardian_none(self) -> None:
        self.ask("/notes", {"text": "Hurries. Ask about it."})
        self.ask("/notes", {"text": "Well done on tides.", "shared": True})
        self.assertEqual(len(self.ask("/notes")["notes"]), 2)
        own = self.get("/notes")["notes"]
        self.assertEqual([note["text"] for note in own], ["Well done on tides."])
        guardian, home = with_role(self.course, Role.GUARDIAN), Client()
        link_guardian(guardian, self.learner)
        home.force_login(guardian)
        self.ask("/notes", who=home, status=404)
        other, second = an_account("bento"), Client()
        put_in_charge(self.group, other)
        second.force_login(other)
        note = self.ask("/notes", who=second)["notes"][0]["id"]
        self.ask(f"/notes/{note}", method="DELETE", who=second, status=404)
        self.ask(f"/notes/{note}", method="DELETE")
        self.assertEqual(self.get("/notes")["notes"], [])

    def test_a_voided_try_counts_for_no_level_until_it_counts_again(self) -> None:
        question = self.practise("tidal-terms")
        untouched = learning_for(self.learner).state.rows.copy()
        self.answer(question["id"], wrong(question["id"]))
        answered = learning_for(self.learner).readings
        tried = Try.objects.get()
        at = f"/tries/{tried.pk}/void"
        page = self.ask(at, {"why": "A brother answered."})
        self.assertEqual(page["voided"]["why"], "A brother answered.")
        self.assertLess(abs(learning_for(self.learner).state.rows - untouched).max(), 0.05)
        self.assertNotEqual(learning_for(self.learner).readings, answered)
        self.assert_as_the_log()
        mine = self.get(f"/record/tries/{tried.pk}")
        self.assertEqual(mine["voided"]["why"], "A brother answered.", "the learner is told")
        self.ask(at, {"why": "Again."}, status=409)
        self.assertIsNone(self.ask(at, method="DELETE")["voided"])
        self.assertEqual(learning_for(self.learner).readings, answered)
        self.assert_as_the_log()
        self.ask(at, method="DELETE", status=409)
        self.ask("/tries/999999/void", {"why": "Nobody’s."}, status=404)
        self.assertEqual(AuditEntry.objects.filter(kind=AuditKind.VOIDED).count(), 2)

    def assert_as_the_log(self) -> None:
        learning = learning_for(self.learner)
        rebuilt = rebuilt_state(learning.enrolment.pk, learning.bank)
        self.assertLess(abs(rebuilt.rows - learning.state.rows).max(), 1e-9)
