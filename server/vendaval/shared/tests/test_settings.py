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
        return subprocess.run(
            [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "WARNING"],
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
