"""The office: lists taken in whole or not at all, people changed, closed and deleted, the log."""

from __future__ import annotations

import datetime as dates
import json
import time
from io import BytesIO
from typing import Any
from unittest.mock import patch

from django.core import mail
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client, override_settings
from django.test.utils import CaptureQueriesContext
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult
from openpyxl import Workbook

from vendaval.groups.actions import put_in_charge
from vendaval.groups.models import Enrolment, Group, GroupMember
from vendaval.keeping.person import export_person
from vendaval.notices.models import Letter
from vendaval.office.jobs import MailRefused, mail_invitations, retry_failed
from vendaval.people.actions import give_role
from vendaval.people.models import AuditEntry, AuditKind, OneTimeLink, Role, School, User
from vendaval.threads.models import Thread
from vendaval.work.models import Try
from vendaval.work.tests.builders import (
    CourseTestCase,
    an_account,
    enrolment_of,
    run_command,
    wrong,
)

HEAD = "name,mail,role,group,born,guardian,guardian mail\n"
KEPT = override_settings(EMAIL_BACKEND="vendaval.notices.outbox.OutboxBackend")


class OfficeTestCase(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        self.office = an_account("office", display_name="Olga Sá", email="office@school.example")
        give_role(self.office, self.course.school, Role.OFFICE)
        self.at_office = Client()
        self.at_office.force_login(self.office)

    def ask(self, path: str, body: object = None, method: str = "post") -> Any:
        return self.at_office.generic(
            method.upper(), f"/api/office{path}", json.dumps(body or {}), "application/json"
        )

    def read(self, path: str) -> Any:
        reply = self.at_office.get(f"/api/office{path}")
        self.assertEqual(reply.status_code, 200, reply.content[:300])
        return reply.json()

    def upload(self, content: bytes | str, path: str = "/list/check") -> Any:
        data = content.encode() if isinstance(content, str) else content
        return self.at_office.post(
            f"/api/office{path}", {"file": SimpleUploadedFile("people", data)}
        )


class ListTests(OfficeTestCase):
    def faults(self, *rows: str) -> list[list[str]]:
        found = self.upload(HEAD + "\n".join(rows)).json()["rows"]
        return [row["faults"] for row in sorted(found, key=lambda row: row["line"])]

    def test_every_row_says_what_is_wrong_with_it(self) -> None:
        young = "Below 16 years a guardian has to agree: their name and mail address are wanted."
        cases = {
            "Nel Reis,nel@x.example,learner,Tuesday,,,": [],
            "Pia,pia@x.example,learner,tuesday,2015-03-09,Vera,vera@x.example": [],
            ",a@x.example,learner,,,,": ["A name is wanted, of 80 letters at most."],
            "B,no address,tutor,,,,": ["“no address” in “mail” is no mail address."],
            "C,c@x.example,pupil,,,,": [
                "“pupil” is no role: learner, guardian, tutor, author, office."
            ],
            "D,d@x.example,learner,Friday,,,": ["There is no group called “Friday”."],
            "E,e@x.example,learner,,9/3/2015,,": ["“9/3/2015” is no day: write it as 2012-05-31."],
            "F,f@x.example,learner,,2015-03-09,,": [young],
            "G,g@x.example,learner,,,Vera,": ["A guardian needs a name and a mail address."],
            "H,h@x.example,tutor,,,Vera,vera@x.example": ["Only learners have a guardian here."],
            "I,i@x.example,author,Tuesday,,,": ["Only learners and tutors are put into a group."],
            "J,OFFICE@school.example,tutor,,,,": [
                "Somebody at your school has this mail address already."
            ],
            "K,k@x.example,learner,,1890-01-01,,": ["Nobody is born on 1890-01-01."],
            "L,l@x.example,tutor,,,,": ["This mail address is in the list more than once."],
            "M,L@x.example,tutor,,,,": ["This mail address is in the list more than once."],
        }
        self.assertEqual(dict(zip(cases, self.faults(*cases), strict=True)), cases)

    def test_nothing_is_half_taken_in(self) -> None:
        people = User.objects.count()
        text = HEAD + "Nel Reis,nel@x.example,learner,Tuesday,,,\nB,nowhere,tutor,,,,\n"
        reply = self.upload(text, "/list")
        self.assertEqual((reply.status_code, reply.json()["code"]), (422, "faulty_rows"))
        self.assertEqual(User.objects.count(), people)
        checked = self.upload(text).json()
        self.assertEqual((checked["all"], checked["faulty"]), (2, 1))
        self.assertEqual([row["line"] for row in checked["rows"]], [3, 2], "faults come first")

    def test_what_is_no_list_is_refused(self) -> None:
        cases = {
            b"": "The file is empty.",
            b"name,mail,role\n": "nobody in this list",
            b"name,mail\nA,a@x.example\n": "there is no column “role”",
            b"name,mail,role,shoe size\nA,a@x.example,tutor,44\n": "“shoe size”",
            b"name,mail,role,mail\nA,a,tutor,b\n": "“mail” is there twice",
            b"\xff\xfe\x00": "neither a spreadsheet",
            b"PK\x03\x04 no zip": "cannot be read",
            b"name,mail,role\n" + b"A,a@x.example,tutor\n" * 5001: "more than 5000 rows",
        }
        for content, says in cases.items():
            reply = self.upload(content)
            self.assertEqual(reply.status_code, 422)
            self.assertIn(says, reply.json()["detail"])

    def test_a_spreadsheet_reads_as_the_same_list(self) -> None:

        book = Workbook()
        sheet = book.active
        assert sheet is not None
        sheet.append(["Name", "Mail", "Role", "Group", "Born", "Guardian", "Guardian_mail"])
        born = dates.datetime(2015, 3, 9)
        sheet.append(["Pia", "pia@x.example", "learner", "Tuesday", born, "Vera", "v@x.example"])
        sheet.append([None] * 7)
        out = BytesIO()
        book.save(out)
        self.assertEqual(self.upload(out.getvalue(), "/list").json(), {"people": 1, "mails": 2})
        pia = User.objects.get(email="pia@x.example")
        self.assertEqual(pia.born, dates.date(2015, 3, 9))
        self.assertTrue(pia.guardians.get().vouched)
        self.assertEqual(Enrolment.objects.get(person=pia).groups.get().group, self.group)

    def test_brothers_and_sisters_have_one_guardian(self) -> None:
        rows = [f"P{n},p{n}@x.example,learner,,2015-03-09,Vera,VERA@x.example" for n in range(3)]
        rows.append("Q,q@x.example,learner,,2015-03-09,Olga,office@school.example")
        self.assertEqual(
            self.upload(HEAD + "\n".join(rows), "/list").json(), {"people": 4, "mails": 5}
        )
        vera = User.objects.get(email="VERA@x.example")
        self.assertEqual(vera.wards.count(), 3)
        self.assertIn(Role.GUARDIAN, self.office.roles, "who is known is linked, not invited")

    def test_a_thousand_people(self) -> None:
        """In one short transaction, whatever their number; mails go out by a job, once each."""
        rows = [
            f"Learner {n},l{n}@x.example,learner,Tuesday,2012-05-31,Guardian {n // 2},g{n // 2}@x.example"
            for n in range(1000)
        ]
        content = HEAD + "\n".join(rows)
        started = time.perf_counter()
        with CaptureQueriesContext(connection) as queries:
            self.assertEqual(self.upload(content, "/list").json(), {"people": 1000, "mails": 1500})
        self.assertLess(time.perf_counter() - started, 30)
        self.assertLess(len(queries), 120)
        self.assertEqual(GroupMember.objects.filter(group=self.group).count(), 1000)
        self.assertEqual(AuditEntry.objects.filter(kind=AuditKind.INVITED).count(), 1500)
        self.assertEqual(len(mail.outbox), 0)
        self.assertEqual(DBTaskResult.objects.count(), 1)
        OneTimeLink.objects.exclude(pk__in=OneTimeLink.objects.values("pk")[:5]).delete()
        self.assertEqual(mail_invitations.func(), 5)
        self.assertEqual(mail_invitations.func(), 0)
        self.assertEqual(len(mail.outbox), 5)


class JobTests(OfficeTestCase):
    def fail(self) -> DBTaskResult:  # type: ignore[type-arg]
        mail_invitations.enqueue()
        row = DBTaskResult.objects.latest("enqueued_at")
        row.status, row.traceback = TaskResultStatus.FAILED, "Traceback\nMailRefused: 2 refused\n"
        row.save()
        return row

    def test_a_mail_that_is_refused_holds_up_no_other(self) -> None:
        self.upload(HEAD + "A,a@x.example,tutor,,,,\nB,b@x.example,tutor,,,,\n", "/list")
        sent: list[str] = []

        def send(subject: str, body: str, sender: str, to: list[str]) -> None:
            if to == ["a@x.example"]:
                raise ConnectionRefusedError("no such mailbox")
            sent.extend(to)

        refused = self.assertRaisesRegex(MailRefused, "1 sent, 1 refused; first a@x.example")
        with patch("vendaval.people.one_time.send_mail", send), refused:
            mail_invitations.func()
        self.assertEqual(sent, ["b@x.example"])
        self.assertEqual(mail_invitations.func(), 1, "only who was left")

    def test_a_failed_job_is_seen_and_begun_again_once(self) -> None:
        failed = self.fail()
        job = self.read("/system")["jobs"][0]
        self.assertEqual(
            (job["state"], job["why"], job["again"]), ("failed", "MailRefused: 2 refused", True)
        )
        self.assertIn("/office/system", [one["path"] for one in self.read("")["todo"]])
        self.assertEqual(self.ask(f"/system/jobs/{failed.pk}").status_code, 200)
        again = self.ask(f"/system/jobs/{failed.pk}")
        self.assertEqual((again.status_code, again.json()["code"]), (409, "job_going"))
        self.assertEqual(DBTaskResult.objects.filter(status=TaskResultStatus.READY).count(), 1)

    def test_failures_are_tried_three_times_and_no_more(self) -> None:
        for expected in (1, 1, 0):
            self.fail()
            self.assertEqual(retry_failed(), expected)
            DBTaskResult.objects.filter(status=TaskResultStatus.READY).delete()
        DBTaskResult.objects.all().delete()
        self.fail()
        mail_invitations.enqueue()
        self.assertEqual(retry_failed(), 0, "the same one waits already")
        DBTaskResult.objects.filter(status=TaskResultStatus.READY).update(
            status=TaskResultStatus.SUCCESSFUL
        )
        self.assertEqual(retry_failed(), 0, "it went well since")
        self.assertIn("0 jobs", run_command("retry_jobs").lower().replace("no ", "0 "))

    def test_the_last_check_of_levels_is_shown(self) -> None:
        def levels() -> Any:
            checks = self.read("/system")["checks"]
            return next(one for one in checks if one["what"] == "Levels against the log")

        self.assertIsNone(levels()["well"])
        run_command("check_states")
        self.assertTrue(levels()["well"])


@KEPT
class PeopleTests(OfficeTestCase):
    def person(self, pk: int) -> Any:
        return self.read(f"/people/{pk}")

    def test_people_are_found_by_name_role_and_state(self) -> None:
        self.ask("/people", {"name": "Nel Reis", "mail": "nel@x.example", "role": "tutor"})
        self.ask(f"/people/{self.learner.pk}/close")

        def found(query: str) -> list[str]:
            return [one["name"] for one in self.read(f"/people?{query}")["people"]]

        self.assertEqual(found(""), ["Ana Lima", "Nel Reis", "Olga Sá"])
        self.assertEqual(found("text=NEL@"), ["Nel Reis"])
        self.assertEqual(found("role=learner"), ["Ana Lima"])
        self.assertEqual(found("state=invited"), ["Nel Reis"])
        self.assertEqual(found("state=closed"), ["Ana Lima"])
        self.assertEqual(found("state=open"), ["Olga Sá"])

    def test_the_list_takes_as_many_queries_for_more_people(self) -> None:
        counts = []
        for many in (2, 30):
            rows = [f"P{many}{n},p{many}{n}@x.example,learner,Tuesday,,," for n in range(many)]
            self.upload(HEAD + "\n".join(rows), "/list")
            with CaptureQueriesContext(connection) as queries:
                self.read("/people")
            counts.append(len(queries))
        self.assertEqual(counts, [8, 8])

    def test_a_closed_account_opens_nothing_until_it_is_opened_again(self) -> None:
        self.assertIsNotNone(self.client.get("/api/session").json()["account"])
        self.ask(f"/people/{self.learner.pk}/close")
        self.assertIsNone(self.client.get("/api/session").json()["account"])
        body = {"username": "ana", "password": "a long pass phrase"}
        reply = self.client.post("/api/session", json.dumps(body), "application/json")
        self.assertEqual(reply.status_code, 400)
        self.assertEqual(self.person(self.learner.pk)["state"], "closed")
        self.ask(f"/people/{self.learner.pk}/reopen")
        reply = self.client.post("/api/session", json.dumps(body), "application/json")
        self.assertEqual(reply.status_code, 200)

    def test_nobody_locks_themselves_out(self) -> None:
        own = self.office.pk
        body = {"name": "Olga Sá", "mail": "office@school.example", "roles": ["tutor"]}
        self.assertEqual(self.ask(f"/people/{own}", body, "put").json()["code"], "own_office")
        self.assertEqual(self.ask(f"/people/{own}/close").json()["code"], "own_account")
        gone = self.ask(f"/people/{own}", {"name": "Olga Sá"}, "delete")
        self.assertEqual(gone.json()["code"], "own_account")

    def test_a_word_on_paper(self) -> None:
        body = {
            "name": "Pia Sá",
            "mail": "pia@x.example",
            "role": "learner",
            "born": "2025-01-01",
            "guardian_name": "Vera Sá",
            "guardian_mail": "vera@x.example",
        }
        pia = self.ask("/people", body).json()
        self.assertEqual([one["name"] for one in pia["guardians"]], ["Vera Sá"])
        self.assertEqual(Letter.objects.count(), 2)
        word = {"agreed": True, "guardian": "Vera Sá"}
        kept = self.ask(f"/people/{pia['id']}/consent", word, "put").json()["consents"][0]
        self.assertEqual(
            (kept["named"], kept["noted_by"], kept["on_paper"]), ("Vera Sá", "Olga Sá", True)
        )
        self.assertIn("Pia Sá", kept["wording"])

    def test_the_office_sees_no_answers_and_no_links_of_others(self) -> None:
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        page = json.dumps(self.person(self.learner.pk))
        for answer in wrong(question["id"]).values():
            self.assertNotIn(answer, page)
        self.ask("/people", {"name": "Nel", "mail": "nel@x.example", "role": "tutor"})
        letter = self.read("/mails")["letters"][0]
        self.assertIn("/open/…", letter["body"])
        self.assertNotRegex(letter["body"], r"/open/\d")

    def test_a_deleted_person_is_gone_and_the_log_stays(self) -> None:
        """Name, mail, threads and notices go; answers stay under a number that leads to nobody."""
        User.objects.filter(pk=self.learner.pk).update(email="ana@home.example")
        self.ask(
            f"/people/{self.learner.pk}/places", {"group": self.group.pk, "role": "learner"}, "put"
        )
        put_in_charge(self.group, an_account("tutor"))
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        asked = {"text": "I am Ana, help", "to_tutor": True, "classmates": []}
        asked |= {"shows_answer": True, "shows_working": False}
        self.post(f"/questions/{question['id']}/ask", asked)
        self.ask(f"/people/{self.learner.pk}/letter")
        tries = Try.objects.count()
        slip = self.ask(f"/people/{self.learner.pk}", {"name": "Ana"}, "delete")
        self.assertEqual(slip.status_code, 422)
        self.assertEqual(
            self.ask(f"/people/{self.learner.pk}", {"name": "Ana Lima"}, "delete").json(),
            {"number": self.learner.pk},
        )
        self.assertEqual((Try.objects.count(), Thread.objects.count()), (tries, 0))
        left = User.objects.get(pk=self.learner.pk)
        self.assertEqual((left.display_name, left.email, left.is_active), ("", "", False))
        self.assertFalse(Letter.objects.filter(to="ana@home.example").exists())
        self.assertEqual(self.read("/people")["all"], 2)
        self.assertFalse(GroupMember.objects.filter(group=self.group, until=None).exists())
        entry = self.read("/log?kind=erased")["entries"][0]
        self.assertEqual((entry["by"], entry["name"], entry["address"]), ("Olga Sá", None, None))
        for word in ("Ana", "ana@home"):
            self.assertNotIn(word, json.dumps(export_person(left)))

    def test_the_log_is_searched(self) -> None:
        self.ask(f"/people/{self.learner.pk}/close")
        self.ask("/groups", {"course": "inshore", "title": "Friday"})
        self.ask(
            "/school",
            {"name": "Molhe", "consent_until": 13, "wording": "I agree to all this."},
            "put",
        )

        def lines(query: str) -> list[tuple[str, str | None, str | None]]:
            found = self.read(f"/log?{query}")["entries"]
            return [(one["kind"], one["name"], one["by"]) for one in found]

        self.assertEqual(lines("kind=closed"), [("closed", "Ana Lima", "Olga Sá")])
        self.assertEqual(lines("text=Friday"), [("group", None, "Olga Sá")])
        self.assertEqual(len(lines("text=olga")), 3)
        self.assertEqual(lines("text=127.0&kind=settings"), [("settings", None, "Olga Sá")])
        self.assertEqual(lines("since=2026-03-03"), [])
        self.assertEqual(len(lines("since=2026-03-02&until=2026-03-02")), 3)

    def test_schools_do_not_see_one_another(self) -> None:
        other = School.objects.create(name="Elsewhere")
        stranger = an_account("stranger", display_name="Sara", email="sara@y.example")
        give_role(stranger, other, Role.OFFICE)
        theirs = Client()
        theirs.force_login(stranger)
        people = theirs.get("/api/office/people").json()["people"]
        self.assertEqual([one["name"] for one in people], ["Sara"])
        self.ask(f"/people/{self.learner.pk}/close")
        self.assertEqual(theirs.get("/api/office/log?kind=closed").json()["entries"], [])
        self.assertEqual(theirs.get(f"/api/office/groups/{self.group.pk}").status_code, 404)

    def test_tutors_of_a_group_come_and_go(self) -> None:
        nel = self.ask("/people", {"name": "Nel", "mail": "nel@x.example", "role": "tutor"}).json()
        body = {"title": "Tuesday", "tutors": [nel["id"]]}
        group = self.ask(f"/groups/{self.group.pk}", body, "put").json()
        self.assertEqual([one["name"] for one in group["tutors"]], ["Nel"])
        self.assertEqual(self.person(nel["id"])["places"][0]["role"], "tutor")
        stranger = an_account("stranger")
        bad = self.ask(f"/groups/{self.group.pk}", body | {"tutors": [stranger.pk]}, "put")
        self.assertEqual(bad.status_code, 422)
        left = self.ask(f"/groups/{self.group.pk}", body | {"tutors": []}, "put").json()
        self.assertEqual(left["tutors"], [])
        self.assertEqual(enrolment_of(self.learner).groups.count(), 0)
