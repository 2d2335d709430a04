"""Learners in one test: each saves every two seconds, is cut off once, and sends again whatever was
not acknowledged, as the player does. At the end what was acknowledged is compared with what is
stored."""

from __future__ import annotations

import random
import threading
import time
from dataclasses import dataclass, field
from typing import Any

from vendaval.exams.models import AnswerSoFar

from .driving import Account, Line, Seen, any_response

SAVE_EACH, SIGN_EACH = 2.0, 15.0
CUT_OFF = (5.0, 20.0)
GIVE_UP = 60.0


@dataclass(slots=True)
class Put:
    """What stands at a place: the newest change, and the newest that was acknowledged."""

    number: int
    part: dict[str, Any]
    counter: int = 0
    responses: dict[str, str] = field(default_factory=dict)
    acknowledged: int = 0


@dataclass(slots=True)
class Sitter:
    """One learner's attempt over a line."""

    account: Account
    course: str
    port: int
    rng: random.Random
    address: str = ""
    attempt: int = 0
    interval: int = 0
    places: list[Put] = field(default_factory=list)
    seen: Seen = field(default_factory=Seen)
    acknowledged: int = 0
    again: int = 0

    def begin(self, ref: str) -> None:
        """Begin the test and enter it."""
        line = Line(self.port, self.account)
        attempt = line.call("POST", f"/api/courses/{self.course}/tests/{ref}/start")
        self.attempt = attempt["id"]
        self.address = f"/api/courses/{self.course}/attempts/{self.attempt}"
        self.interval = line.call("POST", f"{self.address}/enter")["interval"]
        self.places = [
            Put(place["number"], place["question"]["parts"][0]) for place in attempt["places"]
        ]

    def sit(self, until: float) -> None:
        """Change something every two seconds until a moment; then send what still waits."""
        line = Line(self.port, self.account)
        span = until - time.monotonic()
        cut_from = time.monotonic() + self.rng.uniform(0.1, 0.8) * span
        cut_until = cut_from + min(self.rng.uniform(*CUT_OFF), 0.1 * span)
        signed = time.monotonic()
        time.sleep(self.rng.uniform(0, SAVE_EACH))
        while (now := time.monotonic()) < until:
            self._change()
            if not cut_from <= now < cut_until:
                self._send_waiting(line)
                if now - signed > SIGN_EACH:
                    line.call("POST", f"{self.address}/sign", {"interval": self.interval})
                    signed = now
            time.sleep(max(0.0, now + SAVE_EACH - time.monotonic()))
        while self._waiting() and time.monotonic() < until + GIVE_UP:
            self._send_waiting(line)
            time.sleep(0.2)
        self.seen = line.seen

    def _change(self) -> None:
        place = self.rng.choice(self.places)
        place.counter += 1
        place.responses = {place.part["id"]: self._response(place.part)}

    def _response(self, part: dict[str, Any]) -> str:
        if part["kind"] == "choice":
            return str(self.rng.choice(part["choices"])["id"])
        return any_response(part)

    def _waiting(self) -> list[Put]:
        return [place for place in self.places if place.counter > place.acknowledged]

    def _send_waiting(self, line: Line) -> None:
        for place in self._waiting():
            body = {
                "interval": self.interval,
                "counter": place.counter,
                "seconds": place.counter,
                "data": {"responses": place.responses},
            }
            began = time.monotonic()
            reply = line.call("PUT", f"{self.address}/answers/{place.number}", body)
            if reply is None:
                self.again += 1
                return
            line.seen.seconds.append(time.monotonic() - began)
            place.acknowledged = place.counter
            self.acknowledged += 1

    def not_as_stored(self) -> int:
        """Places whose newest acknowledged change is not what is stored."""
        stored = {row.number: row for row in AnswerSoFar.objects.filter(attempt=self.attempt)}
        return sum(
            place.acknowledged != stored[place.number].counter
            or (place.counter > 0 and place.responses != stored[place.number].data.responses)
            for place in self.places
        )


def sitting(sitters: list[Sitter], seconds: float) -> threading.Event:
    """Start all of them; the event says when the last has ended."""
    until, ended = time.monotonic() + seconds, threading.Event()
    jobs = [threading.Thread(target=sitter.sit, args=(until,)) for sitter in sitters]

    def wait() -> None:
        for job in jobs:
            job.start()
        for job in jobs:
            job.join()
        ended.set()

    threading.Thread(target=wait).start()
    return ended
