"""Which files are taken as answers, tried on files that general-purpose libraries write."""

from __future__ import annotations

import io
import unittest
import wave
import zipfile

import openpyxl
from PIL import Image

from vendaval_core.items.files import (
    A_FEW_PAGES,
    ANY_FILE,
    ENDINGS,
    HEAD,
    LONGEST_NAME,
    MEGABYTE,
    MEGABYTES,
    ROOM,
    FileKind,
    FileRules,
    begins_as_named,
    file_problem,
    kept_name,
    kind_of,
)


def written(save: object, *arguments: object, **more: object) -> bytes:
    out = io.BytesIO()
    save(out, *arguments, **more)  # type: ignore[operator]
    return out.getvalue()


def sound() -> bytes:
    out = io.BytesIO()
    with wave.open(out, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(8000)
        file.writeframes(b"\x00\x01" * 40)
    return out.getvalue()


def packed() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as file:
        file.writestr("mimetype", "application/vnd.oasis.opendocument.text")
    return out.getvalue()


PICTURE = Image.new("RGB", (8, 8))
REAL = {
    "a.jpg": written(PICTURE.save, "JPEG"),
    "a.PNG": written(PICTURE.save, "PNG"),
    "a.pdf": written(PICTURE.save, "PDF"),
    "a.xlsx": written(openpyxl.Workbook().save),
    "a.odt": packed(),
    "a.wav": sound(),
    "a.txt": "água".encode(),
}


class FileTests(unittest.TestCase):
    def test_real_files_begin_as_their_names_say_and_as_no_others(self) -> None:
        for name, data in REAL.items():
            self.assertTrue(begins_as_named(name, data[:HEAD]), name)
            self.assertIsNone(file_problem(name, len(data), ANY_FILE, [], 0), name)
            for other, bytes_ in REAL.items():
                both_zip = {name, other} <= {"a.xlsx", "a.odt"}
                if kind_of(name) not in {kind_of(other), FileKind.TEXT} and not both_zip:
                    self.assertFalse(begins_as_named(name, bytes_[:HEAD]), f"{other} as {name}")
        for data in (b"<script>alert(1)</script>", b"MZ\x90\x00", b"\x7fELF", b"", b"GIF89a"):
            for name in ("a.pdf", "a.png", "a.docx", "a.mp4", "a.wav", "a.heic"):
                self.assertFalse(begins_as_named(name, data), (name, data))
        self.assertFalse(begins_as_named("a.txt", REAL["a.PNG"]))

    def test_every_ending_has_a_kind_and_a_beginning(self) -> None:
        for kind, endings in ENDINGS.items():
            for ending in endings:
                self.assertEqual(kind_of(f"x.y.{ending.upper()}"), kind)
                self.assertFalse(begins_as_named(f"a.{ending}", b"\x00\x00\x00\x00nothing"))

    def test_what_is_not_taken_says_why(self) -> None:
        for name in ("run.exe", "page.html", "figure.svg", "macro.docm", "pack.zip", "none", ""):
            self.assertIn("isn’t taken", file_problem(name, 10, ANY_FILE, [], 0) or "", name)
        self.assertIn("isn’t taken", file_problem("a.mp3", 10, A_FEW_PAGES, [], 0) or "")
        self.assertIn("empty", file_problem("a.pdf", 0, A_FEW_PAGES, [], 0) or "")
        rules = FileRules((FileKind.TEXT, FileKind.PDF), most=2, megabytes=5)
        self.assertIsNone(file_problem("a.pdf", 5 * MEGABYTE, rules, [1], 0))
        self.assertIn("5 MB", file_problem("a.pdf", 5 * MEGABYTE + 1, rules, [], 0) or "")
        limit = MEGABYTES[FileKind.TEXT] * MEGABYTE
        self.assertIn("2 MB", file_problem("a.txt", limit + 1, rules, [], 0) or "")
        self.assertIn("room for 2", file_problem("a.pdf", 1, rules, [1, 1], 0) or "")
        self.assertIsNone(file_problem("a.pdf", 1, rules, [], ROOM - 1))
        self.assertIn("all the room", file_problem("a.pdf", 2, rules, [], ROOM - 1) or "")

    def test_names_that_any_system_can_save_under(self) -> None:
        self.assertEqual(kept_name("../../etc/pass wd.pdf"), "_.._etc_pass wd.pdf")
        self.assertEqual(kept_name("CON\r\nSet-Cookie: x.pdf"), "CON_Set-Cookie_ x.pdf")
        self.assertEqual(kept_name("fdp.\u202egpj.exe"), "fdp._gpj.exe")
        long = kept_name("é" * 300 + ".PDF")
        self.assertTrue(len(long) <= LONGEST_NAME and long.endswith(".pdf"))
        self.assertEqual(kept_name("..."), "file")
