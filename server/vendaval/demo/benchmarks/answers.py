"""Whole answers through the test client, on a copy of the demo database."""

from __future__ import annotations

from typing import Any

from django.core.management.base import CommandError
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from tqdm import tqdm

from vendaval.bank.snapshot import version_of
from vendaval.work.models import Presentation

from .timing import Figures, milliseconds, timed

COURSE = "/api/courses/inshore"


def _start(client: Client) -> Any:
    """The question that waits in a diagnostic over all subjects."""
    body = {"purpose": "diagnostic", "subject": None}
    return client.post(f"{COURSE}/runs", body, "application/json").json()["question"]


def _responses(question: int, right: bool) -> dict[str, str]:
    row = Presentation.objects.select_related("revision__family__topic").get(pk=question)
    parts = version_of(row.revision, row.seed, row.order).parts
    return {key.id: key.examples.right if right else key.examples.wrong for key in parts}


def whole_answers(count: int) -> Figures:
    """Submit an answer, get the reply with the next question, through the test client."""
    client = Client()
    client.post("/api/session/demo", {"username": "ines"}, "application/json")
    question = _start(client)
    times: list[float] = []
    queries: list[int] = []
    for turn in tqdm(range(count), desc="Whole answers", disable=None):
        question = question or _start(client)
        address = f"{COURSE}/questions/{question['id']}/answer"
        body = {
            "replay_key": f"benchmark-{turn:06d}",
            "responses": _responses(question["id"], turn % 3 > 0),
        }
        with CaptureQueriesContext(connection) as captured, timed(times):
            reply = client.post(address, body, "application/json")
        if reply.status_code != 200:
            raise CommandError(f"{address}: {reply.content[:300]!r}")
        sent = [q["sql"] for q in captured if not q["sql"].startswith(("BEGIN", "COMMIT"))]
        queries.append(len(sent))
        question = reply.json()["next"]
    return milliseconds(times[5:]) | {"most_queries": max(queries)}
