"""Set work that is too hard or too easy: seen by the learner and the tutor, told once."""

from __future__ import annotations

from django.test import Client

from vendaval.assigning.challenge import note_challenges
from vendaval.assigning.schemas import TaskIn
from vendaval.assigning.tasks import set_task
from vendaval.exams.columns import ReleaseData
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.groups.actions import put_in_charge
from vendaval.notices.models import Notice, NoticeKind
from vendaval.people.models import Role
from vendaval.work.tests.builders import run_command, with_role, wrong
from vendaval_core.assessment.rules import When


class ChallengeTests(ExamTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.tutor, self.desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, self.tutor)
        self.desk.force_login(self.tutor)

    def row(self) -> tuple[str, str]:
        page = self.desk.get(f"/api/groups/{self.group.pk}").json()
        return page["learners"][0]["kind"], page["learners"][0]["says"]

    def test_four_of_five_tests_under_half(self) -> None:
        for _ in range(3):
            self.taken(self.given(), 1)
        self.assertIsNone(self.get("/work/waiting")["challenge"])
        self.taken(self.given(), 4)
        self.taken(self.given(), 1)
        self.assertEqual(self.get("/work/waiting")["challenge"], "too_hard")
        self.assertEqual(self.row()[0], "too_hard")
        self.assertIn("under 50%", self.row()[1])

    def test_the_tutor_is_told_once_a_month(self) -> None:
        for _ in range(4):
            self.taken(self.given(), 4)
        self.assertEqual(self.get("/work/waiting")["challenge"], "too_easy")
        self.assertEqual((note_challenges(), note_challenges()), (1, 0))
        notice = Notice.objects.get(kind=NoticeKind.CHALLENGE)
        self.assertEqual(notice.person, self.tutor)
        self.assertEqual(notice.title, "Ana Lima: four of the last five assignments were over 90%")
        self.clock.forward(days=31)
        run_command("send_messages")
        self.assertEqual(Notice.objects.filter(kind=NoticeKind.CHALLENGE).count(), 2)

    def test_what_a_test_holds_back_is_not_told_here(self) -> None:
        parts = ("score", "correctness", "answers", "solutions")
        never = ReleaseData(**dict.fromkeys(parts, When.NEVER))
        for _ in range(5):
            self.taken(self.given(release=never), 1)
        self.assertIsNone(self.get("/work/waiting")["challenge"])

    def work_set(self) -> None:
        """Practice is set, and begun with five misses."""
        goal = {"kind": "questions", "topics": ["tidal-terms"], "questions": 5}
        set_task(self.group, TaskIn.model_validate({"goal": goal}), self.tutor)
        question = self.practise("tidal-terms")
        for _ in range(5):
            reply = self.answer(question["id"], wrong(question["id"]))
            while not reply["question"]["closed"]:
                reply = self.post(f"/questions/{question['id']}/working")
            question = self.onward(reply)

    def test_practice_that_was_set_counts_by_its_first_answers(self) -> None:
        """An answer belongs to the newest work that wanted it."""
        for done in range(4):
            self.assertIsNone(self.get("/work/waiting")["challenge"], done)
            self.work_set()
            self.clock.forward(hours=1)
        self.assertEqual(self.get("/work/waiting")["challenge"], "too_hard")

    def test_the_same_set_four_times_is_one_piece(self) -> None:
        goal = {"kind": "questions", "topics": ["tidal-terms"], "questions": 5}
        for _ in range(3):
            set_task(self.group, TaskIn.model_validate({"goal": goal}), self.tutor)
        self.work_set()
        self.assertIsNone(self.get("/work/waiting")["challenge"])
