"""A test checked for fairness between groups that the office names."""

from __future__ import annotations

from random import Random
from typing import Any

from django.test import Client

from vendaval.demo.sittings import sit
from vendaval.exams.columns import PlaceData, PlacePoints, StandingData, TotalData
from vendaval.exams.models import Attempt
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.groups.models import Enrolment, Group, GroupMember
from vendaval.people.models import Role, User
from vendaval.work.models import Run
from vendaval.work.tests.builders import with_role


class FairnessTests(ExamTestCase):
    """Sixty learners in each of two groups, their attempts put there as they would be kept."""

    def setUp(self) -> None:
        super().setUp()
        self.desk = Client()
        self.desk.force_login(with_role(self.course, Role.OFFICE))
        self.other = Group.objects.create(course=self.course, title="Sunday")

    def ask(self, status: int = 200, **wanted: Any) -> Any:
        reply = self.desk.get("/api/office/fairness", wanted)
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def sat_by(self, group: Group, many: int, hard: str, rng: Random) -> None:
        """Everybody knows about as much; the question named is hard for this group."""
        now = self.clock()
        for number in range(many):
            name = f"{group.title}{number}"
            person = User.objects.create(username=name, display_name=name)
            enrolment = Enrolment.objects.create(person=person, course=self.course, since=now)
            GroupMember.objects.create(group=group, enrolment=enrolment, since=now)
            run = Run.objects.create(
                enrolment=enrolment, purpose="test", scope=[], started_at=now, touched_at=now
            )
            chance = rng.uniform(0.3, 0.9)
            right = {
                n: rng.random() < (0.1 if key == hard else chance)
                for n, key in enumerate(self.families, 1)
            }
            places = [
                PlaceData(number=n, section=0, family=key, seed=1, order=0, points="1")
                for n, key in enumerate(self.families, 1)
            ]
            points = {
                n: PlacePoints(of="1", reached=str(int(good)), share=str(int(good)), empty=False)
                for n, good in right.items()
            }
            total = TotalData(
                reached=str(sum(right.values())), marked="4", of="4", waiting=0, places=points
            )
            Attempt.objects.create(
                enrolment=enrolment, test=self.assignment.test, assignment=self.assignment, run=run,
                number=1, places=places, standing=StandingData(stretches=[now]), confirmed_at=now,
                handed_in_at=now, marked=True, total=total,
            )  # fmt: skip

    def test_a_question_that_is_harder_for_one_group(self) -> None:
        self.assignment, rng = self.given(), Random(4)
        self.sat_by(self.group, 60, "", rng)
        self.sat_by(self.other, 60, self.families[1], rng)
        page = self.ask()
        self.assertEqual([one["title"] for one in page["tests"]], ["Tides and buoys"])
        wanted = {"test": page["tests"][0]["id"], "one": self.group.pk, "other": self.other.pk}
        found = self.ask(**wanted)
        self.assertEqual((found["one"], found["other"], len(found["questions"])), (60, 60, 4))
        first = found["questions"][0]
        self.assertEqual((first["size"], first["harder"]), ("C", "other"))
        self.assertNotIn("answer", str(found).lower())
        self.ask(422, **wanted | {"other": self.group.pk})
        foreign = wanted | {"other": 999_999}
        self.ask(404, **foreign)

    def test_too_few_to_tell(self) -> None:
        self.assignment = self.given()
        self.sat_by(self.group, 3, "", Random(1))
        sit(self.learner, self.assignment, self.assignment.given_at, 1.0, Random(1))
        wanted = {"test": self.assignment.test_id, "one": self.group.pk, "other": self.other.pk}
        found = self.ask(**wanted)
        self.assertEqual((found["one"], found["other"], found["questions"]), (4, 0, []))
