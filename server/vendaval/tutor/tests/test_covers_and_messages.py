"""A tutor who covers for another, and what tutors write to their groups."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

from django.core import mail
from django.test import Client, override_settings
from django.utils import timezone

from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.notices.actions import send_digests
from vendaval.notices.models import Notice
from vendaval.people.actions import give_role
from vendaval.people.models import AuditEntry, AuditKind, Role
from vendaval.tutor.covers import apply_covers
from vendaval.tutor.models import Cover
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    an_account,
    enrolment_of,
    with_role,
)


class GroupDeskTestCase(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        self.tutor = with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, self.tutor)
        join_group(self.group, enrolment_of(self.learner))
        self.desk = self.desk_of(self.tutor)

    def desk_of(self, person: Any) -> Client:
        desk = Client()
        desk.force_login(person)
        return desk

    def send(self, path: str, body: Any, status: int = 200) -> Any:
        at = f"/api/groups/{self.group.pk}{path}"
        reply = self.desk.post(at, json.dumps(body, default=str), "application/json")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()


class CoverTests(GroupDeskTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.other = an_account("otto", display_name="Otto Reis")
        give_role(self.other, self.course.school, Role.TUTOR)
        self.today = timezone.localtime(self.clock()).date()

    def cover(self, begins: int, ends: int, status: int = 200) -> Any:
        days = {"begins": begins, "ends": ends}
        dates = {key: self.today + timedelta(days=n) for key, n in days.items()}
        return self.send("/covers", {"person": self.other.pk} | dates, status)

    def sees(self) -> int:
        return self.desk_of(self.other).get(f"/api/groups/{self.group.pk}").status_code

    def test_for_those_days_and_no_others(self) -> None:
        page = self.cover(1, 2)
        self.assertEqual(
            [(one["name"], one["teaching"]) for one in page["covers"]], [("Otto Reis", False)]
        )
        seen = []
        for _ in range(4):
            apply_covers()
            seen.append(self.sees())
            self.clock.forward(days=1)
        self.assertEqual(seen, [404, 200, 200, 404])
        self.assertEqual(AuditEntry.objects.filter(kind=AuditKind.GROUP).count(), 1)
        self.assertEqual(apply_covers(), 0, "done once")

    def test_from_today_at_once_and_ended_early(self) -> None:
        page = self.cover(0, 3)
        self.assertEqual(self.sees(), 200)
        self.assertEqual(page["choices"], [], "who covers is no choice any more")
        pk = page["covers"][0]["id"]
        self.desk.delete(f"/api/groups/{self.group.pk}/covers/{pk}")
        self.assertEqual(self.sees(), 404)

    def test_what_cannot_be(self) -> None:
        self.assertEqual(self.cover(-1, 3, 422)["fields"].keys(), {"begins"})
        self.assertEqual(self.cover(3, 1, 422)["fields"].keys(), {"ends"})
        self.other = self.tutor
        self.assertEqual(self.cover(0, 1, 422)["fields"].keys(), {"person"})
        self.assertEqual(Cover.objects.count(), 0)


class MessageTests(GroupDeskTestCase):
    def test_to_the_group_and_to_one(self) -> None:
        bea = a_learner(self.course, "bea", display_name="Bea Reis")
        join_group(self.group, enrolment_of(bea))
        self.send("/messages", {"text": "We meet at the pier."})
        page = self.send(
            "/messages", {"text": "Bring your chart.", "learners": [enrolment_of(bea).pk]}
        )
        self.assertEqual([one["to"] for one in page["messages"]], [["Bea Reis"], []])
        texts = {
            person: [one.text for one in Notice.objects.filter(person=person).order_by("pk")]
            for person in (self.learner, bea)
        }
        self.assertEqual(texts[self.learner], ["We meet at the pier."])
        self.assertEqual(texts[bea], ["We meet at the pier.", "Bring your chart."])
        with override_settings(EMAIL_BACKEND="django.core.mail.backends.locmem.EmailBackend"):
            bea.email = "bea@home.example"
            bea.save()
            send_digests()
        self.assertIn("Bring your chart.", mail.outbox[-1].body)

    def test_not_to_others_and_not_without_end(self) -> None:
        stranger = a_learner(self.course, "zoe")
        self.send("/messages", {"text": "Hello", "learners": [enrolment_of(stranger).pk]}, 404)
        for _ in range(30):
            self.send("/messages", {"text": "Hello"})
        self.assertEqual(self.send("/messages", {"text": "Hello"}, 429)["code"], "many_messages")
