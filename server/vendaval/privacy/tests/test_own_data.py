"""What is written out about somebody: decided for every table, made in the background, and nothing
that somebody else wrote for themselves, that opens something, or that a test still holds back."""

from __future__ import annotations

import json
from datetime import timedelta
from fractions import Fraction
from io import BytesIO
from unittest import mock
from zipfile import ZipFile

from django.apps import apps
from django.conf import settings
from django.db import connection, models, transaction
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django_tasks_db.models import DBTaskResult

from vendaval.exams.columns import MarkingData
from vendaval.exams.models import AnswerSoFar, Attempt, Marking
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.notices.actions import tell
from vendaval.notices.models import NoticeKind
from vendaval.people.actions import give_role, link_guardian
from vendaval.people.models import Role, User
from vendaval.privacy.copies import ask_for_copy, remove_old, write_copy
from vendaval.privacy.jobs import make_copy
from vendaval.privacy.models import Audience, DataCopy
from vendaval.privacy.person import erase_person
from vendaval.privacy.tables import NOT_OUT, TABLES
from vendaval.shared.triggers import erasing
from vendaval.threads.talks import TalkIn, write
from vendaval.today.models import CalendarKey
from vendaval.tutor.models import LookedAt, Note
from vendaval.work.models import Visibility
from vendaval.work.tests.builders import a_learner, an_account, enrolment_of, right, wrong

from .reading import data_of

SECRET = "planted"
NOT_PLANTED = {"auth", "bank", "contenttypes", "django_tasks_database", "sessions"}


class TableTests(ExamTestCase):
    def test_every_table_and_column_is_decided(self) -> None:
        labels = {model._meta.label for model in apps.get_models()}
        self.assertEqual(labels, TABLES.keys() | NOT_OUT.keys())
        self.assertFalse(TABLES.keys() & NOT_OUT.keys())
        for label, table in TABLES.items():
            columns = {field.name for field in apps.get_model(label)._meta.concrete_fields}
            out, back = table.out.split(), table.kept_back.split()
            self.assertEqual(columns, {*out, *back}, label)
            self.assertEqual(len(columns), len(out) + len(back), label)

    def fill(self) -> User:
        """Something in every table that hangs on the learner."""
        tutor, guardian = an_account("clara"), an_account("vera")
        put_in_charge(self.group, tutor)
        link_guardian(guardian, self.learner)
        own = enrolment_of(self.learner)
        for make in (right, wrong):
            question = self.practise("tidal-terms")
            self.answer(question["id"], make(question["id"]))
        asked = {"text": "Why?", "to_tutor": True, "classmates": []}
        asked |= {"shows_answer": True, "shows_working": False}
        self.post(f"/questions/{question['id']}/ask", asked)
        write(own, guardian, TalkIn(text=f"talk {SECRET} of the guardian"))
        write(own, tutor, TalkIn(text=f"talk {SECRET} of the tutor", guardian=guardian.pk))
        now = self.clock()
        Note.objects.create(enrolment=own, by=tutor, text=f"note {SECRET}", shared=False, at=now)
        Note.objects.create(enrolment=own, by=tutor, text="a shared note", shared=True, at=now)
        LookedAt.objects.create(
            enrolment=own, kind="rapid", evidence="", note=f"looked {SECRET}", by=tutor, at=now
        )
        CalendarKey.objects.create(person=self.learner, key=f"key-{SECRET}", made_at=now)
        self.client.post("/api/links/code")
        tell([self.learner], NoticeKind.CHALLENGE, "A notice", "/topics")
        self.taken(self.given(release=dict.fromkeys(("correctness", "answers"), "never")), rights=1)
        return tutor

    def test_a_secret_planted_anywhere_does_not_go_out(self) -> None:
        """Into every text column that is kept back, of every table of the installation."""
        self.fill()
        planted = []
        with transaction.atomic(), erasing():
            for model in apps.get_models():
                table = TABLES.get(model._meta.label)
                out = set() if table is None else set(table.out.split())
                for field in model._meta.concrete_fields:
                    if field.name in out or type(field) not in {models.CharField, models.TextField}:
                        continue
                    if field.choices or field.primary_key or field.unique:
                        continue
                    if model is User or model._meta.app_label in NOT_PLANTED:
                        continue
                    value = SECRET[: field.max_length or 99]
                    rows = model._default_manager.order_by("-pk")[:1].values("pk")
                    rows = model._default_manager.filter(
                        pk__in=list(rows.values_list("pk", flat=True))
                    )
                    changed = rows.update(**{field.name: value})
                    planted += [f"{model._meta.label}.{field.name}"] * bool(changed)
        self.assertGreater(len(planted), 5, planted)
        for audience in Audience:
            kept = data_of(self.learner, audience)
            for name, content in kept["files"].items():
                self.assertNotIn(SECRET.encode(), content, f"{name} for {audience}")

    def test_what_one_may_know_goes_out_and_an_office_gets_no_answers(self) -> None:
        tutor = self.fill()
        kept = data_of(self.learner)
        self.assertEqual([row["text"] for row in kept["tutor.note"]], ["a shared note"])
        self.assertNotIn("threads.talkpost", kept)
        tries = {row["id"]: row for row in kept["work.try"]}
        self.assertEqual(len(tries), 4)
        held = [row for row in tries.values() if row["reply"] is None]
        marked = {row["tried_id"] for row in kept["work.mark"]}
        seen = {row["tried_id"] for row in kept["levels.observation"]}
        self.assertEqual(len(held), 2)
        for row in held:
            self.assertNotIn(row["id"], marked | seen)
            self.assertTrue(row["response"], "one’s own answer is one’s own")
        self.assertTrue(all(row["question"] for row in kept["work.presentation"]))
        text = json.dumps({key: rows for key, rows in kept.items() if key != "files"})
        for word in ('"seed"', '"order"', '"places"', "password", SECRET):
            self.assertNotIn(word, text)
        self.assertEqual(len([n for n in kept["files"] if "record-" in n]), 3)

        talks = data_of(User.objects.get(username="vera"))["threads.talkpost"]
        self.assertEqual(len(talks), 2, "a guardian reads what the tutor answered")
        self.assertEqual(len(data_of(tutor)["threads.talkpost"]), 1, "and a tutor what they wrote")

        office = data_of(self.learner, Audience.OFFICE, school=self.course.school)
        self.assertEqual(
            office.keys() - {"files"},
            {"people.user", "people.membership", "groups.enrolment", "groups.groupmember"},
        )
        self.assertEqual(list(office["files"]), ["everything.json"])

    def test_nothing_of_anybody_else_goes_out(self) -> None:
        """To somebody of the same group who has done nothing; and a mark that was undone goes
        to nobody."""
        tutor = self.fill()
        answer = AnswerSoFar.objects.latest("pk")
        data = MarkingData(points={}, share=Fraction(1), comment="", notes=[])
        given = {"answer": answer, "part": "a", "role": "first", "by": tutor, "data": data}
        for withdrawn_at in (None, self.clock()):
            Marking.objects.create(**given, at=self.clock(), withdrawn_at=withdrawn_at)
        bea = a_learner(self.course, "bea")
        join_group(self.group, enrolment_of(bea))
        Attempt.objects.filter(pk=answer.attempt_id).update(released_at=self.clock())
        with mock.patch("vendaval.privacy.withheld.Held.visibility", return_value=Visibility.ALL):
            rows, own = data_of(bea), data_of(self.learner)
        theirs = {"people.user", "people.membership", "groups.enrolment", "groups.groupmember"}
        self.assertLessEqual({name for name, found in rows.items() if found} - {"files"}, theirs)
        self.assertEqual(len(own["exams.marking"]), 1)

    def test_it_takes_as_many_queries_for_much_as_for_little(self) -> None:
        self.fill()
        counts = []
        for _ in range(2):
            with CaptureQueriesContext(connection) as counted:
                data_of(self.learner)
            counts.append(len(counted))
            for _ in range(6):
                question = self.practise("tidal-terms")
                self.answer(question["id"], wrong(question["id"]))
        self.assertLessEqual(max(counts), 200)
        self.assertLessEqual(counts[1] - counts[0], 6, counts)


