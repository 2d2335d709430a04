"""A hostile file costs its sender an error and nobody else anything. The files are made here, by
hand where no library would make them."""

from __future__ import annotations

import io
import struct
import threading
import time
import zlib
from pathlib import Path
from typing import Any

from django.conf import settings
from django.test import SimpleTestCase

from vendaval.exams.paper.images import DRAWING, sheets_of
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval.shared.sandbox import Limits, _turn, in_sandbox

SHORT = Limits(seconds=1, patience=4.0)


def document(objects: dict[int, bytes]) -> bytes:
    """A PDF of these objects, the first its catalogue (ISO 32000-1, 7.5)."""
    out, at = io.BytesIO(b"%PDF-1.7\n"), {}
    out.seek(0, 2)
    for number, body in objects.items():
        at[number] = out.tell()
        out.write(b"%d 0 obj\n%s\nendobj\n" % (number, body))
    start = out.tell()
    out.write(b"xref\n0 %d\n0000000000 65535 f \n" % (len(objects) + 1))
    for number in objects:
        out.write(b"%010d 00000 n \n" % at[number])
    out.write(b"trailer\n<< /Size %d /Root 1 0 R >>\n" % (len(objects) + 1))
    out.write(b"startxref\n%d\n%%%%EOF" % start)
    return out.getvalue()


def stream(content: bytes, about: bytes) -> bytes:
    return b"<< /Length %d %s >>\nstream\n%s\nendstream" % (len(content), about, content)


def nested_forms(deep: int = 12, each: int = 10) -> bytes:
    """Less than 4 kB: forms that draw the next one ten times, twelve deep."""
    objects = {
        1: b"<< /Type /Catalog /Pages 2 0 R >>",
        2: b"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
        3: b"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 800] /Contents 4 0 R"
        b" /Resources << /XObject << /F 5 0 R >> >> >>",
        4: stream(b"/F Do", b""),
    }
    for number in range(5, 5 + deep):
        form = b"/Type /XObject /Subtype /Form /BBox [0 0 600 800]"
        if number < 4 + deep:
            form += b" /Resources << /XObject << /F %d 0 R >> >>" % (number + 1)
            objects[number] = stream(b"/F Do " * each, form)
        else:
            objects[number] = stream(b"0 0 300 400 re f " * 50, form)
    return document(objects)


def png(width: int, height: int) -> bytes:
    """A PNG of one colour with eight bits each of red, green, blue and alpha (ISO/IEC 15948)."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        crc = zlib.crc32(kind + data)
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", crc)

    rows = zlib.compress(bytes(height * (4 * width + 1)), 1)
    head = struct.pack(">IIBBBBB", width, height, 8, 6, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")


class SandboxTests(SimpleTestCase):
    def refused(self, data: bytes, limits: Limits = SHORT) -> str:
        with self.assertRaises(Unprocessable) as raised:
            in_sandbox(DRAWING, {"most": 20, "heic": True}, data, who="ana", limits=limits)
        return str(raised.exception)

    def test_what_draws_without_end_is_cut_off(self) -> None:
        data = nested_forms()
        self.assertLess(len(data), 4_000)
        begun = time.monotonic()
        self.assertIn("too long", self.refused(data))
        self.assertLess(time.monotonic() - begun, 4.5)

    def test_memory_has_a_limit_and_large_pictures_are_refused_unread(self) -> None:
        self.assertIn("30 million dots", self.refused(png(8000, 7500)))
        self.assertEqual(len(sheets_of(png(6000, 4900), 1, "ana")), 1)
        tight = Limits(megabytes=150)
        self.assertRegex(self.refused(png(6000, 4900), tight), "memory|can't be read")

    def test_files_that_are_broken_inside_are_refused_in_words(self) -> None:
        page = b"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 800] >>"
        loop = {1: b"<< /Pages 2 0 R >>", 2: b"<< /Kids [2 0 R 2 0 R] /Count 9 >>", 3: page}
        wide = {
            1: b"<< /Type /Catalog /Pages 2 0 R >>",
            2: b"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
            3: page.replace(b"600 800", b"0 0"),
        }
        heic = b"\0\0\0\x18ftypheic\0\0\0\0mif1heic" + bytes(200)
        for data in (
            document(loop),
            heic,
            heic[:20],
            b"%PDF-1.7\n" + bytes(5000),
            png(10, 10)[:45],
        ):
            self.assertIn("can't be read", self.refused(data))
        self.assertLessEqual(len(sheets_of(document(wide), 1, "ana")), 1)

    def test_one_of_each_person_at_a_time_and_a_few_of_all(self) -> None:
        slow = nested_forms()
        done: list[str] = []

        def send(who: str) -> None:
            try:
                in_sandbox(DRAWING, {"most": 1, "heic": False}, slow, who=who, limits=SHORT)
            except (Conflict, Unprocessable) as error:
                done.append(f"{who}: {error}")

        ana = threading.Thread(target=send, args=("ana",))
        ana.start()
        time.sleep(0.3)
        send("ana")
        self.assertIn("Another of your files", done[0])
        begun = time.monotonic()
        sheet: list[Any] = sheets_of(png(20, 20), 1, "rui")
        self.assertEqual(len(sheet), 1)
        self.assertLess(time.monotonic() - begun, 2.0, "nobody waits for ana's file")
        ana.join()

    def test_a_turn_is_given_back_by_the_kernel(self) -> None:
        with _turn("eva"):
            self.assertTrue(list(Path(settings.LOCKS).glob("file-of-*")))
            with self.assertRaises(Conflict), _turn("eva"):
                raise AssertionError("two turns at once")
        with _turn("eva"):
            pass
