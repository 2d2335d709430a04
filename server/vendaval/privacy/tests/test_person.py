"""A person's data, written out and removed for good."""

from __future__ import annotations

import json
from collections import Counter
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory
from zipfile import is_zipfile

from django.apps import apps
from django.core.management.base import CommandError
from django.db import DatabaseError, connection
from django.test import Client, override_settings

from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.levels.checking import check_states
from vendaval.levels.models import Observation
from vendaval.notices.actions import tell
from vendaval.notices.models import NoticeKind
from vendaval.people.actions import link_guardian
from vendaval.people.consent import give_consent
from vendaval.people.models import AuditEntry, User
from vendaval.privacy.person import erase_person, rows_of
from vendaval.threads.talks import TalkIn, write
from vendaval.work.marking import Given, mark_by_hand
from vendaval.work.models import Mark, Try
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    an_account,
    enrolment_of,
    right,
    run_command,
    wrong,
)

from .reading import data_of


def rows() -> dict[str, int]:
    kept = [m for m in apps.get_models() if "session" not in m._meta.label_lower]
    return {model._meta.label: model._default_manager.count() for model in kept}


def whole_database() -> str:
    connection.ensure_connection()
    return "\n".join(connection.connection.iterdump())


class PersonTests(CourseTestCase):
    def answer_some(self) -> None:
        for make in (right, wrong):
            question = self.practise("tidal-terms")
            self.answer(question["id"], make(question["id"]))
        self.post(f"/questions/{question['id']}/working")

    def test_all_of_it_goes_and_nothing_of_others(self) -> None:
        other = a_learner(self.course, "rui", display_name="Rui Reis")
        self.client.force_login(other)
        self.answer_some()
        own = Counter(row._meta.label for row in rows_of(self.learner))
        before = {label: count - own[label] for label, count in rows().items()}
        self.client.force_login(self.learner)
        self.answer_some()
        link_guardian(an_account("vera"), self.learner)
        with self.assertRaisesRegex(CommandError, "rows would lose their name"):
            run_command("erase_person", "ana")
        said = run_command("erase_person", "ana", everything=True, yes=True)
        self.assertIn("work.Try: 2", said)
        vera = before["people.User"] + 1
        self.assertEqual(rows(), before | {"people.User": vera, "people.AuditEntry": 1})
        self.assertFalse(User.objects.filter(username="ana").exists())
        self.assertIsNone(self.client.get("/api/session").json()["account"])
        self.assertTrue(all(found.agrees for found in check_states(self.course)))
        with self.assertRaisesRegex(DatabaseError, "only ever added to"):
            Observation.objects.update(weight=0.0)

    def test_the_log_stays_under_a_number(self) -> None:
        self.answer_some()
        question = self.practise_family("briefing")
        given = right(question["id"]) | {"brief": "I am Ana Lima of the Molhe."}
        self.answer(question["id"], given)
        link_guardian(an_account("vera"), self.learner)
        before = rows()
        said = run_command("erase_person", "ana", yes=True)
        self.assertIn("leads to nobody", said)
        after = rows()
        for kind in ("work.Try", "work.Mark", "levels.Observation", "levels.LevelRecord"):
            self.assertEqual(after[kind], before[kind])
        self.assertEqual((after["people.Guardianship"], after["groups.GroupMember"]), (0, 0))
        kept = data_of(User.objects.get(pk=self.learner.pk))
        del kept["files"]
        self.assertNotIn("Ana", str(kept))
        self.assertNotIn("Molhe", str(kept))
        self.assertTrue(all(found.agrees for found in check_states(self.course)))
        self.assertIsNone(self.client.get("/api/session").json()["account"])
        an_account("ana")

    def test_a_name_stands_nowhere_in_the_database(self) -> None:
        """Looked for in the whole of it, as it would be written into a backup."""
        tutor = an_account("tutor", display_name="Clara Nunes", email="clara@home.example")
        guardian = an_account("guardian", display_name="Vera Sá", email="vera@home.example")
        User.objects.filter(pk=self.learner.pk).update(email="ana@home.example")
        group = Group.objects.create(course=self.course, title="Tuesday")
        put_in_charge(group, tutor)
        own = enrolment_of(self.learner)
        join_group(group, own)
        link_guardian(guardian, self.learner)
        give_consent(self.learner, True, by=guardian, named="Vera Sá")
        self.answer_some()
        asked = {"text": "I am Ana Lima.", "to_tutor": True, "classmates": []}
        asked |= {"shows_answer": True, "shows_working": False}
        self.post(f"/questions/{Try.objects.latest('pk').presentation_id}/ask", asked)
        write(own, guardian, TalkIn(text="How is Ana Lima doing?"))
        write(own, tutor, TalkIn(text="Well. Clara Nunes", guardian=guardian.pk))
        told = f"/tutor/learners/{own.pk}"
        tell([tutor], NoticeKind.CHALLENGE, "Ana Lima: set work is too hard", told)
        with override_settings(EMAIL_BACKEND="vendaval.notices.outbox.OutboxBackend"):
            run_command("send_messages")
        Client().post("/api/session", {"username": "ana", "password": "x"}, "application/json")
        practising = Client()
        practising.force_login(tutor)
        practising.post(self.address("/practice-learner"))

        for person, traces in (
            (self.learner, ("Ana Lima", "ana@home")),
            (tutor, ("Clara Nunes", "clara@home")),
        ):
            self.assertTrue(all(trace in whole_database() for trace in traces))
            erase_person(person)
            for trace in traces:
                found = [line for line in whole_database().splitlines() if trace in line]
                self.assertEqual(found, [])
        self.assertIsNone(practising.get("/api/session").json()["account"])

    def test_marks_that_an_erased_tutor_gave_stay_without_a_name(self) -> None:
        tutor = an_account("clara")
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        row = Try.objects.get()
        part = next(iter(row.response))
        mark_by_hand(row, {part: Given(share=Fraction(1))}, tutor)
        run_command("erase_person", "clara", yes=True)
        self.assertEqual(str(Mark.objects.latest("pk").by), f"gone-{tutor.pk}")
        run_command("erase_person", f"gone-{tutor.pk}", everything=True, yes=True)
        self.assertIsNone(Mark.objects.latest("pk").by)

    def test_nothing_tells_afterwards_who_it_was(self) -> None:
        body = json.dumps({"username": "ana", "password": "wrong"})
        self.client.post("/api/session", body, content_type="application/json")
        run_command("erase_person", "ana", everything=True, yes=True)
        entries = AuditEntry.objects.values_list("kind", "account", "named", "address")
        self.assertEqual(
            list(entries), [("sign_in_failed", None, "", None), ("erased", None, "", None)]
        )

    def test_what_is_written_out_would_go(self) -> None:
        """Whatever goes out of a table is removed with the person."""
        self.answer_some()
        kept = data_of(self.learner)
        self.assertEqual(kept["people.user"][0]["display_name"], "Ana Lima")
        self.assertEqual(len(kept["work.try"]), 2)
        self.assertTrue(kept["work.mark"] and kept["levels.levelrecord"] and kept["review.miss"])
        gone = run_command("erase_person", "ana", everything=True, yes=True)
        for kind in kept.keys() - {"people.auditentry", "people.accountsession", "files"}:
            self.assertRegex(gone.lower(), rf"{kind}: [1-9]")

    def test_the_command_writes_a_file(self) -> None:
        with TemporaryDirectory() as folder:
            file = Path(folder) / "ana.zip"
            self.assertIn("MB", run_command("export_person", "ana", str(file)))
            self.assertTrue(is_zipfile(file))
            with self.assertRaises(FileExistsError):
                run_command("export_person", "ana", str(file))

    def test_a_name_without_an_account(self) -> None:
        with self.assertRaisesRegex(CommandError, "no account “nobody”"):
            run_command("export_person", "nobody", "nobody.zip")
