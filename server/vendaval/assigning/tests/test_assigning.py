"""Work that is no test: set for a group or some of it, begun and done by learners, told in time."""

from __future__ import annotations

import json
from typing import Any

from django.test import Client

from vendaval.assigning.messages import note_due_soon
from vendaval.assigning.models import Task
from vendaval.bank.snapshot import course_bank
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData
from vendaval.exams.composing.actions import give, make_test
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.notices.models import Notice, NoticeKind
from vendaval.people.models import Role
from vendaval.shared.tests.editing import put_over
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    enrolment_of,
    right,
    with_role,
    wrong,
)


class AssigningTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        join_group(self.group, enrolment_of(self.learner))
        tutor, self.desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, tutor)
        self.desk.force_login(tutor)

    def ask(self, path: str, body: Any = None, *, status: int = 200, method: str = "POST") -> Any:
        way = "GET" if body is None and method == "POST" else method
        address = f"/api/groups/{self.group.pk}/tasks{path}"
        if way == "PUT":
            reply = put_over(self.desk, address, body)
        else:
            reply = self.desk.generic(way, address, json.dumps(body or {}), "application/json")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def set_work(self, goal: dict[str, Any], **more: Any) -> Any:
        return self.ask("", {"goal": goal} | more)["tasks"][0]

    def state(self) -> tuple[str, int, int]:
        """As the tutor sees it; the learner sees the same."""
        task = self.ask("")["tasks"][0]
        (line,) = task["learners"]
        own = self.get(f"/work/{task['id']}")
        self.assertEqual(own["state"], line["state"])
        return line["state"], line["done"], line["of"]

    def test_two_right_each_counts_from_when_it_was_set_and_without_help(self) -> None:
        ideas = [idea["key"] for idea in self.get("/topics/height-at-a-time")["ideas"]][:2]
        goal = {"kind": "ideas", "families": ideas}
        start = {"purpose": "practice", "topics": ["height-at-a-time"], "goal": goal}
        question = self.post("/runs", start)["question"]
        question = self.onward(self.answer(question["id"], right(question["id"])))
        self.clock.forward(minutes=1)
        self.set_work(goal, due="2026-03-03T09:00:00Z")
        self.assertEqual(self.state(), ("not_begun", 0, 4), "what came before counts for nothing")
        self.clock.forward(minutes=1)
        question = self.onward(self.answer(question["id"], right(question["id"])))
        self.assertEqual(self.state(), ("under_way", 1, 4))
        self.post(f"/questions/{question['id']}/hint")
        question = self.onward(self.answer(question["id"], right(question["id"])))
        self.assertEqual(self.state(), ("under_way", 1, 4), "helped, so it shows nothing yet")
        self.clock.forward(days=1)
        self.assertEqual(self.state()[0], "late")

    def test_what_a_test_holds_back_is_not_told_by_set_work(self) -> None:
        bank = course_bank(self.course)
        family = next(
            key
            for key, item in bank.families.items()
            if item.family.topic == "tidal-terms" and item.family.versions > 3
        )
        entries = [EntryData(families=[family])]
        composition = CompositionData(sections=[SectionData(title="All", entries=entries)])
        rules = RulesData.model_validate({"release": {"score": "never", "correctness": "never"}})
        given = give(make_test(self.course, "Held", composition, rules, None), self.group, None)
        self.set_work({"kind": "ideas", "families": [family]})
        attempt = self.post(f"/tests/given-{given.pk}/start")
        interval = self.post(f"/attempts/{attempt['id']}/enter")["interval"]
        question = attempt["places"][0]["question"]["id"]
        data = {"responses": right(question)}
        body = {"interval": interval, "counter": 1, "seconds": 40, "data": data}
        at = self.address(f"/attempts/{attempt['id']}/answers/1")
        self.client.put(at, json.dumps(body), "application/json")
        self.post(f"/attempts/{attempt['id']}/hand-in", {"interval": interval})
        self.assertEqual(self.state(), ("not_begun", 0, 2))

    def test_questions_a_study_section_and_a_diagnostic(self) -> None:
        self.set_work({"kind": "questions", "topics": ["tidal-terms"], "questions": 2})
        start = {"purpose": "practice", "topics": ["tidal-terms"]}
        question = self.post("/runs", start)["question"]
        self.answer(question["id"], wrong(question["id"]))
        self.assertEqual(self.state(), ("under_way", 1, 2), "wrong ones are answered too")
        section = {"topic": "tidal-terms", "section": "datums"}
        self.set_work({"kind": "study", "sections": [section]})
        self.assertEqual(self.state(), ("not_begun", 0, 1))
        self.post("/study/tidal-terms/datums/opened")
        self.assertEqual(self.state(), ("done", 1, 1))
        self.set_work({"kind": "diagnostic", "subject": "tides"})
        run = self.post("/runs", {"purpose": "diagnostic", "subject": "tides"})
        self.assertEqual(self.state(), ("under_way", 0, 1))
        self.answer(run["question"]["id"], right(run["question"]["id"]))
        self.post(f"/runs/{run['run']['id']}/finish")
        self.assertEqual(self.state(), ("done", 1, 1))
        self.set_work({"kind": "diagnostic", "subject": None})
        self.assertEqual(self.state(), ("not_begun", 0, 1), "one of tides is none of all")
        self.post("/runs", {"purpose": "diagnostic", "subject": "weather"})
        self.assertEqual(self.state(), ("not_begun", 0, 1))
        self.post("/runs", {"purpose": "diagnostic", "subject": None})
        self.assertEqual(self.state(), ("under_way", 0, 1))
        waiting = [task["kind"] for task in self.get("/work/waiting")["tasks"]]
        self.assertEqual(set(waiting), {"questions", "diagnostic"}, "what is done waits no more")

    def test_what_cannot_be_is_refused_and_some_have_it(self) -> None:
        self.group.settings.not_taught = ["buoyage"]
        self.group.save()
        goal = {"kind": "target", "topics": ["buoyage"]}
        dates = {"opens": "2026-03-05T09:00:00Z", "due": "2026-03-04T09:00:00Z"}
        first = [{"topic": "tidal-terms", "section": "gone"}]
        wanted = {"goal": goal, "first": first} | dates
        found = self.ask("/check", wanted)["problems"]
        self.assertEqual(set(found), {"goal.topics", "due", "first"})
        self.assertEqual(self.ask("", wanted, status=422)["fields"], found)
        self.assertEqual(Task.objects.count(), 0)
        other = enrolment_of(a_learner(self.course, "bea"))
        join_group(self.group, other)
        goal = {"kind": "target", "topics": ["tidal-terms"]}
        said = self.ask("/check", {"goal": goal, "learners": [other.pk]})
        self.assertEqual((said["learners"], said["title"]), (1, "Practise tidal terms"))
        self.assertGreaterEqual(said["most"], said["minutes"])
        self.assertGreater(said["minutes"], 0)
        task = self.set_work(goal, learners=[other.pk])
        self.assertEqual([line["learner"] for line in task["learners"]], [other.pk])
        self.assertEqual(self.get("/work")["tasks"], [])
        reply = self.client.get(self.address(f"/work/{task['id']}"))
        self.assertEqual(reply.status_code, 404)
        self.ask(f"/{task['id']}", {"goal": goal}, method="PUT")
        self.assertEqual(len(self.get("/work")["tasks"]), 1)
        self.ask(f"/{task['id']}", method="DELETE")
        self.assertEqual(self.get("/work")["tasks"], [])

    def test_learners_are_told_when_it_is_set_and_once_before_it_is_due(self) -> None:
        goal = {"kind": "questions", "topics": ["tidal-terms"], "questions": 1}
        self.set_work(goal, due="2026-03-05T09:00:00Z")
        self.assertEqual(Notice.objects.filter(kind=NoticeKind.WORK_SET).count(), 1)
        self.assertEqual(note_due_soon(), 0, "three days before it is too early")
        self.clock.forward(days=2)
        self.assertEqual((note_due_soon(), note_due_soon()), (1, 0))
        question = self.post("/runs", {"purpose": "practice", "topics": ["tidal-terms"]})[
            "question"
        ]
        self.answer(question["id"], right(question["id"]))
        Notice.objects.all().delete()
        self.assertEqual(note_due_soon(), 0, "nobody is told of what they have done")

    def test_the_page_of_a_group_asks_as_much_for_many_as_for_one(self) -> None:
        for goal in (
            {"kind": "target", "topics": ["tidal-terms"]},
            {"kind": "study", "sections": [{"topic": "tidal-terms", "section": "datums"}]},
            {"kind": "diagnostic"},
        ):
            self.set_work(goal)
        for number in range(4):
            join_group(self.group, enrolment_of(a_learner(self.course, f"more{number}")))
        with self.assertNumQueries(11):
            self.ask("")
        goal = {"kind": "target", "topics": ["tidal-terms"]}
        with self.assertNumQueries(4):
            self.ask("/check", {"goal": goal})
