"""A target met is rechecked a week later: held it is secure, else it Practise it again."""

from __future__ import annotations

from typing import Any

from django.db import DatabaseError

from vendaval.levels.checking import check_states
from vendaval.levels.models import Observation
from vendaval.recheck.models import Recheck
from vendaval.work.models import Presentation
from vendaval.work.tests.builders import CourseTestCase, learning_for, right, wrong
from vendaval_core.mastery.recheck import LATER

TOPIC = "tidal-terms"


class RecheckTests(CourseTestCase):
    def meet(self) -> None:
        """Practise until the target is met."""
        question = self.practise(TOPIC)
        for _ in range(40):
            reply = self.answer(question["id"], right(question["id"]))
            if reply["feedback"]["met"]:
                return
            question = self.onward(reply)
            self.clock.forward(minutes=40)
        self.fail("the target was not met")

    def line(self) -> dict[str, Any]:
        found: dict[str, Any] = self.get(f"/topics/{TOPIC}")["line"]
        return found

    def sentence(self) -> str:
        return str(self.get(f"/topics/{TOPIC}")["target_sentence"])

    def recheck(self, make: Any) -> dict[str, Any]:
        """Take a whole recheck; the last reply."""
        question = self.post("/runs", {"purpose": "recheck"})["question"]
        for _ in range(4):
            reply: dict[str, Any] = self.answer(question["id"], make(question["id"]))
            question = reply["next"]
        self.assertIsNone(question)
        return reply

    def steps(self) -> list[str]:
        return [step["kind"] for step in self.get("/today")["steps"]]

    def test_due_after_seven_days_and_not_before(self) -> None:
        self.assertEqual(
            self.post("/runs", {"purpose": "recheck"}, status=409)["code"], "nothing_due"
        )
        self.meet()
        self.assertIn("We’ll check it again from", self.sentence())
        self.clock.forward(days=6.9)
        self.assertNotIn("recheck", self.steps())
        self.post("/runs", {"purpose": "recheck"}, status=409)
        self.clock.forward(days=0.2)
        step = self.get("/today")["steps"][0]
        self.assertEqual((step["kind"], step["questions"]), ("recheck", 4))
        self.assertIn("A check is due since", self.sentence())
        self.assertIn("Tidal terms: you reached the target seven days ago.", step["reason"])

    def test_held_is_secure_and_comes_again_when_this_learner_may_need_it(self) -> None:
        self.meet()
        self.clock.forward(days=8)
        reply = self.recheck(right)
        self.assertIn("it’s secure", reply["feedback"]["detail"])
        self.assertEqual(reply["run"]["topics"][0]["status"], "held")
        self.assertEqual(self.line()["state"], "secure")
        self.assertIn("it’s secure. We’ll check it again from", self.sentence())
        row = Recheck.objects.get()
        self.assertTrue(row.held)
        self.assertAlmostEqual(row.days, 8, delta=0.1)
        days = learning_for(self.learner).topic(TOPIC).recheck_days
        self.assertGreaterEqual(days, 7)
        self.clock.forward(days=days - 0.5)
        self.assertNotIn("recheck", self.steps())
        self.clock.forward(days=1)
        self.assertIn("recheck", self.steps())
        self.assertTrue(all(found.agrees for found in check_states(self.course)))

    def test_not_held_goes_back_to_practice_and_can_be_met_again(self) -> None:
        self.meet()
        self.clock.forward(days=8)
        reply = self.recheck(wrong)
        self.assertIn("Practise it again", reply["feedback"]["detail"])
        line = self.line()
        self.assertEqual((line["state"], line["recheck_at"]), ("check", None))
        self.assertIn("forgotten some of it, so practise it again. You’re", self.sentence())
        plan = self.get("/practice-plan")
        self.assertIn(TOPIC, [step["topic"] for step in plan["steps"]])
        self.assertEqual(self.get("/misses")["total"], 3, "its three essential ideas")
        question = self.practise(TOPIC)
        for _ in range(30):
            self.clock.forward(minutes=40)
            question = self.onward(self.answer(question["id"], right(question["id"])))
            if self.line()["recheck_at"] is not None:
                break
        self.assertEqual(self.line()["state"], "met")

    def test_fresh_versions_without_help_and_no_learning(self) -> None:
        self.meet()
        seen = set(Presentation.objects.values_list("revision__family__key", "seed"))
        self.clock.forward(days=8)
        run = self.post("/runs", {"purpose": "recheck"})
        question = run["question"]
        self.assertEqual(question["can"], ["answer", "sure"])
        for action in ("hint", "working", "fresh"):
            self.post(f"/questions/{question['id']}/{action}", status=409)
        again = self.post("/runs", {"purpose": "recheck"})
        self.assertEqual(again["question"]["id"], question["id"])
        row = Presentation.objects.get(pk=question["id"])
        self.assertNotIn((row.revision.family.key, row.seed), seen)
        reply = self.answer(question["id"], wrong(question["id"]))
        self.assertIsNone(reply["question"]["solution"])
        self.assertEqual(reply["question"]["states"][0]["right_answer"], None)
        self.assertFalse(Observation.objects.latest("pk").learning)
        self.assertEqual(self.get("/today")["steps"][0]["title"], "Continue the check")

    def test_what_was_found_is_never_rewritten(self) -> None:
        self.meet()
        self.clock.forward(days=8)
        self.recheck(right)
        history = learning_for(self.learner).topic(TOPIC)
        self.assertIn(history.recheck_days, LATER)
        with self.assertRaisesRegex(DatabaseError, "only ever added to"):
            Recheck.objects.update(held=False)
