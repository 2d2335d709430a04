"""What a group missed, as its tutor sees it."""

from __future__ import annotations

from django.test import Client

from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.models import Role
from vendaval.work.models import Presentation
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    enrolment_of,
    keys_of,
    right,
    with_role,
)


class MissedTests(CourseTestCase):
    """Two make the same foreseen mistake with other numbers, one is right."""

    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        tutor, self.desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, tutor)
        self.desk.force_login(tutor)

    def answers(self, name: str, *, foreseen: bool) -> None:
        learner = a_learner(self.course, name)
        join_group(self.group, enrolment_of(learner))
        self.client.force_login(learner)
        goal = {"kind": "ideas", "families": ["drying-rock"]}
        start = {"purpose": "practice", "topics": ["tidal-terms"], "goal": goal}
        question = self.post("/runs", start)["question"]["id"]
        (key,) = keys_of(
            Presentation.objects.select_related("revision__family__topic").get(pk=question)
        )
        given = {key.id: f"{float(key.near_misses[0].value):.1f}"} if foreseen else right(question)
        self.answer(question, given)

    def test_the_same_mistake_with_other_numbers_is_one(self) -> None:
        for name, foreseen in (("ana2", True), ("bea", True), ("caio", False)):
            self.answers(name, foreseen=foreseen)
        with self.assertNumQueries(6):
            reply = self.desk.get(f"/api/groups/{self.group.pk}/missed")
        page = reply.json()
        (family,) = page["families"]
        self.assertEqual(
            (family["key"], family["missed"], family["answered"]), ("drying-rock", 2, 3)
        )
        (mistake,) = family["answers"]
        self.assertEqual(mistake["learners"], 2)
        self.assertTrue(mistake["says"])
        self.assertEqual((page["show"], page["set"]), (["drying-rock"], ["drying-rock"]))
        self.assertTrue(page["read"][0]["title"])

    def test_of_who_left_nothing_is_counted(self) -> None:
        for name in ("ana2", "bea"):
            self.answers(name, foreseen=True)
        self.group.members.update(until=self.clock())
        page = self.desk.get(f"/api/groups/{self.group.pk}/missed").json()
        self.assertEqual(page["families"], [])
