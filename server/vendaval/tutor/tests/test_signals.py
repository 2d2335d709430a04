"""Signals from the log: who is asked about, with what evidence, until when; and who is not."""

from __future__ import annotations

import json
from typing import Any

from django.core.cache import cache
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from vendaval.bank.snapshot import course_bank
from vendaval.exams.models import Assignment
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.actions import give_role, link_guardian
from vendaval.people.models import Role
from vendaval.tutor.signals.same import _answers
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    an_account,
    enrolment_of,
    right,
    with_role,
    wrong,
)


class SignalTestCase(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        cache.clear()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        join_group(self.group, enrolment_of(self.learner))
        self.tutor, self.desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, self.tutor)
        self.desk.force_login(self.tutor)

    def signals(self, body: object = None) -> Any:
        address = f"/api/groups/{self.group.pk}/signals"
        if body is None:
            return self.desk.get(address).json()
        return self.desk.post(address, json.dumps(body), "application/json")

    def answer_many(self, many: int, seconds: float, *, first: bool, second: bool = False) -> None:
        """So many practice questions, each after so many seconds."""
        question = self.practise("tidal-terms")
        for _ in range(many):
            given = (right if first else wrong)(question["id"])
            reply = self.answer(question["id"], given, after=seconds)
            if second and not reply["question"]["closed"]:
                reply = self.answer(question["id"], right(question["id"]), after=20)
            while not reply["question"]["closed"]:
                reply = self.post(f"/questions/{question['id']}/working")
            question = self.onward(reply)


class OwnSignalTests(SignalTestCase):
    def test_rapid_guesses_are_asked_about_until_they_are_looked_at(self) -> None:
        self.answer_many(21, 1.5, first=False)
        found = self.signals()["signals"]
        (rapid,) = [one for one in found if one["kind"] == "rapid"]
        self.assertEqual([one["name"] for one in rapid["whom"]], ["Ana Lima"])
        self.assertIn("of the latest 21 first answers", rapid["evidence"])
        whom = [one["id"] for one in rapid["whom"]]
        looked = self.signals({"kind": "rapid", "whom": whom, "note": "Was in a hurry."})
        page = looked.json()
        self.assertNotIn("rapid", [one["kind"] for one in page["signals"]])
        (kept,) = page["looked"]
        self.assertEqual((kept["note"], kept["by"]), ("Was in a hurry.", self.tutor.display_name))
        again = self.signals({"kind": "rapid", "whom": whom, "note": "Twice."})
        self.assertEqual(again.status_code, 404)
        self.answer_many(5, 1.5, first=False)
        self.assertNotIn("rapid", [one["kind"] for one in self.signals()["signals"]])
        self.answer_many(16, 1.5, first=False)
        self.assertIn("rapid", [one["kind"] for one in self.signals()["signals"]])

    def test_who_takes_their_time_is_not_asked(self) -> None:
        self.answer_many(21, 45, first=False)
        kinds = [one["kind"] for one in self.signals()["signals"]]
        self.assertNotIn("rapid", kinds)
        self.assertNotIn("fast", kinds)

    def test_right_at_the_second_try_only(self) -> None:
        self.answer_many(14, 40, first=False, second=True)
        (second,) = [one for one in self.signals()["signals"] if one["kind"] == "second"]
        self.assertIn("0 of", second["evidence"])
        self.assertIn("misses at the second", second["evidence"])

    def test_a_guardian_reads_the_question_and_no_evidence(self) -> None:
        self.answer_many(21, 1.5, first=False)
        vera, reader = an_account("vera"), Client()
        link_guardian(vera, self.learner)
        give_role(vera, self.course.school, Role.GUARDIAN)
        reader.force_login(vera)
        page = reader.get(f"/api/learners/{enrolment_of(self.learner).pk}").json()
        self.assertTrue(page["signals"])
        self.assertFalse(any(digit in text for text in page["signals"] for digit in "0123456789"))
        tutors = self.desk.get(f"/api/learners/{enrolment_of(self.learner).pk}").json()
        self.assertTrue(any("of the latest" in text for text in tutors["signals"]))


class SameAnswerTests(ExamTestCase):
    """A test with the same versions for all, taken by twenty: with fewer it is too few to tell."""

    def setUp(self) -> None:
        super().setUp()
        cache.clear()
        fixed = [
            key
            for key, item in course_bank(self.course).families.items()
            if item.family.versions == 1 and len(item.family.parts) == 1
        ]
        self.families = fixed[:18]

    def take(self, given: Assignment, name: str, missed: set[int]) -> int:
        """A learner takes the test, with the same mistake as anybody at the questions missed."""
        learner = a_learner(self.course, name, display_name=name.title())
        join_group(self.group, enrolment_of(learner))
        self.client.force_login(learner)
        attempt = self.begin(given)
        for number in range(1, len(self.families) + 1):
            answer = self.wrong_at if number in missed else self.right_at
            self.save(attempt, number, answer(attempt, number))
        self.clock.forward(minutes=9)
        self.hand_in(attempt)
        return enrolment_of(learner).pk

    def test_two_with_the_same_wrong_answers(self) -> None:
        given = self.given(composition=self.composition(same_versions=True))
        both = [self.take(given, name, {2, 4, 5, 8, 9, 11, 14, 17}) for name in ("bea", "caio")]
        for place in range(18):
            self.take(given, f"other{place}", {1 + place, 3 if place else 10})
        tutor, desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, tutor)
        desk.force_login(tutor)
        address = f"/api/groups/{self.group.pk}/signals"
        with CaptureQueriesContext(connection) as queries:
            page = desk.get(address).json()
        self.assertLessEqual(len(queries), 13)
        with self.assertNumQueries(7):
            self.assertEqual(desk.get(address).json(), page, "nobody has answered since")
        (same,) = [one for one in page["signals"] if one["kind"] == "same"]
        self.assertEqual([one["id"] for one in same["whom"]], both)
        self.assertIn("18 of 18 answers are the same, 8 of them the same wrong", same["evidence"])
        body = {
            "kind": "same",
            "whom": both,
            "assignment": given.pk,
            "note": "They share a desk; asked both.",
        }
        looked = desk.post(address, json.dumps(body), "application/json").json()
        self.assertNotIn("same", [one["kind"] for one in looked["signals"]])
        self.assertEqual([one["id"] for one in looked["looked"][0]["whom"]], both)

    def test_choices_in_another_order_are_the_same_choices(self) -> None:
        """The letters differ with the order they stand in; what is chosen does not."""
        self.families = ["spring-moon"]
        given = self.given(composition=self.composition(same_versions=True, shuffled_choices=True))
        letters, learners = set(), []
        for learner, attempt in self.begun_by(given, 6):
            (_, letter), *_ = self.wrong_choices(attempt)
            letters.add(*letter.values())
            self.save(attempt, 1, letter)
            self.hand_in(attempt)
            learners.append(enrolment_of(learner).pk)
        self.assertGreater(len(letters), 1, "they do stand in another order")
        answers, _ = _answers([given.pk], learners)
        said = {answer for one in answers[given.pk].values() for answer in one.values()}
        self.assertEqual(len(said), 1)
