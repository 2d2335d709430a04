"""Levels cannot be steered, and a clock that goes back costs nobody anything."""

from __future__ import annotations

from datetime import timedelta

from vendaval.levels.models import Observation
from vendaval.review.models import Miss
from vendaval.work.models import Presentation, Run
from vendaval.work.tests.builders import CourseTestCase, right, wrong


class SteeringTests(CourseTestCase):
    def reason(self) -> str:
        return Observation.objects.latest("pk").reason

    def shown(self, question: int) -> None:
        self.post(f"/questions/{question}/shown")

    def test_a_question_held_back_is_no_rapid_miss(self) -> None:
        question = self.practise_family("compass-to-true")["id"]
        self.clock.forward(minutes=4)
        self.shown(question)
        self.answer(question, wrong(question), after=1)
        self.assertEqual(self.reason(), "full")

    def test_one_shown_soon_and_answered_at_once_is(self) -> None:
        question = self.practise_family("compass-to-true")["id"]
        self.clock.forward(seconds=20)
        self.shown(question)
        self.answer(question, wrong(question), after=1)
        self.assertEqual(self.reason(), "rapid")

    def test_working_of_the_only_version_is_remembered_for_a_day(self) -> None:
        question = self.practise_family("west-reads-more")["id"]
        self.post(f"/questions/{question}/working")
        for later, reason in ((timedelta(hours=2), "helped"), (timedelta(hours=25), "full")):
            self.clock.forward(seconds=later.total_seconds())
            again = self.practise_family("west-reads-more")["id"]
            self.answer(again, right(again))
            self.assertEqual(self.reason(), reason)

    def test_the_same_fresh_version_again_uses_none(self) -> None:
        question = self.practise_family("compass-to-true")["id"]
        first = self.post(f"/questions/{question}/fresh")["question"]
        for _ in range(3):
            again = self.post(f"/questions/{question}/fresh")["question"]
            self.assertEqual((again["id"], again["fresh_left"]), (first["id"], 3))

    def test_versions_come_in_an_order_of_ones_own(self) -> None:
        seeds = []
        for _ in range(4):
            self.practise_family("compass-to-true")
            seeds.append(Presentation.objects.latest("pk").seed)
        self.assertNotEqual(seeds, [1, 2, 3, 4])


class ClockGoesBackTests(CourseTestCase):
    def test_an_hour_back_costs_no_answer_its_weight(self) -> None:
        question = self.practise_family("compass-to-true")["id"]
        self.post(f"/questions/{question}/shown")
        self.answer(question, right(question), after=-3600)
        self.assertEqual(Observation.objects.latest("pk").weight, 1.0)
        other = self.practise("tidal-terms")["id"]
        self.answer(other, right(other))
        self.assertEqual(Observation.objects.latest("pk").weight, 1.0)

    def test_nobody_is_kept_waiting(self) -> None:
        question = self.practise_family("compass-to-true")
        for _ in range(2):
            self.answer(question["id"], wrong(question["id"]))
            self.post(f"/questions/{question['id']}/working")
            self.clock.forward(minutes=-20)
            if Run.objects.latest("pk").note.study_first is None:
                question = self.practise_family("compass-to-true")
        run, study = Run.objects.latest("pk"), question["study"]
        self.post(f"/runs/{run.pk}/go-on", status=409)
        self.clock.forward(hours=-1)
        self.post(f"/study/{study['topic']}/{study['section']}/opened")
        self.assertIsNotNone(self.post(f"/runs/{run.pk}/go-on")["question"])

    def test_fresh_versions_are_offered_anew_after_reading(self) -> None:
        question = self.practise_family("compass-to-true")["id"]
        self.answer(question, wrong(question))
        miss = Miss.objects.get().pk
        for _ in range(2):
            self.clock.forward(minutes=-5)
            mend = self.start_mend(miss)["question"]["id"]
            self.answer(mend, wrong(mend))
        shown = self.get(f"/misses/{miss}")
        self.assertEqual(shown["mends_left"], 0)
        self.clock.forward(hours=-1)
        study = shown["study"]
        self.post(f"/study/{study['topic']}/{study['section']}/opened")
        self.assertEqual(self.get(f"/misses/{miss}")["mends_left"], 2)
