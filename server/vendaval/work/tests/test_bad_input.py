"""Bad input gets a clear answer and changes nothing; keys stay on the server; roles are checked."""

from typing import Any

from vendaval.work.models import Presentation, Run, Try
from vendaval.work.tests.builders import CourseTestCase, a_learner, keys_of, right, wrong

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
                missed = self.answer(question["id"], wrong(question["id"]))
                self.assert_keeps_secrets(missed["question"])
                shown = self.post(f"/questions/{question['id']}/working")
                self.assertTrue(shown["question"]["solution"])
                question = self.onward(shown)

    def test_what_is_typed_is_read_back_alike_whatever_is_right(self) -> None:
        for topic in ("tidal-terms", "compass-errors", "height-at-a-time"):
            question = self.practise(topic)
            asked = f"/questions/{question['id']}/read-back"
            given = right(question["id"]), wrong(question["id"])
            for response in given:
                read = self.post(asked, {"responses": response})
                self.assertEqual({part["state"] for part in read}, {"read"})
                self.assertEqual([part["id"] for part in read], list(response))
            self.post(asked, {"responses": {"p": "x" * 30_000}}, status=422)
            self.assertFalse(Try.objects.exists())

    def test_a_diagnostic_tells_right_or_wrong_and_no_more(self) -> None:
        question = self.diagnose()["question"]
        for _ in range(6):
            self.assert_keeps_secrets(question)
            reply = self.answer(question["id"], wrong(question["id"]))
            self.assert_keeps_secrets(reply["question"])
            text = str(reply["feedback"])
            for key in keys_of(
                Presentation.objects.select_related("revision__family__topic").get(
                    pk=question["id"]
                )
            ):
                if key.__class__.__name__ == "TextKey":
                    self.assertNotIn(key.examples.right, text)
            self.assertTrue(all(part["says"] is None for part in reply["feedback"]["parts"]))
            self.assertTrue(all(state["says"] is None for state in reply["question"]["states"]))
            question = reply["next"]


class BadInputTests(CourseTestCase):
    def assert_refused(self, path: str, body: Any, status: int, code: str, **more: Any) -> None:
        counts = Try.objects.count(), Presentation.objects.count(), Run.objects.count()
        data = body if isinstance(body, str) else __import__("json").dumps(body)
        reply = self.client.post(
            self.address(path), data=data, content_type="application/json", **more
        )
        self.assertEqual((reply.status_code, reply.json()["code"]), (status, code), reply.content)
        self.assertTrue(reply.json()["detail"])
        self.assertEqual(
            (Try.objects.count(), Presentation.objects.count(), Run.objects.count()), counts
        )

    def test_refusals(self) -> None:
        question = self.practise()
        path = f"/questions/{question['id']}/answer"
        good = {"replay_key": "abcdefgh", "responses": {}}
        self.assert_refused(path, "{not json", 400, "malformed")
        self.assert_refused(path, "[]", 422, "invalid")
        self.assert_refused(path, {"responses": {}}, 422, "invalid")
        self.assert_refused(path, good | {"replay_key": "short"}, 422, "invalid")
        self.assert_refused(path, good | {"confidence": 60}, 422, "invalid")
        self.assert_refused(path, good | {"score": 1}, 422, "invalid")
        self.assert_refused(path, good | {"responses": {"height": 4.7}}, 422, "invalid")
        self.assert_refused(path, good | {"responses": {"height": "9" * 30000}}, 422, "invalid")
        self.assert_refused(path, '{"replay_key": "' + "x" * 300_000 + '"}', 413, "too_large")
        self.assert_refused("/questions/999999/answer", good, 404, "not_found")
        practice = {"purpose": "practice", "topics": ["knots"]}
        self.assert_refused("/runs", practice, 404, "not_found")
        diagnostic = {"purpose": "diagnostic", "subject": "knots"}
        self.assert_refused("/runs", diagnostic, 422, "unprocessable")
        self.assert_refused("/runs", {"purpose": "exam"}, 422, "invalid")
        self.assert_refused("/study/tidal-terms/nowhere/opened", {}, 404, "not_found")
        self.assertEqual(self.client.get("/api/nothing/here").json()["code"], "not_found")

    def test_a_closed_question_takes_no_more_answers(self) -> None:
        question = self.practise()
        self.answer(question["id"], right(question["id"]))
        path = f"/questions/{question['id']}"
        body = {"replay_key": "another-key", "responses": wrong(question["id"])}
        self.assert_refused(f"{path}/answer", body, 409, "question_closed")
        self.assert_refused(f"{path}/hint", {}, 409, "question_closed")
        self.assert_refused(f"{path}/working", {}, 409, "question_closed")

    def test_another_learners_question_is_not_there(self) -> None:
        question = self.practise()
        run = Run.objects.get()
        self.client.force_login(a_learner(self.course, "rui"))
        body = {"replay_key": "abcdefgh", "responses": right(question["id"])}
        self.assert_refused(f"/questions/{question['id']}/answer", body, 404, "not_found")
        self.assert_refused(f"/runs/{run.pk}/finish", {}, 404, "not_found")
        self.get(f"/runs/{run.pk}", status=404)

    def test_what_cannot_be_read_uses_no_try(self) -> None:
        question = self.practise_family("charted-depth")
        part = question["parts"][0]["id"]
        for typed, said in (
            ("about 4", "doesn’t start with a number"),
            ("4 kn", "Write the answer in m"),
            ("", ""),
        ):
            reply = self.answer(question["id"], {part: typed})
            self.assertEqual(reply["feedback"]["verdict"], "not_counted")
            self.assertIn(said, reply["feedback"]["detail"])
        self.assertEqual(Try.objects.count(), 0)
        comma = right(question["id"])[part].replace(".", ",")
        self.assertEqual(self.answer(question["id"], {part: comma})["feedback"]["verdict"], "right")
