"""Production refuses what is only safe in a demo, and passes Django's own list of checks."""

import os
import subprocess
import sys
from pathlib import Path
from unittest import TestCase

ROOT = Path(__file__).resolve().parents[4]
SECRET = "k7-Vq2!xT9zL4mB8wR1cN6yH3pJ5sD0fGaEuoi"


class ProductionTests(TestCase):
    def check(self, **environment: str) -> subprocess.CompletedProcess[str]:
        """`manage.py check --deploy` in a process of its own."""
        return self.manage("check", "--deploy", "--fail-level", "WARNING", **environment)

    def manage(self, *arguments: str, **environment: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [sys.executable, "manage.py", *arguments],
            env={
                "PATH": os.environ["PATH"],
                "DJANGO_SETTINGS_MODULE": "vendaval.config.settings.prod",
            }
            | environment,
            cwd=ROOT,
            capture_output=True,
            text=True,
            timeout=60,
            check=False,
        )

    def test_a_secret_of_its_own_and_no_demo_accounts(self) -> None:
        for environment, what in (
            ({}, "VENDAVAL_SECRET_KEY must be set"),
            ({"VENDAVAL_SECRET_KEY": "development-only-secret"}, "VENDAVAL_SECRET_KEY must be"),
            ({"VENDAVAL_SECRET_KEY": "short"}, "to 32 random characters or more"),
            (
                {"VENDAVAL_SECRET_KEY": SECRET * 2, "VENDAVAL_DEMO_ACCOUNTS": "1"},
                "VENDAVAL_DEMO_ACCOUNTS must not be set",
            ),
        ):
            done = self.check(**environment)
            self.assertNotEqual(done.returncode, 0, environment)
            self.assertIn(what, done.stderr)

    def test_djangos_deployment_checks_find_nothing(self) -> None:
        done = self.check(VENDAVAL_SECRET_KEY=SECRET * 2)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn("no issues", done.stdout)

    def test_cookies_and_transport(self) -> None:
        """RFC 6265bis, 4.1.3.2: `__Host-` cookies are Secure, for all paths, for no other host."""
        told = self.manage("diffsettings", VENDAVAL_SECRET_KEY=SECRET * 2).stdout
        for line in (
            "SESSION_COOKIE_NAME = '__Host-sessionid'",
            "CSRF_COOKIE_NAME = '__Host-csrftoken'",
            "SESSION_COOKIE_SECURE = True",
            "CSRF_COOKIE_SECURE = True",
            "SECURE_HSTS_SECONDS = 31536000",
            "DEMO_ACCOUNTS = False  ###",
        ):
            self.assertIn(line, told)
        self.assertNotIn("COOKIE_DOMAIN", told)
        self.assertNotIn("COOKIE_PATH", told)
