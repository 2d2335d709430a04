"""Questions sent one by one: what is told of each, and the points so far."""

from __future__ import annotations

from typing import Any

from vendaval.exams.models import AnswerSoFar
from vendaval.work.tests.builders import right, wrong

from .builders import ExamTestCase

AT_ONCE = {"score": "at_once", "correctness": "at_once"}


class SentSinglyTests(ExamTestCase):
    def places(self, attempt: Any) -> list[tuple[str | None, int]]:
        """What is told of each question, and its tries left."""
        places = self.get(f"/attempts/{attempt['id']}")["places"]
        return [(one["question"]["outcome"], one["question"]["tries_left"]) for one in places]

    def so_far(self, attempt: Any) -> Any:
        found = self.get(f"/attempts/{attempt['id']}/so-far")
        self.assertEqual(found, self.get(f"/attempts/{attempt['id']}")["so_far"])
        return found and (found["reached"], found["marked"], found["of"], found["sent"])

    def questions(self, attempt: Any) -> list[int]:
        rows = AnswerSoFar.objects.filter(attempt=attempt["id"]).order_by("number")
        return list(rows.values_list("presentation", flat=True))

    def test_each_is_told_with_its_tries_and_the_points_add_up(self) -> None:
        rules = {"tries": 2, "off_per_miss": "1/4", "submission": "individual"}
        attempt = self.begin(self.given(**rules, release=AT_ONCE))
        first, second, third, _ = self.questions(attempt)
        self.assertEqual(self.so_far(attempt), ("0", "0", "4", 0))
        self.answer(first, right(first))
        self.answer(second, wrong(second))
        self.answer(third, wrong(third))
        self.assertEqual(
            self.places(attempt), [("right", 0), ("wrong", 1), ("wrong", 1), (None, 2)]
        )
        self.assertEqual(self.so_far(attempt), ("1", "3", "4", 3))
        self.answer(second, right(second))
        self.assertEqual(self.places(attempt)[1:3], [("right", 0), ("wrong", 1)])
        self.assertEqual(self.so_far(attempt), ("1.75", "3", "4", 3))
        sent = self.get(f"/attempts/{attempt['id']}")["places"][0]["question"]["states"][0]
        self.assertEqual(sent["answer"], next(iter(right(first).values())), "what was sent stays")
        with self.assertNumQueries(7):
            self.get(f"/attempts/{attempt['id']}/so-far")

    def test_nothing_is_told_before_the_rules_tell_it(self) -> None:
        attempt = self.begin(self.given(submission="individual"))
        first, *_ = self.questions(attempt)
        self.answer(first, wrong(first))
        self.assertEqual(self.places(attempt)[0], (None, 0))
        self.assertIsNone(self.so_far(attempt))
