"""A hostile file costs its sender an error and nobody else anything."""

from __future__ import annotations

import threading
import time
from pathlib import Path
from typing import Any

from django.conf import settings
from django.test import SimpleTestCase

from vendaval.demo.load.hostile_files import document, nested_forms, png
from vendaval.files.sheets import DRAWING, sheets_of
from vendaval.shared.errors import Conflict, Unprocessable
from vendaval.shared.sandbox import Limits, _turn, in_sandbox

SHORT = Limits(seconds=1, patience=4.0)


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
        self.assertLess(time.monotonic() - begun, SHORT.patience * settings.PATIENCE)

    def test_memory_has_a_limit_and_large_pictures_are_refused_unread(self) -> None:
        self.assertIn("30 million pixels", self.refused(png(8000, 7500)))
        self.assertEqual(len(sheets_of(png(6000, 4900), 1, "ana")), 1)
        tight = Limits(megabytes=150)
        self.assertRegex(self.refused(png(6000, 4900), tight), "memory|can’t read")

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
            self.assertIn("can’t read", self.refused(data))
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
        self.assertIn("another of your files", done[0])
        begun = time.monotonic()
        sheet: list[Any] = sheets_of(png(20, 20), 1, "rui")
        self.assertEqual(len(sheet), 1)
        self.assertLess(time.monotonic() - begun, 2.0, "nobody waits for ana’s file")
        ana.join()

    def test_a_turn_is_given_back_by_the_kernel(self) -> None:
        with _turn("eva"):
            self.assertTrue(list(Path(settings.LOCKS).glob("file-of-*")))
            with self.assertRaises(Conflict), _turn("eva"):
                raise AssertionError("two turns at once")
        with _turn("eva"):
            pass
