"""Bad input gets a clear answer and changes nothing; keys stay on the server; roles are checked."""

from typing import Any

from django.test import Client, TestCase
from django.urls import get_resolver

from vendaval.api import api
from vendaval.evidence.models import Presentation, Run, Try
from vendaval.evidence.tests.builders import CourseTestCase, a_learner, keys_of, right, wrong
from vendaval.people.models import Role
from vendaval_core.scoring.examples import right_response

SECRETS = {"seed", "revision", "right", "key", "tolerance", "accepted", "near_misses", "variables"}


def names_in(value: Any) -> set[str]:
    """Every field name anywhere in a payload."""
    if isinstance(value, dict):
        return set(value) | {name for inner in value.values() for name in names_in(inner)}
    if isinstance(value, list):
        return {name for inner in value for name in names_in(inner)}
    return set()


class SecretTests(CourseTestCase):
    def assert_keeps_secrets(self, question: dict[str, Any]) -> None:
        self.assertIsNone(question["solution"])
        self.assertIsNone(question["source"])
        self.assertTrue(all(state["right_answer"] is None for state in question["states"]))
        self.assertEqual(names_in(question) & (SECRETS - {"key"}), set())

    def test_no_key_leaves_before_the_rules_allow(self) -> None:
        for topic in ("tidal-terms", "compass-errors", "height-at-a-time"):
            question = self.practise(topic)
            for _ in range(4):
                self.assert_keeps_secrets(question)
                missed = self.answer("practice", question["id"], wrong(question["id"]))
                self.assert_keeps_secrets(missed["question"])
                shown = self.post(f"/practice/questions/{question['id']}/working")
                self.assertTrue(shown["question"]["solution"])
                question = self.onward(shown)

    def test_a_diagnostic_tells_right_or_wrong_and_no_more(self) -> None:
        question = self.diagnose()["question"]
        for _ in range(6):
            self.assert_keeps_secrets(question)
            reply = self.answer("diagnostic", question["id"], wrong(question["id"]))
            self.assert_keeps_secrets(reply["question"])
            text = str(reply["feedback"])
            for key in keys_of(Presentation.objects.get(pk=question["id"])):
                if key.__class__.__name__ == "TextKey":
                    self.assertNotIn(right_response(key), text)
            self.assertTrue(all(part["says"] is None for part in reply["feedback"]["parts"]))
            question = reply["next"]


class BadInputTests(CourseTestCase):
    def assert_refused(self, path: str, body: Any, status: int, code: str, **more: Any) -> None:
        counts = Try.objects.count(), Presentation.objects.count(), Run.objects.count()
        data = body if isinstance(body, str) else __import__("json").dumps(body)
        reply = self.client.post(f"/api{path}", data=data, content_type="application/json", **more)
        self.assertEqual((reply.status_code, reply.json()["code"]), (status, code), reply.content)
        self.assertTrue(reply.json()["detail"])
        self.assertEqual(
            (Try.objects.count(), Presentation.objects.count(), Run.objects.count()), counts
        )

    def test_refusals(self) -> None:
        question = self.practise()
        path = f"/practice/questions/{question['id']}/answer"
        good = {"replay_key": "abcdefgh", "responses": {}}
        self.assert_refused(path, "{not json", 400, "malformed")
        self.assert_refused(path, "[]", 422, "invalid")
        self.assert_refused(path, {"responses": {}}, 422, "invalid")
        self.assert_refused(path, good | {"replay_key": "short"}, 422, "invalid")
        self.assert_refused(path, good | {"confidence": 60}, 422, "invalid")
        self.assert_refused(path, good | {"score": 1}, 422, "invalid")
        self.assert_refused(path, good | {"responses": {"height": 4.7}}, 422, "invalid")
        self.assert_refused(path, good | {"responses": {"height": "9" * 30000}}, 422, "invalid")
        self.assert_refused(path, '{"replay_key": "' + "x" * 70_000 + '"}', 413, "too_large")
        self.assert_refused("/practice/questions/999999/answer", good, 404, "not_found")
        self.assert_refused(
            f"/diagnostic/questions/{question['id']}/answer", good, 404, "not_found"
        )
        self.assert_refused("/practice/runs", {"topic": "knots"}, 404, "not_found")
        self.assert_refused("/diagnostic/runs", {"subject": "knots"}, 422, "unprocessable")
        self.assert_refused("/study/tidal-terms/nowhere/opened", {}, 404, "not_found")
        self.assertEqual(self.client.get("/api/nothing/here").json()["code"], "not_found")

    def test_a_closed_question_takes_no_more_answers(self) -> None:
        question = self.practise()
        self.answer("practice", question["id"], right(question["id"]))
        path = f"/practice/questions/{question['id']}"
        body = {"replay_key": "another-key", "responses": wrong(question["id"])}
        self.assert_refused(f"{path}/answer", body, 409, "question_closed")
        self.assert_refused(f"{path}/hint", {}, 409, "question_closed")
        self.assert_refused(f"{path}/working", {}, 409, "question_closed")

    def test_another_learners_question_is_not_there(self) -> None:
        question = self.practise()
        run = Run.objects.get()
        self.client.force_login(a_learner("rui"))
        body = {"replay_key": "abcdefgh", "responses": right(question["id"])}
        self.assert_refused(f"/practice/questions/{question['id']}/answer", body, 404, "not_found")
        self.assert_refused(f"/practice/runs/{run.pk}/finish", {}, 404, "not_found")
        self.get(f"/practice/runs/{run.pk}", status=404)

    def test_what_cannot_be_read_uses_no_try(self) -> None:
        question = self.practise_family("charted-depth")
        part = question["parts"][0]["id"]
        for typed, said in (
            ("about 4", "does not begin with a number"),
            ("4 kn", "wanted in m"),
            ("", ""),
        ):
            reply = self.answer("practice", question["id"], {part: typed})
            self.assertEqual(reply["feedback"]["verdict"], "not_counted")
            self.assertIn(said, reply["feedback"]["detail"])
        self.assertEqual(Try.objects.count(), 0)
        comma = right(question["id"])[part].replace(".", ",")
        self.assertEqual(
            self.answer("practice", question["id"], {part: comma})["feedback"]["verdict"], "right"
        )


