"""Made-up calls to the API as every role, some hundred with a seed; `make fuzz` sends as many as are
asked for."""

from __future__ import annotations

import json
import os
import time
from typing import Any

from django.conf import settings
from django.test import Client, override_settings

from vendaval.assigning.models import Task
from vendaval.assigning.schemas import TaskIn
from vendaval.assigning.tasks import set_task
from vendaval.exams.models import AnswerSoFar, Assignment, Attempt
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.groups.actions import put_in_charge
from vendaval.people.actions import give_role, link_guardian
from vendaval.people.models import Role, User
from vendaval.review.models import Miss
from vendaval.threads.models import Thread
from vendaval.work.models import Presentation, Run, Try
from vendaval.work.tests.builders import an_account, enrolment_of, with_role, wrong

from .fuzzing import Fuzzed, Fuzzer

ASKED_FOR = "VENDAVAL_FUZZ_CALLS" in os.environ


class FuzzTests(ExamTestCase):
    lasts = 40
    calls = int(os.environ.get("VENDAVAL_FUZZ_CALLS", "120"))
    seed = int(os.environ.get("VENDAVAL_FUZZ_SEED", "1"))

    def places(self) -> dict[str, Any]:
        latest = lambda model: getattr(model.objects.order_by("pk").last(), "pk", 1)  # noqa: E731
        return {
            "course": self.course.key,
            "run_id": latest(Run),
            "question_id": latest(Presentation),
            "miss_id": latest(Miss),
            "key": "tidal-terms",
            "section": "range",
            "try_id": latest(Try),
            "attempt_id": latest(Attempt),
            "ref": f"given-{latest(Assignment)}",
            "number": 1,
            "group_id": self.group.pk,
            "enrolment_id": enrolment_of(self.learner).pk,
            "assignment_id": latest(Assignment),
            "task_id": latest(Task),
            "test_id": Assignment.objects.order_by("pk").values_list("test", flat=True).last() or 1,
            "answer_id": latest(AnswerSoFar),
            "thread_id": latest(Thread),
            "person_id": self.spare.pk,
            "family": self.families[0],
        }

    def people(self) -> list[User]:
        """Somebody of each role, with something to do."""
        school = self.course.school
        tutor, author = with_role(self.course, Role.TUTOR), with_role(self.course, Role.AUTHOR)
        put_in_charge(self.group, tutor)
        guardian, office = an_account("vera"), an_account("olga")
        give_role(guardian, school, Role.GUARDIAN)
        link_guardian(guardian, self.learner)
        give_role(office, school, Role.OFFICE)
        self.spare = an_account("spare")
        give_role(self.spare, school, Role.LEARNER)
        work = TaskIn.model_validate({"goal": {"kind": "target", "topics": ["tidal-terms"]}})
        set_task(self.group, work, tutor)
        return [self.learner, tutor, guardian, author, office]

    def fuzzed(self, calls: int, seed: int) -> Fuzzed:
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        self.diagnose()
        self.begin(self.given())
        people = self.people()
        clients = [Client(raise_request_exception=False) for _ in (*people, None)]

        def sign_in() -> None:
            User.objects.filter(pk__in=[one.pk for one in people]).update(is_active=True)
            for client, person in zip(clients, people, strict=False):
                client.force_login(person)

        sign_in()
        document = json.loads((settings.ROOT / "docs" / "openapi.json").read_text())
        timer = time.perf_counter if ASKED_FOR else time.thread_time
        return Fuzzer(clients, document, sign_in, self.places, timer).run(calls, seed)

    @override_settings(CODE_PACE=False)
    def test_nothing_breaks_and_nothing_is_slow(self) -> None:
        found = self.fuzzed(self.calls, self.seed)
        if ASKED_FOR:
            print(f"{found.calls} calls, slowest {found.slowest:.2f} s, {dict(found.statuses)}")
        self.assertEqual(found.failures, [])
        self.assertGreater(found.calls, 0.9 * self.calls)
        self.assertTrue({200, 403, 404, 422} <= set(found.statuses), found.statuses)
