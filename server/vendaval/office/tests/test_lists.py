"""Lists of people: every row's faults, taken in whole or not at all, a thousand at once."""

from __future__ import annotations

import csv
import datetime as dates
import time
import zipfile
from io import BytesIO, StringIO

from django.core import mail
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django_tasks_db.models import DBTaskResult
from hypothesis import given, settings
from hypothesis import strategies as st
from openpyxl import Workbook

from vendaval.groups.models import Enrolment, GroupMember
from vendaval.office.lists import read_list
from vendaval.people.link_mails import mail_links
from vendaval.people.models import AuditEntry, AuditKind, OneTimeLink, Role, User
from vendaval.shared.errors import Unprocessable

from .builders import HEAD, OfficeTestCase

signs = st.text(st.characters(codec="utf-8"), max_size=12)
names = (
    st.sampled_from(["Nel Reis", "Nel\nBcc: b@x.example", "Nel\u202esieR", " ", "N" * 81]) | signs
)
mails = st.sampled_from(["a@x.example", "b@x.example", "no address"]) | signs
roles = st.sampled_from(["learner", "Tutor", "pupil"]) | signs
tables = st.lists(st.tuples(names, mails, roles, names | st.just("")).map(list), max_size=5)


class ListTests(OfficeTestCase):
    def faults(self, *rows: str) -> list[list[str]]:
        found = self.upload(HEAD + "\n".join(rows)).json()["rows"]
        return [row["faults"] for row in sorted(found, key=lambda row: row["line"])]

    def test_every_row_says_what_is_wrong_with_it(self) -> None:
        young = "Below age 16 a guardian has to agree. Add their name and mail address."
        cases = {
            "Nel Reis,nel@x.example,learner,Tuesday,,,": [],
            "Pia,pia@x.example,learner,tuesday,2015-03-09,Vera,vera@x.example": [],
            ",a@x.example,learner,,,,": ["Enter a name of at most 80 letters."],
            "B,no address,tutor,,,,": ["“no address” in “mail” isn’t a mail address."],
            "C,c@x.example,pupil,,,,": [
                "“pupil” isn’t a role. Use learner, guardian, tutor, author, office."
            ],
            "D,d@x.example,learner,Friday,,,": ["We can’t find a group called “Friday”."],
            "E,e@x.example,learner,,9/3/2015,,": [
                "“9/3/2015” isn’t a date. Write it like this: 2012-05-31."
            ],
            "F,f@x.example,learner,,2015-03-09,,": [young],
            "G,g@x.example,learner,,,Vera,": ["A guardian needs a name and a mail address."],
            "H,h@x.example,tutor,,,Vera,vera@x.example": [
                "Only learners can have a guardian here."
            ],
            "I,i@x.example,author,Tuesday,,,": ["Only learners and tutors can be in a group."],
            "J,OFFICE@school.example,tutor,,,,": [
                "Somebody at your school already has this mail address."
            ],
            "K,k@x.example,learner,,1890-01-01,,": ["Check the date of birth: 1890-01-01."],
            "L,l@x.example,tutor,,,,": ["This mail address is in the list twice."],
            "M,L@x.example,tutor,,,,": ["This mail address is in the list twice."],
        }
        self.assertEqual(dict(zip(cases, self.faults(*cases), strict=True)), cases)

    def test_whatever_a_file_holds_it_is_told_row_by_row(self) -> None:
        """As the standard library writes it (RFC 4180); who is taken in has a name in one line."""
        school = self.course.school

        @settings(max_examples=60, deadline=None)
        @given(table=tables, comma=st.sampled_from(",;\t"))
        def told(table: list[list[str]], comma: str) -> None:
            out = StringIO()
            writer = csv.writer(out, delimiter=comma)
            writer.writerows([["name", "mail", "role", "guardian"], *table])
            filled = [line for line, cells in enumerate(table, 2) if any(map(str.strip, cells))]
            if not filled:
                with self.assertRaisesRegex(Unprocessable, "nobody in this list"):
                    read_list(out.getvalue().encode(), school)
                return
            rows = read_list(out.getvalue().encode(), school)
            self.assertEqual([row.line for row in rows], filled)
            for row in rows:
                self.assertEqual(row.newcomer is None, bool(row.faults))
                if row.newcomer:
                    self.assertEqual(row.newcomer.name.split("\n"), [row.newcomer.name])
                    self.assertTrue(row.newcomer.name.strip())

        told()

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
            b"name,mail\nA,a@x.example\n": "the column “role” is missing",
            b"name,mail,role,shoe size\nA,a@x.example,tutor,44\n": "“shoe size”",
            b"name,mail,role,mail\nA,a,tutor,b\n": "“mail” is there twice",
            b"\xff\xfe\x00": "isn’t a spreadsheet",
            b"PK\x03\x04 no zip": "can’t read",
            b"name,mail,role\n" + b"A,a@x.example,tutor\n" * 5001: "more than 5000 rows",
        }
        for content, says in cases.items():
            reply = self.upload(content)
            self.assertEqual(reply.status_code, 422)
            self.assertIn(says, reply.json()["detail"])

    def test_a_spreadsheet_that_is_broken_or_unpacks_without_end(self) -> None:
        def zipped(**files: bytes) -> bytes:
            out = BytesIO()
            with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
                for name, content in files.items():
                    made.writestr(name.replace("_", "/"), content)
            return out.getvalue()

        cases = (
            (zipped(xl_sharedStrings=b"a" * 41_000_000), "more than 40 MB"),
            (zipped(**{"[Content_Types].xml": b"<no end"}), "can’t read"),
            (zipped(nothing=b""), "can’t read"),
        )
        for content, says in cases:
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
        self.assertEqual(mail_links.func(), 5)
        self.assertEqual(mail_links.func(), 0)
        self.assertEqual(len(mail.outbox), 5)
