"""A school at work while it is killed: learners sit tests, a tutor marks, releases and regrades,
the office takes lists. What was acknowledged is noted; what was cut off is asked again, as a page
does."""

from __future__ import annotations

import random
import time
from dataclasses import dataclass, field
from typing import Any

from .driving import Account, Line, any_response

PEOPLE_A_LIST = 3
BOUNDARY = "list"
ESSAY = "Everybody wears a life jacket. "
DROP = {"way": {"kind": "drop"}, "why": "It was faulty."}


@dataclass(slots=True)
class Acknowledged:
    """What the server said it had done. saves: by attempt and number the counter and what was put
    down. marks: by answer and part the number of the marking. lists: their numbers."""

    saves: dict[tuple[int, int], tuple[int, dict[str, str]]] = field(default_factory=dict)
    hand_ins: list[int] = field(default_factory=list)
    marks: dict[tuple[int, str], int] = field(default_factory=dict)
    releases: int = 0
    regrades: int = 0
    lists: list[int] = field(default_factory=list)


class School:
    """Everybody's lines to one server, until a moment. group: whose tests they sit."""

    def __init__(self, port: int, course: str, until: float, group: int) -> None:
        self.port, self.until = port, until
        self.home, self.tests = f"/api/courses/{course}", f"/api/groups/{group}/tests"
        self.done = Acknowledged()

    def learn(self, account: Account, ref: str, number: int) -> None:
        """Begin, save some answers, hand in, and begin anew."""
        line, rng = Line(self.port, account), random.Random(number)
        while time.monotonic() < self.until:
            attempt = self._asked(line, "POST", f"{self.home}/tests/{ref}/start")
            if attempt is None:
                continue
            at = f"{self.home}/attempts/{attempt['id']}"
            clock = self._asked(line, "POST", f"{at}/enter")
            if clock is None or clock["handed_in"]:
                continue
            for place in attempt["places"]:
                self._save(line, at, attempt["id"], clock["interval"], place)
                time.sleep(rng.uniform(0.05, 0.2))
            if self._asked(line, "POST", f"{at}/hand-in", {"interval": clock["interval"]}):
                self.done.hand_ins.append(attempt["id"])

    def _save(self, line: Line, at: str, attempt: int, interval: int, place: Any) -> None:
        part = place["question"]["parts"][0]
        text = ESSAY * 5 if part["kind"] == "extended_text" else any_response(part)
        counter, responses = place["counter"] + 1, {part["id"]: text}
        body = {
            "interval": interval,
            "counter": counter,
            "seconds": 3,
            "data": {"responses": responses},
        }
        if self._asked(line, "PUT", f"{at}/answers/{place['number']}", body):
            self.done.saves[attempt, place["number"]] = counter, responses

    def mark(self, account: Account, assignment: int, family: str) -> None:
        """Mark what waits, and release it."""
        line, home = Line(self.port, account), f"{self.tests}/{assignment}/marking"
        while time.monotonic() < self.until:
            question = self._asked(line, "GET", f"{home}/questions/{family}")
            for answer in (question or {"answers": []})["answers"]:
                for part in answer["parts"]:
                    if part["first"] is None and time.monotonic() < self.until:
                        self._mark(line, home, answer["answer"], part)
            if self._asked(line, "POST", f"{home}/release", {"attempts": None}):
                self.done.releases += 1
            time.sleep(0.3)

    def _mark(self, line: Line, home: str, answer: int, part: Any) -> None:
        points = {str(n): "1" for n in range(len(part["criteria"]))} or {"0": "5"}
        body = {"role": "first", "points": points, "after": part["latest"]}
        said = self._asked(line, "POST", f"{home}/answers/{answer}/{part['part']}", body)
        if said:
            self.done.marks[answer, part["part"]] = said["part"]["first"]["id"]

    def regrade(self, account: Account, assignment: int, family: str) -> None:
        """Regrade a question, wait until that is applied, undo it, and again."""
        line, home = Line(self.port, account), f"{self.tests}/{assignment}/regrades"
        while time.monotonic() < self.until:
            found = self._asked(line, "GET", home)
            rows = found["regrades"] if found else []
            if found and (not rows or rows[0]["state"] == "undone"):
                self.done.regrades += bool(self._asked(line, "POST", f"{home}/{family}", DROP))
            elif rows and rows[0]["state"] == "applied":
                self._asked(line, "DELETE", f"{home}/{rows[0]['id']}")
            time.sleep(0.4)

    def take_lists(self, account: Account) -> None:
        """Take list after list of new people, who are invited by mail."""
        line, number = Line(self.port, account), 0
        while time.monotonic() < self.until:
            rows = "".join(
                f"Kill {_letters(number)} {_letters(n)},killed{number}-{n}@kill.example,learner\n"
                for n in range(PEOPLE_A_LIST)
            )
            head = f'--{BOUNDARY}\r\nContent-Disposition: form-data; name="file"; filename="p.csv"'
            body = f"{head}\r\n\r\nname,mail,role\n{rows}\r\n--{BOUNDARY}--\r\n".encode()
            kind = f"multipart/form-data; boundary={BOUNDARY}"
            status, _ = line.reply("POST", "/api/office/list", body, kind=kind)
            # Refused: they are there already, and only the word of it was cut off.
            if status in {200, 422}:
                self.done.lists.append(number)
                number += 1
            time.sleep(0.3)

    def _asked(self, line: Line, method: str, path: str, body: object = None) -> Any:
        """What was acknowledged, asked again while it was cut off; None where it was refused."""
        while time.monotonic() < self.until + 30:
            status, said = line.reply(method, path, body)
            if status == 200:
                return said
            waits = status in {0, 503} or (said or {}).get("code") == "busy"
            if not waits:
                return None
            time.sleep(0.05)
        return None


def _letters(number: int) -> str:
    """A number as a name: people are not called 12."""
    return "".join(chr(ord("a") + int(digit)) for digit in str(number))
