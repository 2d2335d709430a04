"""Nothing about a question reaches any page before the rules of its test allow it."""

from __future__ import annotations

import csv
import json
from datetime import timedelta
from functools import cache
from io import StringIO
from typing import Any

from vendaval.bank.snapshot import version_of
from vendaval.config.api import api
from vendaval.exams.models import AnswerSoFar, Attempt
from vendaval.review.models import Miss
from vendaval.work.models import Try
from vendaval_core.scoring.words import right_words

from .builders import ExamTestCase

QUERIES = {
    "export_record": ("?kind=csv", "?kind=xapi"),
    "export_results": ("?kind=csv", "?kind=csv&questions=true"),
    "get_quiz_plan": ("?questions=4",),
    "get_spell_plan": ("?minutes=20",),
}
ASKED = {"record/tries", "record/file", "results/file", "/today", "/misses", "/threads", "/receipt"}


@cache
def readable() -> list[tuple[str, str]]:
    """Paths that are read, with the names of their operations."""
    paths = api.get_openapi_schema()["paths"].items()
    return [(path, ways["get"]["operationId"]) for path, ways in paths if "get" in ways]


class TellingTests(ExamTestCase):
    pages: dict[str, str]

    def secrets(self, attempt: Any) -> set[str]:
        """What would give the first question away: its worked solution."""
        row = AnswerSoFar.objects.select_related("presentation__revision__family__topic").get(
            attempt=attempt["id"], number=1
        )
        shown = row.presentation
        version = version_of(shown.revision, shown.seed, shown.order)
        return {step[:40] for step in version.solution if len(step) > 12}

    def everything(self, attempt: Any) -> dict[str, str]:
        """Every answer to a GET that the learner can have, by its address; files as text."""
        row = self.row(attempt)
        found: dict[str, str] = {}
        for path, operation in readable():
            for address in self.addresses(path, operation, row):
                reply = self.client.get(address)
                if reply.status_code == 200:
                    found[address] = reply.content.decode("utf-8", "replace")
        return found

    def addresses(self, path: str, operation: str, attempt: Attempt) -> list[str]:
        """A path with everything of the learner's put in its places."""
        places: dict[str, list[Any]] = {
            "course": [self.course.key],
            "attempt_id": [attempt.pk],
            "ref": [f"given-{attempt.assignment_id}"],
            "number": [1],
            "run_id": [attempt.run_id],
            "question_id": [self.question_at({"id": attempt.pk}, 1)],
            "try_id": list(Try.objects.values_list("pk", flat=True)),
            "miss_id": list(Miss.objects.values_list("pk", flat=True)),
            "key": [attempt.run.scope[0]],
            "section": ["range"],
            "enrolment_id": [attempt.enrolment_id],
        }
        found = [path]
        for name, values in places.items():
            found = [
                one.replace(f"{{{name}}}", str(value))
                for one in found
                for value in (values if f"{{{name}}}" in one else [""])
            ]
        return [one + query for one in found for query in QUERIES.get(operation, ("",))]

    def told(self, attempt: Any) -> dict[str, bool]:
        """What can be had of the first question now, looked for on every page."""
        pages = self.pages = self.everything(attempt)
        results = self.client.get(self.address(f"/attempts/{attempt['id']}/results")).json()
        line = results["lines"][0] if "lines" in results else {"result": "not_told"}
        one = self.client.get(self.address(f"/attempts/{attempt['id']}/results/1")).json()
        states = one["question"]["states"] if "question" in one else []
        secrets = self.secrets(attempt)
        saved = self.saved_line(attempt)
        return {
            "score": bool(results.get("attempt", {}).get("points") or saved.get("points")),
            "correctness": "wrong" in (line["result"], saved.get("result"))
            or bool(results.get("levels"))
            or any(state["state"] == "closed" for state in states)
            or '"verdict": "wrong"' in "".join(pages.values())
            or self.on_record(pages, attempt),
            "answers": any(state["right_answer"] or state["pieces"] for state in states)
            or bool(saved.get("right_answer"))
            or Miss.objects.exists(),
            "solutions": any(secret in text for path, text in pages.items() for secret in secrets)
            or bool(one.get("question", {}).get("solution")),
        }

    def on_record(self, pages: dict[str, str], attempt: Any) -> bool:
        """Whether list, file or statements of the record say how a try of the attempt went."""
        tries = set(
            Try.objects.filter(presentation__run__attempt=attempt["id"]).values_list(
                "pk", flat=True
            )
        )
        listed = json.loads(
            next(text for at, text in pages.items() if at.endswith("/record/tries"))
        )
        saved = next(text for at, text in pages.items() if "file?kind=csv" in at)
        rows = list(csv.DictReader(StringIO(saved.removeprefix("\ufeff"))))
        stated = json.loads(next(text for at, text in pages.items() if "kind=xapi" in at))
        answered = [one for one in stated if one["verb"]["id"].endswith("/answered")]
        self.assertEqual(len(answered), len(rows), "statements say as much as the file")
        return bool(
            tries & {line["id"] for line in listed["tries"]}
            or tries & {int(row["try_number"]) for row in rows}
        )

    def saved_line(self, attempt: Any) -> dict[str, str]:
        """The first question in the results as a file."""
        path = f"/attempts/{attempt['id']}/results/file?kind=csv&questions=true"
        reply = self.client.get(self.address(path))
        if reply.status_code != 200:
            return {}
        text = reply.content.decode("utf-8-sig")
        return next(iter(csv.DictReader(StringIO(text))))

    def test_each_rule_at_each_moment(self) -> None:
        now = self.clock()
        due, closes = now + timedelta(days=1), now + timedelta(days=2)
        moments = ("under_way", "handed_in", "due", "closed")
        first = {"handed_in": 1, "due": 2, "closed": 3, "last_attempt": 1, "never": 4}
        for seed, (when, told_from) in enumerate(first.items()):
            with self.subTest(when=when):
                self.clock.time = now
                Miss.objects.all().delete()
                whats = ("score", "correctness", "answers", "solutions")
                assignment = self.given(
                    due=due,
                    closes=closes,
                    telling=dict.fromkeys(whats, when),
                    composition=self.composition(seed=seed),
                )
                attempt = self.begin(assignment)
                self.save(attempt, 1, self.wrong_at(attempt, 1))
                found = {"under_way": self.told(attempt)}
                for part in ASKED - {"/receipt", "results/file"}:
                    self.assertTrue(any(part in address for address in self.pages), part)
                self.hand_in(attempt)
                found["handed_in"] = self.told(attempt)
                self.clock.time = due
                found["due"] = self.told(attempt)
                self.clock.time = closes
                found["closed"] = self.told(attempt)
                for i, moment in enumerate(moments):
                    expected = dict.fromkeys(whats, i >= told_from)
                    self.assertEqual(
                        {what: found[moment][what] for what in whats}, expected, moment
                    )

    def test_a_miss_joins_when_its_answer_may_be_told_and_help_waits_too(self) -> None:
        now = self.clock()
        assignment = self.given(
            due=now + timedelta(days=1), telling={"answers": "due", "solutions": "due"}
        )
        attempt = self.begin(assignment)
        question = self.question_at(attempt, 1)
        ask = {
            "text": "Why?",
            "to_tutor": True,
            "classmates": [],
            "shows_answer": True,
            "shows_working": True,
        }
        self.post(f"/questions/{question}/ask", ask, status=409)
        self.save(attempt, 1, self.wrong_at(attempt, 1))
        self.hand_in(attempt)
        self.assertEqual(Miss.objects.count(), 0)
        self.post(f"/questions/{question}/ask", ask, status=409)
        self.clock.forward(days=1, minutes=1)
        self.get("/tests")
        self.get("/tests")
        self.assertEqual(Miss.objects.count(), 1)

    def test_the_attempt_under_way_gives_nothing_away(self) -> None:
        attempt = self.begin(self.given())
        text = self.client.get(self.address(f"/attempts/{attempt['id']}")).content.decode()
        for place in attempt["places"]:
            question = place["question"]
            self.assertIsNone(question["solution"])
            self.assertEqual((question["hints"], question["can"]), ([], []))
            self.assertEqual({state["right_answer"] for state in question["states"]}, {None})
        for name in ("seed", "order", "why", "family"):
            self.assertNotIn(f'"{name}"', text)
        row = AnswerSoFar.objects.select_related("presentation__revision__family__topic").get(
            attempt=attempt["id"], number=1
        )
        self.assertTrue(
            right_words(version_of(row.presentation.revision, row.presentation.seed, 0).parts[0])
        )
