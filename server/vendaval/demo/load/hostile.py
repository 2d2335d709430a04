"""One learner against all: uploads, exports, page turns, formulas and searches, all at once."""

from __future__ import annotations

import http.client
import random
import threading
import time
from collections import Counter
from collections.abc import Callable
from urllib.parse import quote

from .driving import Account, Line, attack_until
from .hostile_files import nested_forms, png
from .serving import processes

BOUNDARY = "hostile"
Act = Callable[[Line, random.Random], object]


class Hostile:
    """A learner with a long record, a handed-in attempt that takes pages, and bad intentions."""

    def __init__(self, port: int, account: Account, course: str, attempt: int) -> None:
        self.port, self.account, self.course = port, account, course
        self.home = f"/api/courses/{course}"
        self.paper = f"{self.home}/attempts/{attempt}/paper"
        self.statuses: Counter[str] = Counter()
        self._files = (nested_forms(), png(6000, 4900), png(300, 200), b"%PDF-1.7\n%%EOF")

    def acts(self) -> dict[str, Act]:
        """What is done, each by two threads."""
        return {
            "upload": self._upload,
            "turn": self._turn,
            "own data": lambda line, rng: line.call("POST", "/api/own-data"),
            "export": self._export,
            "search": self._search,
        }

    def attack(self, until: float) -> list[threading.Thread]:
        """Threads that do all of it until a moment."""
        jobs = [
            threading.Thread(target=self._again, args=(name, act, until))
            for name, act in self.acts().items()
            for _ in range(2)
        ]
        if self.account.question is not None:
            line = Line(self.port, self.account)
            args = (line, self.course, self.account, until, random.Random(2))
            jobs.append(threading.Thread(target=attack_until, args=args))
        return jobs

    def _again(self, name: str, act: Act, until: float) -> None:
        line, rng = Line(self.port, self.account), random.Random(name)
        while time.monotonic() < until:
            act(line, rng)
        for status, count in line.seen.statuses.items():
            self.statuses[f"{name} {status}"] += count

    def _upload(self, line: Line, rng: random.Random) -> None:
        head = f'--{BOUNDARY}\r\nContent-Disposition: form-data; name="file"; filename="a"\r\n'
        body = head.encode() + b"\r\n" + rng.choice(self._files) + f"\r\n--{BOUNDARY}--".encode()
        kind = f"multipart/form-data; boundary={BOUNDARY}"
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=120)
        try:
            headers = line.headers | {"Content-Type": kind}
            connection.request("POST", f"{self.paper}/pages?came=file", body, headers)
            reply = connection.getresponse()
            reply.read()
            line.seen.statuses[reply.status] += 1
        except (OSError, http.client.HTTPException):
            line.seen.statuses[0] += 1
        finally:
            connection.close()

    def _turn(self, line: Line, rng: random.Random) -> None:
        paper = line.call("GET", self.paper)
        pages = paper["pages"] if paper else []
        if not pages:
            time.sleep(0.2)
        for page in pages[:3]:
            line.call("PATCH", f"{self.paper}/pages/{page['id']}", {"turn": rng.choice((1, 3))})

    def _export(self, line: Line, rng: random.Random) -> None:
        line.file(f"{self.home}/record/file?kind={rng.choice(('xlsx', 'csv', 'pdf'))}")

    def _search(self, line: Line, rng: random.Random) -> None:
        words = " ".join(rng.choice(("tide", "%", "_", "a", "e", "the")) for _ in range(30))
        line.call("GET", f"{self.home}/record/tries?words={quote(words[:80])}")


def memory_of(session: int) -> float:
    """Megabytes that all processes of a session hold, shared ones shared out."""
    total = 0.0
    for folder, fields in processes():
        if int(fields[3]) != session:
            continue
        try:
            rolled = (folder / "smaps_rollup").read_text()
        except OSError:
            # It has ended meanwhile.
            continue
        _, _, held = rolled.partition("\nPss:")
        total += int(held.split()[0]) / 1024 if held else 0.0
    return total


class Watch(threading.Thread):
    """Notes the most memory that a session of processes holds."""

    def __init__(self, session: int) -> None:
        super().__init__(daemon=True)
        self.session, self.most, self.ended = session, 0.0, threading.Event()

    def run(self) -> None:
        """Until `ended` is set."""
        while not self.ended.wait(0.2):
            self.most = max(self.most, memory_of(self.session))
