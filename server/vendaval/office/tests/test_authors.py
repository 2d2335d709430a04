"""Which courses an author writes for, as the office says."""

from __future__ import annotations

from django.test import Client

from vendaval.bank.making import make_course
from vendaval.groups.writing import courses_written_by, writers_of
from vendaval.people.models import Role
from vendaval.work.tests.builders import enrolment_of, with_role

from .builders import OfficeTestCase


class AuthorTests(OfficeTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.ropes = make_course(self.course.school, "Ropes", "Knots", "Bends")
        self.rui = with_role(self.course, Role.AUTHOR)
        self.desk = Client()
        self.desk.force_login(self.rui)

    def written(self) -> list[str]:
        reply = self.desk.get("/api/written").json()
        return [one["key"] for one in reply["courses"]]

    def keep_to(self, *courses: str, status: int = 200) -> None:
        body = {"name": "Rui", "mail": "rui@x.example", "roles": ["author"], "writes": courses}
        reply = self.change(f"/people/{self.rui.pk}", body)
        self.assertEqual(reply.status_code, status, reply.content[:300])

    def test_all_courses_of_the_school_or_those_that_the_office_names(self) -> None:
        self.assertEqual(self.written(), ["inshore", "ropes"])
        self.keep_to("ropes")
        self.assertEqual(self.written(), ["ropes"])
        self.assertEqual(self.read("/log?kind=role")["entries"][0]["says"], "writes for ropes")
        bank = "/api/courses/{}/authoring/bank"
        self.assertEqual(self.desk.get(bank.format("ropes")).status_code, 200)
        self.assertEqual(self.desk.get(bank.format("inshore")).status_code, 404)
        self.keep_to("no-such", status=422)
        self.assertEqual(self.written(), ["ropes"])
        self.keep_to()
        self.assertEqual(self.written(), ["inshore", "ropes"])

    def test_reports_reach_only_those_who_write_for_the_course(self) -> None:
        asked = enrolment_of(self.learner).course
        self.assertIn(self.rui, writers_of(asked))
        self.keep_to("ropes")
        self.assertNotIn(self.rui, writers_of(asked))
        self.assertIn(self.rui, writers_of(self.ropes))

    def test_who_is_no_author_any_more_writes_for_none(self) -> None:
        self.keep_to("ropes")
        body = {"name": "Rui", "mail": "rui@x.example", "roles": ["tutor"], "writes": ["ropes"]}
        self.change(f"/people/{self.rui.pk}", body)
        self.assertFalse(courses_written_by(self.rui).exists())
        self.assertEqual(self.read(f"/people/{self.rui.pk}")["writes"], [])
