"""Everybody's results of a test for its tutor, and what the test says about itself."""

from __future__ import annotations

from io import BytesIO
from typing import Any

from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from openpyxl import load_workbook

from vendaval.bank.snapshot import course_bank
from vendaval.exams.composing.actions import give
from vendaval.exams.models import Assignment, Attempt
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.models import Role
from vendaval.work.tests.builders import a_learner, enrolment_of, with_role

from .builders import ExamTestCase


class OutcomeTestCase(ExamTestCase):
    def setUp(self) -> None:
        super().setUp()
        fixed = [
            key
            for key, item in course_bank(self.course).families.items()
            if item.family.versions == 1 and len(item.family.parts) == 1
        ]
        self.families = fixed[:6]
        self.tutor, self.desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, self.tutor)
        self.desk.force_login(self.tutor)

    def page(self, given: Assignment, what: str = "outcomes") -> Any:
        reply = self.desk.get(f"/api/groups/{self.group.pk}/tests/{given.pk}/{what}")
        return reply.json() | {"status": reply.status_code}

    def sat_by(self, many: int, **rules: Any) -> Assignment:
        """Learner n is right at the first n // 2 questions but the third, which is the other way
        round: only the weaker half has it right; the last is left empty by a third."""
        given = self.given(composition=self.composition(same_versions=True), **rules)
        for place, (_, attempt) in enumerate(self.begun_by(given, many)):
            for number in range(1, 7):
                good = number <= 1 + place // 2
                if number == 3:
                    good = place < many // 2
                if number == 6 and place % 3 == 0:
                    continue
                self.save(
                    attempt, number, (self.right_at if good else self.wrong_at)(attempt, number)
                )
            self.clock.forward(minutes=4)
            self.hand_in(attempt)
        return given


class OutcomesTests(OutcomeTestCase):
    def test_everybody_question_by_question(self) -> None:
        given = self.sat_by(3, pass_mark="50")
        page = self.page(given)
        self.assertEqual([column["family"] for column in page["columns"]], self.families)
        self.assertEqual(len(page["learners"]), 4, "who has not begun is there too")
        ana, first, *_ = page["learners"]
        self.assertEqual((ana["state"], ana["cells"]), ("not_begun", [None] * 6))
        results = [cell["result"] for cell in first["cells"]]
        self.assertEqual(results, ["right", "wrong", "right", "wrong", "wrong", "empty"])
        self.assertEqual((first["points"], first["out_of"], first["minutes"]), (2, 6, 4))
        self.assertEqual(first["state"], "told")
        self.assertEqual(page["spread"]["count"], 3)
        self.assertEqual(page["spread"]["passed"], 0)
        self.assertFalse(page["can_analyse"])
        stored = Attempt.objects.get(pk=first["attempt"])
        assert stored.total is not None
        self.assertEqual(len(stored.total.places), 6)
        stored.total.places.clear()
        stored.save(update_fields=["total"])
        self.assertEqual(self.page(given)["learners"], page["learners"], "kept before or not")

    def test_who_sits_it_now(self) -> None:
        given = self.given(composition=self.composition(same_versions=True), minutes=20)
        attempt = self.begin(given)
        self.save(attempt, 1, self.right_at(attempt, 1))
        page = self.page(given)
        (ana,) = page["learners"]
        self.assertEqual((ana["state"], ana["answered"], ana["of"]), ("under_way", 1, 6))
        self.assertIsNotNone(ana["until"])
        self.assertEqual(page["headline"], "One learner is sitting it now.")
        self.assertIsNone(ana["points"])
        self.assertEqual(ana["cells"], [None] * 6)

    def test_as_many_queries_for_many_as_for_few(self) -> None:
        given = self.sat_by(3)
        with CaptureQueriesContext(connection) as queries:
            self.page(given)
        self.assertLessEqual(len(queries), 12)

    def test_a_sheet_that_a_spreadsheet_opens(self) -> None:
        given = self.sat_by(3)
        address = f"/api/groups/{self.group.pk}/tests/{given.pk}/outcomes/file"
        book = load_workbook(BytesIO(self.desk.get(address, {"kind": "xlsx"}).content))
        points, shares = book.worksheets
        rows = list(points.values)
        self.assertEqual(rows[0][:2], ("learner", "state"))
        self.assertEqual(rows[2][9:], (1, 0, 1, 0, 0, 0))
        self.assertEqual(list(shares.values)[2][1:], (1, 0, 1, 0, 0, 0))
        text = self.desk.get(address, {"kind": "csv"}).content.decode("utf-8-sig")
        self.assertEqual(len(text.strip().splitlines()), 5)


