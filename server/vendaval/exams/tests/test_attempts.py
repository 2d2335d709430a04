"""Attempts from the first look to the receipt: the clock, saving, handing in."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from vendaval.bank.snapshot import course_bank
from vendaval.exams.models import Allowance, AnswerSoFar, Attempt
from vendaval.exams.taking.state import settle_due
from vendaval.levels.models import Observation
from vendaval.review.models import Miss
from vendaval.work.models import Try
from vendaval.work.tests.builders import a_learner, enrolment_of, right

from .builders import ExamTestCase


class AttemptTests(ExamTestCase):
    def test_looking_begins_nothing_and_tells_everything_before(self) -> None:
        assignment = self.given(
            minutes=30,
            attempts=2,
            score_kept="best",
            release={"answers": "last_attempt", "solutions": "last_attempt"},
        )
        page = self.get(f"/tests/given-{assignment.pk}")
        says = {line["about"]: line["says"] for line in page["lines"]}
        self.assertEqual(says["Questions"], "Four questions, 4 points in total.")
        self.assertEqual(says["Time"], "30 min, from when everything is loaded.")
        self.assertEqual(says["Attempts"], "Two; the best one counts.")
        self.assertTrue(page["can_start"])
        self.assertEqual(sum(one["questions"] for one in page["ideas"]), 4)
        self.assertEqual(self.get("/tests")["tests"][0]["state"], "not_begun")
        self.assertEqual((Attempt.objects.count(), Try.objects.count()), (0, 0))

    def test_an_attempt_from_beginning_to_receipt(self) -> None:
        assignment = self.given()
        attempt = self.begin(assignment)
        self.assertEqual([place["state"] for place in attempt["places"]], ["not_seen"] * 4)
        self.save(attempt, 1, self.right_at(attempt, 1), flagged=True, note="Look again")
        self.save(attempt, 2, self.wrong_at(attempt, 2))
        again = self.get(f"/attempts/{attempt['id']}")
        self.assertEqual(
            [place["state"] for place in again["places"]],
            ["answered", "answered", "not_seen", "not_seen"],
        )
        self.assertEqual(again["places"][0]["data"]["note"], "Look again")
        self.assertEqual(Try.objects.count(), 0, "what stands so far is no try yet")
        self.clock.forward(minutes=3)
        receipt = self.hand_in(attempt)
        self.assertEqual((receipt["answered"], receipt["questions"]), (2, 4))
        self.assertEqual(receipt, self.hand_in(attempt), "done again it changes nothing")
        self.assertEqual(Try.objects.count(), 2)
        seen = list(Observation.objects.values_list("weight", "learning"))
        self.assertEqual(seen, [(1.0, False)] * 2)
        self.assertEqual(Miss.objects.count(), 1)
        results = self.get(f"/attempts/{attempt['id']}/results")
        points = results["attempt"]["points"]
        self.assertEqual((points["reached"], points["of"], points["per_cent"]), ("1", "4", "25"))
        self.assertEqual(
            [line["result"] for line in results["lines"]], ["right", "wrong", "empty", "empty"]
        )
        self.assertEqual(self.get("/tests")["tests"][0]["state"], "marked")
        self.post(f"/tests/given-{assignment.pk}/start", status=409)

    def test_a_counter_that_is_not_newer_changes_nothing(self) -> None:
        attempt = self.begin(self.given())
        first, other = self.right_at(attempt, 1), self.wrong_at(attempt, 1)
        self.save(attempt, 1, first, counter=5)
        self.assertEqual(self.save(attempt, 1, other, counter=5)["counter"], 5)
        self.assertEqual(self.save(attempt, 1, other, counter=4)["counter"], 5)
        row = AnswerSoFar.objects.get(attempt=attempt["id"], number=1)
        self.assertEqual(row.data.responses, first)
        # Session and person, the place with its attempt and question; the attempt and the place
        # are written between a savepoint and its end.
        with self.assertNumQueries(7):
            self.save(attempt, 1, first, counter=6)

    def test_the_second_browser_has_it_and_the_first_can_only_read(self) -> None:
        attempt = self.begin(self.given())
        second = attempt | {"interval": self.post(f"/attempts/{attempt['id']}/enter")["interval"]}
        refused = self.save(attempt, 1, self.right_at(attempt, 1), status=409)
        self.assertEqual(refused["code"], "elsewhere")
        self.save(second, 1, self.right_at(attempt, 1))

    def test_without_a_browser_the_server_hands_in_what_stands(self) -> None:
        attempt = self.begin(self.given(minutes=10))
        self.save(attempt, 1, self.right_at(attempt, 1))
        self.clock.forward(minutes=10, seconds=10)
        late = self.save(attempt, 2, self.right_at(attempt, 2))
        self.assertFalse(late["late"], "made before the end, it arrived within 15 s")
        self.clock.forward(minutes=30)
        self.assertTrue(self.save(attempt, 3, self.right_at(attempt, 3))["late"])
        settle_due()
        settle_due()
        row = self.row(attempt)
        self.assertEqual(row.handed_in_at, row.standing.stretches[0] + timedelta(minutes=10))
        assert row.total is not None
        self.assertEqual((row.total.reached, Try.objects.count()), (2, 2))
        receipt = self.get(f"/attempts/{attempt['id']}/receipt")
        self.assertIn("automatically", receipt["why_over"])
        kept = AnswerSoFar.objects.get(attempt=row, number=3)
        self.assertIsNotNone(kept.late, "kept for the tutor to see")

    def test_extra_time_and_attempts_of_one_learner(self) -> None:
        assignment = self.given(minutes=10)
        Allowance.objects.create(
            assignment=assignment,
            enrolment=enrolment_of(self.learner),
            times=1.5,
            attempts=1,
            why="writes slowly",
            at=self.clock(),
        )
        page = self.get(f"/tests/given-{assignment.pk}")
        self.assertEqual(
            page["allowed"], "You have 1.5 times the time and one more attempt: writes slowly."
        )
        self.assertEqual(self.begin(assignment)["left"], 900)

    def test_dates_are_kept(self) -> None:
        now = self.clock()
        assignment = self.given(opens=now + timedelta(days=1), due=now + timedelta(days=2))
        self.assertEqual(
            self.post(f"/tests/given-{assignment.pk}/start", status=409)["code"], "not_open"
        )
        self.clock.forward(days=1, hours=23, minutes=55)
        attempt = self.begin(assignment)
        self.save(attempt, 1, self.right_at(attempt, 1))
        self.clock.forward(hours=1)
        self.assertEqual(
            self.get("/tests")["tests"][0]["state"], "marked", "cut off when it was due"
        )
        other = self.given(due=now)
        self.assertEqual(self.post(f"/tests/given-{other.pk}/start", status=409)["code"], "closed")

    def test_the_score_that_counts(self) -> None:
        assignment = self.given(
            attempts=3, score_kept="mean", release={"answers": "never", "solutions": "never"}
        )
        for rights in (1, 4):
            self.taken(assignment, rights)
        page = self.get(f"/tests/given-{assignment.pk}")
        self.assertEqual(page["counts"], "62.5% (of 2 attempts the average counts)")
        self.assertEqual(page["attempts_left"], 1)

    def test_wrong_choices_cost_and_empty_ones_do_not(self) -> None:
        choices = [
            key
            for key, item in self.bank_families()
            if len(item.family.parts) == 1 and item.family.parts[0].kind == "choice"
        ][:4]
        self.families = choices
        assignment = self.given(off_wrong="1/4")
        attempt = self.begin(assignment)
        self.save(attempt, 1, self.right_at(attempt, 1))
        self.save(attempt, 2, self.wrong_at(attempt, 2))
        self.hand_in(attempt)
        results = self.get(f"/attempts/{attempt['id']}/results")
        self.assertEqual(results["attempt"]["points"]["reached"], "0.75")
        self.assertEqual(results["lines"][1]["points"], "−0.25")

    def bank_families(self) -> Any:
        from vendaval.bank.snapshot import course_bank

        return course_bank(self.course).families.items()

    def test_forward_only(self) -> None:
        attempt = self.begin(self.given(navigation="linear"))
        self.save(attempt, 1, self.right_at(attempt, 1))
        self.assertEqual(self.save(attempt, 2, {"x": "1"}, status=409)["code"], "not_yet")
        for _ in range(2):
            on = self.post(f"/attempts/{attempt['id']}/move-on", {"section": 0, "position": 1})
        self.assertEqual(on["position"], 2, "moving on from the same place twice moves once")
        self.assertEqual(self.save(attempt, 1, {}, counter=2, status=409)["code"], "behind")

    def test_four_tries_with_a_quarter_off(self) -> None:
        """Common practice, no published source: right at the second 0.75."""
        assignment = self.given(
            submission="individual", tries=4, off_per_miss="1/4", release={"correctness": "at_once"}
        )
        attempt = self.begin(assignment)
        question = self.question_at(attempt, 1)
        reply = self.answer(question, self.wrong_at(attempt, 1))
        self.assertEqual(reply["question"]["tries_left"], 3)
        self.assertIsNone(reply["question"]["solution"])
        reply = self.answer(question, self.right_at(attempt, 1))
        self.assertTrue(reply["question"]["closed"])
        self.hand_in(attempt)
        points = self.get(f"/attempts/{attempt['id']}/results")["attempt"]["points"]
        self.assertEqual(points["reached"], "0.75")
        self.post(
            f"/questions/{self.question_at(attempt, 2)}/answer",
            {"replay_key": "after-hand-in", "responses": self.right_at(attempt, 2)},
            status=409,
        )

    def test_levels_are_compared_with_those_before_the_first_answer(self) -> None:
        topic = course_bank(self.course).families[self.families[0]].family.topic
        question = self.practise(topic)
        for _ in range(10):
            question = self.onward(self.answer(question["id"], right(question["id"])))
        attempt = self.begin(
            self.given(submission="individual", release={"correctness": "at_once"})
        )
        before = self.get(f"/topics/{topic}")["line"]["reading"]
        self.assertIsNotNone(before["level"])
        self.answer(self.question_at(attempt, 1), self.wrong_at(attempt, 1))
        self.hand_in(attempt)
        results = self.get(f"/attempts/{attempt['id']}/results")
        steps = {step["topic"]["key"]: step for step in results["levels"]}
        self.assertEqual(steps[topic]["before"]["level"], before["level"])
        self.assertLess(steps[topic]["after"]["middle"], before["middle"])
        levels = [step[when]["level"] for step in steps.values() for when in ("before", "after")]
        self.assertNotIn(None, levels, "nothing is compared with what was not known")

    def test_a_mirror_has_other_numbers(self) -> None:
        assignment = self.given()
        real = self.begin(assignment)
        self.hand_in(real)
        page = self.get(f"/tests/given-{assignment.pk}")
        self.assertTrue(self.get(f"/tests/{page['mirror_ref']}")["mirror"])
        practice = self.post(f"/tests/{page['mirror_ref']}/start")
        practice |= {"interval": self.post(f"/attempts/{practice['id']}/enter")["interval"]}
        self.save(practice, 1, self.wrong_at(practice, 1))
        self.hand_in(practice)
        self.assertEqual(Try.objects.count(), 1)
        self.assertEqual((Observation.objects.count(), Miss.objects.count()), (0, 0), "no count")
        versions = [
            {(p.family, p.seed) for p in Attempt.objects.get(pk=one["id"]).places}
            for one in (practice, real)
        ]
        self.assertFalse(versions[0] & versions[1])

    def test_a_save_takes_few_queries_and_strangers_find_nothing(self) -> None:
        attempt = self.begin(self.given(minutes=20))
        given = self.right_at(attempt, 1)
        self.save(attempt, 1, given)
        with CaptureQueriesContext(
            connection,
        ) as counted:
            self.save(attempt, 1, given, counter=2)
        asked = [
            q for q in counted.captured_queries if not q["sql"].startswith(("SAVEPOINT", "RELEASE"))
        ]
        self.assertLessEqual(len(asked), 6, [q["sql"][:90] for q in asked])
        stranger = Client()
        stranger.force_login(a_learner(self.course, "eva"))
        for path in ("", "/receipt", "/results", "/results/1"):
            found = stranger.get(self.address(f"/attempts/{attempt['id']}{path}"))
            self.assertEqual(found.status_code, 404)
        self.assertEqual(stranger.get(self.address("/tests")).json()["tests"], [])
