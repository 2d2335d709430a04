"""Learners who answer over HTTP, some of them thinking, some of them attackers.

Each is a thread with a connection of its own. What is sent is made from the question as the
browser gets it, so that driving costs little beside being served.
"""

from __future__ import annotations

import http.client
import json
import random
import threading
import time
from collections import Counter
from dataclasses import dataclass, field
from typing import Any

from pydantic import TypeAdapter

from vendaval_core.items.kinds.registry import AnyPartOut
from vendaval_core.items.presented import PartOut

PART: TypeAdapter[PartOut] = TypeAdapter(AnyPartOut)


@dataclass(slots=True)
class Account:
    """A learner's session, and for an attacker the question with a formula to send to."""

    session: str
    token: str
    question: int | None = None
    symbols: tuple[str, ...] = ()
    part: str = ""


@dataclass(slots=True)
class Seen:
    """Seconds of each answer, statuses of all replies, and what looked like a locked database."""

    seconds: list[float] = field(default_factory=list)
    statuses: Counter[int] = field(default_factory=Counter)
    locked: int = 0

    def plus(self, other: Seen) -> Seen:
        """Both together."""
        return Seen(
            self.seconds + other.seconds,
            self.statuses + other.statuses,
            self.locked + other.locked,
        )


class Line:
    """One connection that is kept open."""

    def __init__(self, port: int, account: Account | None = None) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", port, timeout=120)
        self.headers = {"Content-Type": "application/json"}
        if account is not None:
            cookies = f"sessionid={account.session}; csrftoken={account.token}"
            self.headers |= {"Cookie": cookies, "X-CSRFToken": account.token}
        self.seen = Seen()

    def call(self, method: str, path: str, body: object = None) -> Any:
        """The reply's JSON; None for anything but 200."""
        data = None if body is None else json.dumps(body)
        try:
            reply, text = self._once(method, path, data)
        except (OSError, http.client.HTTPException):
            self.seen.statuses[0] += 1
            return None
        self.seen.statuses[reply.status] += 1
        self.seen.locked += b"locked" in text and reply.status >= 400
        return json.loads(text) if reply.status == 200 else None

    def reply(
        self, method: str, path: str, body: object = None, *, kind: str = "application/json"
    ) -> tuple[int, Any]:
        """Status and JSON; 0 and None where the line was cut off. body: bytes are sent as they
        are, as what `kind` says."""
        data = body if isinstance(body, bytes) or body is None else json.dumps(body).encode()
        try:
            self.connection.request(method, path, data, self.headers | {"Content-Type": kind})
            reply = self.connection.getresponse()
            text = reply.read()
        except (OSError, http.client.HTTPException):
            self.connection.close()
            self.seen.statuses[0] += 1
            return 0, None
        self.seen.statuses[reply.status] += 1
        is_json = (reply.getheader("Content-Type") or "").startswith("application/json")
        return reply.status, json.loads(text) if is_json else None

    def file(self, path: str) -> None:
        """Ask for a file, whatever it is."""
        try:
            reply, _ = self._once("GET", path, None)
        except (OSError, http.client.HTTPException):
            self.seen.statuses[0] += 1
        else:
            self.seen.statuses[reply.status] += 1

    def _once(
        self, method: str, path: str, data: str | None
    ) -> tuple[http.client.HTTPResponse, bytes]:
        """Reply and body; on a new connection when the server closed the one that was kept."""
        for again in (True, False):
            try:
                self.connection.request(method, path, data, self.headers)
                reply = self.connection.getresponse()
                return reply, reply.read()
            except (OSError, http.client.HTTPException):
                self.connection.close()
                if not again:
                    raise
        raise AssertionError("the second try returns or raises")


def any_response(part: dict[str, Any]) -> str:
    """Something that can be read, mostly wrong."""
    return PART.validate_python(part).any_response()


def begin(line: Line, course: str) -> dict[str, Any] | None:
    """The question that waits in a diagnostic over everything."""
    start = {"purpose": "diagnostic", "subject": None}
    state = line.call("POST", f"/api/courses/{course}/runs", start)
    return dict(state["question"]) if state and state["question"] else None


def answer_until(
    line: Line,
    course: str,
    question: dict[str, Any] | None,
    until: float,
    rng: random.Random,
    think: tuple[float, float] | None,
) -> None:
    """Answer a diagnostic over everything, and another when it ends, until a moment."""
    home = f"/api/courses/{course}"
    while time.monotonic() < until:
        if think is not None:
            time.sleep(rng.uniform(*think))
        if question is None:
            question = begin(line, course)
            continue
        responses = {part["id"]: any_response(part) for part in question["parts"]}
        body: dict[str, Any] = {
            "replay_key": f"load-{rng.getrandbits(60):x}",
            "responses": responses,
        }
        began = time.monotonic()
        reply = line.call("POST", f"{home}/questions/{question['id']}/answer", body)
        line.seen.seconds.append(time.monotonic() - began)
        if reply is not None and reply["feedback"]["verdict"] != "not_counted":
            question = reply["next"]
        else:
            body = {"replay_key": f"load-{rng.getrandbits(60):x}", "not_taught": True}
            reply = line.call("POST", f"{home}/questions/{question['id']}/answer", body)
            question = reply["next"] if reply else None


def attack_until(
    line: Line, course: str, account: Account, until: float, rng: random.Random
) -> None:
    """Send formulas that are hard to work out, never the same one, until a moment. One who is
    told to wait waits a second: floods of requests are for the proxy in front."""
    names = (*account.symbols, "pi")
    total = "+".join(names)
    while time.monotonic() < until:
        n = rng.randrange(10**6)
        typed = rng.choice(
            (
                f"({total}+{n})^12*({total}+2)^12",
                f"({total}+{n})^9",
                "*".join(f"(sin({i}*{names[0]})+{n}+{names[-2]})^2" for i in range(1, 6)),
                f"sqrt({total}+{n})^11*({total})^3",
            )
        )
        body = {
            "replay_key": f"hard-{rng.getrandbits(60):x}",
            "responses": {account.part: typed},
        }
        path = f"/api/courses/{course}/questions/{account.question}/answer"
        began = time.monotonic()
        if line.call("POST", path, body) is None:
            time.sleep(1.0)
        line.seen.seconds.append(time.monotonic() - began)


def bare_until(line: Line, until: float) -> None:
    """Ask the endpoint that does next to nothing."""
    while time.monotonic() < until:
        began = time.monotonic()
        line.call("GET", "/api/health")
        line.seen.seconds.append(time.monotonic() - began)


def together(jobs: list[threading.Thread]) -> None:
    """Run all of them to their end."""
    for job in jobs:
        job.start()
    for job in jobs:
        job.join()
