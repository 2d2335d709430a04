"""Signing in and out."""

import json
from typing import Any

from django.conf import settings
from django.core.cache import cache
from django.db import DatabaseError
from django.test import TestCase, override_settings

from vendaval.people.addresses import site_for
from vendaval.people.models import AuditEntry
from vendaval.people.sign_in import hashing_slot
from vendaval.work.tests.builders import an_account


class SessionTests(TestCase):
    def setUp(self) -> None:
        cache.clear()
        self.user = an_account()

    def sign_in(self, password: str, path: str = "", **body: str) -> tuple[int, dict[str, object]]:
        data = {"username": "ana", "password": password} | body
        reply = self.client.post(
            f"/api/session{path}", data=json.dumps(data), content_type="application/json"
        )
        return reply.status_code, reply.json()

    def post(self, name: str, password: str, address: str = "127.0.0.1", **headers: str) -> Any:
        body = json.dumps({"username": name, "password": password})
        extra = {"REMOTE_ADDR": address, **headers}
        return self.client.post("/api/session", body, content_type="application/json", **extra)

    def test_in_and_out(self) -> None:
        self.assertEqual(self.client.get("/api/session").json()["account"], None)
        self.assertEqual(
            self.sign_in("a long pass phrase")[1]["account"],
            {"id": self.user.pk, "name": "Ana Lima", "roles": [], "practising": False},
        )
        self.user.refresh_from_db()
        self.assertEqual(site_for(self.user), "http://testserver", "links lead to where they are")
        with override_settings(SITE="https://school.example"):
            self.assertEqual(site_for(self.user), "https://school.example")
        self.assertEqual(self.client.delete("/api/session").json()["account"], None)

    def test_wrong_passwords_slow_down(self) -> None:
        codes = [self.sign_in("wrong")[1]["code"] for _ in range(11)]
        self.assertEqual(codes, ["wrong_credentials"] * 10 + ["wait"])
        cache.clear()
        reply = self.post("ana", "a long pass phrase")
        self.assertEqual((reply.status_code, reply.json()["code"]), (429, "wait"))
        self.assertTrue(0 < int(reply["Retry-After"]) <= 300)
        kinds = AuditEntry.objects.order_by("pk").values_list("kind", "account", "address")
        failed = ("sign_in_failed", self.user.pk, "127.0.0.1")
        self.assertEqual(list(kinds), [failed] * 10 + [("sign_in_refused", None, "127.0.0.1")])

    def test_strangers_lock_nobody_out(self) -> None:
        """However many try elsewhere; and a name without an account is answered no otherwise."""
        for name in ("ana", "nobody"):
            for address in ("10.1.0.1", "2001:db8::1", "2001:db8:1::1"):
                codes = [self.post(name, "wrong", address).json()["code"] for _ in range(11)]
                self.assertEqual(codes, ["wrong_credentials"] * 10 + ["wait"])
        self.assertEqual(self.post("ana", "a long pass phrase", "10.0.0.1").status_code, 200)

    def test_a_network_of_version_6_is_one_address(self) -> None:
        codes = [self.post("ana", "x", f"2001:db8::{n:x}").json()["code"] for n in range(1, 12)]
        self.assertEqual(codes, ["wrong_credentials"] * 10 + ["wait"])

    def test_one_address_tries_many_names(self) -> None:
        codes = [self.post(f"n{n}", "wrong").json()["code"] for n in range(62)]
        self.assertEqual(codes, ["wrong_credentials"] * 60 + ["wait"] * 2)

    def test_only_a_proxy_of_ours_says_where_somebody_is(self) -> None:
        told = {"HTTP_X_FORWARDED_FOR": "203.0.113.9, 198.51.100.7"}
        for proxies, address in ((0, "127.0.0.1"), (1, "198.51.100.7"), (2, "203.0.113.9")):
            with override_settings(PROXIES=proxies):
                self.post("ana", "wrong", **told)
                self.assertEqual(AuditEntry.objects.latest("pk").address, address)

    def test_one_password_is_worked_out_at_a_time(self) -> None:
        with hashing_slot():
            reply = self.post("ana", "a long pass phrase")
            self.assertEqual((reply.status_code, reply.json()["code"]), (429, "busy"))
            self.assertEqual(reply["Retry-After"], "1")
        self.assertEqual(self.post("ana", "a long pass phrase").status_code, 200)

    def test_what_everybody_knows_opens_nothing_in_production(self) -> None:
        self.user.set_password(settings.DEMO_PASSWORD)
        self.user.save()
        self.assertEqual(self.post("ana", settings.DEMO_PASSWORD).status_code, 200)
        with override_settings(DEMO_ACCOUNTS=False):
            self.assertEqual(self.post("ana", settings.DEMO_PASSWORD).status_code, 400)
            self.user.set_password("another long phrase")
            self.user.demo_note = "Shows something."
            self.user.save()
            self.assertEqual(self.post("ana", "another long phrase").status_code, 400)
            self.client.force_login(self.user)
            self.assertIsNone(self.client.get("/api/session").json()["account"])

    def test_the_audit_log_is_only_added_to(self) -> None:
        self.post("ana", "wrong")
        with self.assertRaisesRegex(DatabaseError, "only ever added to"):
            AuditEntry.objects.update(says="nothing happened")

    def test_demo_accounts_only_where_switched_on(self) -> None:
        def demo(username: str) -> int:
            body = json.dumps({"username": username})
            return self.client.post(
                "/api/session/demo", body, content_type="application/json"
            ).status_code

        self.assertEqual(demo("ana"), 404, "not a demo account")
        self.user.demo_note = "Shows something."
        self.user.save()
        self.assertEqual(demo("ana"), 200)
        with override_settings(DEMO_ACCOUNTS=False):
            self.assertEqual(demo("ana"), 404)
            self.assertEqual(self.client.get("/api/session").json()["demo_accounts"], [])

    def test_the_page_has_a_strict_content_policy_and_health_answers(self) -> None:
        policy = self.client.get("/topics").headers["Content-Security-Policy"]
        self.assertIn("script-src 'self';", policy + ";")
        self.assertNotIn("unsafe-eval", policy)
