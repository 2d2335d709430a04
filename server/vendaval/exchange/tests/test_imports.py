"""Questions from a spreadsheet: looked through, corrected, taken in and taken back."""

from __future__ import annotations

from io import BytesIO
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django_tasks_db.models import DBTaskResult
from openpyxl import Workbook, load_workbook

from vendaval.authoring.models import Draft
from vendaval.authoring.tests.test_publishing import AuthorTestCase
from vendaval.bank.models import Family
from vendaval.exchange.imports import look_through, store
from vendaval.exchange.models import Import, ImportState
from vendaval.people.models import AuditEntry, Role
from vendaval.work.tests.builders import with_role

HEAD = "topic,question,right,wrong 1,feedback wrong 1,difficulty\n"
DEPTH = "buoyage,How deep is the channel here?,4.7 m ± 0.1,,,2\n"
COLOUR = "Buoyage,Which colour is a port hand mark?,red,green,Green is to starboard.,1\n"


class ImportTestCase(AuthorTestCase):
    def send(self, content: bytes | str, name: str = "sheet.csv", status: int = 200) -> Any:
        data = content.encode() if isinstance(content, str) else content
        at = self.address(f"/exchange/imports?name={name}")
        reply = self.client.post(at, {"file": SimpleUploadedFile(name, data)})
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def looked(self, content: bytes | str) -> int:
        """An import that was looked through in the background; its number."""
        made = self.send(content)
        self.assertEqual(made["state"], "looking")
        look_through(Import.objects.get(pk=made["id"]))
        return int(made["id"])

    def shown(self, number: int, query: str = "") -> dict[str, Any]:
        return dict(self.get(f"/exchange/imports/{number}{query}"))

    def stored(self, number: int, *, publish: bool) -> None:
        at = f"/exchange/imports/{number}/store"
        self.post(at, {"publish": publish, "why": "From the old sheets."})
        store(Import.objects.select_related("course", "topic").get(pk=number), self.rui)


