"""Mark books: what counts, what stays hidden, terms that are closed and corrected."""

from __future__ import annotations

import json
import logging
from datetime import timedelta
from io import BytesIO
from tempfile import NamedTemporaryFile
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from formulas import ExcelModel
from openpyxl import load_workbook

from vendaval.assigning.models import HandIn
from vendaval.assigning.schemas import TaskIn
from vendaval.assigning.tasks import set_task
from vendaval.exams.models import Assignment
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.people.actions import link_guardian
from vendaval.people.models import Role
from vendaval.work.tests.builders import a_learner, enrolment_of, with_role


class MarksTestCase(ExamTestCase):
    """A group with a term that has tests, set work and a column of its own: an oral."""

    def setUp(self) -> None:
        super().setUp()
        self.tutor, self.desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, self.tutor)
        self.desk.force_login(self.tutor)
        self.ana = enrolment_of(self.learner).pk
        today = timezone.localtime(self.clock()).date()
        term = {"title": "Spring", "begins": today, "ends": today + timedelta(days=60)}
        found = self.send("post", "", term)
        self.term = found["term"]["id"]

    def at(self, path: str = "") -> str:
        return f"/api/groups/{self.group.pk}/marks{path}"

    def send(self, method: str, path: str, body: Any = None, status: int = 200) -> Any:
        reply = getattr(self.desk, method)(
            self.at(path), json.dumps(body or {}, default=str), "application/json"
        )
        self.assertEqual(reply.status_code, status, reply.content[:400])
        return reply.json()

    def book(self) -> Any:
        return self.desk.get(self.at(f"/{self.term}")).json()

    def change(self, status: int = 200, **book: Any) -> Any:
        now = self.book()
        edit = now["edit"] | {"book": now["edit"]["book"] | book}
        return self.send("put", f"/{self.term}", edit | {"version": now["version"]}, status)

    def row(self, name: str = "ana") -> dict[str, Any]:
        """A row as the tutor has it, its cells by title."""
        book = self.book()
        titles = [column["title"] for column in book["columns"]]
        found = next(one for one in book["learners"] if one["name"].lower().startswith(name))
        return found | {"cells": dict(zip(titles, found["cells"], strict=True))}

    def own(self) -> Any:
        """What Ana gets."""
        self.client.force_login(self.learner)
        return self.get("/marks")["terms"]

    def enter(self, column: str, status: int = 200, why: str = "", **entry: Any) -> Any:
        body = {"column": column, "entries": [{"learner": self.ana} | entry], "why": why}
        return self.send("post", f"/{self.term}/entries", body, status)

    def an_oral(self, **options: Any) -> None:
        oral = {"key": "oral", "title": "Oral", "of": "10", "shown": True} | options
        self.change(outside=[oral])

    def sat(self, rights: int, **rules: Any) -> Assignment:
        """A test with another title than those before, and Ana's attempt at it."""
        given = self.given(**rules)
        given.test.title = f"Test {given.pk}"
        given.test.save()
        self.client.force_login(self.learner)
        self.taken(given, rights)
        return given