class AnalysisTests(OutcomeTestCase):
    def test_a_key_that_only_the_weak_have_right(self) -> None:
        page = self.page(self.sat_by(12, pass_mark="50"), "analysis")
        self.assertEqual(page["headline"], "One key to look at.")
        self.assertEqual(page["attempts"], 12)
        third = next(one for one in page["questions"] if one["family"] == self.families[2])
        self.assertTrue(third["doubtful"])
        self.assertLess(third["rest"], 0)
        self.assertEqual(third["thirds"], [1.0, 0.5, 0.0])
        self.assertRegex(third["says"], r"^More of the strong answered .+\. Is the key right\?$")
        self.assertEqual(third["answers"][0]["upper"], 4)
        last = next(one for one in page["questions"] if one["family"] == self.families[5])
        self.assertEqual(last["says"], "Four learners didn’t reach it.")
        figures = page["figures"]
        self.assertLess(figures["alpha_low"], figures["alpha"])
        self.assertIn("Of those who just got 10, about", figures["near_pass"])
        self.assertEqual((figures["minutes"], figures["ran_out"]), (4, 0))
        self.assertIsNotNone(figures["agreement"])
        self.assertIsNone(figures["numbers"], "all had the same")

    def test_over_every_group_and_without_names_for_the_author(self) -> None:
        given = self.sat_by(12)
        author, desk = with_role(self.course, Role.AUTHOR), Client()
        desk.force_login(author)
        at = f"/api/courses/{self.course.key}/composed/{given.test_id}/analysis"
        page = desk.get(at).json()
        self.assertEqual((page["attempts"], page["headline"]), (12, "One key to look at."))
        self.assertEqual(page["figures"]["standouts"], [])
        for person in given.group.members.select_related("enrolment__person"):
            self.assertNotIn(person.enrolment.person.username, str(page))

    def test_too_few_to_tell(self) -> None:
        page = self.page(self.sat_by(3), "analysis")
        self.assertEqual(page["headline"], "Too few to tell: ten attempts are needed.")
        self.assertEqual((page["attempts"], page["figures"], page["questions"]), (3, None, []))


class ComparisonTests(OutcomeTestCase):
    def test_beside_another_group_and_the_practice_version(self) -> None:
        given = self.sat_by(12)
        other = Group.objects.create(course=self.course, title="Sunday")
        elsewhere = give(given.test, other, None)
        for number in range(6):
            learner = a_learner(self.course, f"sunday{number}")
            join_group(other, enrolment_of(learner))
            self.client.force_login(learner)
            attempt = self.begin(elsewhere)
            for place in range(1, 7):
                self.save(attempt, place, self.right_at(attempt, place))
            self.hand_in(attempt)
        self.assertEqual(len(self.page(given, "comparison")["sittings"]), 1, "not a group of mine")
        put_in_charge(other, self.tutor)
        page = self.page(given, "comparison")
        here, there = page["sittings"]
        self.assertEqual((here["attempts"], there["attempts"], there["mean"]), (12, 6, 100))
        third = page["questions"][2]
        self.assertEqual((third["shares"], third["away"]), ([50, 100], -50))
        self.assertIsNone(page["questions"][0]["away"], "all right here and there")


class ByTopicTests(ExamTestCase):
    def test_points_time_and_what_to_study_by_topic(self) -> None:
        bank, families = course_bank(self.course), {}
        for key, item in bank.families.items():
            if item.family.versions > 3 and len(item.family.parts) == 1:
                families.setdefault(item.topic, []).append(key)
        (first, pair), (second, other) = [
            one for one in sorted(families.items()) if len(one[1]) > 1
        ][:2]
        self.families = [*pair[:2], *other[:2]]
        attempt = self.taken(self.given(), 3)
        page = self.get(f"/attempts/{attempt['id']}/results")
        told = [
            (one["points"], one["of"], one["right"], one["questions"]) for one in page["topics"]
        ]
        self.assertEqual(told, [("2", "2", 2, 2), ("1", "2", 1, 2)])
        keys = [bank.topics[first].key, bank.topics[second].key]
        self.assertEqual([one["topic"]["key"] for one in page["topics"]], keys)
        missed = bank.families[other[1]].family
        topic, section = bank.section(missed.study, missed.topic)
        study = [(one["topic"], one["section"]) for one in page["study"]]
        self.assertEqual(study, [(topic.key, section.key)])

    def test_nothing_of_it_before_it_may_be_told(self) -> None:
        later = {"score": "handed_in", "correctness": "never"}
        attempt = self.taken(self.given(release=later), 3)
        page = self.get(f"/attempts/{attempt['id']}/results")
        self.assertEqual((page["topics"], page["study"]), ([], []))