class ImportTests(ImportTestCase):
    def test_rows_are_corrected_taken_in_as_drafts_and_taken_back(self) -> None:
        number = self.looked(HEAD + DEPTH + COLOUR + "tides at sea,Why?,because,,,easy\n")
        page = self.shown(number)
        self.assertEqual((page["questions"], page["wrong"], page["state"]), (3, 1, "ready"))
        self.assertEqual(page["columns"][:3], ["topic", "question", "right"])
        (wrong,) = self.shown(number, "?wrong=true")["rows"]
        self.assertEqual(wrong["line"], 4)
        self.assertIn("no topic “tides at sea”", wrong["problems"][0]["says"])
        at = f"/exchange/imports/{number}"
        self.post(f"{at}/store", {"publish": False, "why": "Old sheets."}, status=409)
        better = wrong["cells"] | {"topic": "tidal-terms", "question": "Why does the sea rise?"}
        mended = self.post(f"{at}/rows/4", {"cells": better, "version": wrong["version"]})
        self.assertEqual(mended["problems"], [])
        self.post(
            f"{at}/rows/3",
            {
                "cells": page["rows"][1]["cells"],
                "skip": True,
                "version": page["rows"][1]["version"],
            },
        )
        stale = {"cells": {}, "version": wrong["version"]}
        self.post(f"{at}/rows/4", stale, status=409)
        self.stored(number, publish=False)
        drafts = {one.key: one for one in Draft.objects.filter(course=self.course)}
        self.assertEqual(len(drafts), 2)
        self.assertIn("tolerance: 0.1", drafts["how-deep-is-the-channel-here"].text)
        opened = self.get("/authoring/families/how-deep-is-the-channel-here")
        self.assertEqual(opened["problems"], [])
        self.assertIn("2 questions from sheet.csv", AuditEntry.objects.latest("pk").says)
        changed = drafts["why-does-the-sea-rise"]
        changed.text += "# mine\n"
        changed.save()
        undone = self.post(f"{at}/undo")
        self.assertEqual(undone, {"kept": ["why-does-the-sea-rise"], "state": "undone"})
        self.assertEqual(Draft.objects.filter(course=self.course).count(), 1)
        self.post(f"{at}/undo", status=409)

    def test_published_at_once_and_taken_back(self) -> None:
        before = Family.objects.filter(course=self.course, live=True).count()
        number = self.looked(HEAD + DEPTH + COLOUR)
        self.stored(number, publish=True)
        self.assertEqual(Family.objects.filter(course=self.course, live=True).count(), before + 2)
        family = Family.objects.get(key="which-colour-is-a-port-hand-mark")
        self.assertIn(
            "From the old sheets.", str(self.get(f"/authoring/families/{family.key}/history"))
        )
        # Sent once more, it is known.
        again = self.shown(self.looked(HEAD + COLOUR))
        self.assertEqual(again["rows"][0]["same"]["key"], family.key)
        self.assertEqual(self.post(f"/exchange/imports/{number}/undo")["kept"], [])
        self.assertEqual(Family.objects.filter(course=self.course, live=True).count(), before)

    def test_a_topic_for_those_that_name_none(self) -> None:
        number = self.looked("question;right\nHow deep is it here?;4,7 m\n")
        self.assertIn("Choose a topic", self.shown(number)["rows"][0]["problems"][0]["says"])
        self.post(f"/exchange/imports/{number}/topic", {"topic": "buoyage"})
        self.assertEqual(DBTaskResult.objects.count(), 2)
        look_through(Import.objects.select_related("course", "topic").get(pk=number))
        (row,) = self.shown(number)["rows"]
        self.assertEqual((row["topic"]["key"], row["problems"]), ("buoyage", []))

    def test_files_as_people_have_them(self) -> None:
        """Excel's code page of western Europe, UTF-16 with tabs, and a workbook."""
        book = Workbook()
        book.active.append(["Question", "Correct answer", "Wrong answer 1"])  # type: ignore[union-attr]
        book.active.append(["Qué es la pleamar?", "high water", "low water"])  # type: ignore[union-attr]
        out = BytesIO()
        book.save(out)
        text = "Question;Correct answer;Wrong answer 1\nQué es la pleamar?;high water;low water\n"
        for content in (
            text.encode("cp1252"),
            text.replace(";", "\t").encode("utf-16"),
            out.getvalue(),
        ):
            cells = self.shown(self.looked(content))["rows"][0]["cells"]
            self.assertEqual(cells["question"], "Qué es la pleamar?")
            self.assertEqual(cells["wrong 1"], "low water")
        refused = self.send("a,b\n1,2\n", status=422)
        self.assertIn("There is no column “question”.", refused["fields"]["file"])
        self.send(b"PK\x03\x04 broken", status=422)
        wide = f"question,right{',x' * 200_000}\nWhy?,{'a' * 3_000}\n"
        (row,) = self.shown(self.looked(wide))["rows"]
        self.assertIn("2000 letters at most", str(row["problems"]))

    def test_nothing_is_half_taken_in(self) -> None:
        number = self.looked(HEAD + DEPTH + COLOUR)
        self.post(f"/exchange/imports/{number}/store", {"publish": False, "why": "Old sheets."})
        self.course.topics.filter(key="buoyage").update(closed=True)
        store(Import.objects.select_related("course", "topic").get(pk=number), self.rui)
        page = self.shown(number)
        self.assertEqual(page["state"], ImportState.FAILED)
        self.assertIn("line 2", page["why"])
        self.assertFalse(Draft.objects.exists())

    def test_only_authors_of_the_course_may(self) -> None:
        number = self.looked(HEAD + DEPTH)
        self.client.force_login(with_role(self.course, Role.TUTOR))
        self.get(f"/exchange/imports/{number}", status=404)


class ExportTests(ImportTestCase):
    def test_what_fits_comes_out_and_back_in(self) -> None:
        reply = self.client.get(self.address("/exchange/exports/questions?kind=xlsx"))
        book = load_workbook(BytesIO(reply.content))
        self.assertEqual(book.sheetnames, ["questions", "left out"])
        left = [row[2].value for row in book["left out"].iter_rows(min_row=2)]
        self.assertIn("its numbers vary", left)
        page = self.shown(self.looked(reply.content))
        self.assertEqual((page["questions"], page["wrong"]), (book["questions"].max_row - 1, 0))
        self.assertTrue(all(row["same"] for row in page["rows"]))

    def test_the_template_is_sound(self) -> None:
        for kind in ("csv", "xlsx"):
            reply = self.client.get(self.address(f"/exchange/imports/template?kind={kind}"))
            number = self.looked(reply.content)
            self.post(f"/exchange/imports/{number}/topic", {"topic": "buoyage"})
            look_through(Import.objects.select_related("course", "topic").get(pk=number))
            page = self.shown(number)
            self.assertEqual((page["questions"], page["wrong"]), (3, 0), page["rows"])
