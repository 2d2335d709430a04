"""The record and its files, held against the log itself."""

import csv
import json
import re
import uuid
from datetime import datetime, timedelta
from io import BytesIO, StringIO
from typing import Any

from django.test import Client
from openpyxl import load_workbook

from vendaval.levels.models import Observation
from vendaval.work.models import Mark, Presentation, Try
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    keys_of,
    right,
    run_command,
    wrong,
)
from vendaval_core.items.markdown import to_words

DURATION = re.compile(r"^PT\d+(\.\d{1,2})?S$")


class RecordTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        question = self.practise("tidal-terms")
        for turn in range(6):
            given = right(question["id"]) if turn % 3 else wrong(question["id"])
            reply = self.answer(question["id"], given, after=20 + 10 * turn, confidence=90)
            if not reply["question"]["closed"]:
                self.post(f"/questions/{question['id']}/working")
            run = self.get(f"/runs/{reply['run']['id']}")
            if run["run"]["study_first"]:
                question = self.onward(self.get(f"/runs/{run['run']['id']}") | {"next": None})
            else:
                question = run["question"]
        diagnostic = self.diagnose("weather")["question"]
        self.post(
            f"/questions/{diagnostic['id']}/answer",
            {"replay_key": self.new_key(), "not_taught": True},
        )

    def file(self, kind: str) -> bytes:
        reply = self.client.get(self.address(f"/record/file?kind={kind}"))
        self.assertEqual(reply.status_code, 200)
        self.assertIn("attachment", reply["Content-Disposition"])
        return reply.content

    def test_every_try_is_in_it_with_what_it_came_to(self) -> None:
        page = self.get("/record/tries")
        self.assertEqual(page["total"], Try.objects.count())
        self.assertEqual(len({line["id"] for line in page["tries"]}), page["total"])
        counted = {line["id"] for line in page["tries"] if line["counts"]}
        seen = Observation.objects.filter(weight__gt=0).values_list("tried", flat=True)
        self.assertEqual(counted, set(seen))
        self.assertEqual(page["tries"][0]["result"], "not_taught")
        latest = [line["at"] for line in page["tries"]]
        self.assertEqual(latest, sorted(latest, reverse=True))

    def test_filters_and_words_are_the_servers(self) -> None:
        tries = self.get("/record/tries?purpose=diagnostic")["tries"]
        self.assertEqual({line["purpose"] for line in tries}, {"diagnostic"})
        self.assertEqual(self.get("/record/tries?topic=tidal-terms&result=wrong")["total"], 2)
        title = self.get("/record/tries?topic=tidal-terms")["tries"][0]["title"]
        found = self.get(f"/record/tries?words={title.split()[0]}")["tries"]
        self.assertIn(title, {line["title"] for line in found})
        self.assertEqual(self.get("/record/tries?words=zzz")["total"], 0)
        self.get("/record/tries?result=excellent", status=422)

    def test_the_figures_are_those_of_the_log(self) -> None:
        record = self.get("/record")
        given = [row for row in Try.objects.all() if row.confidence]
        self.assertEqual(record["calibration"]["answers"], len(given))
        parts = record["calibration"]
        total = parts["reliability"] - parts["resolution"] + parts["uncertainty"]
        self.assertAlmostEqual(total, parts["score"], places=3)
        self.assertEqual(record["weeks"][-1]["answers"], Try.objects.filter(first=True).count())
        seconds = sum(row.seconds for row in Try.objects.all())
        self.assertEqual(record["minutes"], round(seconds / 60))
        weeks = {one["topic"]["key"]: one["weeks"] for one in record["topics"]}
        self.assertEqual(len(weeks["tidal-terms"]), 1)
        self.assertEqual(record["speed"][0]["topic"]["key"], "tidal-terms")

    def test_a_try_tells_no_more_than_its_question(self) -> None:
        diagnostic = self.get("/record/tries?purpose=diagnostic")["tries"][0]["id"]
        self.assertIsNotNone(self.get(f"/record/tries/{diagnostic}")["question"]["solution"])
        question = self.practise("height-at-a-time")
        self.answer(question["id"], wrong(question["id"]))
        latest = self.get("/record/tries")["tries"][0]["id"]
        self.assertIsNone(self.get(f"/record/tries/{latest}")["question"]["solution"])
        stranger = Client()
        stranger.force_login(a_learner(self.course, "rui"))
        for path in (f"/record/tries/{latest}", "/record/tries/999999"):
            self.assertEqual(stranger.get(self.address(path)).status_code, 404)

    def test_the_csv_has_every_try_once(self) -> None:
        text = self.file("csv").decode("utf-8-sig")
        rows = list(csv.DictReader(StringIO(text)))
        tries = list(Try.objects.order_by("at", "pk"))
        self.assertEqual([int(r["try_number"]) for r in rows], list(range(1, len(tries) + 1)))
        for row, tried in zip(rows, tries, strict=True):
            self.assertEqual(datetime.fromisoformat(row["at"]), tried.at.replace(microsecond=0))
            self.assertAlmostEqual(float(row["seconds"]), tried.seconds, places=1)
            self.assertEqual(row["confidence"], str(tried.confidence or ""))

    def test_the_workbook_opens_and_says_the_same(self) -> None:
        book = load_workbook(BytesIO(self.file("xlsx")), read_only=True)
        self.assertEqual(book.sheetnames, ["Tries", "Levels", "Targets", "Speed", "Confidence"])
        tries = list(book["Tries"].iter_rows(min_row=2, values_only=True))
        self.assertEqual(len(tries), Try.objects.count())
        self.assertIsInstance(tries[0][1], datetime)
        steps = list(book["Confidence"].iter_rows(min_row=2, values_only=True))
        self.assertEqual(steps[0][0], 90)

    def test_answers_are_said_in_words(self) -> None:
        question = self.practise_family("spring-moon")
        given = right(question["id"])
        self.answer(question["id"], given)
        told = list(csv.DictReader(StringIO(self.file("csv").decode("utf-8-sig"))))[-1]
        shown = Presentation.objects.select_related("revision__family__topic")
        (key,) = keys_of(shown.get(pk=question["id"]))
        self.assertEqual(told["answer"], to_words(key.right_words()))
        self.assertNotIn(told["answer"], given.values(), "a letter of an order tells nothing")
        plain = "Neap tide, x^2\none\ntwo"
        self.assertEqual(to_words("**Neap** tide, $x^2$\n\n- one\n- *two*"), plain)

    def test_what_waits_for_a_mark_is_found_as_that(self) -> None:
        tried = Try.objects.filter(marks__verdict="wrong").latest("pk")
        self.assertEqual(self.get("/record/tries?result=waiting")["total"], 0)
        before = self.get("/record/tries?result=wrong")["total"]
        mark = tried.marks.get()
        values = {"part": mark.part, "revision": mark.revision, "at": self.clock()}
        Mark.objects.create(tried=tried, verdict="noted", share="", replaces=mark, **values)
        (line,) = self.get("/record/tries?result=waiting")["tries"]
        self.assertEqual((line["id"], line["result"]), (tried.pk, "waiting"))
        self.assertEqual(self.get("/record/tries?result=wrong")["total"], before - 1)

    def test_the_latest_in_time_comes_first_whatever_was_stored_last(self) -> None:
        latest = self.get("/record/tries")["tries"][0]["id"]
        first = Try.objects.earliest("pk")
        first.pk, first.number, first.replay_key = None, 9, "stored-late"
        first.at = self.clock() - timedelta(days=400)
        first.save(force_insert=True)
        lines = self.get("/record/tries")["tries"]
        self.assertEqual((lines[0]["id"], lines[-1]["id"]), (latest, first.pk))
        self.assertEqual([line["at"] for line in lines], sorted(x["at"] for x in lines)[::-1])
        (older,) = self.get(f"/record/tries?older={lines[-2]['id']}")["tries"]
        self.assertEqual(older["id"], first.pk)

    def test_what_looks_like_a_formula_is_text(self) -> None:
        question = self.practise_family("distance-formula")
        self.answer(question["id"], {"distance": "=1+1"})
        text = self.file("csv").decode("utf-8-sig")
        answers = [row["answer"] for row in csv.DictReader(StringIO(text))]
        self.assertFalse([a for a in answers if a.startswith("=")])
        book = load_workbook(BytesIO(self.file("xlsx")))
        self.assertTrue(all(c.data_type != "f" for row in book["Tries"] for c in row))

    def test_statements_keep_the_rules_of_the_standard(self) -> None:
        """xAPI 1.0.3, part two, "Statements": from memory of its tables of properties."""
        told: list[dict[str, Any]] = json.loads(self.file("xapi"))
        again = json.loads(self.file("xapi"))
        self.assertEqual(told, again, "told twice is told once: the ids are made from ours")
        self.assertEqual(len({one["id"] for one in told}), len(told))
        answered = [one for one in told if one["verb"]["id"].endswith("/answered")]
        self.assertEqual(len(answered), Try.objects.count())
        for one in told:
            uuid.UUID(one["id"])
            self.assertEqual(one["version"], "1.0.3")
            self.assertEqual({*one} - ALLOWED, set())
            account = one["actor"]["account"]
            self.assertEqual({*account}, {"homePage", "name"})
            self.assertTrue(one["verb"]["id"].startswith("http"))
            self.assertTrue(one["object"]["id"].startswith("http"))
            self.assertIsNotNone(datetime.fromisoformat(one["timestamp"]).tzinfo)
            result = one.get("result", {})
            self.assertEqual({*result} - RESULT, set())
            if "score" in result:
                self.assertTrue(-1 <= result["score"]["scaled"] <= 1)
            if "duration" in result:
                self.assertRegex(result["duration"], DURATION)
            if "registration" in one["context"]:
                uuid.UUID(one["context"]["registration"])
            for value in walk(one):
                self.assertIsNotNone(value, "no property may be null but in extensions")

    def test_the_command_writes_the_same_file(self) -> None:
        told = run_command("export_record", "ana", "inshore", "--kind", "csv")
        self.assertEqual(
            told.encode(), self.file("csv").replace(b"\r\n", b"\n").removeprefix(b"\xef\xbb\xbf")
        )

    def test_as_many_queries_for_many_tries_as_for_few(self) -> None:
        tried = Try.objects.filter(topic__key="tidal-terms").latest("pk")
        for copies in (0, 40):
            for number in range(copies):
                tried.pk, tried.number, tried.replay_key = None, 50 + number, f"copy-{number}"
                tried.save(force_insert=True)
            with self.assertNumQueries(8):
                self.get("/record/tries")
            with self.assertNumQueries(11):
                self.get("/record")


ALLOWED = {"id", "version", "actor", "verb", "object", "result", "context", "timestamp"}
RESULT = {"score", "success", "completion", "response", "duration", "extensions"}


def walk(value: Any) -> list[Any]:
    """Every leaf of a JSON value."""
    if isinstance(value, dict):
        return [leaf for one in value.values() for leaf in walk(one)]
    if isinstance(value, list):
        return [leaf for one in value for leaf in walk(one)]
    return [value]
