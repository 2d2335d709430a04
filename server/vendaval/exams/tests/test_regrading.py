"""A question regraded for everybody: previewed, applied once, told, and undone by the same way."""

from __future__ import annotations

import json
from typing import Any

from django.test import Client
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from vendaval.bank.actions import refresh_digest
from vendaval.bank.models import Family, FamilyData
from vendaval.exams.columns import RegradeWay
from vendaval.exams.models import AnswerSoFar, Assignment, Regrade, RegradeState
from vendaval.exams.regrading.applying import apply_all
from vendaval.exams.regrading.jobs import apply_in_background, resume, undo_in_background
from vendaval.exams.regrading.queries import choices, preview
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.levels.models import Observation
from vendaval.levels.rebuild import rebuilt_state
from vendaval.notices.models import Notice, NoticeKind
from vendaval.people.models import Role
from vendaval.review.models import Miss
from vendaval.threads.models import Thread
from vendaval.work.models import Mark, MarkRule
from vendaval.work.tests.builders import (
    a_learner,
    enrolment_of,
    learning_for,
    run_command,
    with_role,
)

from .builders import ExamTestCase


class RegradingTests(ExamTestCase):
    """Two learners with two of four questions right, a tutor at the desk."""

    def setUp(self) -> None:
        super().setUp()
        self.desk = Client()
        tutor = with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, tutor)
        self.desk.force_login(tutor)
        self.assignment: Assignment = self.given()
        other = a_learner(self.course, "bea", display_name="Bea Faria")
        join_group(self.group, enrolment_of(other))
        self.attempts = [self.sat(self.learner), self.sat(other)]
        self.client.force_login(self.learner)
        self.family = self.families[3]

    def sat(self, person: Any) -> Any:
        self.client.force_login(person)
        attempt = self.begin(self.assignment)
        for number in (1, 2):
            self.save(attempt, number, self.right_at(attempt, number))
        for number in (3, 4):
            self.save(attempt, number, self.wrong_at(attempt, number))
        self.hand_in(attempt)
        return attempt

    def ask(self, path: str = "", body: Any = None, *, status: int = 200) -> Any:
        address = f"/api/groups/{self.group.pk}/tests/{self.assignment.pk}/regrades{path}"
        way = "GET" if body is None else "POST"
        reply = self.desk.generic(way, address, json.dumps(body or {}), "application/json")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def regrade(self, way: dict[str, Any], *, status: int = 200) -> Any:
        body = {"way": way, "why": "The key was wrong."}
        asked = self.ask(f"/{self.family}", body, status=status)
        return self.worked() if status == 200 else asked

    def undo(self) -> Any:
        self.ask(f"/{Regrade.objects.latest('pk').pk}/undo", {})
        return self.worked()

    def worked(self) -> Any:
        """What the page says once the background has done its work."""
        for row in Regrade.objects.filter(state=RegradeState.WAITING):
            apply_in_background.func(row.pk)
        for row in Regrade.objects.filter(state=RegradeState.UNDOING):
            undo_in_background.func(row.pk)
        return self.ask()

    def points(self) -> tuple[str, str]:
        found = self.get(f"/attempts/{self.attempts[0]['id']}/results")["attempt"]["points"]
        return found["reached"], found["of"]

    def assert_states_follow_from_the_log(self) -> None:
        learning = learning_for(self.learner)
        rebuilt = rebuilt_state(learning.enrolment.pk, learning.bank)
        self.assertLess(abs(rebuilt.rows - learning.state.rows).max(), 1e-9)

    def test_one_more_answer_is_accepted_and_everything_follows(self) -> None:
        (answer,) = self.ask(f"/{self.family}")["acceptable"]
        self.assertEqual(answer["learners"], 2)
        way = {"kind": "accept", **{name: answer[name] for name in ("part", "canonical", "seed")}}
        with self.assertNumQueries(10):
            seen = self.ask(f"/{self.family}/preview", way)
        self.assertEqual([line["after"] for line in seen["changed"]], ["3 of 4"] * 2)
        self.assertEqual((seen["mean_before"], seen["mean_after"]), ("50%", "75%"))
        self.assertEqual(self.points(), ("2", "4"), "a preview stores nothing")
        level = learning_for(self.learner).readings
        page = self.regrade(way)
        self.assertEqual(
            (page["regrades"][0]["state"], page["regrades"][0]["done"]), ("applied", 2)
        )
        self.assertEqual(self.points(), ("3", "4"))
        self.assertEqual(Notice.objects.filter(kind=NoticeKind.REGRADED).count(), 2)
        self.assertNotEqual(learning_for(self.learner).readings, level)
        self.assert_states_follow_from_the_log()
        self.assertEqual(Mark.objects.filter(rule=MarkRule.REGRADE).count(), 2)
        apply_all(Regrade.objects.get())
        self.assertEqual(Mark.objects.filter(rule=MarkRule.REGRADE).count(), 2, "done once")
        self.regrade(way, status=409)
        undone = self.undo()
        self.assertEqual(undone["regrades"][0]["state"], "undone")
        self.assertEqual(self.points(), ("2", "4"))
        self.assertEqual(learning_for(self.learner).readings, level)
        self.assert_states_follow_from_the_log()
        self.ask(f"/{page['regrades'][0]['id']}/undo", {}, status=409)

    def test_dropped_it_leaves_less_and_says_nothing_of_the_level(self) -> None:
        before = Observation.objects.in_force().count()
        self.regrade({"kind": "drop"})
        self.assertEqual(self.points(), ("2", "3"))
        self.assertEqual(Observation.objects.in_force().count(), before - 2)
        lines = self.get(f"/attempts/{self.attempts[0]['id']}/results")["lines"]
        self.assertEqual([line["result"] for line in lines], ["right", "right", "wrong", "dropped"])
        self.assert_states_follow_from_the_log()
        self.undo()
        self.assertEqual(self.points(), ("2", "4"))
        self.assertEqual(Observation.objects.in_force().count(), before)
        self.assert_states_follow_from_the_log()

    def test_what_is_dropped_leaves_nothing_to_mend(self) -> None:
        own = Miss.objects.filter(enrolment__person=self.learner, family__key=self.family)
        self.assertEqual(own.get().state, "open")
        self.regrade({"kind": "drop"})
        self.assertEqual(own.get().state, "dropped")
        self.undo()
        self.assertEqual(own.get().state, "open")
        own.update(state="set_aside")
        learning = learning_for(self.learner)
        learning.family(self.family).missed = None
        learning.row.save()
        self.regrade({"kind": "drop"})
        self.undo()
        self.assertEqual(own.get().state, "set_aside", "what a learner set aside stays so")

    def test_a_contested_mark_is_settled_by_it(self) -> None:
        answer = AnswerSoFar.objects.get(
            attempt=self.attempts[0]["id"], presentation__revision__family__key=self.family
        )
        self.post(f"/questions/{answer.presentation_id}/contest", {"text": "Mine is right too."})
        self.regrade({"kind": "full"})
        thread = Thread.objects.get()
        self.assertEqual(
            (thread.state, thread.says), ("settled", "Mark changed: The key was wrong.")
        )

    def test_a_choice_is_accepted_in_whatever_order_it_stands(self) -> None:
        """Letters belong to one order; what is accepted is the choice that they stand for."""
        self.families = ["spring-moon"]
        given = self.given(composition=self.composition(same_versions=True, shuffled_choices=True))
        texts, letters = [], set()
        for number, (_, attempt) in enumerate(self.begun_by(given, 6)):
            text, letter = self.wrong_choices(attempt)[number % 2]
            texts.append(text)
            letters |= set(letter.values()) if number % 2 == 0 else set()
            self.save(attempt, 1, letter)
            self.hand_in(attempt)
        self.assertGreater(len(letters), 1)
        found = choices(given, "spring-moon").acceptable
        self.assertEqual(
            sorted((one.given, one.learners) for one in found),
            sorted((text, texts.count(text)) for text in set(texts)),
        )
        one = next(one for one in found if one.given == texts[0])
        way = RegradeWay(kind="accept", part=one.part, canonical=one.canonical, seed=one.seed)
        self.assertEqual(len(preview(given, "spring-moon", way).changed), 3)

    def test_full_marks_for_all_also_for_who_hands_in_later(self) -> None:
        self.regrade({"kind": "full"})
        self.assertEqual(self.points(), ("3", "4"))
        late = a_learner(self.course, "caio")
        join_group(self.group, enrolment_of(late))
        attempt = self.sat(late)
        found = self.get(f"/attempts/{attempt['id']}/results")
        self.assertEqual(found["attempt"]["points"]["reached"], "3")
        self.assertEqual(found["lines"][3]["sum"], "full marks for all")

    def test_who_hands_in_later_has_it_too_and_a_lost_job_is_taken_up(self) -> None:
        (answer,) = self.ask(f"/{self.family}")["acceptable"]
        way = {"kind": "accept", **{name: answer[name] for name in ("part", "canonical", "seed")}}
        self.regrade(way)
        late = a_learner(self.course, "caio")
        join_group(self.group, enrolment_of(late))
        attempt = self.sat(late)
        job = DBTaskResult.objects.filter(task_path=apply_in_background.module_path).last()
        assert job is not None
        apply_in_background.func(*job.args_kwargs["args"])
        points = self.get(f"/attempts/{attempt['id']}/results")["attempt"]["points"]
        self.assertEqual(points["reached"], "3")
        row = self.ask()["regrades"][0]
        self.assertEqual((row["state"], row["done"], row["of"]), ("applied", 3, 3))
        Regrade.objects.update(state=RegradeState.APPLYING)
        self.assertEqual(resume(), 0, "a job of it waits")
        DBTaskResult.objects.update(status=TaskResultStatus.FAILED)
        self.assertIn("1 regrades were put back to work", run_command("hand_in_due"))
        self.assertEqual(resume(), 0)
        Regrade.objects.update(state=RegradeState.UNDONE)
        apply_all(Regrade.objects.get())
        self.assertEqual(Regrade.objects.get().state, RegradeState.UNDONE)

    def test_marked_again_by_a_key_that_was_mended(self) -> None:
        self.family = self.families[1]
        family = Family.objects.get(key=self.family)
        assert family.latest is not None
        data = family.latest.data.model_dump(mode="json")
        (part,) = data["parts"]
        part |= {"answer": f"({part['answer']}) + 1000", "near_misses": []}
        family.latest = family.revisions.create(
            number=2, data=FamilyData.model_validate(data), digest="mended"
        )
        family.save()
        refresh_digest(self.course)
        self.assertTrue(self.ask(f"/{self.family}")["mended"])
        self.assertEqual(self.points(), ("2", "4"), "an attempt keeps the key it was marked by")
        self.regrade({"kind": "again"})
        self.assertEqual(self.points(), ("1", "4"))
        self.assert_states_follow_from_the_log()
        self.undo()
        self.assertEqual(self.points(), ("2", "4"))

    def test_what_changes_nothing_and_two_at_once_are_refused(self) -> None:
        refused = self.regrade({"kind": "again"}, status=409)
        self.assertEqual(refused["code"], "nothing_changes")
        Regrade.objects.create(
            assignment=self.assignment,
            family=self.family,
            at=self.clock(),
            state=RegradeState.APPLYING,
        )
        self.assertEqual(self.regrade({"kind": "drop"}, status=409)["code"], "busy")
        self.ask("/no-such-family", status=404)
