"""Calls to the API made up from its own document: such as it allows, such as it forbids, and such
as nobody would send. What must never come back: a 5xx, or an answer that takes more than a second.

The generator is schemathesis with hypothesis below it; a seed makes the same calls again.
"""

from __future__ import annotations

import gc
import json
import time
from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any
from urllib.parse import quote, urlencode

import schemathesis
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.test.client import BOUNDARY, MULTIPART_CONTENT, encode_multipart
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode

SLOWEST_SECONDS = 1.0
MALFORMED: tuple[tuple[str, bytes], ...] = (
    ("application/json", b""),
    ("application/json", b"{"),
    ("application/json", b"\xff\xfe"),
    ("application/json", b"[" * 5000),
    ("application/json", b'{"a": ' * 3000 + b"1" + b"}" * 3000),
    ("application/json", b'{"replay_key": 1e999, "responses": NaN}'),
    ("application/json", b'"' + b"x" * 70_000 + b'"'),
    ("application/x-www-form-urlencoded", b"&".join([b"a=1"] * 1500)),
    ("multipart/form-data", b"--x"),
    ("multipart/form-data; boundary=", b"--\r\n"),
    ("multipart/form-data; boundary=" + "x" * 300, b"--x"),
    ("multipart/form-data; boundary=x", b"--x\r\nContent-Disposition: form-data; name=\xff\r\n"),
    (
        "multipart/form-data; boundary=x",
        b'--x\r\nContent-Disposition: form-data; name="a"; filename="a"\r\n'
        b"Content-Transfer-Encoding: base64\r\n\r\n!!!\r\n--x--",
    ),
    ("text/plain", b"hello"),
    ("application/json; charset=utf-99", b"{}"),
)


HUGE = (2**63, -(2**63) - 1, 2**80)
CONTROLS = "\x00\x01\x1b\u202e\ud800"
FILES: tuple[tuple[str, bytes], ...] = (
    ("empty.pdf", b""),
    ("broken.pdf", b"%PDF-1.7\n1 0 obj<</Type/Catalog/Pages 9 0 R>>endobj\ntrailer<</Root 1 0 R>>"),
    ("broken.png", b"\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR\xff\xff\xff\xff\xff\xff\xff\xff\x08\x02"),
    ("people.csv", "name,mail,role\n=1+1,\x00,learner\n\ud7ff,@,office\n".encode()),
    ("people.xlsx", b"PK\x03\x04" + b"\x00" * 200),
)


def uploaded(file: tuple[str, bytes]) -> tuple[bytes, str]:
    """A file as a browser sends it, and the type of that."""
    name, content = file
    body = encode_multipart(BOUNDARY, {"file": SimpleUploadedFile(name, content)})
    return body, MULTIPART_CONTENT


def with_controls(value: Any) -> Any:
    """The same with control signs and half a pair of surrogates in every text."""
    if isinstance(value, str):
        return value[:10] + CONTROLS + value[10:]
    if isinstance(value, list):
        return [with_controls(one) for one in value]
    if isinstance(value, dict):
        return {key: with_controls(one) for key, one in value.items()}
    return value


@dataclass(slots=True)
class Fuzzed:
    """What came back. failures: calls answered with 5xx or too slowly."""

    calls: int = 0
    statuses: Counter[int] = field(default_factory=Counter)
    slowest: float = 0.0
    failures: list[str] = field(default_factory=list)


