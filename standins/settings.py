"""Settings of the stand-ins: one machine, one process, no accounts."""

from __future__ import annotations

import os
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
VAR = Path(os.environ.get("STANDINS_VAR", ROOT / "var" / "standins"))
VAR.mkdir(parents=True, exist_ok=True)
# Where Vendaval is, for launches.
VENDAVAL = os.environ.get("STANDINS_VENDAVAL", "http://127.0.0.1:8000").rstrip("/")
ADDRESS = os.environ.get("STANDINS_ADDRESS", "http://127.0.0.1:8010").rstrip("/")
# What a program needs to send records here; shown on the page.
RECORDS_NAME, RECORDS_SECRET = "vendaval", "what-happened"

# How Vendaval is registered with the platform.
CLIENT_ID, DEPLOYMENT = "vendaval-here", "1"

SECRET_KEY = "stand-ins-only"
ALLOWED_HOSTS = ["127.0.0.1", "localhost"]
ROOT_URLCONF = "standins.urls"
INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "standins.faults",
    "standins.store",
    "standins.platform",
]
MIDDLEWARE = ["django.middleware.common.CommonMiddleware"]
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [ROOT / "standins" / "templates"],
        "APP_DIRS": True,
        "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
    }
]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": VAR / "standins.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL;",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
DATA_UPLOAD_MAX_MEMORY_SIZE = 10_000_000
USE_TZ = True
TIME_ZONE = "Europe/Lisbon"
