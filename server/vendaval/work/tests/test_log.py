"""The event log: what is counted, what is not, and that nothing is ever rewritten."""

import numpy as np
from django.db import DatabaseError, connection, transaction

from vendaval.bank.loading import load_pack
from vendaval.bank.models import FamilyRevision
from vendaval.bank.snapshot import course_bank
from vendaval.levels.models import LevelRecord, Observation
from vendaval.levels.rebuild import rebuilt_state
from vendaval.work.models import Presentation, Try
from vendaval.work.tests.builders import CourseTestCase, inshore, learning_for, right, wrong


class LogTests(CourseTestCase):
    def weights(self) -> list[tuple[float, str]]:
        return list(Observation.objects.order_by("pk").values_list("weight", "reason"))

    def test_tries_and_levels_cannot_be_changed_by_anyone(self) -> None:
        question = self.practise()
        self.answer(question["id"], right(question["id"]))
        for table, change in (
            ("work_try", "seconds = 1"),
            ("work_mark", "share = 1"),
            ("levels_observation", "weight = 0"),
            ("levels_levelrecord", "level = 99"),
        ):
            with (
                self.assertRaises(DatabaseError),
                transaction.atomic(),
                connection.cursor() as cursor,
            ):
                cursor.execute(f"UPDATE {table} SET {change}")  # noqa: S608 - names of this test

    def test_only_first_tries_move_the_level(self) -> None:
        question = self.practise()
        first = self.answer(question["id"], wrong(question["id"]))
        self.assertIsNotNone(first["feedback"]["level"])
        records = LevelRecord.objects.count()
        second = self.answer(question["id"], right(question["id"]))
        self.assertIsNone(second["feedback"]["level"])
        self.assertEqual(LevelRecord.objects.count(), records)
        self.assertAlmostEqual(second["question"]["share"], 2 / 3)

    def test_help_and_haste_take_the_weight_away(self) -> None:
        question = self.practise()
        self.post(f"/questions/{question['id']}/hint")
        helped = self.answer(question["id"], right(question["id"]))
        self.assertIn("opened help first", helped["feedback"]["level"]["sentence"])
        self.answer(helped["next"]["id"], right(helped["next"]["id"]), after=1)
        self.assertEqual(self.weights(), [(0.0, "helped"), (0.0, "rapid")])

    def test_reading_its_study_section_is_help_too(self) -> None:
        question = self.practise()
        study = question["study"]
        self.post(f"/study/{study['topic']}/{study['section']}/opened")
        self.answer(question["id"], right(question["id"]))
        self.assertEqual(self.weights(), [(0.0, "helped")])

    def test_the_same_idea_in_one_sitting_counts_half_and_in_the_next_full(self) -> None:
        question = self.practise()
        self.answer(question["id"], right(question["id"]))
        for pause in (60, 3600):
            question = self.post(f"/questions/{question['id']}/fresh")["question"]
            self.answer(question["id"], right(question["id"]), after=pause)
        self.assertEqual([w for w, _ in self.weights()], [1.0, 0.5, 1.0])
        self.assertEqual(
            list(Observation.objects.order_by("pk").values_list("sitting", flat=True)), [1, 1, 2]
        )

    def test_the_servers_clock_begins_when_the_question_is_shown(self) -> None:
        question = self.practise()
        self.clock.forward(minutes=10)
        self.post(f"/questions/{question['id']}/shown")
        self.clock.forward(minutes=1)
        self.post(f"/questions/{question['id']}/shown")
        self.answer(question["id"], right(question["id"]), after=20)
        self.assertEqual(Try.objects.get().seconds, 80.0)

    def test_a_replayed_key_gets_the_same_reply_and_changes_nothing(self) -> None:
        question = self.practise()
        body = {"replay_key": "one-and-the-same", "responses": wrong(question["id"])}
        self.clock.forward(seconds=50)
        first = self.post(f"/questions/{question['id']}/answer", body)
        self.clock.forward(seconds=50)
        again = self.post(f"/questions/{question['id']}/answer", body)
        self.assertEqual(first, again)
        self.assertEqual(Try.objects.count(), 1)

    def test_a_state_is_rebuilt_from_the_log_alone(self) -> None:
        """Diagnostic, not taught and undone, practice with help, sittings days apart."""
        state = self.diagnose(None)
        question = state["question"]
        for turn in range(8):
            if turn == 3:
                body = {"replay_key": self.new_key()}
                self.clock.forward(seconds=30)
                self.post(f"/questions/{question['id']}/answer", body | {"not_taught": True})
                undone = self.post(
                    f"/questions/{question['id']}/undo",
                    {"replay_key": self.new_key()},
                )
                question = undone["question"]
            make = right if turn % 3 else wrong
            question = self.answer(question["id"], make(question["id"]))["next"]
        self.clock.forward(days=9)
        question = self.practise("compass-errors")
        for turn in range(10):
            if turn == 6:
                self.post(f"/questions/{question['id']}/hint")
            make = wrong if turn in {1, 4} else right
            reply = self.answer(question["id"], make(question["id"]))
            question = self.onward(reply)
            self.clock.forward(days=turn % 2)
        learning = learning_for(self.learner)
        rebuilt = rebuilt_state(learning.enrolment.pk, learning.bank)
        np.testing.assert_allclose(rebuilt.rows, learning.state.rows, atol=1e-9)

    def test_levels_shown_are_kept_when_content_changes(self) -> None:
        question = self.practise()
        self.answer(question["id"], right(question["id"]))
        before = list(LevelRecord.objects.order_by("pk").values())
        number = course_bank(self.course).topic("height-at-a-time").number
        families = len(course_bank(self.course).of_topic(number))
        pack = inshore()
        changed = [
            i
            for i in pack.families
            if i.family.topic != "height-at-a-time" or i.family.difficulty < 4
        ]
        load_pack(type(pack)(pack.course, tuple(changed), pack.study))
        self.course.refresh_from_db()
        self.assertLess(len(course_bank(self.course).of_topic(number)), families)
        self.assertEqual(self.get("/today")["subjects"][1]["topics"][1]["answers"], 1)
        self.assertEqual(list(LevelRecord.objects.order_by("pk").values()), before)

    def test_a_presentation_keeps_its_revision(self) -> None:
        question = self.practise()
        pack = inshore()
        for item in pack.families:
            item.data["title"] = f"{item.data['title']} "
        try:
            load_pack(pack)
        finally:
            for item in pack.families:
                item.data["title"] = str(item.data["title"])[:-1]
        presentation = Presentation.objects.get(pk=question["id"])
        self.assertEqual(presentation.revision.number, 1)
        self.assertEqual(
            FamilyRevision.objects.filter(family=presentation.revision.family).count(), 2
        )
        self.answer(question["id"], right(question["id"]))
