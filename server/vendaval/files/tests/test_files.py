"""Files as answers and photographs of working: in pieces to whoever may see them."""

from __future__ import annotations

import io
import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from PIL import Image

from vendaval.demo.load.hostile_files import nested_forms, png
from vendaval.exams.columns import CompositionData, EntryData, SectionData
from vendaval.exams.models import AnswerSoFar
from vendaval.exams.tests.builders import ExamTestCase
from vendaval.files.answers import others_files
from vendaval.files.models import FileChunk, StoredFile
from vendaval.files.schemas import CHUNK
from vendaval.groups.actions import put_in_charge
from vendaval.people.actions import link_guardian
from vendaval.people.models import Role
from vendaval.work.models import Mark
from vendaval.work.tests.builders import an_account, enrolment_of, right, with_role
from vendaval_core.assessment.rules import Tool


def photograph(width: int = 900, **options: Any) -> bytes:
    out = io.BytesIO()
    Image.effect_noise((width, width), 90).convert("RGB").save(out, "JPEG", **options)
    return out.getvalue()


class FilesCase(ExamTestCase):
    def start(
        self, question: int, name: str, data: bytes, part: str = "", status: int = 200
    ) -> Any:
        body = {"part": part, "name": name, "size": len(data)}
        return self.post(f"/questions/{question}/files", body, status=status)

    def chunk(self, file: int, number: int, data: bytes, status: int = 200) -> Any:
        piece = data[number * CHUNK : (number + 1) * CHUNK]
        address = self.address(f"/files/{file}/chunks/{number}")
        reply = self.client.put(address, piece, content_type="application/octet-stream")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def send(self, question: int, name: str, data: bytes, part: str = "") -> Any:
        file = self.start(question, name, data, part)
        for number in file["missing"]:
            file = self.chunk(file["id"], number, data)
        return file

    def saved(self, client: Client, path: str) -> bytes:
        reply = client.get(path)
        self.assertEqual(reply.status_code, 200, path)
        self.assertTrue(reply["Content-Disposition"].startswith("attachment"))
        self.assertEqual(reply["Content-Type"], "application/octet-stream")
        self.assertEqual(reply["X-Content-Type-Options"], "nosniff")
        self.assertIn("sandbox", reply["Content-Security-Policy"])
        return b"".join(reply.streaming_content)  # type: ignore[attr-defined]