class MarkBookTests(MarksTestCase):
    def test_a_mark_from_a_test_and_an_oral(self) -> None:
        given = self.sat(3)
        self.an_oral()
        row = self.row()
        self.assertEqual(row["cells"][given.test.title]["mark"], 15, "3 of 4 on 20")
        self.assertEqual((row["stands"], row["low"], row["high"]), (15, 11, 17))
        self.enter("own-oral", kind="mark", mark="9")
        row = self.row()
        self.assertEqual((row["exact"], row["stands"]), (15.9, 16), "(70 × 15 + 30 × 18) ÷ 100")
        (term,) = self.own()
        self.assertEqual(term["sum"], "(70 × 15 + 30 × 18) ÷ 100 = 15.9, rounded to 16")
        self.assertEqual([part["mean"] for part in term["parts"]], [15, 18])

    def test_what_is_held_shows_in_no_figure(self) -> None:
        self.an_oral(shown=False)
        self.sat(1)
        before = self.own()[0]["row"]
        self.enter("own-oral", kind="mark", mark="2", why="Nervous.")
        cells = self.row()["cells"]
        self.assertEqual(cells["Oral"]["held"], 4)
        self.assertEqual(cells["Oral"]["standing"], "held")
        (term,) = self.own()
        oral = term["parts"][1]["works"][0]
        self.assertEqual(
            (oral["cell"]["mark"], oral["cell"]["held"], oral["why"]), (None, None, "")
        )
        figures = ("stands", "mark", "exact", "low", "high")
        self.assertEqual([before[key] for key in figures], [term["row"][key] for key in figures])
        self.assertNotIn("Nervous", json.dumps(self.own()))

    def test_a_test_whose_marks_are_not_out(self) -> None:
        self.sat(1)
        given = self.given(closes=self.clock() + timedelta(days=2), release={"score": "closed"})
        given.test.title = "Held"
        given.test.save()
        self.client.force_login(self.learner)
        self.taken(given, 4)
        before = self.row()
        self.assertEqual(before["cells"]["Held"]["standing"], "held")
        self.assertEqual(before["cells"]["Held"]["held"], 20)
        self.assertEqual((before["stands"], before["low"], before["high"]), (5, 3, 13))
        text = json.dumps(self.own())
        self.assertIn('"standing": "held"', text)
        self.assertEqual(self.own()[0]["row"]["stands"], 5)
        self.clock.forward(days=3)
        self.assertEqual(self.row()["stands"], 13, "5 and 20, once it has closed")
        self.assertEqual(self.own()[0]["row"]["stands"], 13)

    def test_missing_excused_and_late(self) -> None:
        soon = self.clock() + timedelta(days=1)
        missed = self.given(due=soon, closes=soon)
        self.sat(4)
        late = {"late": "taken"}
        given = self.given(due=soon, closes=soon + timedelta(days=2), **late)
        self.clock.forward(days=1, hours=1)
        self.client.force_login(self.learner)
        self.taken(given, 2)
        row = self.row()
        self.assertEqual(row["stands"], 15, "20 and 10; what is missing counts for nothing")
        self.change(missing="zero")
        self.assertEqual(self.row()["stands"], 10)
        key = f"test-{missed.pk}"
        self.enter(key, kind="excused", status=422)
        self.enter(key, kind="excused", why="She was ill.")
        self.assertEqual(self.row()["stands"], 15)
        (term,) = self.own()
        cells = [work["cell"] for work in term["parts"][0]["works"]]
        self.assertEqual([one["standing"] for one in cells], ["marked", "excused", "marked"])
        self.assertEqual([one["late"] for one in cells], [False, False, True])
        self.assertEqual(term["parts"][0]["works"][1]["why"], "She was ill.")
        self.enter(key, kind="cleared", why="A mistake.")
        self.assertEqual(self.row()["stands"], 10)
        detail = self.desk.get(self.at(f"/{self.term}/learners/{self.ana}")).json()
        self.assertEqual([one["why"] for one in detail["entered"]], ["A mistake.", "She was ill."])

    def test_set_work_counts_done_or_with_its_points(self) -> None:
        asks = {"files": "may", "links": "may", "points": 10}
        wanted = {"goal": {"kind": "hand_in"}, "asks": asks, "title": "A chart"}
        chart = set_task(self.group, TaskIn.model_validate(wanted), self.tutor)
        due = self.clock() + timedelta(days=1)
        goal = {"kind": "questions", "topics": ["tidal-terms"], "questions": 4}
        wanted = {"goal": goal, "title": "Practice", "due": due}
        set_task(self.group, TaskIn.model_validate(wanted), self.tutor)
        now = self.clock()
        row = HandIn.objects.create(
            task=chart, enrolment=enrolment_of(self.learner), handed_in_at=now
        )
        self.assertEqual(self.row()["cells"]["A chart"]["standing"], "waiting")
        row.points, row.marked_at = 7, now
        row.save()
        self.assertEqual(self.row()["cells"]["A chart"]["mark"], 14)
        self.assertEqual(self.row()["cells"]["Practice"]["standing"], "open")
        self.clock.forward(days=2)
        self.assertEqual(self.row()["cells"]["Practice"]["mark"], 0, "not done")
        self.assertEqual(self.row()["stands"], 7)

    def test_what_cannot_be_entered(self) -> None:
        self.an_oral()
        for entry in ({"mark": "11"}, {"mark": "-1"}, {}):
            found = self.enter("own-oral", status=422, kind="mark", **entry)
            self.assertEqual(found["fields"], {f"entries.{self.ana}": "From 0 to 10."})
        self.enter("own-gone", status=404, kind="mark", mark="1")
        self.enter("own-oral", status=404, kind="mark", mark="1", learner=999_999)
        self.enter("own-oral", kind="mark", mark="5")
        self.assertEqual(self.change(422, outside=[])["fields"].keys(), {"book.outside"})

    def test_what_cannot_be_set(self) -> None:
        bad = {"categories": [{"key": "a", "title": "A", "weight": "0"}], "most": 0}
        found = self.change(422, **bad)["fields"]
        self.assertEqual(found.keys(), {"book.most", "book.pass_mark", "book.categories"})
        again = {"title": "Again", "begins": "2026-01-01", "ends": "2090-01-01"}
        self.assertEqual(self.send("post", "", again, 422)["fields"].keys(), {"begins"})

    def test_as_many_queries_for_many_as_for_few(self) -> None:
        self.an_oral()
        asks = {"files": "may", "links": "may", "points": 10}
        wanted = {"goal": {"kind": "hand_in"}, "asks": asks, "title": "A chart"}
        set_task(self.group, TaskIn.model_validate(wanted), self.tutor)
        for number in range(6):
            join_group(self.group, enrolment_of(a_learner(self.course, f"more{number}")))
        self.sat(3)
        with CaptureQueriesContext(connection) as queries:
            self.book()
        self.assertLessEqual(len(queries), 12)


