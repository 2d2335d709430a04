"""Calibrations for authors: run, looked at, accepted for one question or all, and undone."""

from __future__ import annotations

import math
import random
from typing import Any
from unittest.mock import patch

from django.core.files.uploadedfile import SimpleUploadedFile
from django_tasks_db.models import DBTaskResult

from vendaval.bank.models import Course, Family, FamilyCurve
from vendaval.bank.snapshot import course_bank
from vendaval.measurement.actions import apply_calibration, undo_calibration
from vendaval.measurement.effect import effect_of
from vendaval.measurement.jobs import propose_in_background
from vendaval.measurement.models import Calibration, CalibrationRun
from vendaval.people.models import AuditEntry
from vendaval.shared import clock
from vendaval.work.tests.builders import learning_for, right

from .test_publishing import AuthorTestCase

AT = "/authoring/calibration"
HARDER = {"a": 1.4, "b": 1.0, "c": 0.0, "steps": []}


class CalibratingTests(AuthorTestCase):
    def proposed(self, *keys: str) -> Calibration:
        """A calibration that finds some questions harder, and left one alone."""
        bank = course_bank(Course.objects.get(pk=self.course.pk))
        proposals: list[dict[str, Any]] = []
        for key in (*keys, "speed-made"):
            curve = bank.families[key].curve
            present = {"a": curve.a, "b": curve.b, "c": curve.c, "steps": list(curve.steps)}
            alone = key not in keys
            proposals.append(
                {
                    "item": key, "topic": "speed-time-distance", "present": present,
                    "proposed": None if alone else HARDER, "se": {} if alone else {"b": 0.2},
                    "answers": 12 if alone else 90, "fit": {"infit": 1.0, "outfit": 1.0},
                    "problems": ["too few answers"] if alone else [],
                    "asks": [] if alone else ["its versions are not equally hard"],
                }
            )  # fmt: skip
        return Calibration.objects.create(
            course=self.course, proposals=proposals, responses=192, made_by="rui",
            made_at=clock.now(), effect=effect_of(self.course, proposals),
        )  # fmt: skip

    def in_force(self, key: str) -> float:
        return course_bank(Course.objects.get(pk=self.course.pk)).families[key].curve.b

    def test_what_is_proposed_and_what_was_left_alone_and_why(self) -> None:
        self.assertIsNone(self.get(AT)["id"])
        self.proposed("distance-run", "time-to-run")
        page = self.get(AT)
        self.assertEqual(page["counts"], {"proposed": 2, "alone": 1, "asks": 2})
        self.assertAlmostEqual(page["lines"][0]["proposed"]["middle"], 50 + 50 / 3)
        (alone,) = self.get(f"{AT}?show=alone")["lines"]
        self.assertEqual((alone["key"], alone["why"]), ("speed-made", ["Too few answers."]))

    def test_one_is_accepted_and_undone_and_every_curve_stays_on_record(self) -> None:
        calibration, before = self.proposed("distance-run", "time-to-run"), {}
        for key in ("distance-run", "time-to-run"):
            before[key] = self.in_force(key)
        self.post(f"{AT}/{calibration.pk}/accept", {"families": ["distance-run"]})
        self.assertTrue(self.get(AT)["busy"])
        self.post(f"{AT}/{calibration.pk}/accept", {"families": ["time-to-run"]}, status=409)
        job = DBTaskResult.objects.get()
        apply_calibration(*job.args_kwargs["args"][:2], only=job.args_kwargs["args"][2])
        DBTaskResult.objects.all().delete()
        self.assertEqual(self.in_force("distance-run"), 1.0)
        self.assertEqual(self.in_force("time-to-run"), before["time-to-run"])
        accepted = {one["key"]: one["accepted"] for one in self.get(AT)["lines"]}
        self.assertEqual(accepted, {"distance-run": True, "time-to-run": False})
        undo_calibration(calibration.pk, "rui", ["distance-run", "time-to-run"])
        self.assertAlmostEqual(self.in_force("distance-run"), before["distance-run"], 4)
        apply_calibration(calibration.pk, "rui")
        self.assertEqual(self.in_force("distance-run"), 1.0)
        self.assertEqual(FamilyCurve.objects.count(), 4)
        self.assertIn("accepted: distance-run", AuditEntry.objects.latest("pk").says)

    def test_what_it_does_to_levels_is_what_accepting_it_does(self) -> None:
        self.client.force_login(self.learner)
        for key in ("distance-run", "time-to-run"):
            asked = self.practise_family(key)["id"]
            self.answer(asked, right(asked))
        self.client.force_login(self.rui)
        calibration = self.proposed("distance-run", "time-to-run")
        before = learning_for(self.learner).readings
        apply_calibration(calibration.pk, "rui")
        after = learning_for(self.learner).readings
        moved = max(abs(a.level - b.level) for a, b in zip(before, after, strict=True))
        self.assertAlmostEqual(calibration.effect["largest"], moved, 0)
        self.assertIn("We looked at one learner.", self.get(AT)["effect"])

    def test_it_runs_in_the_background_once_and_says_how_far_it_is(self) -> None:
        self.post(f"{AT}/run")
        page = self.post(f"{AT}/run")
        self.assertEqual((page["running"]["done"], DBTaskResult.objects.count()), (0, 1))
        seen: list[str] = []
        with patch.object(
            CalibrationRun.objects.none().__class__,
            "update",
            lambda rows, **now: seen.append(now.get("topic", "")),
        ):
            propose_in_background.call(self.course.pk, "rui")
        self.assertIn("Tidal terms", seen)
        page = self.get(AT)
        self.assertIsNone(page["running"])
        self.assertIsNotNone(page["id"])

    def test_a_table_from_elsewhere_is_calibrated_and_what_is_wrong_with_it_is_said(self) -> None:
        keys = ("distance-run", "time-to-run", "speed-made", "speed-needed")
        rng = random.Random(3)

        def row() -> str:
            ability = rng.gauss(0, 1.2)
            chances = [1 / (1 + math.exp(-1.3 * (ability - b))) for b in (-1.0, 0.0, 0.5, 1.0)]
            return ",".join(str(int(rng.random() < chance)) for chance in chances)

        lines = [row() for _ in range(80)]
        wrong = self.send("\n".join(["distance-run,learner", *lines]), status=422)
        self.assertIn("line 2: 4 values under a header of 2 names", wrong["fields"]["file"])
        unknown = [line.partition(",")[0] + ",1" for line in lines]
        wrong = self.send("\n".join(["distance-run,learner", *unknown]), status=422)
        self.assertIn("“learner” is no question of the course", wrong["fields"]["file"])
        page = self.send("\n".join([",".join(keys), *lines]))
        self.assertIsNotNone(page["running"])
        self.send("\n".join([",".join(keys), *lines]), status=409)
        propose_in_background.call(self.course.pk, "rui")
        page = self.get(AT)
        self.assertEqual((page["table"], page["answers"]), ("paper.csv", 320))
        self.assertEqual(page["counts"]["proposed"] + page["counts"]["alone"], 4)
        observed = self.get(f"{AT}/families/distance-run")["observed"]
        self.assertEqual(sum(point["answers"] for point in observed), 80)
        self.assertFalse(CalibrationRun.objects.exists())

    def send(self, text: str, status: int = 200) -> dict[str, Any]:
        file = SimpleUploadedFile("paper.csv", text.encode())
        reply = self.client.post(self.address(f"{AT}/run-table?name=paper.csv"), {"file": file})
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return dict(reply.json())

    def test_curves_are_drawn_with_what_was_observed(self) -> None:
        self.proposed("distance-run")
        shown = self.get(f"{AT}/families/distance-run")
        present = [point["present"] for point in shown["curves"]]
        self.assertEqual(present, sorted(present))
        self.assertLess(shown["curves"][5]["proposed"], shown["curves"][5]["present"])
        self.assertEqual(shown["observed"], [])
        self.get(f"{AT}/families/no-such", status=404)
        self.assertTrue(Family.objects.filter(key="distance-run").exists())
