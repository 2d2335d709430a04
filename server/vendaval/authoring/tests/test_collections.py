"""A group's own questions: written by its tutor, asked there alone, counted once adopted."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.test import Client

from vendaval.bank.kept import kept_files
from vendaval.bank.loading import load_pack
from vendaval.bank.models import Family
from vendaval.bank.snapshot import course_bank
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData
from vendaval.exams.composing.actions import give, problems_of
from vendaval.exams.models import Test
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.levels.models import Observation
from vendaval.people.models import Role
from vendaval.shared.errors import Unprocessable
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    an_account,
    enrolment_of,
    learning_for,
    right,
    with_role,
)
from vendaval_core.packs.located import PackInvalid
from vendaval_core.tests.courses import inshore

TOPIC = "height-at-a-time"


class CollectionTests(CourseTestCase):
    """Clara, who has a group with Ana in it; Bia learns in another."""

    def setUp(self) -> None:
        super().setUp()
        self.clara, self.desk = with_role(self.course, Role.TUTOR), Client()
        self.group = Group.objects.create(course=self.course, title="Evening class")
        put_in_charge(self.group, self.clara)
        self.desk.force_login(self.clara)
        join_group(self.group, enrolment_of(self.learner))
        self.other = Group.objects.create(course=self.course, title="Morning class")
        self.bia = a_learner(self.course, "bia")
        join_group(self.other, enrolment_of(self.bia))

    def send(self, method: str, path: str, body: Any = None, desk: Client | None = None) -> Any:
        at = f"/api/courses/{self.course.key}/authoring{path}"
        asked = desk or self.desk
        if method == "get":
            return asked.get(at)
        return asked.post(at, json.dumps(body), "application/json")

    def begun(self, title: str = "Depth in the lock") -> dict[str, Any]:
        body = {"topic": TOPIC, "title": title, "start": "number", "group": self.group.pk}
        reply = self.send("post", "/families", body)
        self.assertEqual(reply.status_code, 200, reply.content)
        return dict(reply.json())

    def published(self) -> str:
        page = self.begun()
        at = f"/families/{page['key']}"
        found = self.send("get", f"{at}/publishing").json()
        self.assertEqual(found["problems"], [])
        body = {"version": found["version"], "why": "For Thursday.", "keeps": True}
        reply = self.send("post", f"{at}/publish", body)
        self.assertEqual(reply.status_code, 200, reply.content)
        self.course.refresh_from_db()
        self.group.refresh_from_db()
        return str(page["key"])

    def practise_own(self, key: str, status: int = 200) -> Any:
        goal = {"kind": "questions", "questions": 1, "families": [key]}
        return self.post(
            "/runs", {"purpose": "practice", "topics": [TOPIC], "goal": goal}, status=status
        )

    def test_asked_of_the_group_alone_and_counted_towards_no_level(self) -> None:
        before = learning_for(self.learner).bank.digest
        key = self.published()
        (line,) = self.desk.get(f"/api/groups/{self.group.pk}/questions").json()["questions"]
        self.assertEqual((line["key"], line["published"], line["drafted"]), (key, True, False))
        self.assertEqual(self.get("/practice-plan")["own"], {"families": [key], "topics": [TOPIC]})
        bank = course_bank(self.course)
        self.assertNotEqual(bank.digest, before)
        self.assertNotIn(key, bank.table.keys)
        question = self.practise_own(key)["question"]
        levels = learning_for(self.learner).readings
        reply = self.answer(question["id"], right(question["id"]))
        self.assertIn("your group’s own question", json.dumps(reply, ensure_ascii=False))
        seen = Observation.objects.get()
        self.assertEqual((seen.weight, seen.reason, seen.family.key), (0, "collection", key))
        after = learning_for(self.learner)
        self.assertEqual(after.readings, levels)
        self.assertEqual(after.answers_in(bank.topic(TOPIC).number), 0)
        (line,) = self.desk.get(f"/api/groups/{self.group.pk}/questions").json()["questions"]
        self.assertEqual((line["answers"], line["right"]), (1, 100))
        self.client.force_login(self.bia)
        self.assertIsNone(self.get("/practice-plan")["own"])
        self.practise_own(key, status=422)

    def test_adopted_it_is_the_courses_and_counts_from_then_on(self) -> None:
        key = self.published()
        question = self.practise_own(key)["question"]
        rui, at = Client(), f"/families/{key}/adopt"
        self.assertEqual(self.send("post", at).status_code, 404, "a tutor can’t")
        rui.force_login(with_role(self.course, Role.AUTHOR))
        self.assertEqual(
            self.send("get", f"/families/{key}", desk=rui).json()["group"], "Evening class"
        )
        self.assertEqual(self.send("post", at, desk=rui).json()["group"], "")
        self.assertEqual(self.send("post", at, desk=rui).status_code, 409)
        self.answer(question["id"], right(question["id"]))
        self.assertEqual(Observation.objects.get().weight, 1)
        self.assertIn(f"topics/{TOPIC}/{key}.yaml", kept_files(self.course))
        self.assertEqual(self.send("get", f"/families/{key}").status_code, 404, "it was Clara’s")

    def test_tests_with_them_are_for_that_group_alone(self) -> None:
        key = self.published()
        entries = [EntryData(families=[key])]
        composition = CompositionData(sections=[SectionData(title="All", entries=entries)])
        self.assertEqual(problems_of(self.course, composition, RulesData(), self.clara), {})
        dora = an_account("dora")
        put_in_charge(self.other, dora)
        self.assertNotEqual(problems_of(self.course, composition, RulesData(), dora), {})
        at = f"/api/courses/{self.course.key}/bank?words=lock"
        self.assertEqual(self.desk.get(at).json()["families"][0]["own"], True)
        self.client.force_login(dora)
        self.assertEqual(self.client.get(at).json()["total"], 0)
        self.assertEqual(self.get(f"/bank/{key}", status=404)["code"], "not_found")
        test = Test.objects.create(
            course=self.course, title="Own", composition=composition, made_at=self.clock()
        )
        closes = self.clock() + timedelta(days=1)
        give(test, self.group, self.clara, closes=closes)
        with self.assertRaises(Unprocessable) as refused:
            give(test, self.other, self.clara, closes=closes)
        self.assertEqual(set(refused.exception.fields), {"group"})

    def test_it_takes_no_room_from_authors_and_is_in_no_trial(self) -> None:
        key = self.published()
        with patch("vendaval.authoring.drafts.MOST_OWN_DRAFTS", 1):
            self.begun("One more")
            body = {"topic": TOPIC, "title": "Too many", "start": "number", "group": self.group.pk}
            self.assertEqual(self.send("post", "/families", body).status_code, 409)
        rui = Client()
        rui.force_login(with_role(self.course, Role.AUTHOR))
        trial = {"family": key, "place": "hints.0", "first": "One.", "second": "Two.", "weeks": 4}
        reply = self.send("post", "/trials", trial, desk=rui)
        self.assertEqual((reply.status_code, reply.json()["code"]), (409, "own_question"))

    def test_no_pack_has_it_and_none_takes_it(self) -> None:
        key = self.published()
        self.assertNotIn(f"topics/{TOPIC}/{key}.yaml", kept_files(self.course))
        load_pack(inshore())
        self.assertTrue(Family.objects.get(key=key).live)
        family = Family.objects.get(course=self.course, key="time-for-height")
        self.group.refresh_from_db()
        family.collection = self.group.collection
        family.save()
        with self.assertRaises(PackInvalid):
            load_pack(inshore())

    def test_who_may_not(self) -> None:
        page = self.begun()
        self.assertEqual(self.send("get", "/families/time-for-height").status_code, 404)
        dora, at = an_account("dora"), f"/families/{page['key']}"
        put_in_charge(self.other, dora)
        theirs = Client()
        theirs.force_login(dora)
        for path in ("", "/publishing", "/history", "/wrong-answers"):
            self.assertEqual(self.send("get", at + path, desk=theirs).status_code, 404)
        body = {"topic": TOPIC, "title": "Not mine", "start": "number"}
        self.assertEqual(self.send("post", "/families", body).status_code, 404)
        body["group"] = self.other.pk
        self.assertEqual(self.send("post", "/families", body).status_code, 404)
        self.assertEqual(theirs.get(f"/api/groups/{self.group.pk}/questions").status_code, 404)
