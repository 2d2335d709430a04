"""Files and links handed in with set work: asked for, added, handed in, taken back, marked."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

from django.test import Client

from vendaval.files.models import StoredFile
from vendaval.files.tests.test_files import FilesCase, photograph
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.notices.models import Notice, NoticeKind
from vendaval.people.models import Role
from vendaval.work.tests.builders import a_learner, enrolment_of, with_role


class HandInTests(FilesCase):
    def setUp(self) -> None:
        super().setUp()
        tutor, self.desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, tutor)
        self.desk.force_login(tutor)

    def tasks(self, path: str = "", body: Any = None, *, status: int = 200) -> Any:
        address = f"/api/groups/{self.group.pk}/tasks{path}"
        if body is None:
            reply = self.desk.get(address)
        else:
            reply = self.desk.post(address, json.dumps(body), "application/json")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def set_work(self, goal: dict[str, Any], asks: dict[str, Any], **more: Any) -> int:
        return int(self.tasks("", {"goal": goal, "asks": asks} | more)["tasks"][0]["id"])

    def links(self, task: int, links: list[str], status: int = 200) -> Any:
        reply = self.client.put(
            self.address(f"/work/{task}/hand-in/links"),
            json.dumps({"links": links}),
            "application/json",
        )
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def add(self, task: int, name: str, data: bytes) -> Any:
        file = self.post(f"/work/{task}/hand-in/files", {"name": name, "size": len(data)})
        for number in file["missing"]:
            file = self.chunk(file["id"], number, data)
        return file

    def state(self, task: int) -> tuple[str, str]:
        (line,) = self.tasks()["tasks"][0]["learners"]
        own = self.get(f"/work/{task}")
        self.assertEqual(own["state"], line["state"])
        return own["state"], own["made"]

    def test_a_file_and_a_link_from_asking_to_the_marks(self) -> None:
        asks = {"files": "must", "links": "must", "says": "Your **plan**.", "points": 10}
        goal = {"kind": "hand_in"}
        said = self.tasks("/check", {"goal": goal, "asks": {}})
        self.assertIn("asks.files", said["problems"])
        due = (self.clock() + timedelta(days=2)).isoformat()
        task = self.set_work(goal, asks, title="A passage plan", due=due)
        page = self.get(f"/work/{task}/hand-in")
        self.assertEqual(page["says_html"], "<p>Your <strong>plan</strong>.</p>")
        self.assertIn("Add a file", page["lacking"])
        self.assertEqual(self.state(task), ("not_begun", "not handed in"))
        self.post(f"/work/{task}/hand-in", status=409)
        file = self.add(task, "plan.jpg", photograph(300))
        said = self.links(task, ["https://plans.example/1", "javascript:alert(1)"], status=422)
        self.assertEqual(list(said["fields"]), ["links.1"])
        self.links(task, ["https://plans.example/1", " "])
        begun = self.post(f"/work/{task}/hand-in/files", {"name": "more.pdf", "size": 9})
        self.assertEqual(self.post(f"/work/{task}/hand-in", status=409)["code"], "file_under_way")
        self.client.delete(self.address(f"/files/{begun['id']}"))
        (none,) = self.tasks(f"/{task}/hand-ins")["learners"]
        self.assertEqual((none["files"], none["links"]), ([], []), "not before it is handed in")
        hidden = self.desk.get(f"/api/learners/{none['learner']}/files/{file['id']}/content")
        self.assertEqual(hidden.status_code, 404)
        self.tasks(f"/{task}/hand-ins/{none['learner']}", {"points": 5, "seen": ""}, status=404)

        self.post(f"/work/{task}/hand-in")
        at = self.clock()
        self.clock.forward(minutes=5)
        self.assertEqual(self.post(f"/work/{task}/hand-in")["handed_in"][:19], at.isoformat()[:19])
        self.assertEqual(self.state(task), ("done", "handed in"))
        refused = self.client.delete(self.address(f"/files/{file['id']}"))
        self.assertEqual(refused.status_code, 409)
        self.links(task, [], status=409)
        self.before = self.tasks(f"/{task}/hand-ins")["learners"][0]["version"]
        self.client.delete(self.address(f"/work/{task}/hand-in"))
        self.assertEqual(self.state(task)[0], "not_begun")
        self.clock.forward(days=3)
        self.post(f"/work/{task}/hand-in")
        self.assertEqual(self.state(task)[0], "done_late")

        self.assertEqual(self.tasks()["tasks"][0]["to_mark"], 1)
        (waiting,) = self.desk.get("/api/hand-ins").json()["tasks"]
        self.assertEqual((waiting["title"], waiting["waiting"]), ("A passage plan", 1))
        (line,) = self.tasks(f"/{task}/hand-ins")["learners"]
        self.assertTrue(line["late"])
        self.assertEqual(line["links"], ["https://plans.example/1"])
        seen = self.saved(self.desk, f"{line['files'][0]['path']}/content")
        self.assertEqual(seen[:3], b"\xff\xd8\xff")
        place = f"/{task}/hand-ins/{line['learner']}"
        seen_as = {"seen": line["version"]}
        for wrong in ({"points": 11}, {"points": -1}, {"comment": "No points."}):
            self.tasks(place, wrong | seen_as, status=422)
        self.tasks(place, {"points": 3, "seen": self.before}, status=409)
        self.tasks(place, {"points": 7.5, "comment": "Where is the tide?"} | seen_as)
        again = self.tasks(place, {"points": 2} | seen_as, status=409)
        self.assertEqual(again["code"], "marked_elsewhere", "a second tutor overwrites nothing")
        mark = self.get(f"/work/{task}/hand-in")["mark"]
        self.assertEqual((mark["points"], mark["of"]), ("7.5", 10))
        self.assertEqual(mark["comment"], "Where is the tide?")
        self.assertEqual(Notice.objects.filter(kind=NoticeKind.MARKS_OUT).count(), 1)
        self.assertEqual(self.client.delete(self.address(f"/work/{task}/hand-in")).status_code, 409)
        self.assertEqual(self.tasks()["tasks"][0]["to_mark"], 0)
        self.assertEqual(self.desk.get("/api/hand-ins").json()["tasks"], [])

    def test_practice_that_also_asks_for_a_file_is_done_once_both_are(self) -> None:
        goal = {"kind": "study", "sections": [{"topic": "tidal-terms", "section": "words"}]}
        task = self.set_work(goal, {"files": "must", "links": "none"})
        self.post("/study/tidal-terms/words/opened")
        self.assertEqual(self.state(task), ("under_way", "1 of 1 section read"))
        self.links(task, ["https://a.example"], status=404)
        self.add(task, "notes.txt", b"HW 14:05")
        self.post(f"/work/{task}/hand-in")
        self.assertEqual(self.state(task)[0], "done")

    def test_nobody_else_has_it(self) -> None:
        asks = {"files": "may", "links": "may"}
        task = self.set_work({"kind": "hand_in"}, asks)
        file = self.add(task, "mine.txt", b"mine")
        other = Client()
        rival = a_learner(self.course, "rui")
        join_group(self.group, enrolment_of(rival))
        other.force_login(rival)
        for path in (f"/files/{file['id']}/content", f"/files/{file['id']}/pages/1"):
            self.assertEqual(other.get(self.address(path)).status_code, 404)
        self.assertEqual(other.delete(self.address(f"/files/{file['id']}")).status_code, 404)
        own = other.get(self.address(f"/work/{task}/hand-in")).json()
        self.assertEqual(own["files"], [])
        plain = self.set_work({"kind": "target", "topics": ["buoyage"]}, {})
        self.get(f"/work/{plain}/hand-in", status=404)
        self.assertEqual(StoredFile.objects.count(), 1)
