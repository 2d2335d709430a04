"""A sample of attempts for a second person, and a marker's points adjusted by name."""

from __future__ import annotations

from typing import Any

from django.test import Client

from vendaval.exams.models import AnswerSoFar, Marking
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.people.models import AuditEntry, AuditKind
from vendaval.work.tests.builders import a_learner, an_account, enrolment_of

from .test_marking import MarkingTestCase


class ModerationTests(MarkingTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.other, self.second = an_account("bento", display_name="Bento Reis"), Client()
        put_in_charge(self.group, self.other)
        self.second.force_login(self.other)

    def three_marked(self) -> list[Any]:
        """Attempts that were given 1, 2 and 4 of 5 points."""
        found = []
        for name, points in (
            ("one", {0: "1"}),
            ("two", {0: "2"}),
            ("four", {0: "2", 1: "1", 2: "1"}),
        ):
            learner = a_learner(self.course, name, display_name=name)
            join_group(self.group, enrolment_of(learner))
            self.client.force_login(learner)
            attempt = self.handed_in()
            self.mark(self.answer(attempt), points)
            found.append(attempt)
        return found

    def test_a_sample_goes_out_by_both_and_the_rest_by_the_first(self) -> None:
        low, middle, high = self.three_marked()
        self.ask("/second", {"person": self.other.pk, "sample": 2}, method="PUT")
        self.assertEqual(self.ask("")["sample"], 2)
        seen = self.ask("", who=self.second)["attempts"]
        self.assertEqual([one["attempt"] for one in seen], [high["id"], low["id"]], "by name")
        self.assertEqual(len(self.ask("/questions/briefing", who=self.second)["answers"]), 2)
        (line,) = self.second.get("/api/marking").json()["tests"]
        self.assertEqual(line["waiting"], 2)
        out = self.ask("/release", {"attempts": None})["attempts"]
        self.assertEqual({one["attempt"]: one["out"] for one in out}[middle["id"]], True)
        self.assertEqual(sum(one["out"] for one in out), 1)
        for attempt, points in ((low, {0: "1"}), (high, {0: "2", 1: "1", 2: "1"})):
            self.mark(self.answer(attempt), points, who=self.second, role="second")
        self.assertEqual(
            sum(one["out"] for one in self.ask("/release", {"attempts": None})["attempts"]), 3
        )
        too_many = {"person": self.other.pk, "sample": 9}
        refused = self.ask("/second", too_many, method="PUT", status=409)
        self.assertEqual(refused["code"], "too_few_attempts")

    def test_what_a_marker_gave_is_adjusted_by_name(self) -> None:
        low, _, high = self.three_marked()
        (marker,) = self.ask("")["markers"]
        self.assertEqual(
            (marker["id"], marker["answers"], marker["above"]), (self.tutor.pk, 3, None)
        )
        body = {"marker": self.tutor.pk, "points": "3/2", "why": "Stricter than Bento."}
        self.ask("/adjust", body)
        reached = [self.given_to(one) for one in (low, high)]
        self.assertEqual(reached, ["2.5", "5"], "never above what there is")
        newest = Marking.objects.latest("pk").data
        self.assertIn("Stricter than Bento.", newest.adjusted)
        self.assertIn(self.tutor.display_name, newest.adjusted)
        self.assertEqual(Marking.objects.count(), 6, "what was given stays")
        entry = AuditEntry.objects.get(kind=AuditKind.ADJUSTED)
        self.assertEqual(entry.by, self.tutor)
        again = self.ask("/adjust", body | {"marker": self.other.pk}, status=409)
        self.assertEqual(again["code"], "nothing_to_do")
        self.ask("/second", {"person": self.other.pk}, method="PUT")
        self.ask("/adjust", body, who=self.second, status=409)

    def given_to(self, attempt: Any) -> str:
        rows = self.ask("/questions/briefing")["answers"]
        answer = AnswerSoFar.objects.get(attempt=attempt["id"], number=1).pk
        (part,) = next(one["parts"] for one in rows if one["answer"] == answer)
        return str(part["first"]["reached"])
