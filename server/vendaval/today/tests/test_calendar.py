"""The private calendar feed, read back by the library that other programs read it with."""

from datetime import timedelta
from typing import Any

from django.test import Client
from icalendar import Calendar

from vendaval.groups.actions import set_own_aims
from vendaval.groups.columns import OwnAimsData
from vendaval.levels.columns import TopicHistory
from vendaval.people.models import User
from vendaval.work.tests.builders import CourseTestCase, enrolment_of, learning_for


class CalendarTests(CourseTestCase):
    def read(self, address: str) -> Any:
        reply = Client().get(address)
        self.assertEqual(reply["Content-Type"], "text/calendar; charset=utf-8")
        return Calendar.from_ical(reply.content)

    def test_rechecks_and_the_exam_for_whoever_holds_the_address(self) -> None:
        learning = learning_for(self.learner)
        due = self.clock() + timedelta(days=30)
        learning.row.topics["buoyage"] = TopicHistory(met_at=due, recheck_at=due, recheck_days=7)
        learning.claim()
        exam = self.clock().date() + timedelta(days=60)
        set_own_aims(enrolment_of(self.learner), OwnAimsData(exam_on=exam))
        self.assertIsNone(self.client.get("/api/calendar").json()["address"])
        address = self.client.post("/api/calendar").json()["address"]
        self.assertGreater(len(address), 50)
        events = {str(e["summary"]): e for e in self.read(address).walk("VEVENT")}
        recheck = events["Recheck: buoyage (Inshore Navigation)"]
        self.assertEqual(recheck["dtstart"].dt, due.date())
        self.assertEqual(events["Exam (Inshore Navigation)"]["dtstart"].dt, exam)
        self.assertEqual(recheck["url"], "http://127.0.0.1:8000/courses/inshore")
        User.objects.filter(pk=self.learner.pk).update(came_by="http://tablet.school:8181")
        (one, *_) = self.read(address).walk("VEVENT")
        self.assertTrue(one["url"].startswith("http://tablet.school:8181/courses/"))
        again = {str(e["summary"]): e for e in self.read(address).walk("VEVENT")}
        self.assertEqual(recheck["uid"], again["Recheck: buoyage (Inshore Navigation)"]["uid"])

    def test_a_new_address_and_an_ended_one_shut_those_before(self) -> None:
        first = self.client.post("/api/calendar").json()["address"]
        second = self.client.post("/api/calendar").json()["address"]
        self.assertEqual(Client().get(first).status_code, 404)
        self.assertEqual(Client().get(second).status_code, 200)
        self.client.delete("/api/calendar")
        self.assertEqual(Client().get(second).status_code, 404)
        self.assertEqual(Client().get("/api/calendar/guessed.ics").status_code, 404)
