"""What every answer bears, what cannot be read, and whether health tells the truth."""

from __future__ import annotations

from collections import namedtuple
from unittest.mock import patch

from django.conf import settings
from django.core.cache import cache
from django.db import connection
from django.test import TestCase, TransactionTestCase

Usage = namedtuple("Usage", "total used free")


class HeaderTests(TestCase):
    def test_the_api_is_kept_by_no_cache_and_pages_ask_for_no_device(self) -> None:
        for path in ("/api/session", "/api/nothing", "/topics"):
            headers = self.client.get(path).headers
            self.assertIn("microphone=()", headers["Permissions-Policy"])
            self.assertIn("default-src 'self'", headers["Content-Security-Policy"])
            self.assertEqual(headers["Cache-Control"] == "no-store", path.startswith("/api/"))

    def test_static_files_bear_the_content_policy_too(self) -> None:
        order = settings.MIDDLEWARE.index
        self.assertLess(
            order("csp.middleware.CSPMiddleware"),
            order("whitenoise.middleware.WhiteNoiseMiddleware"),
        )


class UnreadableTests(TestCase):
    def test_malformed_bodies_are_the_senders_fault(self) -> None:
        for kind, body in (
            ("multipart/form-data", b"--x"),
            ("multipart/form-data; boundary=" + 300 * "x", b"--x"),
            ("multipart/form-data; boundary=x", b"--x\r\nContent-Disposition: \xff\r\n\r\n"),
            ("application/x-www-form-urlencoded", b"&".join([b"a=1"] * 2000)),
            ("application/json", b"{"),
            ("application/json", b"\xff"),
        ):
            for path in ("/api/session", "/api/session/demo"):
                reply = self.client.post(path, body, content_type=kind)
                self.assertIn(reply.status_code, {400, 422}, (kind, reply.content))


class HealthTests(TransactionTestCase):
    def setUp(self) -> None:
        cache.clear()

    def health(self) -> tuple[int, dict[str, str]]:
        reply = self.client.get("/api/health")
        return reply.status_code, reply.json()

    def test_all_is_well(self) -> None:
        self.assertEqual(self.health(), (200, {"status": "ok", "database": "ok", "disk": "ok"}))

    def test_a_database_that_cannot_be_written(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA query_only = ON")
        try:
            status, found = self.health()
        finally:
            with connection.cursor() as cursor:
                cursor.execute("PRAGMA query_only = OFF")
        self.assertEqual((status, found["status"]), (503, "failing"))
        self.assertIn("readonly", found["database"])

    def test_a_disk_that_is_nearly_full(self) -> None:
        with patch("shutil.disk_usage", return_value=Usage(2**40, 2**40 - 2**24, 2**24)):
            self.assertEqual(self.health()[1]["disk"], "16 MB are left")