@dataclass(slots=True)
class Fuzzer:
    """Sends made-up calls, in turn as somebody of each role and as nobody.

    clients: one for each. sign_in: signs them all in again, as some calls sign them out or close
    their accounts. places: path parameters that are there, by name; every second call gets them in
    the place of made-up ones, looked up once for each operation. timer: by which calls are timed;
    a shared machine's wall clock would need luck.
    """

    clients: Sequence[Client]
    document: Mapping[str, Any]
    sign_in: Callable[[], None]
    places: Callable[[], Mapping[str, Any]]
    timer: Callable[[], float] = time.perf_counter
    found: Fuzzed = field(default_factory=Fuzzed)
    _known: dict[str, Any] = field(default_factory=dict)

    def run(self, calls: int, first_seed: int) -> Fuzzed:
        """About so many calls, the malformed ones among them."""
        schema = schemathesis.openapi.from_dict(dict(self.document))
        operations = [result.ok() for result in schema.get_all_operations()]
        for number, operation in enumerate(operations):
            self._known = dict(self.places())
            self._malformed(operation, number)
            self._huge(operation)
            each = max(1, (calls - self.found.calls) // (2 * (len(operations) - number)))
            for mode in GenerationMode.POSITIVE, GenerationMode.NEGATIVE:
                self._generated(operation, mode, each, first_seed + number)
        return self.found

    def _generated(self, operation: Any, mode: GenerationMode, calls: int, seeded: int) -> None:
        # What has nothing that could be wrong cannot be called wrongly.
        wrong = mode is GenerationMode.NEGATIVE and not list(operation.iter_parameters())
        chosen = GenerationMode.POSITIVE if wrong else mode
        turn = 0

        @seed(seeded)
        @settings(
            max_examples=calls,
            database=None,
            deadline=None,
            derandomize=False,
            suppress_health_check=list(HealthCheck),
            phases=[Phase.generate],
        )
        @given(operation.as_strategy(generation_mode=chosen))
        def call(case: Any) -> None:
            nonlocal turn
            turn += 1
            body, kind = b"", "application/json"
            if isinstance(case.body, bytes):
                body = case.body
            elif case.media_type == "multipart/form-data":
                body, kind = uploaded(FILES[turn % len(FILES)])
            elif case.media_type is not None:
                value = with_controls(case.body) if turn % 3 == 0 else case.body
                body = json.dumps(value, default=str).encode()
            self._send(operation, self._path(operation, case, real=turn % 2 == 0), body, kind)

        try:
            call()
        except Unsatisfiable:
            # Every text is a key: nothing made up is a wrong one.
            if chosen is GenerationMode.POSITIVE:
                raise
            self._generated(operation, GenerationMode.POSITIVE, calls, seeded)

    def _malformed(self, operation: Any, number: int) -> None:
        """All of them where a body is read; where none is, two in turn."""
        some = MALFORMED
        if not operation.body:
            some = tuple(MALFORMED[(2 * number + i) % len(MALFORMED)] for i in range(2))
        for kind, body in some:
            self._send(operation, self._filled(operation, self._known), body, kind)

    def _huge(self, operation: Any) -> None:
        """Numbers beyond what a column holds, in every place that has one."""
        places = self._known
        counted = [name for name, at in places.items() if isinstance(at, int)]
        if not any(f"{{{name}}}" in str(operation.path) for name in counted):
            return
        for number in HUGE:
            values = places | dict.fromkeys(counted, number)
            self._send(operation, self._filled(operation, values), b"{}", "application/json")

    def _path(self, operation: Any, case: Any, *, real: bool) -> str:
        made_up = dict(case.path_parameters or {})
        path = self._filled(operation, made_up | (self._known if real else {}))
        return f"{path}?{urlencode(case.query, doseq=True)}" if case.query else path

    def _filled(self, operation: Any, values: Mapping[str, Any]) -> str:
        path = str(operation.path)
        for name, value in values.items():
            path = path.replace(f"{{{name}}}", quote(str(value), safe=""))
        return path

    def _send(self, operation: Any, path: str, body: bytes, kind: str) -> None:
        # What the generator leaves behind is collected between calls, and is no time of the server's.
        gc.disable()
        began = self.timer()
        client = self.clients[self.found.calls % len(self.clients)]
        reply = client.generic(operation.method.upper(), path, body, content_type=kind)
        seconds = self.timer() - began
        gc.enable()
        self.found.calls += 1
        self.found.statuses[reply.status_code] += 1
        self.found.slowest = max(self.found.slowest, seconds)
        told = f"{operation.method.upper()} {path[:120]} {kind} {body[:120]!r}"
        if reply.status_code >= 500 and "/health" not in path:
            self.found.failures.append(f"{reply.status_code} {reply.content[:200]!r}: {told}")
        if seconds > SLOWEST_SECONDS:
            self.found.failures.append(f"{seconds:.2f} s: {told}")
        signed_out = reply.status_code == 403 and b'"signed_out"' in reply.content
        if client is not self.clients[-1] and (signed_out or "session" in path):
            self.sign_in()
