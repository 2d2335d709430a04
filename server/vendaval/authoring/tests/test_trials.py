"""Trials of two texts: who gets which, what counts, and how they end."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

from vendaval.authoring.bank.jobs import refresh
from vendaval.authoring.trials.actions import looked_at
from vendaval.authoring.trials.evidence import answers_of
from vendaval.bank.models import Course, Family, Trial
from vendaval.bank.snapshot import course_bank, version_of
from vendaval.groups.models import Enrolment
from vendaval.levels.models import Observation
from vendaval.work.models import Presentation
from vendaval.work.tests.builders import enrolment_of, wrong
from vendaval_core.measure.trials import gets_second

from .test_publishing import AuthorTestCase
from .trial_log import readers

AT = "/authoring/trials"


class TrialTests(AuthorTestCase):
    def texts(self, query: str = "family=distance-run") -> dict[str, Any]:
        return dict(self.get(f"{AT}/texts?{query}"))

    def started(self, place: str = "hints.0", second: str = "Hours times knots.") -> Trial:
        (text,) = (one for one in self.texts()["texts"] if one["place"] == place)
        body = {"family": "distance-run", "place": place, "first": text["text"], "second": second}
        self.post(AT, body)
        return Trial.objects.select_related("family__latest", "revision", "course").latest("pk")

    def with_arm(self, trial: Trial, *, second: bool) -> Enrolment:
        """Ana, with a seed of her own draws that gives her one of the texts."""
        ana = enrolment_of(self.learner)
        ana.seed = next(n for n in range(99) if gets_second(trial.pk, n) == second)
        ana.save(update_fields=["seed"])
        return ana

    def test_each_learner_gets_one_text_and_always_the_same(self) -> None:
        trial = self.started()
        for second, said in ((True, "Hours times knots."), (False, trial.first)):
            self.with_arm(trial, second=second)
            self.client.force_login(self.learner)
            question = self.practise_family("distance-run")
            # What nobody foresaw brings the first hint.
            told = self.answer(question["id"], wrong(question["id"]))["question"]["hints"]
            self.assertIn(said, told[0])
        self.client.force_login(self.rui)
        self.post(f"{AT}/{trial.pk}/end")
        self.with_arm(trial, second=True)
        self.client.force_login(self.learner)
        question = self.practise_family("distance-run")
        shown = Presentation.objects.get(pk=question["id"])
        self.assertNotEqual(shown.revision_id, trial.revision_id)

    def test_what_is_right_is_the_same_with_either_text(self) -> None:
        trial = self.started()
        bank = course_bank(Course.objects.get(pk=self.course.pk))
        item = bank.families["distance-run"]
        first, second = (
            item.revision_for(next(n for n in range(99) if gets_second(trial.pk, n) == wanted))
            for wanted in (False, True)
        )
        self.assertEqual((first, second), (item.revision, trial.revision))
        for field in ("prompt", "parts", "variables", "solution"):
            self.assertEqual(first.data.model_dump()[field], second.data.model_dump()[field], field)

    def test_a_text_that_helps_is_found_and_taken_over(self) -> None:
        trial = self.started()
        readers(trial, 420, 0.3)
        self.clock.forward(days=9)
        self.assertEqual(len(answers_of(trial)), 420)
        refresh.call(self.course.pk)
        trial.refresh_from_db()
        self.assertEqual(trial.verdict, "second")
        page = self.get(AT)
        (ended,) = page["ended"]
        self.assertEqual(ended["better"], "second")
        self.assertRegex(ended["says"], r"^The second text helps more, by \d+ points of 100")
        self.assertGreater(ended["effect"]["low"], 0)
        self.post(f"{AT}/{trial.pk}/adopt")
        self.assertIn("Hours times knots.", self.told()["text"])
        self.assertTrue(self.get(AT)["ended"][0]["adopted"])

    def test_only_those_who_read_one_of_the_texts_count_and_once_each(self) -> None:
        trial = self.started()
        readers(trial, 30, 0.0, read=False)
        self.assertEqual(answers_of(trial), [])
        readers(trial, 30, 0.0, seed=2)
        self.assertEqual(len(answers_of(trial)), 30)
        readers(trial, 9, 0.0, seed=3, later=timedelta(days=15))
        self.assertEqual(len(answers_of(trial)), 30)

    def test_feedback_counts_for_those_whose_mistake_it_answers(self) -> None:
        place = next(one["place"] for one in self.texts()["texts"] if "near_misses" in one["place"])
        trial = self.started(place, "Sixty minutes make an hour.")
        ana = self.with_arm(trial, second=True)
        self.client.force_login(self.learner)
        question = self.practise_family("distance-run")
        shown = Presentation.objects.select_related("revision__family__topic").get(
            pk=question["id"]
        )
        key = version_of(shown.revision, shown.seed, shown.order).parts[0]
        number = int(place.split(".")[3])
        slip = key.near_misses[number].value  # type: ignore[attr-defined]
        reply = self.answer(question["id"], {key.id: f"{slip:g}"})
        self.assertIn("Sixty minutes", json.dumps(reply))
        self.clock.forward(days=1)
        again = self.practise_family("distance-run")
        self.answer(again["id"], wrong(again["id"]))
        (counted,) = answers_of(trial)
        self.assertTrue(counted.second)
        self.assertFalse(counted.right)
        self.assertEqual(ana.pk, Observation.objects.latest("pk").enrolment_id)

    def test_a_section_has_two_texts_as_well(self) -> None:
        texts = self.texts("topic=speed-time-distance&section=triangle")
        first = texts["texts"][0]["text"]
        body = {"topic": "speed-time-distance", "section": "triangle", "first": first}
        self.post(AT, body | {"second": "**Miles** are knots times hours."})
        trial = Trial.objects.get()
        for second in (True, False):
            self.with_arm(trial, second=second)
            self.client.force_login(self.learner)
            told = self.post("/study/speed-time-distance/triangle/opened")["html"]
            self.assertEqual("<strong>Miles</strong>" in told, second)

    def test_it_ends_by_itself_when_its_time_is_up_or_the_question_changes(self) -> None:
        trial = self.started()
        self.clock.forward(days=200)
        self.assertEqual(looked_at(trial).verdict, "undecided")
        other = self.started(second="Think of hours.")
        page = self.typed(self.told(), "title: ", "title: The ")
        why = {"version": page["version"], "why": "Clearer.", "keeps": True}
        said = self.told("/publishing")["means"]
        self.assertTrue(any("A trial of it goes on" in one for one in said), said)
        self.assertEqual(self.send("/publish", why).status_code, 200)
        other.refresh_from_db()
        self.assertEqual(other.verdict, "stopped")

    def test_what_cannot_be_tried_is_refused(self) -> None:
        trial = self.started()
        same = {"family": "distance-run", "place": "hints.0", "first": trial.first}
        self.assertEqual(
            self.post(AT, same | {"second": trial.first}, status=422)["code"], "unprocessable"
        )
        self.post(AT, same | {"second": "Another one."}, status=409)
        self.post(AT, same | {"place": "hints.9", "second": "Another."}, status=404)
        broken = {"family": "six-minute-rule", "place": "hints.0"}
        first = self.texts("family=six-minute-rule")["texts"][0]
        broken |= {"place": first["place"], "first": first["text"], "second": "Take [[nothing]]"}
        self.post(AT, broken, status=422)
        self.assertEqual(Family.objects.get(key="distance-run").latest, trial.family.latest)  # type: ignore[union-attr]
