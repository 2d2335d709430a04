"""Production: refuses to start with what is only safe in a demo."""

from django.core.exceptions import ImproperlyConfigured

from .base import *  # noqa: F403
from .base import DEFAULT_SECRET, DEMO_ACCOUNTS, SECRET_KEY

if SECRET_KEY == DEFAULT_SECRET or len(SECRET_KEY) < 32:
    raise ImproperlyConfigured("VENDAVAL_SECRET_KEY must be set to 32 random characters or more")
if DEMO_ACCOUNTS:
    raise ImproperlyConfigured("VENDAVAL_DEMO_ACCOUNTS must not be set in production")

SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
# The prefix makes browsers refuse what another host or an unsafe page would set.
SESSION_COOKIE_NAME = "__Host-sessionid"
CSRF_COOKIE_NAME = "__Host-csrftoken"
SECURE_SSL_REDIRECT = True
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_HSTS_SECONDS = 365 * 24 * 3600
# Whether the subdomains beside this one are all served by HTTPS is for their owner to say.
SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W021"]
