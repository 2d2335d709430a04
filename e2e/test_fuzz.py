"""Made-up calls to the API, three hundred with a seed; `make fuzz` sends as many as are asked for."""

from __future__ import annotations

import json
import os
import time
from typing import Any

from django.conf import settings

from vendaval.exams.models import Assignment, Attempt
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.review.models import Miss
from vendaval.work.models import Presentation, Run, Try
from vendaval.work.tests.builders import wrong

from .fuzzing import Fuzzed, Fuzzer

ASKED_FOR = "VENDAVAL_FUZZ_CALLS" in os.environ


class FuzzTests(ExamTestCase):
    lasts = 30
    calls = int(os.environ.get("VENDAVAL_FUZZ_CALLS", "300"))
    seed = int(os.environ.get("VENDAVAL_FUZZ_SEED", "1"))

    def places(self) -> dict[str, Any]:
        return {
            "course": self.course.key,
            "run_id": Run.objects.latest("pk").pk,
            "question_id": Presentation.objects.latest("pk").pk,
            "miss_id": Miss.objects.latest("pk").pk,
            "key": "tidal-terms",
            "section": "range",
            "try_id": Try.objects.latest("pk").pk,
            "attempt_id": Attempt.objects.latest("pk").pk,
            "ref": f"given-{Assignment.objects.latest('pk').pk}",
            "number": 1,
        }

    def fuzzed(self, calls: int, seed: int) -> Fuzzed:
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        self.diagnose()
        self.begin(self.given())
        self.client.raise_request_exception = False
        document = json.loads((settings.ROOT / "docs" / "openapi.json").read_text())
        sign_in = lambda: self.client.force_login(self.learner)  # noqa: E731
        timer = time.perf_counter if ASKED_FOR else time.thread_time
        return Fuzzer(self.client, document, sign_in, self.places, timer).run(calls, seed)

    def test_nothing_breaks_and_nothing_is_slow(self) -> None:
        found = self.fuzzed(self.calls, self.seed)
        if ASKED_FOR:
            print(f"{found.calls} calls, slowest {found.slowest:.2f} s, {dict(found.statuses)}")
        self.assertEqual(found.failures, [])
        self.assertGreater(found.calls, 0.9 * self.calls)
        self.assertTrue({200, 404, 422} <= set(found.statuses), found.statuses)
