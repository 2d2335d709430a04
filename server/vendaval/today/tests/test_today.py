"""Today, topics and study pages: what a learner may look at without beginning anything."""

from datetime import timedelta
from typing import Any

from django.db import connection
from django.test.utils import CaptureQueriesContext

from vendaval.bank.snapshot import course_bank
from vendaval.today.models import StepChoice
from vendaval.work.models import HelpOpened, Presentation, Run
from vendaval.work.tests.builders import CourseTestCase, right, wrong


class TodayTests(CourseTestCase):
    def test_a_newcomer_sees_few_steps_with_reason_and_length(self) -> None:
        today = self.get("/today")
        self.assertTrue(1 <= len(today["steps"]) <= 5)
        for step in today["steps"]:
            self.assertTrue(step["reason"].endswith("."), step)
            self.assertGreaterEqual(step["minutes"], 1)
        topics = [topic for subject in today["subjects"] for topic in subject["topics"]]
        self.assertEqual(len(topics), 18)
        self.assertTrue(all(topic["reading"]["level"] is None for topic in topics))

    def test_the_plan_says_why_in_the_learners_own_numbers(self) -> None:
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        plan = self.get("/practice-plan")
        self.assertEqual([run["title"] for run in plan["under_way"]], ["Tidal terms"])
        reasons = [step["reason"] for step in plan["steps"]]
        self.assertTrue(all(reasons))
        self.assertGreater(len(set(reasons)), 1)

    def test_a_topic_page_shows_what_made_the_level_and_what_would_settle_it(self) -> None:
        question = self.practise("tidal-terms")
        for turn in range(4):
            reply = self.answer(question["id"], right(question["id"]))
            question = self.onward(reply)
            self.clock.forward(minutes=turn)
        page = self.get("/topics/tidal-terms")
        self.assertEqual(len(page["answers"]), 4)
        self.assertGreaterEqual(len(page["history"]), 4)
        outlook = page["outlook"]
        self.assertGreater(outlook["if_right"]["middle"], outlook["if_missed"]["middle"])
        self.get("/topics/knots", status=404)

    def test_a_study_page_has_its_figures_and_begins_nothing(self) -> None:
        page = self.get("/study/height-at-a-time")
        self.assertEqual({*page["sections"][0]}, {"key", "title", "minutes"})
        self.get("/study/knots", status=404)
        self.assertEqual((Run.objects.count(), HelpOpened.objects.count()), (0, 0))
        texts = [self.post(f"/study/height-at-a-time/{s['key']}/opened") for s in page["sections"]]
        figures = {text["key"]: text["figure"] for text in texts if text["figure"]}
        self.assertIsNone(figures["twelfths"]["moving"])
        moving = figures["height"]["moving"]
        self.assertEqual((len(moving["frames"]), moving["start"]), (13, 8))
        self.assertEqual(moving["frames"][moving["start"]]["svg"], figures["height"]["svg"])
        self.assertIn("9 of 12 twelfths", moving["frames"][8]["says"])
        self.assertNotIn("[[", str(texts))
        self.assertEqual(HelpOpened.objects.count(), len(texts))

    def test_reading_a_section_is_help_for_the_question_that_waits(self) -> None:
        question = self.practise("height-at-a-time")
        study = question["study"]
        self.post(f"/study/{study['topic']}/nowhere/opened", status=404)
        self.post(f"/study/{study['topic']}/{study['section']}/opened")
        self.assertTrue(Presentation.objects.get(pk=question["id"]).helped)
        reply: Any = self.answer(question["id"], right(question["id"]))
        self.assertIn("opened help first", reply["feedback"]["level"]["sentence"])
        self.assertIsNone(self.get("/topics/height-at-a-time")["line"]["reading"]["level"])

    def test_a_step_is_put_off_turned_down_and_brought_back(self) -> None:
        keys = [step["key"] for step in self.get("/today")["steps"]]
        first, second = keys[:2]
        tomorrow = (self.clock() + timedelta(days=1)).date().isoformat()
        body = {"step": first, "title": "First", "until": tomorrow}
        today = self.post("/steps/put-aside", body)
        self.assertEqual([step["key"] for step in today["steps"]], keys[1:])
        coming = [(one["kind"], one["on"]) for one in today["coming"]]
        self.assertEqual(coming, [("put_off", tomorrow)])
        self.post("/steps/put-aside", {"step": second, "title": "Second"})
        self.clock.forward(days=1)
        today = self.get("/today")
        self.assertIn(first, [step["key"] for step in today["steps"]], "its day has come")
        self.assertEqual([one["key"] for one in today["put_aside"]], [second])
        today = self.post("/steps/bring-back", {"step": second})
        self.assertIn(second, [step["key"] for step in today["steps"]])
        self.post("/steps/bring-back", {"step": second}, status=404)
        past = {"step": first, "title": "First", "until": "2026-03-01"}
        self.post("/steps/put-aside", past, status=422)
        self.assertEqual(StepChoice.objects.count(), 2, "what was decided is kept")

    def test_what_has_faded_is_freshened_at_most_weekly(self) -> None:
        question, turn = self.diagnose("tides")["question"], 0
        while question is not None:
            given = right(question["id"]) if turn % 3 else wrong(question["id"])
            question, turn = self.answer(question["id"], given)["next"], turn + 1
        self.assertNotIn("freshen", self.kinds())
        self.clock.forward(days=160)
        self.assertIn("freshen", self.kinds())
        state = self.post("/runs", {"purpose": "diagnostic", "fresh": True})
        subjects = {
            course_bank(self.course).topic(t["key"]).subject for t in state["run"]["topics"]
        }
        self.assertEqual(subjects, {"tides"})
        self.assertLessEqual(state["run"]["left"]["most"], 15)
        asked = 0
        while state["question"] is not None:
            reply = self.answer(state["question"]["id"], right(state["question"]["id"]))
            asked, state = asked + 1, {"question": reply["next"]}
        self.assertTrue(1 <= asked <= 15)
        self.assertNotIn("freshen", self.kinds())
        self.post("/runs", {"purpose": "diagnostic", "fresh": True}, status=409)

    def kinds(self) -> list[str]:
        return [step["kind"] for step in self.get("/today")["steps"]]

    def test_a_bounded_number_of_queries(self) -> None:
        question = self.practise("tidal-terms")
        for _ in range(5):
            question = self.onward(self.answer(question["id"], right(question["id"])))
        with CaptureQueriesContext(connection) as captured:
            self.get("/today")
        self.assertLessEqual(len(captured), 17)

    def test_a_film_is_to_be_had_once_its_section_was_opened(self) -> None:
        self.client.raise_request_exception = False
        film = self.course.topics.get(key="height-at-a-time").resources.get(kind="video")
        own = self.address(f"/resources/{film.pk}/file")
        self.assertEqual(self.client.get(own).status_code, 404, "it explains what is asked")
        text = self.post("/study/height-at-a-time/twelfths/opened")
        kinds = {one["key"]: one["kind"] for one in text["resources"]}
        self.assertEqual(kinds, {"twelfths-film": "video", "twelfths-card": "file"})
        whole = self.client.get(text["resources"][0]["address"])
        self.assertEqual((whole.status_code, whole["Content-Type"]), (200, "video/webm"))
        size = len(b"".join(whole.streaming_content))
        part = self.client.get(own, headers={"Range": "bytes=10-19"})
        self.assertEqual((part.status_code, len(part.content)), (206, 10))
        self.assertEqual(part["Content-Range"], f"bytes 10-19/{size}")
        last = self.client.get(own, headers={"Range": "bytes=-5"})
        self.assertEqual(last["Content-Range"], f"bytes {size - 5}-{size - 1}/{size}")
        beyond = self.client.get(own, headers={"Range": f"bytes={size}-"})
        self.assertEqual((beyond.status_code, beyond["Content-Range"]), (416, f"bytes */{size}"))
        captions = self.client.get(text["resources"][0]["captions"])
        self.assertTrue(b"".join(captions.streaming_content).startswith(b"WEBVTT"))
        self.clock.forward(days=2)
        self.assertEqual(self.client.get(own).status_code, 404, "a new day, a new opening")


class SearchTests(CourseTestCase):
    def test_topics_sections_and_own_questions_are_found_and_no_texts(self) -> None:
        question = self.practise("compass-errors")
        self.answer(question["id"], wrong(question["id"]))
        found = self.get("/search?words=compass")
        self.assertIn("compass-errors", [topic["key"] for topic in found["topics"]])
        self.assertTrue(all(set(one) == SECTION for one in found["sections"]))
        self.assertEqual([one["title"] for one in found["tries"]], [question["title"]] * 1)
        self.assertEqual(self.get("/search?words=%20")["topics"], [])
        self.assertEqual(self.get("/search?words=zzzz")["tries"], [])
        self.get(f"/search?words={'a' * 81}", status=422)
        with self.assertNumQueries(9):
            self.get("/search?words=compass")


SECTION = {"topic", "section", "title", "minutes"}
