"""Minutes that are filled, and the runs they become."""

from typing import Any

from vendaval.planning.models import Spell
from vendaval.work.models import Run, Try
from vendaval.work.tests.builders import CourseTestCase, right, wrong


class SpellTests(CourseTestCase):
    def begin(self, minutes: int = 20) -> Any:
        return self.post("/spells", {"minutes": minutes})

    def on(self, spell: dict[str, Any]) -> Any:
        return self.post(f"/spells/{spell['id']}/go-on", {"piece": spell["current"]})

    def now(self, spell: dict[str, Any]) -> Any:
        return spell["pieces"][spell["current"]]

    def test_looking_begins_nothing(self) -> None:
        plan = self.get("/spell?minutes=20")
        self.assertTrue(plan["pieces"])
        self.assertLessEqual(plan["filled"], 20)
        self.assertTrue(all(piece["why"] for piece in plan["pieces"]))
        self.assertEqual((Spell.objects.count(), Run.objects.count()), (0, 0))
        self.get("/spell?minutes=3", status=422)

    def test_misses_come_before_practice_and_each_piece_becomes_a_run(self) -> None:
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        spell = self.begin()
        self.assertEqual([p["kind"] for p in spell["pieces"]][:2], ["mend", "practise"])
        mend = self.get(f"/runs/{self.now(spell)['run']}")
        self.assertEqual((mend["run"]["purpose"], mend["run"]["spell"]), ("missed", spell["id"]))
        self.answer(mend["question"]["id"], right(mend["question"]["id"]))
        spell = self.on(spell)
        self.assertEqual([p["state"] for p in spell["pieces"]][:2], ["done", "begun"])
        run = self.get(f"/runs/{self.now(spell)['run']}")["run"]
        self.assertIn("left of", run["goal"]["says"])

    def test_a_piece_of_practice_has_its_questions_and_then_the_next_comes(self) -> None:
        spell = self.begin(10)
        piece = self.now(spell)
        question = self.get(f"/runs/{piece['run']}")["question"]
        for turn in range(piece["questions"]):
            reply = self.answer(question["id"], right(question["id"]))
            reached = turn + 1 == piece["questions"]
            self.assertEqual(reply["run"]["goal"]["reached"], reached)
            question = self.onward(reply)
        self.answer(question["id"], right(question["id"]))
        self.assertEqual(Try.objects.count(), piece["questions"] + 1, "one may go on")
        spell = self.on(spell)
        self.assertTrue(Run.objects.get(pk=piece["run"]).ended_at)
        self.assertEqual(spell["pieces"][0]["state"], "done")

    def test_the_same_step_sent_twice_is_one_step(self) -> None:
        spell = self.begin(30)
        after = self.on(spell)
        self.assertEqual(after, self.on(spell))
        self.assertEqual(after["pieces"][0]["state"], "passed", "nothing was done in it")

    def test_it_is_left_and_carried_on_from_today(self) -> None:
        spell = self.begin()
        first = self.get("/today")["steps"][0]
        self.assertEqual((first["kind"], first["run"]), ("spell", spell["id"]))
        ended = self.post(f"/spells/{spell['id']}/end")
        self.assertTrue(ended["ended"])
        self.assertNotIn("spell", [step["kind"] for step in self.get("/today")["steps"]])
        self.assertEqual(self.on(spell), ended, "an ended one goes on no more")

    def test_what_was_done_elsewhere_is_passed_over(self) -> None:
        for _ in range(2):
            question = self.practise("tidal-terms")
            self.answer(question["id"], wrong(question["id"]))
            self.post(f"/questions/{question['id']}/working")
        spell = self.begin()
        mends = [p for p in spell["pieces"] if p["kind"] == "mend"]
        for group in self.get("/misses")["topics"]:
            for miss in group["misses"]:
                self.post(f"/misses/{miss['id']}/set-aside")
        spell = self.on(spell)
        self.assertTrue(mends)
        left = [p for p in spell["pieces"] if p["kind"] == "mend" and p["state"] != "passed"]
        self.assertEqual(left, [])

    def test_the_clock_counts_work_and_stands_still_in_a_break(self) -> None:
        spell = self.begin(20)
        self.assertEqual(spell["minutes_left"], 20)
        self.clock.forward(minutes=4)
        self.assertEqual(self.get(f"/spells/{spell['id']}")["minutes_left"], 16)
        question = self.get(f"/runs/{self.now(spell)['run']}")["question"]
        self.answer(question["id"], right(question["id"]), after=0)
        self.clock.forward(hours=3)
        left = self.get(f"/spells/{spell['id']}")["minutes_left"]
        self.assertEqual(left, 11, "five minutes of the break, for nobody knows when it began")
        (step,) = (one for one in self.get("/today")["steps"] if one["kind"] == "spell")
        self.assertEqual(step["minutes"], left)

    def test_what_is_left_is_filled_anew_with_what_came_up(self) -> None:
        spell = self.begin(20)
        question = self.get(f"/runs/{self.now(spell)['run']}")["question"]
        self.answer(question["id"], wrong(question["id"]), after=240)
        self.assertNotIn("mend", [p["kind"] for p in spell["pieces"]])
        after = self.on(spell)
        waiting = [p for p in after["pieces"] if p["state"] in {"begun", "waiting"}]
        self.assertEqual(waiting[0]["kind"], "mend", "a miss came up meanwhile")
        self.assertLessEqual(sum(p["minutes"] for p in waiting), after["minutes_left"] + 1)

    def test_a_piece_ends_with_its_question_once_the_time_is_up(self) -> None:
        spell = self.begin(5)
        question = self.get(f"/runs/{self.now(spell)['run']}")["question"]
        reply = self.answer(question["id"], right(question["id"]), after=200)
        self.assertFalse(reply["run"]["time_is_up"])
        question = self.onward(reply)
        reply = self.answer(question["id"], right(question["id"]), after=200)
        self.assertTrue(reply["run"]["time_is_up"])
        self.assertTrue(self.on(spell)["ended"])
