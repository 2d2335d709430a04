"""Archives: our own come out the same, and those of others are read or refused."""

from __future__ import annotations

import io
import random
import subprocess
import zipfile
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

from vendaval_core.errors import ArchiveError
from vendaval_core.exchange.archive import digest_faults, packed, unpacked
from vendaval_core.tests.courses import PACKS

FILES = {
    "course.yaml": b"key: knots\n",
    "topics/bends/figures/a.svg": b"<svg/>",
    "b.webm": b"\0" * 99,
}


def made(*entries: tuple[str, bytes], **attributes: int) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in entries:
            entry = zipfile.ZipInfo(name)
            for attribute, value in attributes.items():
                setattr(entry, attribute, value)
            entry.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(entry, content)
    return out.getvalue()


class ArchiveTests(TestCase):
    def test_files_go_out_and_come_back_byte_for_byte(self) -> None:
        data = packed(FILES)
        self.assertEqual(data, packed(dict(reversed(FILES.items()))))
        files = unpacked(data)
        self.assertEqual({path: files[path] for path in FILES}, FILES)
        self.assertEqual(digest_faults(files), [])
        with TemporaryDirectory() as folder:
            zipfile.ZipFile(io.BytesIO(data)).extractall(folder)
            subprocess.run(["sha256sum", "--quiet", "-c", "SHA256SUMS"], cwd=folder, check=True)
        files["b.webm"] = b"another"
        del files["course.yaml"]
        said = digest_faults(files)
        self.assertIn("b.webm was changed since it was packed.", said)
        self.assertIn("course.yaml is missing.", said)

    def test_a_folder_around_all_and_what_systems_add_are_taken_off(self) -> None:
        data = made(
            ("knots/course.yaml", b"x"), ("knots/a/b.md", b"y"), ("__MACOSX/knots/._a", b"z")
        )
        self.assertEqual(unpacked(data), {"course.yaml": b"x", "a/b.md": b"y"})

    def test_what_is_not_safe_is_refused_with_why(self) -> None:
        bomb = made(("zeros.txt", b"\0" * 30_000_000))
        self.assertLess(len(bomb), 100_000)
        many = made(*((f"{n}.txt", b"") for n in range(5_001)))
        for data, why in (
            (b"no archive", "isn’t a ZIP archive"),
            (made(("../evil.yaml", b"x")), "a place it may not be"),
            (made(("/etc/passwd", b"x")), "a place it may not be"),
            (made(("a\\b.yaml", b"x")), "a place it may not be"),
            (made(("link", b"/etc/passwd"), external_attr=0o120777 << 16), "is a link"),
            (bomb, "unpacks to more than"),
            (many, "more than 5000 files"),
        ):
            with self.assertRaisesRegex(ArchiveError, why):
                unpacked(data)

    def test_mutated_archives_are_read_or_refused(self) -> None:
        """Bits turned and pieces cut out of a real pack; what is read is still bounded."""
        root = PACKS / "galley"
        whole = packed({str(p.relative_to(root)): p.read_bytes() for p in root.rglob("*.*")})
        chance, read = random.Random(4), 0
        for _ in range(400):
            data = bytearray(whole)
            for _ in range(chance.randrange(1, 6)):
                data[chance.randrange(len(data))] ^= 1 << chance.randrange(8)
            if chance.random() < 0.3:
                at = chance.randrange(len(data))
                del data[at : at + chance.randrange(1, 400)]
            try:
                read += bool(unpacked(bytes(data)))
            except ArchiveError:
                continue
        self.assertLess(read, 400)


class OwnPacksTests(TestCase):
    def test_a_pack_is_the_same_after_an_archive(self) -> None:
        root: Path = PACKS / "inshore"
        files = {str(p.relative_to(root)): p.read_bytes() for p in root.rglob("*") if p.is_file()}
        back = unpacked(packed(files))
        back.pop("SHA256SUMS")
        self.assertEqual(back, files)
