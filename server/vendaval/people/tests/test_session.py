"""Signing in and out."""

import json

from django.core.cache import cache
from django.test import TestCase, override_settings

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

    def test_in_and_out(self) -> None:
        self.assertEqual(self.client.get("/api/session").json()["account"], None)
        self.assertEqual(
            self.sign_in("a long pass phrase")[1]["account"],
            {"id": self.user.pk, "name": "Ana Lima", "roles": []},
        )
        self.assertEqual(self.client.delete("/api/session").json()["account"], None)

    def test_wrong_passwords_slow_down(self) -> None:
        codes = [self.sign_in("wrong")[1]["code"] for _ in range(11)]
        self.assertEqual(codes, ["wrong_credentials"] * 10 + ["wait"])
        self.assertEqual(self.sign_in("a long pass phrase")[1]["code"], "wait")

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
        self.assertEqual(self.client.get("/api/health").json()["status"], "ok")
        policy = self.client.get("/topics").headers["Content-Security-Policy"]
        self.assertIn("script-src 'self';", policy + ";")
        self.assertNotIn("unsafe-eval", policy)
