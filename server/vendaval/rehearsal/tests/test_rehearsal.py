"""The rehearsal over the API: every kind, marked when tried, nothing kept."""

from vendaval.bank.snapshot import course_bank, version_of
from vendaval.levels.models import LearnerState
from vendaval.people.models import Role
from vendaval.work.models import Presentation, Try
from vendaval.work.tests.builders import CourseTestCase, with_role
from vendaval_core.items.kinds.registry import KINDS
from vendaval_core.items.kinds.tagged import names_of


class RehearsalTests(CourseTestCase):
    def test_every_kind_is_there_and_nothing_counts(self) -> None:
        questions = self.get("/rehearsal")["questions"]
        kinds = {part["kind"] for question in questions for part in question["parts"]}
        named = {name.partition(".")[0] for kind in KINDS for name in names_of(kind.part)}
        self.assertEqual(kinds, named)
        course = self.course
        families = course_bank(course).rehearsed
        for question in questions:
            self.assertTrue(question["tips"], question["key"])
            self.assertFalse(any(s["right_answer"] or s["pieces"] for s in question["states"]))
            parts = version_of(families[question["key"]].revision, 1, 0).parts
            for right in (True, False):
                given = {p.id: p.examples.right if right else p.examples.wrong for p in parts}
                reply = self.post(f"/rehearsal/{question['key']}", {"responses": given})
                wanted = right or all(p.by_person for p in parts)
                was_right = reply["says"].startswith("That’s right")
                self.assertEqual(was_right, wanted, question["key"])
                self.assertTrue(all(s["right_answer"] or s["pieces"] for s in reply["states"]))
        for model in (Try, Presentation):
            self.assertFalse(model.objects.exists())
        self.assertFalse(LearnerState.objects.filter(answers__gt=0).exists())

    def test_what_is_empty_unreadable_unknown_or_not_asked_by_a_learner(self) -> None:
        key = self.get("/rehearsal")["questions"][4]["key"]
        empty = self.post(f"/rehearsal/{key}", {"responses": {}})
        self.assertEqual(empty["says"], "Part of your answer is empty.")
        part = empty["states"][0]["id"]
        junk = self.post(f"/rehearsal/{key}", {"responses": {part: "many"}})
        self.assertIn("couldn’t read", junk["says"])
        self.assertIsNone(junk["states"][0]["right_answer"])
        self.post("/rehearsal/no-such", {"responses": {}}, status=404)
        self.client.force_login(with_role(self.course, Role.TUTOR))
        self.get("/rehearsal", status=404)
