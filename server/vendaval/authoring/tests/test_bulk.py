"""Many questions changed at once, and what is left as it was."""

from __future__ import annotations

import json
from io import BytesIO
from typing import Any
from unittest.mock import patch
from zipfile import ZipFile

from vendaval.authoring.families import read_text
from vendaval.bank.kept import text_of
from vendaval.bank.models import Family, StoppedFamily
from vendaval.levels.learning import learning_of
from vendaval.people.models import AuditEntry
from vendaval.review.models import Miss
from vendaval.work.tests.builders import enrolment_of, wrong

from .builders import a_draft
from .test_publishing import AuthorTestCase

KEYS = ["coming-in", "cardinal-side", "bands"]


class BulkTests(AuthorTestCase):
    def change(self, do: str, families: list[str], status: int = 200, **more: Any) -> Any:
        body = {"families": families, "do": do, "why": "Looked at in June."} | more
        at = f"/api/courses/{self.course.key}/authoring/bank/change"
        reply = self.client.post(at, json.dumps(body), "application/json")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def texts(self) -> dict[str, str]:
        rows = Family.objects.filter(course=self.course, key__in=KEYS)
        found = rows.select_related("latest__source")
        return {row.key: text_of(row.latest) for row in found if row.latest is not None}

    def test_only_what_is_changed_is_written_anew(self) -> None:
        before = self.texts()
        a_draft(self.course, "bands", self.rui)
        told = self.change("difficulty", KEYS, difficulty=5)
        self.assertEqual(sorted(told["changed"]), sorted(KEYS[:2]))
        self.assertEqual(
            [(one["key"], "draft" in one["why"]) for one in told["left"]], [("bands", True)]
        )
        for key, text in self.texts().items():
            old = before[key]
            line = next(one for one in old.splitlines() if one.startswith("difficulty"))
            self.assertEqual(text, old if key == "bands" else old.replace(line, "difficulty: 5", 1))
        self.assertIn("coming-in", AuditEntry.objects.latest("pk").says)
        self.change("difficulty", KEYS, status=422)
        self.change("retire", ["coming-in", "unknown"], status=404)

    def test_a_question_moves_with_what_was_learnt_and_what_is_open(self) -> None:
        self.client.force_login(self.learner)
        question = self.practise_family("coming-in")
        self.answer(question["id"], wrong(question["id"]))
        self.client.force_login(self.rui)
        told = self.change("topic", ["coming-in"], topic="passage-planning")
        self.assertEqual((told["changed"], told["left"]), (["coming-in"], []))
        self.course.refresh_from_db()
        family = Family.objects.select_related("topic", "latest").get(key="coming-in")
        self.assertEqual(family.topic.key, "passage-planning")
        self.assertEqual(family.latest.data.study, "buoyage#lateral")
        self.assertEqual(Miss.objects.get().topic_id, family.topic_id)
        learning = learning_of(enrolment_of(self.learner))
        number = learning.bank.topic("passage-planning").number
        self.assertEqual(learning.answers_in(number), 1)
        low = learning.readings[number].level
        untouched = learning.readings[learning.bank.topic("wind-force").number].level
        self.assertLess(low, untouched, "the miss counts where the question is now")

    def test_what_was_published_meanwhile_is_not_written_over(self) -> None:
        other = Family.objects.get(course=self.course, key="bands").latest_id

        def meanwhile(*given: Any, **more: Any) -> Any:
            Family.objects.filter(course=self.course, key="coming-in").update(latest=other)
            return read_text(*given, **more)

        with patch("vendaval.authoring.bank.bulk.read_text", meanwhile):
            told = self.change("difficulty", ["coming-in"], status=409, difficulty=4)
        self.assertEqual(told["code"], "changed_since")

    def test_questions_are_stopped_but_for_the_last_of_a_topic(self) -> None:
        rows = Family.objects.filter(course=self.course, topic__key="buoyage", live=True)
        keys = sorted(rows.values_list("key", flat=True))
        told = self.change("retire", keys)
        self.assertEqual((len(told["changed"]), len(told["left"])), (len(keys) - 1, 1))
        self.assertEqual(StoppedFamily.objects.count(), len(keys) - 1)

    def test_their_files_are_those_of_the_pack(self) -> None:
        at = (
            f"/api/courses/{self.course.key}/authoring/bank/files?families=coming-in&families=bands"
        )
        with ZipFile(BytesIO(self.client.get(at).content)) as files:
            names = files.namelist()
            self.assertEqual(
                sorted(names), ["topics/buoyage/bands.yaml", "topics/buoyage/coming-in.yaml"]
            )
            self.assertEqual(
                files.read("topics/buoyage/bands.yaml").decode(), self.texts()["bands"]
            )
