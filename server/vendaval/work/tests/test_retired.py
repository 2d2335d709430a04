"""Questions, sections and topics that are taken out of a course while learners are at work."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from vendaval.bank.actions import refresh_digest
from vendaval.bank.loading import load_pack
from vendaval.bank.models import Course, Family, FamilyRevision, Topic
from vendaval.work.models import Closing, Presentation, Try
from vendaval.work.tests.builders import (
    CourseTestCase,
    inshore,
    inshore_without,
    right,
    run_command,
)
from vendaval_core.packs.located import PackInvalid
from vendaval_core.packs.reader import Pack


def without_topic(key: str) -> Pack:
    """The course without a topic and its families; nothing comes after it any more."""
    pack = inshore()
    subjects = [
        subject.model_copy(update={"topics": [
            topic.model_copy(update={"after": [one for one in topic.after if one != key]})
            for topic in subject.topics if topic.key != key
        ]})
        for subject in pack.course.subjects
    ]  # fmt: skip
    families = tuple(item for item in pack.families if item.family.topic != key)
    course = pack.course.model_copy(update={"subjects": subjects})
    return replace(pack, course=course, families=families)


class RetiredQuestionTests(CourseTestCase):
    def family(self, question: Any) -> str:
        return str(Presentation.objects.get(pk=question["id"]).revision.family.key)

    def test_the_one_that_waits_gives_way_to_another(self) -> None:
        for body in (
            {"purpose": "practice", "topics": ["height-at-a-time"]},
            {"purpose": "diagnostic", "subject": "tides"},
        ):
            state = self.post("/runs", body)
            run, question = state["run"]["id"], state["question"]
            gone = self.family(question)
            load_pack(inshore_without(gone))
            shown = self.get(f"/runs/{run}")["question"]
            self.assertEqual(shown, question, "it can still be read")
            self.clock.forward(seconds=50)
            sent = {"replay_key": self.new_key(), "responses": right(question["id"])}
            path = f"/questions/{question['id']}/answer"
            refused = self.post(path, sent, status=409)
            self.assertEqual(refused["code"], "not_live")
            self.assertIn("We counted nothing", refused["detail"])
            self.assertEqual(Try.objects.count(), 0)
            onward = self.post(f"/runs/{run}/go-on")
            self.assertNotEqual(self.family(onward["question"]), gone)
            self.assertEqual(Presentation.objects.get(pk=question["id"]).closing, Closing.WITHDRAWN)
            again = self.post(f"/runs/{run}/go-on")
            self.assertEqual(again["question"], onward["question"], "asked twice, moved once")
            self.post(f"/runs/{run}/finish")
            self.assertEqual(self.post(f"/runs/{run}/go-on", status=409)["code"], "run_ended")

    def test_a_run_taken_up_again_has_a_question_of_the_course(self) -> None:
        for body in (
            {"purpose": "practice", "topics": ["compass-errors"]},
            {"purpose": "diagnostic", "subject": "chartwork"},
        ):
            state = self.post("/runs", body)
            gone = self.family(state["question"])
            load_pack(inshore_without(gone))
            resumed = self.post("/runs", body)
            self.assertEqual(resumed["run"]["id"], state["run"]["id"])
            self.assertNotEqual(self.family(resumed["question"]), gone)

    def test_levels_and_log_keep_what_was_answered(self) -> None:
        question = self.practise()
        for _ in range(4):
            question = self.onward(self.answer(question["id"], right(question["id"])))
        answered = Family.objects.filter(pk__in=Try.objects.values("family")).values_list(
            "key", flat=True
        )
        load_pack(inshore_without(*answered[:2]))
        page = self.get("/topics/height-at-a-time")
        self.assertEqual(len(page["answers"]), 4)
        run_command("check_states", "--mend")
        self.assertIn("equal the log’s", run_command("check_states"))

    def test_a_section_that_is_gone_leads_to_the_first_of_its_topic(self) -> None:
        question = self.practise_family("twelfths-rise")
        self.assertEqual(question["study"]["section"], "height")
        Topic.objects.get(key="height-at-a-time").sections.filter(key="height").delete()
        refresh_digest(Course.objects.get())
        link = self.get(f"/runs/{Presentation.objects.latest('pk').run_id}")
        first = self.get("/study/height-at-a-time")["sections"][0]
        self.assertEqual(link["question"]["study"]["section"], first["key"])

    def test_a_section_to_read_that_is_gone_leads_there_too(self) -> None:
        question = self.diagnose("tides")["question"]
        self.clock.forward(seconds=30)
        path = f"/questions/{question['id']}/answer"
        self.post(path, {"replay_key": self.new_key(), "not_taught": True})
        place = question["study"]
        self.assertEqual(self.get("/today")["steps"][0]["study"], place)
        topic = Topic.objects.get(key=place["topic"])
        topic.sections.filter(key=place["section"]).delete()
        refresh_digest(Course.objects.get())
        first = self.get(f"/study/{topic.key}")["sections"][0]
        self.assertEqual(self.get("/today")["steps"][0]["study"]["section"], first["key"])


class RetiredTopicTests(CourseTestCase):
    def test_one_without_levels_goes_and_may_come_back(self) -> None:
        load_pack(without_topic("fog-and-sea-breeze"))
        self.assertFalse(Family.objects.filter(topic__key="fog-and-sea-breeze").exists())
        topics = [t for s in self.get("/today")["subjects"] for t in s["topics"]]
        self.assertEqual(len(topics), 17)
        self.get("/topics/fog-and-sea-breeze", status=404)
        question = self.practise()
        for _ in range(3):
            question = self.onward(self.answer(question["id"], right(question["id"])))
        before = self.get("/topics/height-at-a-time")["line"]["reading"]
        load_pack(inshore())
        self.get("/topics/fog-and-sea-breeze")
        after = self.get("/topics/height-at-a-time")["line"]["reading"]
        self.assertAlmostEqual(after["middle"], before["middle"], delta=0.2)
        run_command("check_states", "--mend")
        self.assertIn("equal the log’s", run_command("check_states"))

    def test_a_diagnostic_goes_on_without_it(self) -> None:
        state = self.diagnose("weather")
        asked = state["question"]["topic"]["key"]
        gone = next(t["key"] for t in state["run"]["topics"] if t["key"] != asked)
        load_pack(without_topic(gone))
        run = f"/runs/{state['run']['id']}"
        self.assertEqual(len(self.get(run)["run"]["topics"]), 2)
        question = self.get(run)["question"]
        for _ in range(3):
            reply = self.answer(question["id"], right(question["id"]))
            question = reply["next"]
            self.assertNotEqual(question["topic"]["key"], gone)
        self.assertEqual([r["title"] for r in self.get("/today")["under_way"]], ["Weather"])

    def test_one_with_levels_stays_and_nothing_is_changed(self) -> None:
        question = self.practise()
        self.answer(question["id"], right(question["id"]))
        before = (Course.objects.get().digest, FamilyRevision.objects.count())
        with self.assertRaisesRegex(
            PackInvalid, "course.yaml:1: subjects: learners have levels in “fog-and-sea-breeze”"
        ):
            load_pack(without_topic("fog-and-sea-breeze"))
        self.assertEqual((Course.objects.get().digest, FamilyRevision.objects.count()), before)
        self.assertTrue(Family.objects.filter(topic__key="fog-and-sea-breeze", live=True).exists())
