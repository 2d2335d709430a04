"""A test for several groups at once, and what a learner is allowed in every test."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

from django.test import Client

from vendaval.assigning.models import Task
from vendaval.exams.models import Assignment, Attempt
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.models import Role
from vendaval.work.tests.builders import a_learner, enrolment_of, with_role

from .builders import ExamTestCase


class DeskTestCase(ExamTestCase):
    """A tutor with three groups, a learner in each."""

    def setUp(self) -> None:
        super().setUp()
        self.tutor, self.desk = with_role(self.course, Role.TUTOR), Client()
        self.desk.force_login(self.tutor)
        self.groups = [self.group] + [
            Group.objects.create(course=self.course, title=title) for title in ("Sunday", "Friday")
        ]
        self.learners = [self.learner]
        for group in self.groups[1:]:
            learner = a_learner(self.course, f"of{group.title}")
            join_group(group, enrolment_of(learner))
            self.learners.append(learner)
        for group in self.groups:
            put_in_charge(group, self.tutor)

    def send(self, path: str, body: Any, method: str = "post", status: int = 200) -> Any:
        way = getattr(self.desk, method)
        reply = way(f"/api{path}", json.dumps(body, default=str), "application/json")
        self.assertEqual(reply.status_code, status, reply.content[:400])
        return reply.json()


class TogetherTests(DeskTestCase):
    def set_for_all(self, **more: Any) -> list[Assignment]:
        test = self.given(minutes=20).test
        Assignment.objects.all().delete()
        others = [group.pk for group in self.groups[1:]]
        self.send(f"/groups/{self.group.pk}/tests", {"test": test.pk, "also": others} | more)
        return list(Assignment.objects.order_by("pk"))

    def test_set_and_changed_together_or_apart(self) -> None:
        first, second, third = self.set_for_all()
        self.assertEqual([one.group for one in (first, second, third)], self.groups)
        address = f"/groups/{self.group.pk}/tests/{first.pk}"
        now = self.desk.get(f"/api{address}").json()
        self.assertEqual([one["title"] for one in now["shared"]], ["Sunday", "Friday"])
        due = self.clock() + timedelta(days=3)
        keys = ("opens", "closes", "pages", "pages_minutes", "mirror_early", "learners", "first")
        change = {key: now[key] for key in keys} | {"due": due}
        found = self.send(f"{address}?together=true", change | {"version": now["version"]}, "put")
        self.assertEqual(set(Assignment.objects.values_list("due", flat=True)), {due})
        alone = change | {"due": due + timedelta(days=1), "version": found["version"]}
        self.send(address, alone, "put")
        self.assertEqual(Assignment.objects.filter(due=due).count(), 2)

    def test_only_own_groups_of_the_course_and_only_whole_ones(self) -> None:
        test = self.given().test
        foreign = Group.objects.create(course=self.course, title="Foreign")
        at = f"/groups/{self.group.pk}/tests"
        before = Assignment.objects.count()
        self.send(at, {"test": test.pk, "also": [foreign.pk]}, status=404)
        some = {"learners": [enrolment_of(self.learner).pk], "also": [self.groups[1].pk]}
        self.send(at, {"test": test.pk} | some, status=422)
        self.assertEqual(Assignment.objects.count(), before)

    def test_results_together_or_apart(self) -> None:
        given = self.set_for_all()
        for learner, row in zip(self.learners, given, strict=True):
            self.client.force_login(learner)
            self.taken(row, 2)
        at = f"/api/groups/{self.group.pk}/tests/{given[0].pk}/outcomes"
        alone, together = (self.desk.get(at, {"together": way}).json() for way in ("0", "1"))
        self.assertEqual((len(alone["learners"]), len(together["learners"])), (1, 3))
        self.assertEqual(together["group"], "Tuesday, Sunday, Friday")
        self.assertEqual(alone["shared"], ["Sunday", "Friday"])

    def test_paused_resumed_and_extended_everywhere(self) -> None:
        given = self.set_for_all()
        begun = []
        for learner, row in zip(self.learners[:2], given[:2], strict=True):
            self.client.force_login(learner)
            begun.append(self.begin(row)["id"])
        sitting = f"/groups/{self.group.pk}/tests/{given[0].pk}/sitting"
        self.send(f"{sitting}/pause?together=true", {"why": "Fire alarm"})
        rows = Attempt.objects.in_bulk(begun)
        self.assertTrue(all(one.standing.paused for one in rows.values()))
        self.send(f"{sitting}/resume?together=true", {})
        self.send(f"{sitting}/time?together=true", {"minutes": 5, "why": "Fire alarm"})
        for one in Attempt.objects.filter(pk__in=begun):
            self.assertIsNone(one.standing.paused)
            self.assertEqual(one.standing.limits, [1500])

    def test_set_work_for_several_groups(self) -> None:
        goal = {"kind": "target", "topics": ["tidal-terms"]}
        body = {"goal": goal, "also": [self.groups[1].pk]}
        page = self.send(f"/groups/{self.group.pk}/tasks", body)
        self.assertEqual(Task.objects.count(), 2)
        self.assertNotEqual(page["tasks"][0]["batch"], "")
        due = self.clock() + timedelta(days=3)
        task = page["tasks"][0]
        change = {"goal": goal, "due": due, "version": task["version"], "title": "Terms"}
        self.send(f"/groups/{self.group.pk}/tasks/{task['id']}?together=true", change, "put")
        self.assertEqual(set(Task.objects.values_list("due", "title")), {(due, "Terms")})


class AccommodationTests(DeskTestCase):
    def test_used_by_every_test_unless_it_says_otherwise(self) -> None:
        first, second = self.given(minutes=20), self.given(minutes=20)
        own = f"/learners/{enrolment_of(self.learner).pk}/accommodation"
        body = {
            "times": 1.25,
            "large_print": True,
            "reader": True,
            "separate_room": True,
            "why": "As agreed",
        }
        found = self.send(own, body)
        says = ["1.25 times the time", "large print", "a reader", "a separate room"]
        self.assertEqual(found["says"], says)
        page = self.get(f"/tests/given-{first.pk}")
        self.assertEqual(
            page["allowed"], f"In every test you have {' and '.join(says)}: As agreed."
        )
        self.assertTrue(page["large_print"])
        attempt = self.begin(first)
        self.assertEqual(self.row(attempt).standing.limits, [1500])
        self.hand_in(attempt)
        allowance = {"learner": enrolment_of(self.learner).pk, "minutes": 1, "why": "Less here"}
        self.send(f"/groups/{self.group.pk}/tests/{second.pk}/allowances", allowance)
        self.assertEqual(self.row(self.begin(second)).standing.limits, [1260])
        desk = self.desk.get(f"/api/groups/{self.group.pk}/tests/{second.pk}/sitting").json()
        self.assertEqual(desk["learners"][0]["accommodation"], says)

    def test_a_reader_reads_aloud_where_the_test_has_no_such_tool(self) -> None:
        given = self.given(tools=["working"])
        own = f"/learners/{enrolment_of(self.learner).pk}/accommodation"
        self.send(own, {"reader": True})
        self.assertEqual(self.begin(given)["tools"], ["aloud", "working"])

    def test_more_time_reaches_a_test_under_way(self) -> None:
        attempt = self.begin(self.given(minutes=20))
        own = f"/learners/{enrolment_of(self.learner).pk}/accommodation"
        self.send(own, {"minutes": 10})
        self.assertEqual(self.row(attempt).standing.limits, [1800])
