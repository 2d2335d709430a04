"""Measure the product's figures: whole answers, update and selection alone, bars for change."""

from __future__ import annotations

import json
import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection, connections
from django.test import Client, override_settings
from django.test.utils import CaptureQueriesContext
from tqdm import tqdm

from vendaval.bank.snapshot import version_of
from vendaval.evidence.models import Presentation
from vendaval_core.items.checks import right_response, wrong_response
from vendaval_core.measure.change import ChangeSettings
from vendaval_core.measure.grid import THETA
from vendaval_core.measure.posterior import LearnerState, Prior, infer
from vendaval_core.measure.response import ResponseCurve
from vendaval_core.measure.selection import FamilyTable, gains
from vendaval_core.simulate.change import Jump, median_questions, questions_to_met, share_met

Figures = dict[str, Any]


def _milliseconds(times: list[float]) -> Figures:
    ordered = sorted(1000 * t for t in times)
    return {
        "median_ms": round(statistics.median(ordered), 2),
        "p95_ms": round(ordered[int(0.95 * (len(ordered) - 1))], 2),
        "count": len(ordered),
    }


def _random_curve(rng: np.random.Generator, number: int) -> ResponseCurve:
    guess = 0.2 * (number % 2)
    return ResponseCurve(float(rng.lognormal(0.2, 0.3)), float(rng.normal()), guess)


def _start(client: Client) -> Any:
    """The question that waits in a diagnostic over all subjects."""
    body = {"subject": None}
    return client.post("/api/diagnostic/runs", body, "application/json").json()["question"]


def update_and_selection(topics: int, families: int, answers: int) -> Figures:
    """One warm update and one selection, alone, over a random bank."""
    rng = np.random.default_rng(1)
    curves = [(str(i), i % topics, _random_curve(rng, i)) for i in range(families)]
    table = FamilyTable.of(curves, topics)
    prior = Prior.of_course([t // 3 for t in range(topics)], mean=0, sd=1.3, within=0.5, across=0.3)
    state, weights = LearnerState.empty(topics), np.ones(topics)
    _, state = infer(prior, state)
    updates, selections = [], []
    for _ in range(answers):
        _, topic, curve = curves[int(rng.integers(families))]
        started = time.perf_counter()
        state = state.with_evidence(topic, curve.log_likelihood(int(rng.integers(2)), THETA), 1.0)
        posterior, state = infer(prior, state)
        updated = time.perf_counter()
        gains(table, posterior, weights, range(topics))
        updates.append(updated - started)
        selections.append(time.perf_counter() - updated)
    return {
        "topics": topics,
        "families": families,
        "update": _milliseconds(updates),
        "selection": _milliseconds(selections),
    }


def _responses(question: int, right: bool) -> dict[str, str]:
    row = Presentation.objects.select_related("revision").get(pk=question)
    make = right_response if right else wrong_response
    return {key.id: make(key) for key in version_of(row.revision, row.seed, row.order).parts}


def whole_answers(count: int) -> Figures:
    """Submit an answer, get the reply with the next question, through the test client."""
    client = Client()
    client.post("/api/session/demo", {"username": "ines"}, "application/json")
    question, times, queries = _start(client), [], []
    for turn in tqdm(range(count), desc="Whole answers", disable=None):
        question = question or _start(client)
        address = f"/api/diagnostic/questions/{question['id']}/answer"
        body = {
            "replay_key": f"benchmark-{turn:06d}",
            "responses": _responses(question["id"], turn % 3 > 0),
        }
        with CaptureQueriesContext(connection) as captured:
            started = time.perf_counter()
            reply = client.post(address, body, "application/json")
            times.append(time.perf_counter() - started)
        if reply.status_code != 200:
            raise CommandError(f"{address}: {reply.content[:300]!r}")
        sent = [q["sql"] for q in captured if not q["sql"].startswith(("BEGIN", "COMMIT"))]
        queries.append(len(sent))
        question = reply.json()["next"]
    return _milliseconds(times[5:]) | {"most_queries": max(queries)}


def bars_for_change(runs: int) -> Figures:
    """The bars for change of docs/measurement.md."""
    change = ChangeSettings()

    def several(what: str, one: Callable[[int], int | None]) -> list[int | None]:
        return [one(seed) for seed in tqdm(range(runs), desc=what, disable=None)]

    at_90 = several("at 90", lambda s: questions_to_met(90, 40, s, change))
    at_85 = several("at 85", lambda s: questions_to_met(85, 40, s, change))
    jump = Jump(6, 93)
    risen = several("35 to 93", lambda s: questions_to_met(35, 46, s, change, jump=jump))
    at_60 = several("at 60", lambda s: questions_to_met(60, 40, s, change))
    at_70 = several("at 70", lambda s: questions_to_met(70, 30, s, change))
    sitting = several(
        "at 90, one sitting", lambda s: questions_to_met(90, 40, s, change, one_sitting=True)
    )
    return {
        "runs": runs,
        "median_to_met_at_90": median_questions(at_90),
        "median_to_met_at_85": median_questions(at_85),
        "median_to_see_a_rise_from_35_to_93": median_questions(risen),
        "share_called_met_at_60": round(share_met(at_60), 3),
        "share_called_met_at_70": round(share_met(at_70), 3),
        "median_to_met_at_90_all_in_one_sitting": median_questions(sitting),
    }


class Command(BaseCommand):
    help = "Times and bars, on a copy of the demo database. The database itself is not changed."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--json", action="store_true", help="print one JSON object")
        parser.add_argument("--answers", type=int, default=200, help="whole answers to time")
        parser.add_argument("--runs", type=int, default=300, help="runs a bar; 0 for none")

    def handle(self, *, answers: int, runs: int, **options: Any) -> None:
        figures: Figures = {
            "alone": [
                update_and_selection(len_topics, families, 200)
                for len_topics, families in ((6, 40), (18, 180), (18, 1000), (18, 10000))
            ]
        }
        if not Path(str(settings.DATABASES["default"]["NAME"])).exists():
            raise CommandError("there is no demo database: run make demo first")
        with tempfile.TemporaryDirectory() as folder:
            copy = Path(folder) / "copy.sqlite3"
            with connection.cursor() as cursor:
                cursor.execute("VACUUM INTO %s", [str(copy)])
            connection.close()
            before = connections["default"].settings_dict["NAME"]
            connections["default"].settings_dict["NAME"] = str(copy)
            try:
                with override_settings(ALLOWED_HOSTS=["testserver"], LOGGING_CONFIG=None):
                    figures["whole_answer"] = whole_answers(answers)
            finally:
                connection.close()
                connections["default"].settings_dict["NAME"] = before
        if runs:
            figures["change"] = bars_for_change(runs)
        self.stdout.write(json.dumps(figures, indent=1))
