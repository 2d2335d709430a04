"""gunicorn: three processes of three threads suit two cores and SQLite in WAL mode.

More processes rather than more threads: an answer is work for the processor, and threads of one
process wait for each other at every step.
"""

import contextlib
import gc
import os

for threads_of in ("OMP_NUM_THREADS", "OPENBLAS_NUM_THREADS"):
    os.environ.setdefault(threads_of, "1")

pythonpath = "core,server"
wsgi_app = "vendaval.config.wsgi:application"
worker_class = "vendaval.config.worker.PatientWorker"
workers = int(os.environ.get("VENDAVAL_WORKERS", "3"))
threads = int(os.environ.get("VENDAVAL_THREADS", "3"))
preload_app = True
keepalive = 5
graceful_timeout = 10


def when_ready(server: object) -> None:
    """All code is loaded once, before the processes part. What was loaded stays: the collector
    need not look at it again, nor so often. What the database lacks is said before it
    serves, and its courses are read, so that no process has to at its first request."""
    from django.urls import Resolver404, resolve

    from vendaval.backups.startup import first_backup, read_courses, say_what_is_missing

    # An address that is nowhere makes every pattern ready.
    with contextlib.suppress(Resolver404):
        resolve("/api/nowhere")
    say_what_is_missing()
    first_backup()
    read_courses()
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 20, 50)


def post_worker_init(worker: object) -> None:
    """Algebra workers start with the server, beside it: the first request need not wait."""
    if os.environ.get("VENDAVAL_WARM") == "0":
        return
    import threading

    from vendaval_core.items.formulas.workers import formula_workers

    threading.Thread(target=formula_workers.start, daemon=True).start()
