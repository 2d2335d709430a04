"""The plan to a date as the learner sees it, and how forecasts are held against what came."""

from datetime import timedelta
from typing import Any

import numpy as np
from django.test import SimpleTestCase

from vendaval.levels.models import TargetMet
from vendaval.planning.models import PlanForecast, TopicForecast
from vendaval.planning.plan import details
from vendaval.shared.tests.editing import put_over
from vendaval.work.tests.builders import CourseTestCase, enrolment_of, right
from vendaval_core.mastery.forecast import Forecast


def forecast(chance: float, met: float) -> Forecast:
    return Forecast(chance, np.array([met]), np.zeros((1, 1)), np.zeros((1, 3)))


class DetailsTests(SimpleTestCase):
    def test_more_minutes_are_named_only_for_what_they_change(self) -> None:
        sure = forecast(1.0, 18.0)
        self.assertEqual(len(details(sure, sure, 18)), 1, "nothing to gain, nothing said")
        (_, more) = details(forecast(0.02, 12.0), forecast(0.27, 15.0), 18)
        self.assertEqual(
            more,
            "With 10 min more a day it rises to 27 in 100, and you reach the target in three "
            "more topics.",
        )
        (_, more) = details(forecast(0.0, 12.0), forecast(0.0, 13.0), 18)
        self.assertEqual(more, "With 10 min more a day you reach the target in one more topic.")


class PlanTests(CourseTestCase):
    def aims(self, **more: Any) -> None:
        exam = (self.clock().date() + timedelta(days=more.pop("days", 20))).isoformat()
        body = {"exam_on": exam, "minutes": [20, 20, 0, 20, 20, 40, 0], **more}
        reply = put_over(self.client, self.address("/aims"), body)
        self.assertEqual(reply.status_code, 200, reply.content)

    def test_without_a_date_there_is_none(self) -> None:
        plan = self.get("/plan")
        self.assertEqual((plan["exam_on"], plan["curve"], plan["chance"]), (None, [], None))
        self.assertEqual(PlanForecast.objects.count(), 0)

    def test_it_says_the_chance_what_decides_and_the_week(self) -> None:
        self.aims()
        plan = self.get("/plan")
        self.assertEqual((plan["days"], len(plan["curve"]), len(plan["week"])), (20, 20, 7))
        self.assertTrue(0 <= plan["chance"] <= plan["chance_with_more"] <= 1)
        self.assertTrue(plan["deciding"])
        for day in plan["week"]:
            spent = sum(item["minutes"] for item in day["items"])
            self.assertEqual(spent, day["minutes"] if day["items"] else 0, day)
        free = [day for day in plan["week"] if day["minutes"] == 0]
        self.assertEqual((len(free), [day["items"] for day in free]), (2, [[], []]))
        self.assertEqual(self.get("/plan"), plan, "the same all day long")
        self.assertEqual(PlanForecast.objects.count(), 1)

    def test_a_date_that_has_passed_is_none(self) -> None:
        self.aims(days=3)
        self.clock.forward(days=4)
        self.assertIsNone(self.get("/plan")["exam_on"])

    def test_past_forecasts_are_held_against_what_came(self) -> None:
        enrolment = enrolment_of(self.learner)
        today = self.clock().date()
        topics = list(self.course.topics.order_by("pk")[:12])
        PlanForecast.objects.create(
            enrolment=enrolment,
            made_on=today - timedelta(days=30),
            exam_on=today - timedelta(days=5),
            minutes=140,
            chance=0.4,
            topics=[TopicForecast(topic=topic.key, chance=0.75) for topic in topics],
            at=self.clock(),
        )
        for n, topic in enumerate(topics[:9]):
            at = self.clock() - timedelta(days=10 if n < 8 else 1)
            TargetMet.objects.create(enrolment=enrolment, topic=topic, level=85, chance=0.8, at=at)
        self.aims()
        plan = self.get("/plan")
        self.assertEqual(plan["past"], [{"said": 0.75, "came": 0.667, "count": 12}])
        self.assertIn("we expected 75 in 100 to come true, and 67 in 100 did", plan["past_says"])

    def test_minutes_follow_the_learners_own_pace(self) -> None:
        before = self.get("/practice-plan")
        self.assertIn("usually take", before["pace"])
        question = self.practise("tidal-terms")
        for _ in range(12):
            reply = self.answer(question["id"], right(question["id"]), after=200)
            question = self.onward(reply)
        after = self.get("/practice-plan")
        self.assertIn("more time", after["pace"])
        minutes = [{s["topic"]: s["minutes"] for s in plan["steps"]} for plan in (before, after)]
        self.assertGreater(minutes[1]["buoyage"], minutes[0]["buoyage"])
