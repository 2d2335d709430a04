"""A learner who does anything at any time: hundreds of requests in no order, some of them foolish.

Whatever was done, the server never fails, one question waits at the most in a run, and the stored
levels are those of the log.
"""

from __future__ import annotations

import random
from collections import Counter
from typing import Any

from vendaval.bank.loading import load_pack
from vendaval.levels.checking import check_states
from vendaval.review.models import Miss
from vendaval.work.models import Presentation, Run, Try
from vendaval.work.tests.builders import (
    CourseTestCase,
    examples,
    inshore,
    inshore_without,
    right,
    wrong,
)

REFUSALS = {400, 404, 409, 422}


class WalkTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.seen: Counter[str] = Counter()

    def ask(
        self, method: str, path: str, body: dict[str, Any] | None = None, step: str = ""
    ) -> Any:
        """Send a request that may be refused in words, but must not fail."""
        send = self.client.get if method == "get" else self.client.post
        reply = send(self.address(path), body or {}, content_type="application/json")
        self.assertIn(reply.status_code, REFUSALS | {200}, (path, reply.content[:300]))
        found = reply.json()
        step = step or path.rpartition("/")[2]
        self.seen[f"{step} {found.get('code', '') if reply.status_code != 200 else 'done'}"] += 1
        return found

    def any_question(self, rng: random.Random) -> Presentation | None:
        """Mostly one that waits, now and then any that there ever was."""
        rows = Presentation.objects.filter(run__enrolment__person=self.learner)
        if rng.random() < 0.85:
            rows = rows.filter(closed_at=None)
        ids = list(rows.order_by("pk").values_list("pk", flat=True))
        return Presentation.objects.select_related("run").get(pk=rng.choice(ids)) if ids else None

    def step(self, rng: random.Random) -> None:
        topics = ("height-at-a-time", "compass-errors", "buoyage", "nowhere")
        if rng.random() < 0.25:
            start = rng.choice(("practice", "diagnostic", "review", "study"))
            if start == "practice":
                self.ask("post", "/runs", {"purpose": "practice", "topics": [rng.choice(topics)]})
            elif start == "diagnostic":
                subject = rng.choice(("tides", "chartwork", None, "none"))
                self.ask("post", "/runs", {"purpose": "diagnostic", "subject": subject})
            elif start == "study":
                section = rng.choice(("twelfths", "height", "time", "nothing"))
                self.ask("post", f"/study/height-at-a-time/{section}/opened")
            else:
                misses = list(Miss.objects.order_by("pk").values_list("pk", flat=True))
                miss = rng.choice([*misses, 10**9])
                if rng.random() < 0.67:
                    self.ask("post", "/runs", {"purpose": "missed", "miss": miss})
                else:
                    self.ask("post", f"/misses/{miss}/set-aside")
            return
        question = self.any_question(rng)
        if question is None:
            return
        if rng.random() < 0.2:
            what = rng.choice(("finish", "go-on", ""))
            method = "post" if what else "get"
            self.ask(method, f"/runs/{question.run_id}/{what}".rstrip("/"))
            return
        what = rng.choice(("answer",) * 8 + ("hint", "working", "fresh", "swap", "not-taught"))
        what = rng.choice((what, what, what, "undo" if what == "not-taught" else what))
        body: dict[str, Any] = {}
        if what in {"answer", "not-taught", "undo"}:
            old = rng.choice(("", "", "", "again"))
            body["replay_key"] = f"walk-key-{old}" if old else self.new_key()
        if what == "not-taught":
            body["not_taught"] = True
        if what == "answer":
            make = rng.choice((right, right, wrong, lambda pk: dict.fromkeys(examples(pk), "?!")))
            given = make(question.pk)
            if rng.random() < 0.1:
                given.popitem()
            body |= {"responses": given, "confidence": rng.choice((None, 50, 90, 100))}
        if rng.random() < 0.9:
            self.ask("post", f"/questions/{question.pk}/shown")
        address = "answer" if what == "not-taught" else what
        self.ask("post", f"/questions/{question.pk}/{address}", body, what)

    def check(self) -> None:
        for run in Run.objects.filter(enrolment__person=self.learner):
            waiting = run.presentations.filter(closed_at=None)
            self.assertLessEqual(waiting.count(), 0 if run.ended_at else 1, run.purpose)
        self.course.refresh_from_db()
        self.assertEqual([one.agrees for one in check_states(self.course)], [True])

    def test_nothing_fails_and_nothing_is_lost(self) -> None:
        for seed in (1, 2):
            rng = random.Random(seed)
            tries = 0
            for turn in range(220):
                self.clock.forward(seconds=rng.choice((1, 40, 60, 90, 90, 6 * 3600)))
                self.step(rng)
                now = Try.objects.count()
                self.assertGreaterEqual(now, tries)
                tries = now
                if turn == 110:
                    waiting = Presentation.objects.filter(closed_at=None).order_by("pk")
                    gone = waiting.values_list("revision__family__key", flat=True)[:2]
                    load_pack(inshore_without(*gone))
            for path in (
                "/today",
                "/topics",
                "/practice-plan",
                "/misses",
                "/topics/buoyage",
            ):
                self.get(path)
            for miss in Miss.objects.all():
                self.get(f"/misses/{miss.pk}")
            self.check()
            load_pack(inshore())
        for met in (
            "answer done", "answer not_live", "answer key_used", "answer question_closed",
            "working done", "fresh done", "swap done", "undo nothing_to_undo",
            "not-taught done", "go-on done", "go-on run_ended", "set-aside done",
        ):  # fmt: skip
            self.assertGreater(self.seen[met], 0, met)