class AnswerTests(FilesCase):
    def sit(self, **rules: Any) -> tuple[Any, int]:
        """A test with a page of the log, begun; the attempt and its question."""
        entries = [EntryData(families=["log-page"])]
        composition = CompositionData(sections=[SectionData(title="All", entries=entries)])
        self.assignment = self.given(composition=composition, **rules)
        attempt = self.begin(self.assignment)
        return attempt, AnswerSoFar.objects.get(attempt=attempt["id"]).presentation_id

    def test_in_pieces_with_a_lost_connection_to_the_marker(self) -> None:
        attempt, question = self.sit()
        exif = Image.Exif()
        exif[0x010E] = "where I live"
        data = photograph(1500, quality=95, exif=exif)
        self.assertGreater(len(data), 2 * CHUNK)
        file = self.start(question, "my page.JPG", data, "page")
        self.assertEqual(file["missing"], list(range(-(-len(data) // CHUNK))))
        self.chunk(file["id"], 1, data)
        self.chunk(file["id"], 1, data)
        (there,) = self.get(f"/questions/{question}/files")["files"]
        self.assertNotIn(1, there["missing"], "what came needs not come again")
        self.assertIsNone(there["arrived"])
        self.chunk(file["id"], 0, data[:-9][: CHUNK - 1], status=422)
        for number in there["missing"]:
            file = self.chunk(file["id"], number, data)
        self.assertEqual((file["drawn"], file["missing"]), (1, []))
        self.assertIsNotNone(file["arrived"])
        with Image.open(io.BytesIO(self.saved(self.client, f"{file['path']}/content"))) as kept:
            self.assertEqual((kept.format, kept.size), ("JPEG", (1500, 1500)))
            self.assertFalse(kept.getexif(), "where a camera was is no part of an answer")
        again = self.chunk(file["id"], 0, data)
        self.assertEqual(again["arrived"], file["arrived"])
        other = self.send(question, "notes.pdf", nested_forms(1, 1), "page")
        self.client.delete(self.address(f"/files/{other['id']}"))
        left = self.get(f"/questions/{question}/files")["files"]
        self.assertEqual([one["id"] for one in left], [file["id"]])

        self.post(f"/attempts/{attempt['id']}/hand-in", {"interval": attempt["interval"]})
        answer = AnswerSoFar.objects.get()
        self.assertEqual(answer.data.responses["page"], "my page.jpg", "though it was never saved")
        self.assertEqual(Mark.objects.get(part="page").canonical, "my page.jpg")
        self.start(question, "late.jpg", data, "page", status=409)
        self.chunk(file["id"], 0, data, status=409)
        refused = self.client.delete(self.address(f"/files/{file['id']}"))
        self.assertEqual(refused.status_code, 409)
        self.assertEqual(self.get(f"/questions/{question}/files")["closed"]["page"][-1], ".")

        tutor, guardian = with_role(self.course, Role.TUTOR), with_role(self.course, Role.GUARDIAN)
        put_in_charge(self.group, tutor)
        link_guardian(guardian, self.learner)
        enrolment = enrolment_of(self.learner).pk
        for person in (tutor, guardian):
            client = Client()
            client.force_login(person)
            base = f"/api/learners/{enrolment}"
            (seen,) = client.get(f"{base}/questions/{question}/files").json()["files"]
            self.assertEqual(self.saved(client, f"{seen['path']}/content")[:3], b"\xff\xd8\xff")
            page = client.get(f"{seen['path']}/pages/1?small=true")
            with Image.open(io.BytesIO(page.content)) as drawn:
                self.assertLessEqual(max(drawn.size), 320)
        stranger = Client()
        stranger.force_login(an_account("nobody"))
        self.assertEqual(stranger.get(f"{seen['path']}/content").status_code, 404)
        with CaptureQueriesContext(
            connection,
        ) as queries:
            self.get(f"/questions/{question}/files")
        self.assertLessEqual(len(queries), 9)

    def test_what_is_hostile_is_refused_or_drawn_and_leaves_nothing(self) -> None:
        _, question = self.sit()
        for name, data in (
            ("bomb.png", png(20_000, 20_000)),
            ("page.jpg", b"<script>alert(1)</script>"),
            ("page.pdf", b"<html><body onload=alert(1)>"),
            ("cut.jpg", photograph()[:300]),
            ("sheet.xlsx", b"MZ\x90\x00" * 40),
        ):
            file = self.start(question, name, data, "page")
            for number in file["missing"][:-1]:
                self.chunk(file["id"], number, data)
            self.chunk(file["id"], file["missing"][-1], data, status=422)
            self.assertFalse(StoredFile.objects.exists() or FileChunk.objects.exists(), name)
        slow = self.send(question, "forms.pdf", nested_forms(), "page")
        self.assertEqual(slow["drawn"], 0, "kept to be saved, drawn by nobody")
        for name in ("page.html", "figure.svg", "run.exe", "macro.docm"):
            said = self.start(question, name, b"x", "page", status=422)
            self.assertIn("isn’t taken", said["fields"]["file"])
        self.start(question, "page.jpg", b"x", "far", status=404)
        bad = json.dumps({"part": "page", "name": "a.pdf", "size": -1})
        reply = self.client.post(
            self.address(f"/questions/{question}/files"), bad, "application/json"
        )
        self.assertEqual(reply.status_code, 422)
        for _ in range(2):
            self.start(question, "a.pdf", b"12", "page")
        said = self.start(question, "a.pdf", b"12", "page", status=422)
        self.assertIn("room for 3", said["fields"]["file"])

    def test_working_in_a_test_only_where_its_rules_allow_it(self) -> None:
        _, question = self.sit(tools=[Tool.NOTES])
        self.start(question, "w.jpg", photograph(), status=409)


class WorkingTests(FilesCase):
    def test_beside_an_answer_of_practice_before_it_and_after(self) -> None:
        question = self.practise("tidal-terms")["id"]
        self.send(question, "before.jpg", photograph(200))
        mine = enrolment_of(self.learner)
        self.assertEqual(others_files(mine, question).files, [], "nobody’s before it is closed")
        self.answer(question, right(question))
        file = self.send(question, "after.png", png(40, 40))
        self.assertEqual(len(others_files(mine, question).files), 2)
        files = self.get(f"/questions/{question}/files")
        self.assertEqual([one["name"] for one in files["files"]], ["before.jpg", "after.jpg"])
        self.assertEqual(files["closed"], {"": ""})
        page = self.client.get(f"{file['path']}/pages/1")
        self.assertEqual(page["Content-Type"], "image/jpeg")
        link = self.post(f"/questions/{question}/files/link")
        self.assertIn("<svg", link["qr"])
        phone, address = Client(), f"/api{link['path']}"
        self.assertEqual(phone.get(address).json()["pages"], 2)
        sheet = SimpleUploadedFile("sheet.jpg", photograph(300))
        self.assertEqual(phone.post(f"{address}/pages", {"file": sheet}).json()["pages"], 3)
        bad = SimpleUploadedFile("sheet.jpg", b"<svg onload=alert(1)>")
        self.assertEqual(phone.post(f"{address}/pages", {"file": bad}).status_code, 422)
        self.assertEqual(phone.get(address).json()["pages"], 3)
        self.clock.forward(minutes=16)
        self.assertEqual(phone.get(address).status_code, 404)
        self.assertEqual(phone.get(f"{address}x").status_code, 404)
        said = self.start(question, "w.pdf", b"%PDF-", status=422)
        self.assertIn("Use one of: jpg", said["fields"]["file"])
