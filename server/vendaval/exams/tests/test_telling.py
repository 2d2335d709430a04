"""Nothing about a question reaches any page before the rules of its test allow it."""

from __future__ import annotations

import csv
from datetime import timedelta
from io import StringIO
from typing import Any

from vendaval.bank.snapshot import version_of
from vendaval.exams.models import AnswerSoFar
from vendaval.review.models import Miss
from vendaval.work.models import Try
from vendaval_core.scoring.words import right_words

from .builders import ExamTestCase

PAGES = ("/today", "/topics", "/misses", "/record", "/tries", "/revision", "/threads")


class TellingTests(ExamTestCase):
    def secrets(self, attempt: Any) -> set[str]:
        """What would give the first question away: its worked solution."""
        row = AnswerSoFar.objects.select_related("presentation__revision__family__topic").get(
            attempt=attempt["id"], number=1
        )
        shown = row.presentation
        version = version_of(shown.revision, shown.seed, shown.order)
        return {step[:40] for step in version.solution if len(step) > 12}

    def everything(self, attempt: Any) -> dict[str, str]:
        """Every payload of the learner's that could speak of the attempt."""
        ref = attempt["ref"]
        paths = [*PAGES, "/tests", f"/tests/{ref}", f"/attempts/{attempt['id']}"]
        paths += [
            f"/attempts/{attempt['id']}{end}" for end in ("/receipt", "/results", "/results/1")
        ]
        paths += [f"/tries/{pk}" for pk in Try.objects.values_list("pk", flat=True)]
        found = {}
        for path in paths:
            reply = self.client.get(self.address(path))
            if reply.status_code == 200:
                found[path] = reply.content.decode()
        return found

    def told(self, attempt: Any) -> dict[str, bool]:
        """What can be had of the first question now, looked for on every page."""
        pages = self.everything(attempt)
        results = self.client.get(self.address(f"/attempts/{attempt['id']}/results")).json()
        line = results["lines"][0] if "lines" in results else {"result": "not_told"}
        one = self.client.get(self.address(f"/attempts/{attempt['id']}/results/1")).json()
        states = one["question"]["states"] if "question" in one else []
        secrets = self.secrets(attempt)
        saved = self.saved_line(attempt)
        return {
            "score": bool(results.get("attempt", {}).get("score") or saved.get("points")),
            "correctness": "wrong" in (line["result"], saved.get("result"))
            or bool(results.get("levels"))
            or any(state["state"] == "closed" for state in states)
            or '"verdict": "wrong"' in "".join(pages.values()),
            "answers": any(state["right_answer"] or state["pieces"] for state in states)
            or bool(saved.get("right_answer"))
            or Miss.objects.exists(),
            "solutions": any(secret in text for path, text in pages.items() for secret in secrets)
            or bool(one.get("question", {}).get("solution")),
        }

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
        self.post(f"/questions/{question}/help", ask, status=409)
        self.save(attempt, 1, self.wrong_at(attempt, 1))
        self.hand_in(attempt)
        self.assertEqual(Miss.objects.count(), 0)
        self.post(f"/questions/{question}/help", ask, status=409)
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
