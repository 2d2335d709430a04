"""Builders for tests: the real course, learners, a clock that is told what time it is."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from io import StringIO
from typing import Any, ClassVar

from django.core.management import call_command
from django.test import Client, TestCase

from vendaval.bank.actions import load_pack
from vendaval.bank.models import Course
from vendaval.bank.snapshot import version_of
from vendaval.evidence.models import Presentation, Run
from vendaval.evidence.present import present
from vendaval.evidence.state import load_learning
from vendaval.people.models import Role, User
from vendaval.shared import clock
from vendaval_core.packs.reader import Pack
from vendaval_core.scoring.examples import right_response, wrong_response
from vendaval_core.tests.courses import inshore


def inshore_without(*families: str) -> Pack:
    """The course with some families taken out."""
    pack = inshore()
    left = tuple(item for item in pack.families if item.family.key not in families)
    return replace(pack, families=left)


def a_learner(username: str = "ana", role: Role = Role.LEARNER) -> User:
    return User.objects.create_user(
        username, password="a long pass phrase", role=role, display_name="Ana Lima"
    )


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


def responses(question_id: int, make: Callable[[Any], str]) -> dict[str, str]:
    presentation = Presentation.objects.select_related("revision").get(pk=question_id)
    return {key.id: make(key) for key in keys_of(presentation)}


def right(question_id: int) -> dict[str, str]:
    return responses(question_id, right_response)


def wrong(question_id: int) -> dict[str, str]:
    return responses(question_id, wrong_response)


class CourseTestCase(TestCase):
    """The course is loaded, a learner is signed in, and the clock stands still."""

    course: ClassVar[Course]
    learner: ClassVar[User]

    @classmethod
    def setUpTestData(cls) -> None:
        cls.course = load_pack(inshore())
        cls.learner = a_learner()

    def setUp(self) -> None:
        self.clock = TestClock()
        held = clock.held_by(self.clock)
        held.__enter__()
        self.addCleanup(held.__exit__, None, None, None)
        self.client.force_login(self.learner)
        self.sent = 0

    def post(
        self,
        path: str,
        body: dict[str, Any] | None = None,
        *,
        status: int = 200,
        client: Client | None = None,
    ) -> Any:
        reply = (client or self.client).post(
            f"/api{path}", data=json.dumps(body or {}), content_type="application/json"
        )
        self.assertEqual(reply.status_code, status, reply.content[:400])
        return reply.json()

    def get(self, path: str, *, status: int = 200) -> Any:
        reply = self.client.get(f"/api{path}")
        self.assertEqual(reply.status_code, status, reply.content[:400])
        return reply.json()

    def new_key(self) -> str:
        self.sent += 1
        return f"test-key-{self.sent:05d}"

    def answer(
        self,
        purpose: str,
        question_id: int,
        given: dict[str, str],
        *,
        after: float = 60,
        **more: Any,
    ) -> Any:
        """Answer a question a number of seconds after now."""
        self.clock.forward(seconds=after)
        body = {"replay_key": self.new_key(), "responses": given} | more
        return self.post(f"/{purpose}/questions/{question_id}/answer", body)

    def onward(self, reply: dict[str, Any]) -> Any:
        """The question to answer after a reply of practice, read about first where that is asked."""
        if reply["next"] is not None or not reply["question"]["closed"]:
            return reply["next"] or reply["question"]
        run = reply["run"]
        study = run["study_first"]
        self.post(f"/study/{study['topic']}/{study['section']}/opened")
        return self.post(f"/practice/runs/{run['id']}/go-on")["question"]

    def practise(self, topic: str = "height-at-a-time") -> Any:
        return self.post("/practice/runs", {"topic": topic})["question"]

    def practise_family(self, key: str) -> Any:
        """Practise, with a family of the test's choice as the question that waits."""
        topic = load_learning(self.learner, self.course).bank.families[key].family.topic
        self.practise(topic)
        return self.ask_family(key, "practice")

    def ask_family(self, key: str, purpose: str) -> Any:
        """Put a family of the test's choice in the place of the question that waits in a run."""
        run = Run.objects.get(learner=self.learner, ended_at=None, purpose=purpose)
        learning = load_learning(self.learner, self.course)
        Presentation.objects.filter(run=run, closed_at=None).update(closed_at=self.clock())
        present(learning, run, key, self.clock())
        learning.save()
        run.save()
        return self.get(f"/{purpose}/runs/{run.pk}")["question"]

    def diagnose(self, subject: str | None = "tides") -> Any:
        return self.post("/diagnostic/runs", {"subject": subject})
