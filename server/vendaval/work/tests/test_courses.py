"""Two courses side by side: what is done in one is nothing to the other."""

from __future__ import annotations

from dataclasses import replace
from typing import Any, ClassVar

from vendaval.bank.loading import load_pack
from vendaval.bank.models import Course, Family, Topic
from vendaval.groups.actions import enrol
from vendaval.review.models import Miss
from vendaval.work.models import Presentation, Run
from vendaval.work.tests.builders import CourseTestCase, inshore, right, wrong


class TwoCoursesTests(CourseTestCase):
    """The same content twice, as two courses of one school."""

    other: ClassVar[Course]

    @classmethod
    def setUpTestData(cls) -> None:
        super().setUpTestData()
        pack = inshore()
        course = pack.course.model_copy(update={"key": "offshore", "title": "Offshore"})
        cls.other = load_pack(replace(pack, course=course))
        enrol(cls.learner, cls.other)

    def within(self, course: Course) -> None:
        self.course = course  # type: ignore[misc]

    def test_practice_of_one_does_not_take_up_the_run_of_the_other(self) -> None:
        first = self.start_practice("tidal-terms")
        self.within(self.other)
        second = self.start_practice("tidal-terms")
        self.assertNotEqual(first["run"]["id"], second["run"]["id"])
        self.get(f"/runs/{first['run']['id']}", status=404)
        body: dict[str, Any] = {"replay_key": "in-another-course", "responses": {}}
        self.post(f"/questions/{first['question']['id']}/answer", body, status=404)
        self.assertEqual(
            [run["id"] for run in self.get("/today")["under_way"]], [second["run"]["id"]]
        )

    def test_a_miss_of_one_is_not_mended_in_the_other(self) -> None:
        question = self.practise_family("compass-to-true")
        self.answer(question["id"], wrong(question["id"]))
        miss = Miss.objects.get()
        self.within(self.other)
        self.assertEqual(self.get("/misses")["total"], 0)
        self.get(f"/misses/{miss.pk}", status=404)
        self.start_mend(miss.pk, status=404)
        self.start_practice("compass-errors")
        run = Run.objects.get(enrolment__course=self.other)
        waiting = Presentation.objects.get(run=run)
        self.answer(waiting.pk, right(waiting.pk))
        miss.refresh_from_db()
        self.assertEqual(miss.state, "open")

    def test_levels_and_their_history_are_of_one_course(self) -> None:
        question = self.practise("tidal-terms")
        for _ in range(4):
            question = self.onward(self.answer(question["id"], right(question["id"])))
        self.assertIsNotNone(self.get("/topics/tidal-terms")["line"]["reading"]["level"])
        self.within(self.other)
        page = self.get("/topics/tidal-terms")
        self.assertEqual((page["line"]["reading"]["level"], page["history"]), (None, []))
        self.assertEqual(
            [one["key"] for one in self.client.get("/api/courses").json()["courses"]],
            ["inshore", "offshore"],
        )

    def test_loading_a_pack_takes_out_only_what_came_from_it(self) -> None:
        topic = Topic.objects.get(course=self.other, key="tidal-terms")
        written = Family.objects.create(course=self.other, topic=topic, key="written-here")
        kept = Family.objects.get(course=self.other, key="spring-moon")
        written.latest = written.revisions.create(
            number=1,
            data=kept.latest.data,
            digest="written-here",  # type: ignore[union-attr]
        )
        written.save()
        load_pack(
            replace(inshore(), course=inshore().course.model_copy(update={"key": "offshore"}))
        )
        written.refresh_from_db()
        self.assertTrue(written.live)
