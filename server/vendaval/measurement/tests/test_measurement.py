"""Calibration from the log, states held against it, and what the application says of a level."""

import json
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch

from django.core.management import CommandError
from django.db.models import Sum
from django_tasks_db.models import DBTaskResult

from vendaval.bank.actions import apply_curves
from vendaval.bank.models import Family, FamilyCurve
from vendaval.bank.snapshot import course_bank
from vendaval.levels.checking import check_states
from vendaval.levels.models import LearnerState, LevelRecord, Observation
from vendaval.measurement.actions import apply_calibration, propose_calibration
from vendaval.measurement.jobs import apply_in_background
from vendaval.shared.errors import Conflict
from vendaval.work.models import Presentation, Try, TryKind
from vendaval.work.questions import typical_seconds
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    an_account,
    learning_for,
    right,
    run_command,
    wrong,
)

LSAT6 = Path(__file__).parents[4] / "core/vendaval_core/tests/data/lsat6.csv"


class TableTests(CourseTestCase):
    def test_lsat6_on_the_command_line(self) -> None:
        """The values published for LSAT6: see core tests, `PublishedTests`."""
        with TemporaryDirectory() as folder:
            out = Path(folder) / "fit.json"
            run_command("calibrate", "--responses", str(LSAT6), "--model", "2pl", "--out", str(out))
            found = json.loads(out.read_text())
        self.assertAlmostEqual(found["log_likelihood"], -2466.653377, places=3)
        self.assertAlmostEqual(found["items"][2]["a"], 0.89087, places=3)
        rasch = json.loads(run_command("calibrate", "--responses", str(LSAT6), "--model", "rasch"))
        self.assertAlmostEqual(rasch["conditional"]["items"][0]["b"], -1.2562, places=3)

    def test_a_faulty_table_is_refused_with_line_and_column(self) -> None:
        with TemporaryDirectory() as folder:
            file = Path(folder) / "faulty.csv"
            file.write_text("a,b\n0,1\n1,7\n")
            with self.assertRaisesMessage(CommandError, "line 3, b: “7” is not 0, 1 or blank"):
                run_command("calibrate", "--responses", str(file))
            with self.assertRaisesMessage(CommandError, "cannot be read"):
                run_command("calibrate", "--responses", str(file) + ".none")
        with self.assertRaisesMessage(CommandError, "known: inshore"):
            run_command("calibrate", "--course", "offshore")


