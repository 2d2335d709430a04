"""Tests: fast password hashing, quiet logs, demo accounts allowed."""

from .base import *  # noqa: F403
from .base import DATABASES, LOGGING, VAR

DEMO_ACCOUNTS = True
PRIVATE_ADDRESSES = True
COPIES = VAR / "test-copies"
BACKUPS = VAR / "test-backups"
JOURNAL = False
# Other tests run beside, on the same processors.
PATIENCE = 4.0
TEST_RUNNER = "vendaval.config.running_tests.Runner"
ANSWER_PACE = None
CODE_PACE = False
COSTLY_PACE = False
FLOOD_PACE = None
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
# Every record is made, though none is written: one that cannot be made fails its test.
LOGGING = {
    **LOGGING,
    "loggers": {"vendaval": {"handlers": [], "propagate": False, "level": "DEBUG"}},
}
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.InMemoryStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
# A file, so that every thread of a live server has a connection of its own, as when served.
VAR.mkdir(parents=True, exist_ok=True)
DATABASES["default"]["TEST"] = {"NAME": str(VAR / "test.sqlite3")}
DATABASES["default"]["CONN_MAX_AGE"] = 0
# Not in WAL mode: parallel workers start from a copy of the file alone.
DATABASES["default"]["OPTIONS"] = {
    "transaction_mode": "IMMEDIATE",
    "timeout": 20,
    "init_command": "PRAGMA journal_mode=TRUNCATE; PRAGMA synchronous=OFF;",
}
