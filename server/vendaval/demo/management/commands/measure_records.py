"""Measure the sending of learning records to a store that is down half of the time."""

from __future__ import annotations

import json
import time
from datetime import timedelta
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from tqdm import tqdm

from standins.running import Standins, running
from vendaval.demo.benchmarks.copies import copied_database
from vendaval.levels.models import LevelRecord
from vendaval.outside import records
from vendaval.outside.models import RecordStore, ToTell, ToTellState
from vendaval.people.models import School
from vendaval.shared import clock

COPIES_AT_ONCE = 1000


class Command(BaseCommand):
    help = (
        "Sends learning records of a copy of the demo to a stand-in that fails every other time, "
        "then to one that loses its replies. Prints JSON: each has to be there once."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--statements", type=int, default=10_000)

    def handle(self, *, statements: int, **options: Any) -> None:
        with copied_database(), running() as standins:
            _enough(statements)
            self.stdout.write(json.dumps(_sent(standins), indent=1))


def _enough(many: int) -> None:
    """Add levels until there are so many records."""
    first = LevelRecord.objects.select_related("enrolment", "topic").first()
    assert first is not None, "the demo has levels"
    missing = many - LevelRecord.objects.count()
    while missing > 0:
        rows = []
        for _ in range(min(COPIES_AT_ONCE, missing)):
            row = LevelRecord.objects.get(pk=first.pk)
            row.pk = None
            rows.append(row)
        LevelRecord.objects.bulk_create(rows)
        missing -= len(rows)


def _sent(standins: Standins) -> dict[str, object]:
    RecordStore.objects.all().delete()
    now, began, turns = clock.now(), time.monotonic(), 0
    store = RecordStore.objects.create(
        school=School.objects.order_by("pk")[0],
        address=f"{standins.address}/xapi/",
        name="vendaval",
        secret="what-happened",  # noqa: S106
        on=True,
        since=now - timedelta(days=4000),
        next_at=now,
    )
    standins.behave("store", "half")
    bar = tqdm(desc="Sent", disable=None)
    due = ToTell.objects.filter(state=ToTellState.DUE, after__lte=now + timedelta(hours=1))
    while turns == 0 or due.filter(after__lte=clock.now()).exists():
        records.send(store)
        store.refresh_from_db()
        bar.update(store.sent - bar.n)
        turns += 1
        # One batch of many gets lost on its way back.
        if turns % 20 == 0:
            standins.behave("store", "loses")
            records.send(store)
            standins.behave("store", "half")
    counts = standins.counts()
    return {
        "sent": store.sent,
        "there": counts["statements"],
        "arrived": counts["arrived"],
        "refused": ToTell.objects.filter(state=ToTellState.REFUSED).count(),
        "held": due.count(),
        "failures": turns,
        "seconds": round(time.monotonic() - began, 1),
    }
