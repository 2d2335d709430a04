"""The bank: what needs an author first, and every family found, filtered and sorted."""

from __future__ import annotations

from django_tasks_db.models import DBTaskResult

from vendaval.authoring.bank.lines import refresh_figures
from vendaval.authoring.models import BankLine
from vendaval.bank.actions import refresh_digest
from vendaval.bank.models import Course, Family, FamilyCurve, Topic
from vendaval.bank.snapshot import course_bank
from vendaval.measurement.actions import apply_calibration
from vendaval.measurement.models import Calibration
from vendaval.shared import clock
from vendaval.threads.models import Thread, ThreadKind, ThreadState
from vendaval.work.models import Presentation, Run
from vendaval.work.tests.builders import enrolment_of

from .test_publishing import AuthorTestCase

# Beside those of every request: who asks, and where.
MOST_QUERIES = 8


class BankTests(AuthorTestCase):
    def bank(self, query: str = "") -> dict:  # type: ignore[type-arg]
        return dict(self.client.get(f"/api/courses/inshore/authoring/bank?{query}").json())

    def keys(self, query: str) -> list[str]:
        return [line["key"] for line in self.bank(query)["lines"]]

    def measured(self, key: str, b: float, **more: object) -> None:
        family = Family.objects.get(key=key)
        curve = {"a": 1.3, "b": b, "c": 0.0, "steps": []}
        proposal = {
            "item": key,
            "present": curve,
            "proposed": curve,
            "se": {"b": 0.2},
            "answers": 90,
            "fit": {"infit": 1.0, "outfit": 1.0},
            "version_spread": 0.1,
            "asks": [],
            "topic": family.topic.key,
            "problems": [],
        }
        Calibration.objects.create(
            course=self.course, proposals=[proposal | more], responses=90, made_at=clock.now()
        )
        refresh_figures(self.course)

    def test_every_family_is_there_once_and_few_queries_show_them(self) -> None:
        self.bank()
        with self.assertNumQueries(MOST_QUERIES + 2):
            page = self.bank("sort=topic")
        live = Family.objects.filter(course=self.course, live=True).count()
        self.assertEqual((page["families"], page["total"]), (live, live))
        self.assertEqual(page["headline"], "Nothing needs you now.")
        self.assertGreater(page["pages"], 1)

    def test_words_are_found_in_titles_prompts_and_feedback(self) -> None:
        self.assertIn("distance-run", self.keys("words=distance run"))
        self.assertIn("distance-run", self.keys("words=Divide MINUTES by 60"))
        self.assertEqual(self.keys("words=nowhere-to-be-found"), [])
        only = self.bank("topic=buoyage")
        self.assertEqual({line["topic"]["key"] for line in only["lines"]}, {"buoyage"})

    def test_judgement_and_measurement_stand_on_one_axis(self) -> None:
        self.measured("distance-run", 1.5)
        line = self.bank("words=distance run&sort=apart")["lines"][0]
        self.assertEqual(line["key"], "distance-run")
        bar = line["measured"]
        self.assertEqual((bar["middle"], line["separates"]), (75.0, "well"))
        self.assertAlmostEqual(bar["high"] - bar["low"], 2 * 1.96 * 0.2 * 50 / 3)
        self.assertLess(line["judged"], 50)

    def test_what_needs_an_author_comes_first_with_why(self) -> None:
        self.measured("distance-run", 0.1, asks=["strong learners choose a wrong answer"])
        page = self.bank()
        self.assertEqual(page["headline"], "One question needs you, one of them today.")
        self.assertEqual(page["cards"][0]["says"], ["Strong learners choose a wrong answer."])
        self.assertEqual(self.keys("show=needs"), ["distance-run"])
        self.assertEqual(page["lines"][0]["key"], "distance-run")

    def test_reports_of_a_fault_are_counted_while_they_are_open(self) -> None:
        ana, now = enrolment_of(self.learner), clock.now()
        family = Family.objects.get(key="distance-run")
        run = Run.objects.create(
            enrolment=ana, purpose="practice", title="Tides", started_at=now, touched_at=now
        )
        shown = Presentation.objects.create(
            run=run, revision=family.latest, seed=1, number=1, made_at=now
        )
        at = {"family": family, "topic": family.topic, "opened_at": now}
        Thread.objects.create(enrolment=ana, kind=ThreadKind.FAULT, presentation=shown, **at)
        refresh_figures(self.course)
        says = ["One learner reports a problem with it."]
        self.assertEqual([card["says"] for card in self.bank()["cards"]], [says])
        Thread.objects.update(state=ThreadState.SETTLED)
        refresh_figures(self.course)
        self.assertEqual(self.bank()["cards"], [])

    def test_what_is_published_is_found_at_once(self) -> None:
        self.bank()
        self.typed(self.told(), "Distance run", "Distance made good")
        self.assertEqual(self.keys("show=drafts"), ["distance-run"])
        page = self.told()
        why = {"version": page["version"], "why": "Clearer.", "keeps": True}
        self.assertEqual(self.send("/publish", why).status_code, 200)
        self.assertIn("distance-run", self.keys("words=made good"))
        self.assertEqual(BankLine.objects.filter(title="Distance made good").count(), 1)

    def test_figures_are_asked_for_once_whoever_looks(self) -> None:
        asked = DBTaskResult.objects.filter(task_path__endswith="bank.jobs.refresh")
        self.bank()
        self.bank()
        self.assertEqual(asked.count(), 1)
        refresh_figures(self.course)
        self.clock.forward(hours=2)
        self.bank()
        self.assertEqual(asked.count(), 2)

    def test_a_question_that_is_gone_and_one_that_was_moved(self) -> None:
        self.bank()
        Family.objects.filter(key="distance-run").update(live=False)
        other = Topic.objects.get(key="buoyage")
        Family.objects.filter(key="range-of-tide").update(topic=other)
        Course.objects.filter(pk=self.course.pk).update(digest="another")
        self.assertNotIn("distance-run", self.keys("words=distance run"))
        moved = self.bank("topic=buoyage&sort=title")["lines"]
        self.assertIn("range-of-tide", [line["key"] for line in moved])

    def test_what_is_asked_for_has_to_make_sense(self) -> None:
        at = "/api/courses/inshore/authoring/bank"
        for query in ("sort=luck", "page=0", "show=secret", f"words={'a' * 200}"):
            self.assertEqual(self.client.get(f"{at}?{query}").status_code, 422, query)
        self.assertEqual(self.bank("page=99")["lines"], [])

    def test_answers_to_another_question_measure_nothing_of_this_one(self) -> None:
        self.measured("distance-run", 1.5)
        calibration = Calibration.objects.get()
        page = self.typed(self.told(), "answer: miles\n", "answer: miles + 0.2\n")
        self.clock.forward(minutes=5)
        why = {"version": page["version"], "why": "Another key.", "keeps": False}
        self.assertEqual(self.send("/publish", why).status_code, 200)
        refresh_figures(self.course)
        lines = {one["key"]: one for one in self.bank("words=distance run")["lines"]}
        self.assertIsNone(lines["distance-run"]["measured"])
        self.clock.forward(minutes=5)
        apply_calibration(calibration.pk, "ana")
        self.assertFalse(FamilyCurve.objects.exists())

    def test_a_curve_from_before_is_no_longer_in_force(self) -> None:
        family = Family.objects.get(key="distance-run")
        curve = {"a": 1.3, "b": 2.5, "c": 0.0, "answers": 90, "calibration": 1}
        FamilyCurve.objects.create(family=family, applied_at=clock.now(), **curve)
        self.clock.forward(minutes=5)
        for keeps, title in ((True, "My own "), (False, "Your ")):
            page = self.typed(self.told(), "title: ", f"title: {title}")
            why = {"version": page["version"], "why": "Another key.", "keeps": keeps}
            answer = self.send("/publish", why)
            self.assertEqual(answer.status_code, 200, (keeps, answer.content[:600]))
            course = Course.objects.get(pk=self.course.pk)
            refresh_digest(course)
            in_force = course_bank(course).families["distance-run"].curve.b
            self.assertEqual(in_force == 2.5, keeps)