class LogTests(CourseTestCase):
    def answer_some(self, count: int = 8) -> None:
        question = self.practise()
        for turn in range(count):
            make = wrong if turn % 3 == 1 else right
            reply = self.answer(question["id"], make(question["id"]))
            question = self.onward(reply)
            self.clock.forward(hours=5 * (turn % 3))

    def place(self) -> int:
        """Where the practised topic stands in the course's order."""
        keys = [topic.key for topic in course_bank(self.course).topics]
        return keys.index("height-at-a-time")

    def test_few_answers_move_nothing_and_say_so(self) -> None:
        self.answer_some()
        found = json.loads(run_command("calibrate", "--course", "inshore", "--by", "ana"))
        self.assertEqual((found["proposed"], found["made_by"]), (0, "ana"))
        self.assertIn("are needed", found["items"][0]["problems"][0])
        applied = run_command("apply_calibration", str(found["calibration"]), "--by", "ana")
        self.assertIn("0 families have new curves", applied)
        with self.assertRaisesMessage(CommandError, "already been applied"):
            run_command("apply_calibration", str(found["calibration"]), "--by", "ana")

    def test_a_calibration_is_put_in_force_by_the_worker(self) -> None:
        self.answer_some()
        found = propose_calibration(self.course, "ana")
        with self.assertRaisesMessage(CommandError, "there is no calibration"):
            run_command("apply_calibration", "999", "--by", "ana", "--background")
        run_command("apply_calibration", str(found.pk), "--by", "ana", "--background")
        found.refresh_from_db()
        self.assertIsNone(found.applied_at)
        (job,) = DBTaskResult.objects.all()
        self.assertEqual(job.task_path, apply_in_background.module_path)
        self.assertEqual(apply_in_background.call(*job.args_kwargs["args"]), [0, 1])
        found.refresh_from_db()
        self.assertEqual(found.applied_by, "ana")

    def test_applying_adds_levels_and_rewrites_nothing(self) -> None:
        self.answer_some()
        calibration = propose_calibration(self.course, "ana")
        for data in calibration.proposals:
            if data["topic"] == "height-at-a-time":
                data["proposed"] = data["present"] | {"b": data["present"]["b"] + 0.8}
        calibration.save()
        tries = list(Try.objects.order_by("pk").values())
        levels = list(LevelRecord.objects.order_by("pk").values())
        moved, learners = apply_calibration(calibration.pk, "ana")
        mine = Family.objects.filter(topic__key="height-at-a-time").count()
        self.assertEqual((moved, learners), (mine, 1))
        self.assertEqual(list(Try.objects.order_by("pk").values()), tries)
        records = LevelRecord.objects.order_by("pk")
        self.assertEqual(list(records.values())[: len(levels)], levels)
        self.assertEqual({r.reason for r in records[len(levels) :]}, {"calibration"})
        self.assertEqual(FamilyCurve.objects.filter(applied_by="ana").count(), mine)
        page = self.get("/topics/height-at-a-time")
        self.assertTrue(page["history"][-1]["recalibrated"])
        self.course.refresh_from_db()
        self.assertEqual([found.agrees for found in check_states(self.course)], [True])
        with self.assertRaises(Conflict):
            apply_calibration(calibration.pk, "ana")

    def test_a_state_under_other_curves_is_made_again_when_the_learner_comes(self) -> None:
        self.answer_some(4)
        families = course_bank(self.course).of_topic(self.place())
        answered = set(Observation.objects.values_list("family_id", flat=True))
        family = next(f for f in families if f.curve.categories == 2 and f.id in answered)
        before = self.get("/topics/height-at-a-time")["line"]["reading"]
        curve = FamilyCurve(
            family_id=family.id, a=1.3, b=3.0, c=0.0, answers=99, calibration=1, applied_by="x",
            applied_at=self.clock(),
        )  # fmt: skip
        apply_curves(self.course, [curve])
        self.assertEqual([f.difference for f in check_states(self.course)], [None])
        self.assertNotEqual(self.get("/topics/height-at-a-time")["line"]["reading"], before)
        run_command("check_states", "--mend")
        self.assertIn("equal the log’s", run_command("check_states"))

    def test_a_state_that_was_tampered_with_is_found_and_mended(self) -> None:
        self.answer_some()
        self.assertIn("1 learners' states equal the log’s", run_command("check_states"))
        row = LearnerState.objects.get()
        learning = learning_for(self.learner)
        learning.state.rows[self.place()] *= 1.01
        learning.claim()
        with self.assertRaisesMessage(CommandError, "1 of 1 learners' states differ"):
            run_command("check_states")
        run_command("check_states", "--mend")
        self.assertIn("equal", run_command("check_states"))
        row.refresh_from_db()

    def test_chunks_rebuilt_side_by_side_are_the_states_stored_one_by_one(self) -> None:
        """Two learners a chunk, as if they were thousands. In threads: a test process that runs
        beside others may start no processes."""
        learners = [self.learner, *(a_learner(self.course, f"ana-{n}") for n in range(4))]
        for turn, learner in enumerate(learners):
            self.client.force_login(learner)
            self.answer_some(3 + turn)
        with patch.multiple(
            "vendaval.levels.checking",
            CHUNK=2,
            FEWEST_FOR_WORKERS=1,
            ProcessPoolExecutor=ThreadPoolExecutor,
        ):
            found = list(check_states(self.course))
        self.assertEqual([one.username for one in found], [one.username for one in learners])
        self.assertEqual({one.agrees for one in found}, {True})

    def test_a_familys_own_times_take_over_after_thirty_answers(self) -> None:
        self.answer_some(1)
        family = Try.objects.filter(first=True).first().family  # type: ignore[union-attr]
        family.refresh_from_db()
        self.assertEqual((family.timed_answers, family.timed_seconds), (1, 60.0))
        self.assertEqual(typical_seconds(family, 44.0), 44.0)
        self.learner.practice_for = an_account("owner")
        self.learner.save()
        self.answer_some(4)
        timed = Family.objects.aggregate(Sum("timed_answers"))["timed_answers__sum"]
        self.assertEqual(timed, 1, "a practice learner’s time says nothing")
        family.timed_answers, family.timed_seconds = 30, 900.0
        self.assertEqual(typical_seconds(family, 44.0), 30.0)

    def test_a_key_of_another_answer_is_refused(self) -> None:
        question = self.practise()
        body = {"replay_key": "used-once-already", "responses": right(question["id"])}
        self.clock.forward(seconds=40)
        following = self.post(f"/questions/{question['id']}/answer", body)["next"]
        body["responses"] = right(following["id"])
        reply = self.post(f"/questions/{following['id']}/answer", body, status=409)
        self.assertEqual(reply["code"], "key_used")
        self.assertEqual(Try.objects.count(), 1)


class WordsTests(CourseTestCase):
    def test_every_presentation_says_why(self) -> None:
        question = self.diagnose(None)["question"]
        said = self.get(f"/questions/{question['id']}/why")["sentences"]
        self.assertIn("of what we don’t know yet", said[1])
        practice = self.practise()
        said = self.get(f"/questions/{practice['id']}/why")["sentences"]
        self.assertIn("answer it right first time, on two versions", said[0])
        fresh = self.post(f"/questions/{practice['id']}/fresh")["question"]
        said = self.get(f"/questions/{fresh['id']}/why")["sentences"]
        self.assertIn("new numbers", said[0])
        stranger = a_learner(self.course, "stranger")
        self.client.force_login(stranger)
        self.get(f"/questions/{fresh['id']}/why", status=404)
        self.assertTrue(all(row.why.rule for row in Presentation.objects.all()))

    def test_the_topic_page_says_what_the_next_answer_would_do(self) -> None:
        question = self.practise()
        for _ in range(3):
            reply = self.answer(question["id"], right(question["id"]))
            question = reply["next"]
        self.answer(question["id"], right(question["id"]), after=1)
        page = self.get("/topics/height-at-a-time")
        now, look = page["line"]["reading"], page["outlook"]
        self.assertGreater(look["if_right"]["middle"], now["middle"])
        self.assertLess(look["if_missed"]["middle"], now["middle"])
        self.assertIn("we’ll know your level well", look["sentence"])
        self.assertIn("One of them was faster", page["answers_note"])
        self.assertEqual(Try.objects.filter(kind=TryKind.ANSWER).count(), 4)
