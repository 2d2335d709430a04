"""The revision plan, misses taken up again, and the working area in review."""

from typing import Any

from vendaval.bank.snapshot import course_bank
from vendaval.work.models import HelpOpened
from vendaval.work.tests.builders import CourseTestCase, right, wrong


class RevisionTests(CourseTestCase):
    def missed(self, family: str) -> Any:
        question = self.practise_family(family)
        self.answer(question["id"], wrong(question["id"]))
        self.post(f"/questions/{question['id']}/working")
        return question

    def test_sections_for_what_was_missed_those_that_answer_most_first(self) -> None:
        self.assertEqual(self.get("/revision")["items"], [])
        for family in ("bridge-clearance", "bridge-formula", "springs-neaps"):
            if family in course_bank(self.course).families:
                self.missed(family)
        plan = self.get("/revision")
        counts = [len(item["answers"]) for item in plan["items"]]
        self.assertEqual(counts, sorted(counts, reverse=True))
        self.assertEqual(sum(counts), plan["misses"])
        self.assertEqual(plan["minutes"], sum(i["study"]["minutes"] for i in plan["items"]))

    def test_marking_studied_takes_it_off_and_counts_as_nothing_else(self) -> None:
        self.missed("bridge-clearance")
        item = self.get("/revision")["items"][0]
        self.assertEqual((item["studied"], item["read_at"]), (False, None))
        place = {"topic": item["study"]["topic"], "section": item["study"]["section"]}
        plan = self.post("/revision/studied", place | {"studied": True})
        self.assertEqual((plan["minutes"], plan["items"][0]["studied"]), (0, True))
        self.assertEqual(self.get("/misses")["total"], 1)
        self.assertEqual(HelpOpened.objects.filter(kind="study").count(), 0)
        plan = self.post("/revision/studied", place | {"studied": False})
        self.assertFalse(plan["items"][0]["studied"])
        self.post("/revision/studied", place | {"section": "nowhere", "studied": True}, status=404)
        self.clock.forward(minutes=1)
        self.post(f"/study/{place['topic']}/{place['section']}/opened")
        self.assertIsNotNone(self.get("/revision")["items"][0]["read_at"])

    def test_from_a_section_straight_to_two_questions_on_it(self) -> None:
        self.missed("bridge-clearance")
        item = self.get("/revision")["items"][0]
        goal = {"kind": "questions", "questions": 2, "families": item["families"]}
        wanted = {"purpose": "practice", "topics": [item["topic"]["key"]], "goal": goal}
        state = self.post("/runs", wanted)
        self.assertEqual(state["run"]["goal"]["says"], "Two questions left of two questions.")
        self.post("/runs", wanted | {"goal": goal | {"families": ["mayday-slips"]}}, status=422)

    def test_a_miss_set_aside_is_taken_up_again(self) -> None:
        question = self.missed("bridge-clearance")
        miss = self.get("/misses")["topics"][0]["misses"][0]["id"]
        self.post(f"/misses/{miss}/set-aside")
        listed = self.get("/misses")
        self.assertEqual((listed["total"], [m["id"] for m in listed["set_aside"]]), (0, [miss]))
        self.assertEqual(self.post(f"/misses/{miss}/take-up")["state"], "open")
        self.assertEqual(self.post(f"/misses/{miss}/take-up")["state"], "open", "twice is once")
        fresh = self.start_mend(miss)["question"]
        self.assertNotEqual(fresh["id"], question["id"])
        self.assertTrue(self.answer(fresh["id"], right(fresh["id"]))["feedback"]["mended"])
        self.assertEqual(self.post(f"/misses/{miss}/take-up")["state"], "mended")

    def test_the_working_area_is_kept_with_the_try_and_shown_in_review(self) -> None:
        question = self.practise_family("bridge-clearance")
        working = {"lines": "range $3.2$ m", "strokes": ["10,20 30,40 50,60"]}
        self.answer(question["id"], wrong(question["id"]), working=working)
        self.post(f"/questions/{question['id']}/working")
        miss = self.get("/misses")["topics"][0]["misses"][0]["id"]
        kept = self.get(f"/misses/{miss}")["working"]
        self.assertIn("range", kept["html"])
        self.assertEqual(kept["strokes"], working["strokes"])
        bad = {"replay_key": self.new_key(), "responses": {}, "working": {"strokes": ["<script>"]}}
        self.post(f"/questions/{question['id']}/answer", bad, status=422)