class PermissionTests(TestCase):
    """Every endpoint, and who may ask it. An endpoint missing here fails the test."""

    OPEN = {"get_session", "health"}
    TOKEN_ONLY = {"sign_in", "sign_in_demo"}
    SIGNED_IN = {"sign_out"}
    LEARNER = {
        "get_today", "list_topics", "get_topic", "get_practice_plan", "get_study", "open_study",
        "question_shown", "start_diagnostic", "get_diagnostic", "finish_diagnostic",
        "answer_diagnostic", "not_taught", "take_back", "swap_question", "start_practice",
        "get_practice", "finish_practice", "answer_practice", "open_hint", "show_working",
        "fresh_version", "go_on_diagnostic",
    "go_on_practice", "list_misses", "get_miss", "start_mend", "set_aside_miss", "get_mend",
        "answer_mend", "why_question", "get_rehearsal", "try_rehearsal",
    }  # fmt: skip

    def operations(self) -> dict[str, tuple[str, str]]:
        found = {}
        for path, methods in api.get_openapi_schema()["paths"].items():
            for method, operation in methods.items():
                address = path.replace("{run_id}", "1").replace("{question_id}", "1")
                address = (
                    address.replace("{miss_id}", "1")
                    .replace("{key}", "x")
                    .replace("{section}", "y")
                )
                found[operation["operationId"]] = (method, address)
        return found

    def test_every_endpoint_is_listed(self) -> None:
        listed = self.OPEN | self.TOKEN_ONLY | self.SIGNED_IN | self.LEARNER
        self.assertEqual(set(self.operations()), listed)
        self.assertTrue(get_resolver().url_patterns)

    def test_who_may_ask(self) -> None:
        operations = self.operations()
        visitor = Client()
        for name in self.SIGNED_IN | self.LEARNER:
            method, address = operations[name]
            self.assertEqual(getattr(visitor, method)(address).status_code, 403, name)
        for role in (Role.TUTOR, Role.GUARDIAN, Role.AUTHOR):
            client = Client()
            client.force_login(a_learner(role.value, role))
            for name in self.LEARNER:
                method, address = operations[name]
                reply = getattr(client, method)(address, content_type="application/json")
                self.assertEqual(
                    (reply.status_code, reply.json()["code"]), (403, "not_allowed"), name
                )

    def test_changes_need_the_csrf_token(self) -> None:
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(a_learner())
        for name, (method, address) in self.operations().items():
            if method != "get":
                reply = getattr(strict, method)(address, data="{}", content_type="application/json")
                self.assertEqual(reply.status_code, 403, name)
