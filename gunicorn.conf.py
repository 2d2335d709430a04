"""gunicorn: two processes of four threads suit two cores and SQLite in WAL mode."""

import os

for threads_of in ("OMP_NUM_THREADS", "OPENBLAS_NUM_THREADS"):
    os.environ.setdefault(threads_of, "1")

pythonpath = "core,server"
wsgi_app = "vendaval.config.wsgi:application"
worker_class = "gthread"
workers = int(os.environ.get("VENDAVAL_WORKERS", "2"))
threads = 4
preload_app = True
keepalive = 5
graceful_timeout = 10


def post_worker_init(worker: object) -> None:
    """Algebra workers start with the server, beside it: the first request need not wait."""
    import threading

    from vendaval_core.scoring.workers import formula_workers

    threading.Thread(target=formula_workers.start, daemon=True).start()
