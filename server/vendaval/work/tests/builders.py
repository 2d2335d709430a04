"""Builders for tests: the real course, learners, a clock that is told what time it is."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from io import StringIO
from typing import Any, ClassVar
from zlib import crc32

from django.core.management import call_command
from django.test import Client, TestCase

from vendaval.bank.loading import load_pack
from vendaval.bank.models import Course
from vendaval.bank.snapshot import course_bank, version_of
from vendaval.groups.actions import enrol
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning, learning_of
from vendaval.levels.presenting import present
from vendaval.people.actions import give_role
from vendaval.people.models import Role, User
from vendaval.shared import clock
from vendaval.shared.changes import Changes
from vendaval.work.columns import Why
from vendaval.work.models import Presentation, Run
from vendaval.work.runs import loaded_runs
from vendaval_core.items.kinds.protocol import Examples
from vendaval_core.packs.reader import Pack
from vendaval_core.tests.courses import inshore


def inshore_without(*families: str) -> Pack:
    """The course with some families taken out."""
    pack = inshore()
    left = tuple(item for item in pack.families if item.family.key not in families)
    return replace(pack, families=left)


def an_account(username: str = "ana", display_name: str = "Ana Lima", **more: Any) -> User:
    """An account without any role."""
    return User.objects.create_user(
        username, password="a long pass phrase", display_name=display_name, **more
    )


def a_learner(course: Course, username: str = "ana", **more: Any) -> User:
    """A learner of a course, whose draws are the same in every run of a test."""
    user = an_account(username, **more)
    enrolment = enrol(user, course)
    enrolment.seed = crc32(username.encode())
    enrolment.save(update_fields=["seed"])
    return user


def with_role(course: Course, role: Role) -> User:
    """An account that is something at the course's school, and learns nothing."""
    user = an_account(role.value)
    give_role(user, course.school, role)
    return user


def enrolment_of(learner: User, course: Course | None = None) -> Enrolment:
    """A learner's enrolment as a request would load it."""
    rows = Enrolment.objects.select_related("course", "state", "person").filter(person=learner)
    return rows.get(course=course) if course else rows.get()


def learning_for(learner: User, course: Course | None = None) -> Learning:
    """A learner's state as it is stored now."""
    return learning_of(enrolment_of(learner, course))


def run_command(*arguments: Any, **options: Any) -> str:
    """What a management command prints; what it reports as errors is not kept."""
    out = StringIO()
    call_command(*arguments, stdout=out, stderr=StringIO(), **options)
    return out.getvalue()


class TestClock:
    """Time that moves when a test says so."""

    def __init__(self) -> None:
        self.time = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)

    def __call__(self) -> datetime:
        return self.time

    def forward(self, **span: float) -> None:
        self.time += timedelta(**span)


def keys_of(presentation: Presentation) -> Any:
    """The keys of a presentation, made again from what is stored."""
    return version_of(presentation.revision, presentation.seed, presentation.order).parts


def examples(question_id: int) -> dict[str, Examples]:
    """Example responses by part."""
    rows = Presentation.objects.select_related("revision__family__topic")
    return {key.id: key.examples for key in keys_of(rows.get(pk=question_id))}


def right(question_id: int) -> dict[str, str]:
    return {part: one.right for part, one in examples(question_id).items()}


def wrong(question_id: int) -> dict[str, str]:
    return {part: one.wrong for part, one in examples(question_id).items()}


def ask_instead(learner: User, family: str, purpose: str, now: datetime) -> Run:
    """Put a family in the place of the question that waits in a learner's run."""
    runs = loaded_runs().filter(enrolment__person=learner, ended_at=None, purpose=purpose)
    run = runs.latest("pk")
    Presentation.objects.filter(run=run, closed_at=None).update(closed_at=now)
    learning = learning_of(run.enrolment)
    changes = Changes(learning)
    present(learning, run, family, now, changes, why=Why())
    changes.store()
    return run


class CourseTestCase(TestCase):
    """The course is loaded, a learner is signed in, and the clock stands still.

    Paths are those below the course's address.
    """

    course: ClassVar[Course]
    learner: ClassVar[User]

    @classmethod
    def setUpTestData(cls) -> None:
        cls.course = load_pack(inshore())
        cls.learner = a_learner(cls.course)

    def setUp(self) -> None:
        self.clock = TestClock()
        held = clock.held_by(self.clock)
        held.__enter__()
        self.addCleanup(held.__exit__, None, None, None)
        self.client.force_login(self.learner)
        self.sent = 0

    def address(self, path: str) -> str:
        return f"/api/courses/{self.course.key}{path}"

    def post(
        self,
        path: str,
        body: dict[str, Any] | None = None,
        *,
        status: int = 200,
        client: Client | None = None,
    ) -> Any:
        reply = (client or self.client).post(
            self.address(path), data=json.dumps(body or {}), content_type="application/json"
        )
        self.assertEqual(reply.status_code, status, reply.content[:400])
        return reply.json()

    def get(self, path: str, *, status: int = 200) -> Any:
        reply = self.client.get(self.address(path))
        self.assertEqual(reply.status_code, status, reply.content[:400])
        return reply.json()

    def new_key(self) -> str:
        self.sent += 1
        return f"test-key-{self.sent:05d}"

    def answer(
        self, question_id: int, given: dict[str, str], *, after: float = 60, **more: Any
    ) -> Any:
        """Answer a question a number of seconds after now."""
        self.clock.forward(seconds=after)
        body = {"replay_key": self.new_key(), "responses": given} | more
        return self.post(f"/questions/{question_id}/answer", body)

    def onward(self, reply: dict[str, Any]) -> Any:
        """The question to answer after a reply of practice, read about first where that is asked."""
        if reply["next"] is not None or not reply["question"]["closed"]:
            return reply["next"] or reply["question"]
        run = reply["run"]
        study = run["study_first"]
        self.post(f"/study/{study['topic']}/{study['section']}/opened")
        return self.post(f"/runs/{run['id']}/go-on")["question"]

    def start_practice(self, topic: str, *, status: int = 200) -> Any:
        return self.post("/runs", {"purpose": "practice", "topics": [topic]}, status=status)

    def diagnose(self, subject: str | None = "tides", *, status: int = 200) -> Any:
        return self.post("/runs", {"purpose": "diagnostic", "subject": subject}, status=status)

    def start_mend(self, miss: int, *, status: int = 200) -> Any:
        return self.post("/runs", {"purpose": "missed", "miss": miss}, status=status)

    def practise(self, topic: str = "height-at-a-time") -> Any:
        return self.start_practice(topic)["question"]

    def practise_family(self, key: str) -> Any:
        """Practise, with a family of the test's choice as the question that waits."""
        self.practise(course_bank(self.course).families[key].family.topic)
        return self.ask_family(key, "practice")

    def ask_family(self, key: str, purpose: str) -> Any:
        """Put a family of the test's choice in the place of the question that waits in a run."""
        run = ask_instead(self.learner, key, purpose, self.clock())
        return self.get(f"/runs/{run.pk}")["question"]
