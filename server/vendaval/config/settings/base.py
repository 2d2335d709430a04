"""Settings shared by all environments. The environment is read in this package only."""

from __future__ import annotations

import os
from pathlib import Path

from csp.constants import NONCE, SELF

ROOT = Path(__file__).resolve().parents[4]
VAR = Path(os.environ.get("VENDAVAL_VAR", ROOT / "var"))
BACKUPS = Path(os.environ.get("VENDAVAL_BACKUPS", VAR / "backups"))
BACKUPS_KEPT = 48
# Copies of people's data, each for a day.
COPIES = Path(os.environ.get("VENDAVAL_COPIES", VAR / "copies"))
# What is acknowledged is noted beside the database (shared/acknowledged.py).
JOURNAL = True
WEB_BUILD = ROOT / "web" / "dist"
PACKS = ROOT / "packs"

DEFAULT_SECRET = "development-only-secret"
SECRET_KEY = os.environ.get("VENDAVAL_SECRET_KEY", DEFAULT_SECRET)
DEBUG = False
DEMO_ACCOUNTS = os.environ.get("VENDAVAL_DEMO_ACCOUNTS", "") == "1"
# What the demo's accounts have; it opens nothing where demo accounts are switched off.
DEMO_PASSWORD = "escola-do-molhe"
# Proxies in front of this server that say where a request comes from.
PROXIES = int(os.environ.get("VENDAVAL_PROXIES", "0"))
ALLOWED_HOSTS = os.environ.get("VENDAVAL_ALLOWED_HOSTS", "127.0.0.1,localhost,[::1]").split(",")
CSRF_TRUSTED_ORIGINS = [o for o in os.environ.get("VENDAVAL_TRUSTED_ORIGINS", "").split(",") if o]

FILE_PLACES = ["vendaval.files.answers.InAnswer", "vendaval.assigning.hand_ins.InHandIn"]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "ninja",
    "csp",
    "django_tasks",
    "django_tasks_db",
    "vendaval.shared.apps.SharedConfig",
    "vendaval.people",
    "vendaval.bank",
    "vendaval.groups",
    "vendaval.delivery",
    "vendaval.work",
    "vendaval.files",
    "vendaval.levels",
    "vendaval.diagnostic",
    "vendaval.practice",
    "vendaval.review",
    "vendaval.recheck",
    "vendaval.quiz",
    "vendaval.exams",
    "vendaval.measurement",
    "vendaval.notices",
    "vendaval.assigning",
    "vendaval.marks",
    "vendaval.threads",
    "vendaval.record",
    "vendaval.planning",
    "vendaval.rehearsal",
    "vendaval.today",
    "vendaval.tutor",
    "vendaval.authoring",
    "vendaval.exchange",
    "vendaval.outside",
    "vendaval.lti",
    "vendaval.backups",
    "vendaval.privacy",
    "vendaval.office",
    "vendaval.demo",
]
MIDDLEWARE = [
    "vendaval.shared.requests.RequestLogMiddleware",
    "vendaval.shared.headers.HeadersMiddleware",
    "vendaval.shared.pace.PaceMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "vendaval.people.sessions.AccountSessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "vendaval.shared.pace.CostlyPaceMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "vendaval.config.urls"
WSGI_APPLICATION = "vendaval.config.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [WEB_BUILD],
        "APP_DIRS": True,
        "OPTIONS": {"context_processors": ["csp.context_processors.nonce"]},
    }
]
AUTH_USER_MODEL = "people.User"
AUTHENTICATION_BACKENDS = ["vendaval.people.backends.AccountBackend"]

ACTIVITIES = "vendaval.config.activities.ACTIVITIES"
PASSWORD_HASHERS = [
    "django.contrib.auth.hashers.Argon2PasswordHasher",
    "django.contrib.auth.hashers.PBKDF2PasswordHasher",
]
AUTH_PASSWORD_VALIDATORS = [
    {
        "NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator",
        "OPTIONS": {"user_attributes": ["username", "display_name", "email"]},
    },
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": os.environ.get("VENDAVAL_DATABASE", str(VAR / "vendaval.sqlite3")),
        "CONN_MAX_AGE": None,
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

LANGUAGE_CODE = "en-gb"
TIME_ZONE = os.environ.get("VENDAVAL_TIME_ZONE", "Europe/Lisbon")
USE_TZ = True
USE_I18N = True
LANGUAGES = [("en-gb", "English")]

MEDIA_ROOT = VAR / "media"
STATIC_URL = "/static/"
STATIC_ROOT = VAR / "static"
STATICFILES_DIRS = [WEB_BUILD] if WEB_BUILD.exists() else []
WHITENOISE_MAX_AGE = 3600
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/static/assets/.+-[\w-]{8}\.\w+$"
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}