class CopyTests(ExamTestCase):
    def test_a_copy_is_made_once_at_a_time_fetched_and_gone_after_a_day(self) -> None:
        path = "/api/own-data"
        self.assertEqual(self.client.get(path).json()["state"], "none")
        self.assertEqual(self.client.get(f"{path}/file").status_code, 404)
        for _ in range(3):
            self.assertEqual(self.client.post(path).json()["state"], "making")
        self.assertEqual(DBTaskResult.objects.count(), 1)
        row = DataCopy.objects.get()
        make_copy.call(row.pk)
        make_copy.call(row.pk)
        self.assertEqual(self.client.get(path).json()["state"], "ready")
        reply = self.client.get(f"{path}/file")
        with ZipFile(BytesIO(b"".join(reply))) as files:
            self.assertIn("everything.json", files.namelist())
        stranger = Client()
        stranger.force_login(an_account("zoe"))
        self.assertEqual(stranger.get(f"{path}/file").status_code, 404)
        self.clock.forward(days=1, seconds=1)
        self.assertEqual(self.client.get(path).json()["state"], "none")
        self.assertEqual(self.client.get(f"{path}/file").status_code, 404)
        remove_old()
        self.assertFalse(DataCopy.objects.exists())

    def test_one_that_was_killed_is_made_again_and_one_of_an_erased_person_is_gone(self) -> None:
        row = ask_for_copy(self.learner, self.learner, Audience.PERSON)
        with (
            mock.patch("pathlib.Path.replace", side_effect=KeyboardInterrupt),
            self.assertRaises(KeyboardInterrupt),
        ):
            write_copy(row)
        self.assertIsNone(DataCopy.objects.get().ready_at)
        make_copy.call(row.pk)
        row.refresh_from_db()
        file = settings.COPIES / row.file
        self.assertEqual(file.stat().st_mode & 0o777, 0o600)
        erase_person(self.learner)
        self.assertFalse(file.exists())

    def test_an_office_has_its_own(self) -> None:
        office = an_account("office")
        give_role(office, self.course.school, Role.OFFICE)
        self.client.force_login(office)
        path = f"/api/office/people/{self.learner.pk}/data"
        self.client.post(path)
        make_copy.call(DataCopy.objects.get().pk)
        self.assertEqual(self.client.get(path).json()["state"], "ready")
        self.assertEqual(self.client.get(f"{path}/file").status_code, 200)
        self.client.force_login(self.learner)
        self.assertEqual(self.client.get("/api/own-data").json()["state"], "none")
        self.assertEqual(self.client.get(f"{path}/file").status_code, 404)
        self.assertEqual(DataCopy.objects.get().gone_at, self.clock() + timedelta(days=1))
