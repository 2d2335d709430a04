"""When a stored state is made again, and when it is not."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from unittest.mock import patch

from django_tasks_db.models import DBTaskResult

from vendaval.bank.actions import apply_curves
from vendaval.bank.loading import load_pack
from vendaval.bank.models import FamilyCurve
from vendaval.bank.snapshot import course_bank
from vendaval.levels import learning as module
from vendaval.levels.models import LearnerState, Observation
from vendaval.review.models import Miss
from vendaval.work.jobs import end_at_deadline
from vendaval.work.models import Run
from vendaval.work.tests.builders import CourseTestCase, inshore, right, run_command, wrong
from vendaval_core.packs.families import PackFamily


class OutdatedTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        question = self.practise("tidal-terms")
        for _ in range(3):
            question = self.onward(self.answer(question["id"], right(question["id"])))

    def rebuilt(self) -> int:
        """How often pages made the state again from the log."""
        with patch.object(module, "rebuilt_state", wraps=module.rebuilt_state) as made:
            for _ in range(3):
                self.get("/today")
                self.get("/topics/tidal-terms")
        return int(made.call_count)

    def test_a_new_family_that_nobody_answered_makes_nothing_again(self) -> None:
        pack = inshore()
        item = next(one for one in pack.families if one.family.topic == "tidal-terms")
        added = PackFamily(replace(item.family, key="one-more"), dict(item.data))
        load_pack(replace(pack, families=(*pack.families, added)))
        self.course.refresh_from_db()
        self.assertIn("one-more", course_bank(self.course).families)
        self.assertEqual(self.rebuilt(), 0)

    def test_another_curve_of_a_family_that_was_answered_is_taken_in_once_and_kept(self) -> None:
        version = LearnerState.objects.get().version
        family = Observation.objects.latest("pk").family
        curve = FamilyCurve(
            family=family, a=1.1, b=2.0, c=0.0, answers=90, calibration=1, applied_by="x",
            applied_at=self.clock(),
        )  # fmt: skip
        apply_curves(self.course, [curve])
        self.assertEqual(self.rebuilt(), 1)
        self.assertEqual(LearnerState.objects.get().version, version + 1)
        self.assertIn("equal the log’s", run_command("check_states"))

    def test_only_the_topic_that_changed_is_read_again(self) -> None:
        before = {t.key: t.digest for t in self.course.topics.all()}
        family = Observation.objects.latest("pk").family
        apply_curves(
            self.course,
            [
                FamilyCurve(
                    family=family, a=1.0, b=1.0, c=0.0, answers=90, calibration=1, applied_by="x",
                    applied_at=self.clock(),
                )
            ],
        )  # fmt: skip
        after = {t.key: t.digest for t in self.course.topics.all()}
        changed = {key for key in before if before[key] != after[key]}
        self.assertEqual(changed, {"tidal-terms"})


class DeadlineTests(CourseTestCase):
    def mend(self) -> Run:
        question = self.practise_family("compass-to-true")
        self.answer(question["id"], wrong(question["id"]))
        self.start_mend(Miss.objects.get().pk)
        return Run.objects.get(purpose="missed")

    def test_a_fresh_version_waits_a_day_and_is_settled_by_whoever_reads_it(self) -> None:
        run = self.mend()
        assert run.deadline_at is not None
        self.clock.forward(hours=25)
        self.assertTrue(self.get(f"/runs/{run.pk}")["run"]["ended"])
        run.refresh_from_db()
        self.assertEqual(run.ended_at, run.deadline_at)
        self.assertEqual(Miss.objects.get().state, "open")
        again = self.start_mend(Miss.objects.get().pk)
        self.assertNotEqual(again["run"]["id"], run.pk)

    def test_the_job_settles_it_too_and_twice_is_once(self) -> None:
        run = self.mend()
        (job,) = DBTaskResult.objects.all()
        self.assertEqual(job.run_after, run.started_at + timedelta(days=1))
        self.clock.forward(hours=25)
        self.assertEqual(
            (job.task_path, job.args_kwargs["args"]), (end_at_deadline.module_path, [run.pk])
        )
        self.assertTrue(end_at_deadline.call(run.pk))
        self.assertFalse(end_at_deadline.call(run.pk))
        run.refresh_from_db()
        self.assertEqual(run.ended_at, run.deadline_at)
        self.assertIn("0 runs", run_command("settle_due"))
