"""What no person types and no database keeps is taken out, or refused, before anything sees it."""

from __future__ import annotations

import io
import json
import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st
from openpyxl import load_workbook

from vendaval.config.api import api
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.models import Role
from vendaval.shared.plain_text import plain_text, plain_values
from vendaval.shared.tables import Table, as_csv, as_xlsx
from vendaval.tutor.models import Note
from vendaval.work.tests.builders import CourseTestCase, enrolment_of, with_role


class PlainTextTests(unittest.TestCase):
    @given(st.text())
    def test_what_is_left_can_be_written_everywhere(self, text: str) -> None:
        """In UTF-8, in XML 1.0 (its production Char), and without NUL (PostgreSQL)."""
        plain = plain_text(text)
        plain.encode()
        for sign in plain:
            self.assertTrue(sign in "\t\n\r" or sign >= " ", repr(sign))
            self.assertNotIn(sign, "\x00\ufffe\uffff")
        self.assertEqual(plain_text(plain), plain)

    def test_every_text_of_a_body_is(self) -> None:
        deep: Any = {"a\x00": ["b\x01", {"c": "d\ud800", "e": 1}]}
        self.assertEqual(plain_values(deep), {"a": ["b", {"c": "d", "e": 1}]})

    @given(st.text(max_size=12))
    def test_no_cell_is_a_formula(self, text: str) -> None:
        cell = as_csv(Table("T", ("a",), [(text,)])).decode("utf-8-sig").split("\r\n", 1)[1]
        first = cell.lstrip('"')[:1]
        self.assertNotIn(first, {"=", "+", "@", "\t"})

    def test_a_minus_stands_before_a_plain_number_only(self) -> None:
        rows = [("-1+1|cmd",), ("-4.7",), ("-4,7",), ("-",), ("- 2",), ("--1",)]
        said = as_csv(Table("T", ("a",), rows)).decode("utf-8-sig").splitlines()[1:]
        self.assertEqual(said, ["'-1+1|cmd", "-4.7", '"-4,7"', "'-", "'- 2", "'--1"])

    def test_a_workbook_is_written_whatever_was_kept(self) -> None:
        book = load_workbook(io.BytesIO(as_xlsx([Table("T", ("a",), [("x\x0by\x00",)])])))
        self.assertEqual(book.active["A2"].value, "xy")


class InputTests(CourseTestCase):
    def test_numbers_beyond_64_bits_are_nothing_anywhere(self) -> None:
        people = [
            self.learner,
            *(with_role(self.course, role) for role in (Role.TUTOR, Role.OFFICE)),
        ]
        for person in people:
            self.client.force_login(person)
            for path, ways in api.get_openapi_schema()["paths"].items():
                for way in ways.keys() & {"get", "post", "put", "patch", "delete"}:
                    if "_id}" not in path and "number}" not in path:
                        continue
                    address = path.replace("{course}", self.course.key)
                    for name in ("family", "part", "kind", "what", "key", "section", "token"):
                        address = address.replace(f"{{{name}}}", "x")
                    parts = [str(2**63 + 7) if "{" in p else p for p in address.split("/")]
                    reply = self.client.generic(
                        way.upper(), "/".join(parts), "{}", "application/json"
                    )
                    self.assertLess(reply.status_code, 500, (way, path))

    def test_control_signs_go_nowhere(self) -> None:
        tutor = with_role(self.course, Role.TUTOR)
        own = enrolment_of(self.learner)
        body = json.dumps({"text": "a\x00b\x0bc\nd", "shared": False})
        group = Group.objects.create(course=self.course, title="Tuesday")
        put_in_charge(group, tutor)
        join_group(group, own)
        self.client.force_login(tutor)
        reply = self.client.post(f"/api/learners/{own.pk}/notes", body, "application/json")
        self.assertEqual(reply.status_code, 200, reply.content)
        self.assertEqual(Note.objects.get().text, "abc\nd")
