"""Do jobs in the background, and see to those that failed or lost their worker."""

from __future__ import annotations

import logging
import threading
from typing import Any

from django.db import OperationalError, connection
from django_tasks_db.management.commands.db_worker import Command as Worker

from vendaval.shared.jobs import begin_due, mind_jobs, note_alive

EVERY_SECONDS = 5.0

logger = logging.getLogger("vendaval.jobs")


class Command(Worker):
    help = "Runs background jobs, and starts failed or lost ones again."

    def handle(self, *, worker_id: str, **options: Any) -> None:
        over = threading.Event()
        minder = threading.Thread(target=mind, args=(worker_id, over), daemon=True)
        minder.start()
        try:
            super().handle(worker_id=worker_id, **options)
        finally:
            over.set()
            minder.join(timeout=EVERY_SECONDS)


def mind(worker_id: str, over: threading.Event) -> None:
    """Give signs of life and see to jobs until the worker ends, in a thread of its own: a long job
    must not look like a dead worker."""
    while True:
        try:
            note_alive(worker_id)
            mind_jobs()
            begin_due()
        except OperationalError:
            # Somebody else is writing; the next turn comes in a few seconds.
            logger.warning("jobs were not minded", exc_info=True)
        finally:
            connection.close()
        if over.wait(EVERY_SECONDS):
            return
