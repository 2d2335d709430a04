"""What fails on our side is logged with an id and told without detail; requests are logged."""

import json
import logging
from unittest.mock import patch

from django.test import Client, TestCase

from vendaval.shared.logs import JsonFormatter
from vendaval.shared.markdown import kept_together, to_html, to_inline_html
from vendaval.work.tests.builders import an_account


class ErrorTests(TestCase):
    def setUp(self) -> None:
        self.client.force_login(an_account())

    def test_the_unexpected_is_told_by_its_id_alone(self) -> None:
        with (
            patch(
                "vendaval.groups.api.queries.enrolments_of", side_effect=RuntimeError("a secret")
            ),
            self.assertLogs("vendaval.api", "ERROR") as logged,
        ):
            reply = Client(raise_request_exception=False)
            reply.force_login(an_account("eva"))
            answer = reply.get("/api/courses")
        self.assertEqual((answer.status_code, answer.json()["code"]), (500, "internal"))
        request_id = answer.headers["X-Request-Id"]
        self.assertIn(request_id, answer.json()["detail"])
        self.assertNotIn("secret", answer.content.decode())
        line = json.loads(JsonFormatter().format(logged.records[0]))
        self.assertEqual(line["request_id"], request_id)
        self.assertIn("RuntimeError: a secret", line["exception"])

    def test_every_request_is_logged_once(self) -> None:
        with self.assertLogs("vendaval.requests", "INFO") as logged:
            self.client.get("/api/session")
        (line,) = [json.loads(JsonFormatter().format(record)) for record in logged.records]
        self.assertEqual(
            (line["method"], line["path"], line["status"]), ("GET", "/api/session", 200)
        )
        self.assertGreaterEqual(line["ms"], 0)
        self.assertTrue({"at", "level", "request_id"} <= set(line))

    def test_addresses_and_bodies_that_make_no_sense(self) -> None:
        for path, body, status, code in (
            ("/api/nowhere", "{}", 404, "not_found"),
            ("/api/courses/x/runs", "{", 400, "malformed"),
            ("/api/courses/x/runs", "[]", 422, "invalid"),
            ("/api/courses/x/runs", '{"purpose": "practice", "topics": 3}', 422, "invalid"),
            (
                "/api/courses/x/runs",
                '{"purpose": "practice", "topics": ["x"], "more": 1}',
                422,
                "invalid",
            ),
            ("/api/courses/x/runs", json.dumps({"topic": "x" * 3_000_000}), 413, "too_large"),
        ):
            reply = self.client.post(path, data=body, content_type="application/json")
            self.assertEqual(reply.status_code, status, (path, body[:30]))
            if path != "/api/nowhere":
                self.assertEqual(reply.json()["code"], code)

    def test_a_record_without_a_request_is_a_line_too(self) -> None:
        record = logging.LogRecord("vendaval", logging.WARNING, "f", 1, "%s left", ("two",), None)
        self.assertEqual(json.loads(JsonFormatter().format(record))["message"], "two left")


class MarkdownTests(TestCase):
    def test_html_of_an_author_is_shown_and_not_run(self) -> None:
        self.assertIn("&lt;script&gt;", to_html("<script>alert(1)</script>"))
        self.assertNotIn("<img", to_inline_html('<img src=x onerror="y">'))
        self.assertNotIn('href="javascript', to_html("[a](javascript:alert(1))"))

    def test_numbers_keep_their_units(self) -> None:
        self.assertEqual(kept_together("2.5 m in 3 h"), "2.5\u00a0m in 3\u00a0h")
        self.assertEqual(kept_together("5 meadows"), "5 meadows")
        self.assertIn('class="math inline"', to_html("$a^2$"))
