"""Results of an attempt: beside the group, as files, contested."""

from __future__ import annotations

import csv
from io import BytesIO, StringIO
from typing import Any

from django.test import Client
from openpyxl import load_workbook

from vendaval.groups.actions import join_group, put_in_charge
from vendaval.people.models import Role
from vendaval.work.tests.builders import a_learner, enrolment_of, with_role

from .builders import ExamTestCase


class ResultsTests(ExamTestCase):
    def results(self, attempt: Any) -> Any:
        return self.get(f"/attempts/{attempt['id']}/results")

    def test_the_group_is_a_strip_without_names_from_ten_on(self) -> None:
        assignment = self.given()
        mine = self.taken(assignment, 2)
        for n in range(9):
            self.assertIsNone(self.results(mine)["group"], f"{n + 1} took it")
            other = a_learner(self.course, f"other-{n}", display_name="Zulmira Paz")
            join_group(self.group, enrolment_of(other))
            self.client.force_login(other)
            self.taken(assignment, n % 4)
            self.client.force_login(self.learner)
        found = self.results(mine)
        per_cent = sorted([50, *(25 * (n % 4) for n in range(9))])
        self.assertEqual(found["group"]["per_cent"], per_cent)
        self.assertEqual(per_cent[found["group"]["own"]], 50)
        self.assertNotIn("Zulmira", str(found))

    def test_levels_are_those_before_and_after_the_answers_counted(self) -> None:
        attempt = self.taken(self.given(), 4)
        self.assertEqual(self.results(attempt)["levels"], [], "no level was known before")
        steps = self.row(attempt).levels
        self.assertTrue(steps)
        for step in steps:
            self.assertGreater(step.after.middle, step.before.middle)

    def test_files_say_what_the_page_says(self) -> None:
        attempt = self.taken(self.given(), 2)
        at = self.address(f"/attempts/{attempt['id']}/results/file")
        lines = self.results(attempt)["lines"]
        text = self.client.get(f"{at}?kind=csv").content.decode("utf-8-sig")
        rows = list(csv.DictReader(StringIO(text)))
        self.assertEqual([row["question"] for row in rows], [line["title"] for line in lines])
        self.assertEqual([row["points"] for row in rows], ["1.0", "1.0", "0.0", "0.0"])
        self.assertNotIn("text", rows[0])
        book = load_workbook(BytesIO(self.client.get(f"{at}?kind=xlsx&questions=true").content))
        self.assertEqual(book.sheetnames, ["Attempt", "Questions"])
        facts = {row[0].value: row[1].value for row in book["Attempt"].iter_rows(min_row=2)}
        self.assertEqual((facts["points"], facts["per cent"]), (2, 50))
        head, first, *_, last = book["Questions"].iter_rows(values_only=True)
        row = dict(zip(head, first, strict=True))
        self.assertEqual(row["answer"], row["right answer"])
        self.assertTrue(row["text"])
        self.assertIsNone(dict(zip(head, last, strict=True))["answer"])
        self.assertEqual(self.client.get(f"{at}?kind=pdf").status_code, 422)

    def test_a_contested_mark_waits_in_the_tutors_inbox(self) -> None:
        tutor = with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, tutor)
        attempt = self.begin(self.given())
        self.save(attempt, 1, self.wrong_at(attempt, 1))
        question = self.question_at(attempt, 1)
        body = {"text": "The table rounds differently."}
        self.post(f"/questions/{question}/contest", body, status=409)
        self.hand_in(attempt)
        thread = self.post(f"/questions/{question}/contest", body)["line"]
        self.assertEqual(thread["kind"], "contest")
        again = self.post(f"/questions/{question}/contest", body, status=409)
        self.assertEqual(again["code"], "contested")
        desk = Client()
        desk.force_login(tutor)
        (line,) = desk.get("/api/inbox").json()["threads"]
        self.assertEqual((line["id"], line["kind"]), (thread["id"], "contest"))
        shown = desk.get(f"/api/threads/{thread['id']}").json()
        self.assertEqual(shown["given"], self.wrong_at(attempt, 1))