class ClosingTests(MarksTestCase):
    def test_a_term_closed_then_corrected(self) -> None:
        self.sat(3)
        self.an_oral(shown=False)
        self.enter("own-oral", kind="mark", mark="9")
        waits = self.desk.get(self.at(f"/{self.term}/closing")).json()["undecided"]
        self.assertEqual([(one["title"], one["standing"]) for one in waits], [("Oral", "held")])
        refused = self.send("post", f"/{self.term}/close", status=409)
        self.assertEqual(refused["code"], "marks_wait")
        self.an_oral()
        closed = self.send("post", f"/{self.term}/close")
        self.assertEqual(closed["learners"][0]["stands"], 16)
        self.enter("own-oral", status=409, kind="mark", mark="1")
        self.change(409, most=10)
        wrong = {"learner": self.ana, "mark": "16.5", "why": "Half"}
        self.send("post", f"/{self.term}/corrections", wrong, 422)
        body = {"learner": self.ana, "mark": "17", "why": "A wrong key in the test."}
        row = self.send("post", f"/{self.term}/corrections", body)["learners"][0]
        self.assertEqual((row["stands"], row["fixed"]), (17, {"mark": 16, "corrected": 17}))
        (term,) = self.own()
        self.assertEqual(term["row"]["fixed"], {"mark": 16, "corrected": 17})
        self.assertEqual(term["corrections"][0]["why"], "A wrong key in the test.")
        guardian = with_role(self.course, Role.GUARDIAN)
        link_guardian(guardian, self.learner)
        reading = Client()
        reading.force_login(guardian)
        self.assertEqual(reading.get(f"/api/learners/{self.ana}/marks").json()["terms"], [term])

    def test_what_the_work_comes_to_after_closing(self) -> None:
        given = self.sat(3)
        self.send("post", f"/{self.term}/close")
        attempt = given.attempts.get()
        assert attempt.total is not None
        attempt.total.reached = attempt.total.of
        attempt.save(update_fields=["total"])
        row = self.row()
        self.assertEqual((row["stands"], row["mark"]), (15, 20))
        self.assertEqual(row["cells"][given.test.title]["mark"], 15, "as it was fixed")


