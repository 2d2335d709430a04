"""Practice of chosen ideas and of a mix of topics."""

from typing import Any

from vendaval.work.models import Presentation
from vendaval.work.tests.builders import CourseTestCase, right, wrong


class GoalTests(CourseTestCase):
    def start(self, goal: dict[str, Any] | None, *topics: str) -> Any:
        return self.post("/runs", {"purpose": "practice", "topics": list(topics), "goal": goal})

    def family_of(self, question: dict[str, Any]) -> str:
        row = Presentation.objects.select_related("revision__family").get(pk=question["id"])
        return row.revision.family.key

    def test_chosen_ideas_two_right_each_and_then_it_goes_on(self) -> None:
        ideas = [idea["key"] for idea in self.get("/topics/height-at-a-time")["ideas"]][:2]
        state = self.start({"kind": "ideas", "families": ideas}, "height-at-a-time")
        question, asked = state["question"], []
        for _ in range(4):
            asked.append(self.family_of(question))
            reply = self.answer(question["id"], right(question["id"]))
            question = self.onward(reply)
        self.assertEqual(asked, ideas * 2)
        self.assertEqual(reply["run"]["goal"]["reached"], True)
        shown = {idea["key"]: idea["right"] for idea in reply["run"]["ideas"]}
        self.assertEqual([shown[key] for key in ideas], [2, 2])
        before = self.get("/topics/height-at-a-time")["line"]["covered"]
        for _ in range(2):
            reply = self.answer(question["id"], wrong(question["id"]))
            self.post(f"/questions/{question['id']}/working")
            question = self.get(f"/runs/{reply['run']['id']}")["question"]
        self.assertEqual(self.get("/topics/height-at-a-time")["line"]["covered"], before)
        self.assertTrue(self.get(f"/runs/{reply['run']['id']}")["run"]["goal"]["reached"])

    def test_a_mix_asks_its_topics_by_turns(self) -> None:
        state = self.start(None, "tidal-terms", "buoyage")
        question, topics = state["question"], []
        self.assertEqual(state["run"]["title"], "Tidal terms and one more")
        for _ in range(4):
            topics.append(question["topic"]["key"])
            question = self.onward(self.answer(question["id"], right(question["id"])))
        self.assertEqual(topics, ["tidal-terms", "buoyage"] * 2)
        again = self.start(None, "tidal-terms", "buoyage")
        self.assertEqual(again["run"]["id"], state["run"]["id"], "taken up again")

    def test_three_tries_and_four_fresh_versions_are_fifteen_tries_at_most(self) -> None:
        """Common practice, no published source: five versions in all, at most fifteen tries."""
        question = self.practise_family("bridge-clearance")
        first, tries, seeds = question["id"], 0, set()
        for version in range(5):
            seeds.add(Presentation.objects.get(pk=question["id"]).seed)
            self.assertEqual(question["fresh_left"], 4 - version)
            for turn in range(3):
                given = dict.fromkeys(wrong(question["id"]), f"{turn + 1}77")
                self.answer(question["id"], given)
                tries += 1
            late = {"replay_key": self.new_key(), "responses": right(question["id"])}
            self.post(f"/questions/{question['id']}/answer", late, status=409)
            if version < 4:
                question = self.post(f"/questions/{question['id']}/fresh")["question"]
        self.assertEqual((tries, len(seeds)), (15, 5))
        self.post(f"/questions/{question['id']}/fresh", status=409)
        self.assertNotEqual(first, question["id"])
