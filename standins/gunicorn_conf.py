"""gunicorn for the stand-ins: one process is enough."""

wsgi_app = "standins.wsgi:application"
workers, threads = 1, 4
