"""A quiz of one's own: what is in it and why, and what becomes of its misses."""

from vendaval.bank.snapshot import course_bank
from vendaval.work.models import Presentation, Run
from vendaval.work.tests.builders import CourseTestCase, right, wrong


class QuizTests(CourseTestCase):
    TOPICS = ["buoyage", "tidal-terms"]

    def test_half_essential_half_hardest_with_a_line_why(self) -> None:
        plan = self.get(f"/quiz?topics={','.join(self.TOPICS)}&questions=8")
        why = [idea["why"] for idea in plan["ideas"]]
        self.assertEqual(len(why), 8)
        self.assertEqual(sum("Everybody" in one for one in why), 4)
        hard = [one for one in why if "Hard for you" in one]
        self.assertEqual(len(hard), 4)
        self.assertEqual(Run.objects.count(), 0, "looking begins nothing")
        self.assertEqual(self.get("/quiz?topics=knots&questions=4")["ideas"], [])

    def test_what_was_shown_is_what_is_asked_and_its_misses_join_the_list(self) -> None:
        plan = self.get(f"/quiz?topics={','.join(self.TOPICS)}&questions=4")
        wanted = {"purpose": "quiz", "topics": self.TOPICS, "questions": 4}
        state = self.post("/runs", wanted)
        run, question = state["run"], state["question"]
        titles = set()
        for turn in range(4):
            key = Presentation.objects.get(pk=question["id"]).revision.family.key
            titles.add(course_bank(self.course).families[key].family.title)
            given = wrong(question["id"]) if turn == 0 else right(question["id"])
            reply = self.answer(question["id"], given)
            self.assertIsNotNone(reply["question"]["solution"], "told once it is answered")
            self.assertEqual(reply["run"]["left"]["questions"], 3 - turn)
            question = reply["next"]
        self.assertEqual(titles, {idea["title"] for idea in plan["ideas"]})
        self.assertIsNone(question)
        ended = self.get(f"/runs/{run['id']}")["run"]
        self.assertEqual((ended["ended"], ended["goal"]["says"]), (True, "Three of four right."))
        misses = self.get("/misses")
        self.assertEqual(misses["total"], 1)
        self.assertEqual(misses["topics"][0]["misses"][0]["purpose"], "quiz")

    def test_it_says_why_a_question_is_asked(self) -> None:
        wanted = {"purpose": "quiz", "topics": self.TOPICS, "questions": 4}
        question = self.post("/runs", wanted)["question"]
        (why,) = self.get(f"/questions/{question['id']}/why")["sentences"]
        self.assertIn("in your quiz because", why)
        self.assertEqual(set(question["can"]), {"answer", "sure", "finish"}, "no help in it")
