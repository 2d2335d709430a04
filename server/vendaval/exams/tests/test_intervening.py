"""A tutor pauses a test, gives time, lets it go on, and reopens what was handed in by mistake."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

from django.test import Client

from vendaval.exams.models import Assignment, Attempt, Intervention
from vendaval.exams.taking.open_tests import waiting_tests
from vendaval.groups.actions import put_in_charge
from vendaval.levels.models import Observation
from vendaval.notices.models import Notice
from vendaval.people.models import AuditEntry, AuditKind
from vendaval.review.models import Miss, MissState
from vendaval.work.models import Presentation, Try, TryKind
from vendaval.work.tests.builders import an_account, enrolment_of

from .builders import ExamTestCase


class InterveningTests(ExamTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.tutor = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, self.tutor)
        self.desk = Client()
        self.desk.force_login(self.tutor)

    def ask(self, given: Assignment, path: str, body: Any = None, *, status: int = 200) -> Any:
        address = f"/api/groups/{self.group.pk}/tests/{given.pk}/sitting{path}"
        way = "GET" if body is None else "POST"
        reply = self.desk.generic(way, address, json.dumps(body or {}), "application/json")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def clock_of(self, attempt: Any) -> Any:
        return self.post(f"/attempts/{attempt['id']}/sign", {"interval": attempt["interval"]})

    def state(self, sitting: Any) -> str:
        return str(sitting["learners"][0]["state"])

    def test_a_pause_stops_the_clock_and_saves_for_everybody_and_is_in_the_history(self) -> None:
        closes = self.clock() + timedelta(minutes=30)
        given = self.given(minutes=10, closes=closes, release={"answers": "closed"})
        attempt = self.begin(given)
        self.clock.forward(minutes=4)
        self.clock_of(attempt)
        self.assertEqual(self.state(self.ask(given, "/pause", {"why": "A fire drill."})), "paused")
        self.clock.forward(seconds=20)
        refused = self.save(attempt, 1, self.right_at(attempt, 1), status=409)
        self.assertEqual(refused["code"], "paused")
        self.assertEqual(self.hand_in(attempt, status=409)["code"], "paused")
        self.clock.forward(minutes=40)
        clock = self.clock_of(attempt)
        self.assertEqual((clock["paused"], clock["left"]), ("A fire drill.", 360.0))
        (waits,) = waiting_tests(enrolment_of(self.learner), self.clock())
        self.assertEqual(waits.state, "under_way", "though it closed meanwhile")
        self.assertEqual(self.state(self.ask(given, "/resume", {})), "working")
        clock = self.clock_of(attempt)
        self.assertEqual((clock["paused"], clock["left"]), (None, 360.0))
        self.save(attempt, 1, self.right_at(attempt, 1), counter=2)
        history = self.ask(given, "")["learners"][0]["history"]
        self.assertEqual([one["says"] for one in history], ["paused", "resumed"])
        logged = AuditEntry.objects.filter(kind=AuditKind.SITTING).values_list("by", flat=True)
        self.assertEqual(list(logged), [self.tutor.pk] * 2)
        self.ask(given, "/resume", {}, status=409)

    def test_what_is_told_at_closing_waits_for_whoever_was_paused(self) -> None:
        """Whoever has handed in reads the answers only when the last one is through."""
        closes = self.clock() + timedelta(minutes=30)
        given = self.given(closes=closes, release={"answers": "closed", "solutions": "closed"})
        mine = self.taken(given, 3)
        ((_, theirs),) = self.begun_by(given, 1)
        self.ask(given, "/pause", {"attempts": [theirs["id"]], "why": "A fire drill."})
        self.clock.forward(minutes=35)

        def answers_told() -> bool:
            self.client.force_login(self.learner)
            self.get(f"/attempts/{mine['id']}/results")
            question = self.get(f"/attempts/{mine['id']}/results/4")["question"]
            return any(state["right_answer"] for state in question["states"])

        self.assertFalse(answers_told(), "it is paused over the closing time")
        self.ask(given, "/resume", {})
        self.clock.forward(minutes=20)
        self.assertFalse(answers_told(), "it goes on beyond it")
        self.clock.forward(minutes=20)
        self.assertTrue(answers_told())

    def test_work_is_late_only_by_what_no_pause_took(self) -> None:
        due = self.clock() + timedelta(minutes=20)
        closes = due + timedelta(days=1)
        given = self.given(minutes=30, due=due, closes=closes, late="less", late_off="1/10")
        attempt = self.begin(given)
        self.ask(given, "/pause", {"why": "A fire drill."})
        self.clock.forward(minutes=15)
        self.ask(given, "/resume", {})
        self.ask(given, "/time", {"minutes": 5, "why": "Noise."})
        self.assertEqual(self.row(attempt).due, due + timedelta(minutes=20))

    def test_minutes_more_for_all_who_sit_reach_the_page_and_the_end(self) -> None:
        given = self.given(minutes=10, closes=self.clock() + timedelta(minutes=11))
        self.ask(given, "/time", {"minutes": 5, "why": "A late start."}, status=409)
        attempt = self.begin(given)
        ((_, other),) = self.begun_by(given, 1)
        self.ask(given, "/time", {"minutes": 5, "why": "A late start."})
        self.ask(given, "/time", {"minutes": 2, "why": "Noise.", "attempts": [other["id"]]})
        self.ask(given, "/time", {"minutes": 2, "why": "Noise.", "attempts": [99]}, status=404)
        self.client.force_login(self.learner)
        self.assertEqual(self.clock_of(attempt)["left"], 900.0)
        self.clock.forward(minutes=14)
        self.save(attempt, 1, self.right_at(attempt, 1))
        self.clock.forward(minutes=1)
        self.clock_of(attempt)
        ends = dict(Attempt.objects.values_list("pk", "standing"))
        self.assertEqual(ends[attempt["id"]].handed_in_by, "clock")
        self.assertIsNone(ends[other["id"]].handed_in_at)

    def test_handed_in_by_mistake_it_goes_on_as_if_it_had_not_been(self) -> None:
        given = self.given(minutes=10)
        attempt = self.begin(given)
        self.save(attempt, 1, self.right_at(attempt, 1))
        self.save(attempt, 2, self.wrong_at(attempt, 2))
        self.clock.forward(minutes=3)
        self.hand_in(attempt)
        before = Observation.objects.filter(counts=True).count()
        self.assertEqual((before, Miss.objects.filter(state=MissState.OPEN).count()), (2, 1))
        self.clock.forward(minutes=60)
        check = self.ask(given, f"/{attempt['id']}/reopen")
        self.assertEqual((check["refused"], check["minutes"]), (None, 7.0))
        self.assertEqual(
            check["told"], ["points", "right and wrong", "right answers", "worked solutions"]
        )
        self.ask(given, f"/{attempt['id']}/reopen", {"why": "A slip of the finger.", "minutes": 1})
        self.assertEqual(Miss.objects.filter(state=MissState.OPEN).count(), 0)
        self.assertIn("A slip", Notice.objects.latest("pk").text)
        self.assertTrue(Presentation.objects.filter(in_open_test=True).count() >= 4)
        self.assertEqual(self.get("/record/tries")["total"], 0, "nothing of it is told meanwhile")
        page = self.get(f"/attempts/{attempt['id']}")
        self.assertEqual((page["handed_in"], page["places"][0]["state"]), (False, "answered"))
        clock = self.post(f"/attempts/{attempt['id']}/enter")
        self.assertEqual((clock["left"], clock["interval"]), (480.0, 2))
        attempt["interval"] = 2
        self.save(attempt, 2, self.right_at(attempt, 2), counter=2)
        self.hand_in(attempt)
        results = self.get(f"/attempts/{attempt['id']}/results")
        self.assertEqual(results["attempt"]["points"]["reached"], "2")
        self.assertEqual(len(self.get(f"/attempts/{attempt['id']}/results/1")["tries"]), 1)
        self.assertEqual(Miss.objects.filter(state=MissState.OPEN).count(), 0)
        aside = Try.objects.filter(kind=TryKind.SET_ASIDE).count()
        self.assertEqual((aside, self.get("/record/tries")["total"]), (2, 2))
        counting = {row.tried_id: row for row in Observation.objects.order_by("pk")}.values()
        self.assertEqual([row.weight for row in counting if row.counts], [1.0, 1.0])
        self.assertIn("shown before: points", Intervention.objects.get().says)
        entry = AuditEntry.objects.get(kind=AuditKind.TEST_REOPENED)
        self.assertEqual((entry.account, entry.by), (self.learner, self.tutor))

    def test_without_time_left_it_needs_some_and_some_cannot_be_reopened(self) -> None:
        never = {"answers": "never", "solutions": "never"}
        given = self.given(minutes=10, attempts=2, release=never)
        attempt = self.begin(given)
        path = f"/{attempt['id']}/reopen"
        self.assertIn("hasn’t been handed in", self.ask(given, path)["refused"])
        self.clock.forward(minutes=11)
        self.ask(given, "")
        refused = self.ask(given, path, {"why": "The power went."}, status=422)
        self.assertIn("minutes", refused["fields"])
        self.begin(given)
        self.assertIn("another attempt", self.ask(given, path)["refused"])
        told = self.ask(given, path, {"why": "The power went.", "minutes": 5}, status=409)
        self.assertEqual(told["code"], "cannot_reopen")
