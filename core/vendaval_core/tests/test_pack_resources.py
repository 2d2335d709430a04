"""Resources of a pack: what is there, and what is refused with file and line."""

from __future__ import annotations

import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

from vendaval_core.authoring.beside import listed
from vendaval_core.packs.resources import fault_of, read_resources, resources_in
from vendaval_core.tests.courses import inshore


class ResourceTests(unittest.TestCase):
    def read(self, text: str, *files: str) -> tuple[int, list[str]]:
        with TemporaryDirectory() as root:
            folder = Path(root) / "resources"
            folder.mkdir()
            (folder / "list.yaml").write_text(f"resources:\n{text}")
            for name in files:
                (folder / name).write_bytes(b"x")
            found, problems = read_resources(Path(root), "tides", ["rise"])
            return len(found), [f"{p.line}: {p.what}" for p in problems]

    def one(self, **fields: str) -> str:
        kept = {"key": "film", "title": "A film", "kind": "video", "section": "rise"}
        kept |= {"minutes": "2", "file": "film.webm", "captions": "film.vtt"} | fields
        lines = [f"    {name}: {value}" for name, value in kept.items() if value]
        return "  -\n" + "\n".join(lines) + "\n"

    def test_the_courses_film_has_captions(self) -> None:
        found = inshore().resources["height-at-a-time"]
        self.assertEqual([one.key for one in found], ["twelfths-film", "twelfths-card"])
        for name in (found[0].file, found[0].captions, found[1].file):
            path = inshore().files[f"topics/height-at-a-time/resources/{name}"]
            self.assertIsNone(fault_of(str(name), path.read_bytes()))

    def test_a_file_is_what_its_ending_says(self) -> None:
        for name, content, what in (
            ("film.webm", b"GIF89a", "isn’t what its ending says"),
            ("notes.txt", b"\xff\xfe\x00", "isn’t text in UTF-8"),
            ("film.vtt", b"Hello", "isn’t captions"),
            ("tool.exe", b"MZ", "use a file that ends in .webm"),
            ("card.csv", b"0" * 20_000_001, "larger than 20 MB"),
        ):
            self.assertIn(what, fault_of(name, content) or "", name)
        self.assertIsNone(fault_of("film.vtt", b"WEBVTT\n\n00:00.000 --> 00:02.000\nIt rises."))

    def test_a_list_keeps_what_stays_as_it_was_written(self) -> None:
        one = self.one().replace("  -\n    key", "  - key").replace("2\n", "2 # of two\n")
        text = f"# For the second week\nresources:\n{one}"
        (film,), problems = resources_in(text, "tides", ["rise"], {"film.webm": 1, "film.vtt": 1})
        self.assertEqual(problems, [])
        self.assertEqual(listed(text, [film]), text)
        link = film.model_copy(
            update={"key": "more", "kind": "link", "file": None, "captions": None}
            | {"url": "https://example.org/tides"}
        )
        longer = listed(text, [film, link])
        self.assertTrue(longer.startswith(text))
        self.assertEqual(resources_in(listed("", [link]), "tides", ["rise"], {}), ((link,), []))
        self.assertEqual(listed(longer, [film]), text)

    def test_none_without_a_list_and_all_of_a_sound_one(self) -> None:
        with TemporaryDirectory() as root:
            self.assertEqual(read_resources(Path(root), "tides", []), ((), []))
        self.assertEqual(self.read(self.one(), "film.webm", "film.vtt"), (1, []))
        link = self.one(kind="link", file="", captions="", url="https://example.org/tides")
        self.assertEqual(self.read(link), (1, []))

    def test_what_is_wrong_is_said_with_its_line(self) -> None:
        for fields, files, what in (
            ({"section": "fall"}, ("film.webm", "film.vtt"), "there is no section “fall”"),
            ({"captions": ""}, ("film.webm",), "a video needs captions, a .vtt file"),
            ({}, ("film.vtt",), "resources/film.webm is missing"),
            ({"file": "film.exe"}, ("film.exe", "film.vtt"), "a video must end in .webm, .mp4"),
            ({"kind": "link", "file": ""}, (), "a link needs a url"),
        ):
            count, told = self.read(self.one(**fields), *files)
            self.assertEqual(count, 0)
            self.assertTrue(any(what in one for one in told), (what, told))
            self.assertTrue(all(int(one.split(":")[0]) >= 2 for one in told), told)
        for fields in (
            {"url": "javascript:alert(1)"},
            {"file": "../course.yaml"},
            {"kind": "game"},
        ):
            self.assertEqual(self.read(self.one(**fields), "film.webm", "film.vtt")[0], 0, fields)
