"""Guardians and tutors about a learner: who reads what, who waits, what goes with a person."""

from __future__ import annotations

import json
from typing import Any
from unittest.mock import patch

from django.test import Client

from vendaval.groups.actions import join_group, leave_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.notices.models import Notice, NoticeKind
from vendaval.people.actions import give_role, link_guardian
from vendaval.people.models import Guardianship, Role, User
from vendaval.privacy.person import erase_person
from vendaval.shared import clock
from vendaval.threads.models import TalkPost
from vendaval.work.tests.builders import CourseTestCase, an_account, enrolment_of


class TalkTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        join_group(self.group, enrolment_of(self.learner))
        self.tutor = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, self.tutor)
        self.vera, self.rosa = self.guardian("Vera Lima"), self.guardian("Rosa Lima")
        self.at = f"/api/learners/{enrolment_of(self.learner).pk}/talks"

    def guardian(self, name: str) -> User:
        person = an_account(name.split()[0].lower(), display_name=name)
        give_role(person, self.course.school, Role.GUARDIAN)
        link_guardian(person, self.learner)
        return person

    def as_(self, person: User) -> Client:
        client = Client()
        client.force_login(person)
        return client

    def write(self, person: User, text: str, guardian: User | None = None) -> Any:
        body = {"text": text, "guardian": guardian.pk if guardian else None}
        return self.as_(person).post(self.at, json.dumps(body), "application/json")

    def texts(self, person: User) -> dict[str, list[str]]:
        talks = self.as_(person).get(self.at).json()["talks"]
        return {talk["name"]: [post["text"] for post in talk["posts"]] for talk in talks}

    def test_each_guardian_has_a_talk_of_their_own_with_the_tutors(self) -> None:
        self.write(self.vera, "How is Ana doing?")
        self.write(self.rosa, "When is the exam?")
        self.assertEqual(self.texts(self.vera), {"Vera Lima": ["How is Ana doing?"]})
        both = {"Vera Lima": ["How is Ana doing?"], "Rosa Lima": ["When is the exam?"]}
        self.assertEqual(self.texts(self.tutor), both)
        waiting = self.as_(self.tutor).get("/api/talks").json()["talks"]
        self.assertEqual([one["guardian_name"] for one in waiting], ["Vera Lima", "Rosa Lima"])
        self.write(self.tutor, "Well, in tides.", self.vera)
        self.assertEqual(self.texts(self.vera)["Vera Lima"][-1], "Well, in tides.")
        waiting = self.as_(self.tutor).get("/api/talks").json()["talks"]
        self.assertEqual([one["guardian_name"] for one in waiting], ["Rosa Lima"])
        told = Notice.objects.filter(kind=NoticeKind.TALK).values_list("person__username", "title")
        self.assertIn(("vera", "Clara Nunes writes about Ana Lima"), told)
        self.assertEqual(Notice.objects.filter(person=self.learner).count(), 0, "not the learner")

    def test_of_a_long_talk_the_latest_is_shown_and_it_hides_no_other(self) -> None:
        self.write(self.rosa, "When is the exam?")
        for number in range(4):
            self.write(self.vera, f"Line {number}")
        with patch("vendaval.threads.talks.MOST_POSTS", 2):
            shown = self.texts(self.tutor)
        self.assertEqual(shown["Vera Lima"], ["Line 2", "Line 3"])
        self.assertEqual(shown["Rosa Lima"], ["When is the exam?"])

    def test_nobody_writes_into_anothers_talk(self) -> None:
        self.assertEqual(self.write(self.vera, "As Rosa", self.rosa).status_code, 404)
        stranger = an_account("stranger")
        self.assertEqual(self.write(self.tutor, "To whom?", stranger).status_code, 404)
        self.assertEqual(self.write(stranger, "Hello").status_code, 404)
        self.assertEqual(self.write(self.learner, "It is about me").status_code, 404)
        self.assertEqual(TalkPost.objects.count(), 0)

    def test_it_ends_with_what_it_hangs_on(self) -> None:
        self.write(self.vera, "How is Ana doing?")
        Guardianship.objects.filter(guardian=self.vera).update(until=clock.now())
        self.assertEqual(self.write(self.vera, "And now?").status_code, 404)
        self.assertEqual(self.texts(self.tutor), {"Rosa Lima": []})
        waiting = self.as_(self.tutor).get("/api/talks").json()["talks"]
        self.assertEqual(waiting, [], "who reads no more waits for nothing")
        leave_group(self.group, enrolment_of(self.learner))
        self.assertEqual(self.as_(self.tutor).get(self.at).status_code, 404)
        self.assertEqual(self.as_(self.tutor).get("/api/talks").json()["talks"], [])
        self.assertEqual(self.write(self.rosa, "Anybody?").status_code, 422)

    def test_what_was_written_goes_with_the_guardian(self) -> None:
        self.write(self.vera, "Ana is my niece.")
        erase_person(self.vera)
        self.assertEqual(TalkPost.objects.count(), 0)