# Whether codes to join a group have a pace.
CODE_PACE = True
# Answers a session may send: at once, and then a second.
ANSWER_PACE: tuple[int, float] | None = (20, 2.0)
# Requests of any other kind that a session may send: at once, and then a second.
FLOOD_PACE: tuple[int, float] | None = (200, 25.0)
# Whether files, uploads and searches of one person have a pace.
COSTLY_PACE = True

# The longest written answer, or a piece of a file; anything longer is refused before it is read.
DATA_UPLOAD_MAX_MEMORY_SIZE = 256 * 1024

SESSION_ENGINE = "vendaval.people.sessions"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "script-src": [SELF],
        "style-src": [SELF, NONCE],
        "style-src-elem": [SELF, NONCE],
        "style-src-attr": ["'unsafe-inline'"],
        "img-src": [SELF, "data:"],
        "font-src": [SELF],
        "connect-src": [SELF],
        "object-src": ["'none'"],
        "base-uri": ["'none'"],
        "frame-ancestors": ["'none'"],
        "form-action": [SELF],
    }
}

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"json": {"()": "vendaval.shared.logs.JsonFormatter"}},
    "handlers": {"stderr": {"class": "logging.StreamHandler", "formatter": "json"}},
    "loggers": {
        "vendaval": {"handlers": ["stderr"], "level": "INFO", "propagate": False},
        "django": {"handlers": ["stderr"], "level": "WARNING", "propagate": False},
        "django.request": {"handlers": ["stderr"], "level": "CRITICAL", "propagate": False},
    },
}

# Where links in mails, calendars and files lead; unset, to the address by which their reader came.
SITE = os.environ.get("VENDAVAL_SITE", "").rstrip("/")
# Who mails come from. Without a mail server they stay in the outbox.
MAIL_FROM = os.environ.get("VENDAVAL_MAIL_FROM", "vendaval@localhost")
EMAIL_HOST = os.environ.get("VENDAVAL_MAIL_HOST", "")
EMAIL_PORT = int(os.environ.get("VENDAVAL_MAIL_PORT", "587"))
EMAIL_HOST_USER = os.environ.get("VENDAVAL_MAIL_USER", "")
EMAIL_HOST_PASSWORD = os.environ.get("VENDAVAL_MAIL_PASSWORD", "")
EMAIL_USE_TLS = True
EMAIL_TIMEOUT = 20
EMAIL_BACKEND = (
    "django.core.mail.backends.smtp.EmailBackend"
    if EMAIL_HOST
    else "vendaval.notices.outbox.OutboxBackend"
)

# Turns that processes of this machine take: small empty files.
LOCKS = VAR / "locks"
# How many times its usual time by the clock a process of its own is waited for.
PATIENCE = 1.0
# Whether HEIC photographs are read: the wheel of pillow-heif carries parts under the GPL
# (docs/running.md).
HEIC = os.environ.get("VENDAVAL_HEIC", "1") == "1"

# Jobs live in the same database; `manage.py jobs` does them.
# Functions that begin jobs which are due by the clock; asked every few seconds.
DUE = ["vendaval.outside.jobs.begin_due", "vendaval.lti.jobs.begin_due"]
# Jobs that come again and again: of those that succeeded nothing is kept.
OFTEN = [
    "vendaval.outside.jobs.send_records",
    "vendaval.lti.jobs.send_scores",
    "vendaval.lti.jobs.look_at_scores",
]
# Seconds after which it is looked again for learning records to send.
RECORDS_EVERY = 60
# Whether servers inside, and without TLS, may be sent to: for the demo's stand-ins.
PRIVATE_ADDRESSES = os.environ.get("VENDAVAL_PRIVATE_ADDRESSES", "") == "1"
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}
