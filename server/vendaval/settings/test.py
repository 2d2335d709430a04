"""Tests: fast password hashing, quiet logs, demo accounts allowed."""

from .base import *  # noqa: F403
from .base import LOGGING

DEMO_ACCOUNTS = True
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
LOGGING = {**LOGGING, "loggers": {"vendaval": {"handlers": [], "propagate": False}}}
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.InMemoryStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
