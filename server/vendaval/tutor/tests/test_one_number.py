"""A topic's level, and how many targets are reached, are the same wherever they are shown."""

from datetime import timedelta
from typing import Any

from django.test import Client

from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.levels.columns import TopicHistory
from vendaval.people.actions import link_guardian
from vendaval.people.models import Role
from vendaval.work.tests.builders import (
    CourseTestCase,
    enrolment_of,
    learning_for,
    right,
    with_role,
    wrong,
)

Found = dict[str, set[tuple[Any, ...]]]


class OneNumberTests(CourseTestCase):
    """Ana has answered in three subjects, and forty days have passed."""

    def setUp(self) -> None:
        super().setUp()
        group = Group.objects.create(course=self.course, title="Tuesday")
        group.settings.exam_on = (self.clock() + timedelta(days=60)).date()
        group.save()
        join_group(group, enrolment_of(self.learner))
        self.desk, self.home, self.group = Client(), Client(), group.pk
        put_in_charge(group, tutor := with_role(self.course, Role.TUTOR))
        link_guardian(guardian := with_role(self.course, Role.GUARDIAN), self.learner)
        self.desk.force_login(tutor)
        self.home.force_login(guardian)
        for topic, make in (("tidal-terms", right), ("buoyage", right), ("wind-force", wrong)):
            question = self.practise(topic)
            for _ in range(7):
                reply = self.answer(question["id"], make(question["id"]))
                if not reply["question"]["closed"]:
                    reply = self.post(f"/questions/{question['id']}/working")
                question = self.onward(reply)
        for topic, lost in (("tidal-terms", False), ("wind-force", True)):
            self.meet(topic, lost=lost)
        self.clock.forward(days=40)

    def meet(self, topic: str, *, lost: bool) -> None:
        row = learning_for(self.learner).row
        history = row.topics.setdefault(topic, TopicHistory())
        history.met_at, history.lost = self.clock() - timedelta(days=1), lost
        row.save()

    def levels(self, value: Any, found: Found, topic: str | None = None) -> None:
        """Every reading anywhere in a payload, by the topic that it stands beside."""
        if isinstance(value, list):
            for one in value:
                self.levels(one, found, topic)
        elif isinstance(value, dict):
            own = value.get("topic") or value
            key = own if isinstance(own, str) else own.get("key")
            topic = key if key in self.keys else topic
            reading = value.get("reading")
            if reading and topic:
                found.setdefault(topic, set()).add(
                    (reading["level"], round(reading["low"]), round(reading["high"]))
                )
            for name, inner in value.items():
                # How it stood at the end of a week, and before a question or a test.
                if name not in {"weeks", "history", "levels"}:
                    self.levels(inner, found, topic)

    def test_every_page_shows_the_same_level(self) -> None:
        learner = f"/api/learners/{enrolment_of(self.learner).pk}"
        topics = self.get("/topics")
        self.keys = {line["key"] for one in topics["subjects"] for line in one["topics"]}
        own = ["/today", "/topics", "/practice-plan", "/record", "/plan", "/topics/buoyage"]
        pages = {path: self.get(path) for path in own}
        related = (learner, f"{learner}/topics/buoyage", f"{learner}/record")
        for client, name in ((self.desk, "tutor"), (self.home, "guardian")):
            pages |= {f"{name} {path}": client.get(path).json() for path in related}
        group = self.desk.get(f"/api/groups/{self.group}").json()
        cells = group["learners"][0]["cells"]
        pages["group"] = [{**t, **cell} for t, cell in zip(group["topics"], cells, strict=True)]
        seen: Found = {}
        for path, page in pages.items():
            found: Found = {}
            self.levels(page, found)
            self.assertTrue(found, path)
            for topic, readings in found.items():
                seen.setdefault(topic, set()).update(readings)
        self.assertEqual(set(seen), self.keys)
        self.assertEqual({topic: r for topic, r in seen.items() if len(r) > 1}, {})

    def test_every_page_counts_the_same_targets_and_says_what_is_doubtful(self) -> None:
        said = "wo of 18 targets reached, one needs a check"
        learner = f"/api/learners/{enrolment_of(self.learner).pk}"
        self.assertIn("two of 18 targets, one needs a check", self.get("/today")["lead"])
        self.assertIn("two of 18 targets, one needs a check", self.get("/topics")["headline"])
        self.assertIn(said, self.get("/record")["headline"])
        for client in (self.desk, self.home):
            self.assertIn(said, client.get(learner).json()["lead"])
            self.assertIn(said, client.get(f"{learner}/record").json()["headline"])
        columns = self.desk.get(f"/api/groups/{self.group}").json()["topics"]
        self.assertEqual(sum(column["met"] for column in columns), 2)
