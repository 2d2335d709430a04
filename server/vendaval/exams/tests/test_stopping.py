"""A question that is stopped: at once for everybody, without losing what was asked before."""

from __future__ import annotations

import json
from typing import Any

from django.test import Client

from vendaval.bank.loading import load_pack
from vendaval.bank.models import Family
from vendaval.bank.snapshot import course_bank
from vendaval.groups.actions import put_in_charge
from vendaval.people.models import Role
from vendaval.work.models import Presentation
from vendaval.work.tests.builders import inshore, with_role

from .builders import ExamTestCase


class StoppingTests(ExamTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.tutor, self.desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, self.tutor)
        self.desk.force_login(self.tutor)
        self.key = self.families[0]

    def ask(self, what: str, body: Any = None, status: int = 200) -> Any:
        at = f"/api/courses/{self.course.key}/bank/{self.key}/{what}"
        reply = (
            self.desk.get(at)
            if body is None
            else self.desk.post(at, json.dumps(body), "application/json")
        )
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def stop(self) -> Any:
        return self.ask("stop", {"why": "The key is wrong."})

    def family_of(self, state: Any) -> str:
        shown = Presentation.objects.get(pk=state["question"]["id"])
        return shown.revision.family.key

    def live(self) -> bool:
        self.course.refresh_from_db()
        return self.key in course_bank(self.course).families

    def test_a_test_under_way_keeps_it_and_a_new_one_leaves_it_out(self) -> None:
        later = {"answers": "last_attempt", "solutions": "last_attempt"}
        given = self.given(attempts=2, release=later)
        attempt = self.begin(given)
        means = self.ask("stopped")["means"]
        self.assertIn("One learner has it in “Tides and buoys” now.", means[1])
        self.stop()
        self.assertFalse(self.live())
        for number in range(1, 5):
            self.save(attempt, number, self.right_at(attempt, number))
        self.hand_in(attempt)
        total = self.row(attempt).total
        assert total is not None
        self.assertEqual((total.reached, total.of), (4, 4))
        self.assertEqual(self.get(f"/tests/given-{given.pk}")["lines"][0]["says"][:5], "Three")
        again = self.begin(given)
        places = self.row(again).places
        self.assertEqual([one.family for one in places], self.families[1:])

    def test_practice_gets_another_question(self) -> None:
        topic = course_bank(self.course).families[self.key].family.topic
        state = self.post("/runs", {"purpose": "practice", "topics": [topic]})
        self.key = self.family_of(state)
        self.assertIn("they get another question", self.ask("stopped")["means"][1])
        self.stop()
        run = state["run"]["id"]
        self.get(f"/runs/{run}")
        after = self.post(f"/runs/{run}/go-on")
        self.assertNotEqual(self.family_of(after), self.key)

    def test_asked_again_and_loaded_again(self) -> None:
        stopped = self.stop()
        self.assertEqual((stopped["stopped"], stopped["why"]), (True, "The key is wrong."))
        load_pack(inshore())
        self.assertFalse(self.live(), "a new pack does not bring it back")
        composed = self.desk.get(f"/api/courses/{self.course.key}/composed").json()
        self.assertEqual([one["family"] for one in composed["stopped"]], [self.key])
        self.assertFalse(self.ask("ask", {})["stopped"])
        self.assertTrue(self.live())

    def test_not_the_last_of_its_topic(self) -> None:
        topic = Family.objects.get(course=self.course, key=self.key).topic_id
        Family.objects.filter(topic=topic).exclude(key=self.key).update(live=False)
        refused = self.ask("stop", {"why": "The key is wrong."}, 409)
        self.assertEqual(refused["code"], "last_of_topic")
