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