class FileTests(MarksTestCase):
    def test_the_workbook_reckons_as_the_core_does(self) -> None:
        """Its formulas, worked out by the library `formulas`."""
        self.change(
            categories=[
                {"key": "tests", "title": "Tests", "weight": "50", "drop": 1, "takes": ["tests"]},
                {"key": "oral", "title": "Oral", "weight": "25", "takes": ["outside"]},
                {"key": "none", "title": "Later", "weight": "30"},
            ],
            step="1/2",
        )
        self.an_oral()
        for rights in (1, 3, 4):
            self.sat(rights)
        self.enter("own-oral", kind="mark", mark="7")
        row = self.row()
        file = self.desk.get(self.at(f"/{self.term}/file"), {"kind": "xlsx"}).content
        sheet = load_workbook(BytesIO(file)).worksheets[0]
        mark_at = next(cell.coordinate for cell in sheet[3] if "SUMPRODUCT" in str(cell.value))
        self.assertEqual((row["exact"], row["stands"]), (16.333333333, 16.5))
        self.assertEqual(self.reckoned(file, sheet.title, mark_at), 16.5)
        text = self.desk.get(self.at(f"/{self.term}/file"), {"kind": "csv"}).content
        self.assertIn("16.5", text.decode("utf-8-sig"))

    def test_the_table_comes_back_filled_in(self) -> None:
        self.sat(3)
        self.an_oral()
        file = self.desk.get(self.at(f"/{self.term}/file"), {"kind": "xlsx"}).content
        book = load_workbook(BytesIO(file))
        sheet = book.worksheets[0]
        at = [cell.value for cell in sheet[1]].index("Oral") + 1
        sheet.cell(3, at).value = 18
        filled = BytesIO()
        book.save(filled)
        check = self.upload("/file/check", filled.getvalue())
        name = self.row()["name"]
        self.assertEqual((check["count"], check["changes"]), (1, [f"{name}, Oral: 18"]))
        self.assertEqual(self.row()["cells"]["Oral"]["standing"], "open", "nothing changed")
        self.assertEqual(self.upload("/file", filled.getvalue())["count"], 1)
        self.assertEqual(self.row()["cells"]["Oral"]["mark"], 18)
        self.assertEqual(self.upload("/file", filled.getvalue())["count"], 0, "the same again")
        bad = f"learner,Oral\n{name},19\nNobody,3\n{name},30\n".encode()
        self.assertEqual(len(self.upload("/file/check", bad)["faults"]), 2)
        self.upload("/file", bad, 422)
        self.assertEqual(self.row()["cells"]["Oral"]["mark"], 18)
        self.upload("/file/check", b"name\nana\n", 422)

    def upload(self, path: str, content: bytes, status: int = 200) -> Any:
        file = SimpleUploadedFile("marks.xlsx", content)
        reply = self.desk.post(self.at(f"/{self.term}{path}"), {"file": file})
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def reckoned(self, file: bytes, sheet: str, at: str) -> float:
        logging.getLogger("formulas").setLevel(logging.ERROR)
        with NamedTemporaryFile(suffix=".xlsx") as kept:
            kept.write(file)
            kept.flush()
            found = ExcelModel().loads(kept.name).finish().calculate()
        name = next(key for key in found if str(key).upper().endswith(f"{sheet.upper()}'!{at}"))
        return float(found[name].value[0, 0])
