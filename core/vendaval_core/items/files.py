"""Files as answers: which kinds there are, how large and how many, and whether a file is what its
name says.

What a file begins with is named in the published description of each format: PDF (ISO 32000-1,
7.5.2), PNG (W3C, 5.2), JPEG (ITU-T T.81, B.1.1.3), ISO base media (ISO/IEC 14496-12, 4.3), ZIP
(APPNOTE 4.3.7), RIFF, Ogg (RFC 3533), FLAC (RFC 9639), EBML (RFC 8794). That a file of sound in
MPEG layers begins with a tag or a frame is common practice. All from memory.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from vendaval_core.language import gettext

MEGABYTE = 1_000_000
MOST_FILES = 10
LONGEST_NAME = 120
# What a person has in one course, of all files together.
ROOM = 300 * MEGABYTE
# What has to be seen of a file to tell what it is.
HEAD = 4096


class FileKind(StrEnum):
    """What a file holds."""

    PDF = "pdf"
    PICTURE = "picture"
    DOCUMENT = "document"
    TEXT = "text"
    SOUND = "sound"
    FILM = "film"


ENDINGS: dict[FileKind, tuple[str, ...]] = {
    FileKind.PDF: ("pdf",),
    FileKind.PICTURE: ("jpg", "jpeg", "png", "heic"),
    FileKind.DOCUMENT: ("docx", "odt", "xlsx", "ods", "pptx", "odp"),
    FileKind.TEXT: ("txt", "csv", "md"),
    FileKind.SOUND: ("mp3", "m4a", "ogg", "wav", "flac"),
    FileKind.FILM: ("mp4", "mov", "webm"),
}
MEGABYTES: dict[FileKind, int] = {
    FileKind.PDF: 20,
    FileKind.PICTURE: 20,
    FileKind.DOCUMENT: 20,
    FileKind.TEXT: 2,
    FileKind.SOUND: 30,
    FileKind.FILM: 60,
}
DRAWN = frozenset({FileKind.PDF, FileKind.PICTURE})
"""Kinds that markers see page by page."""

_BEGINS: dict[str, tuple[tuple[int, bytes], ...]] = {
    "jpg": ((0, b"\xff\xd8\xff"),),
    "jpeg": ((0, b"\xff\xd8\xff"),),
    "png": ((0, b"\x89PNG\r\n\x1a\n"),),
    "heic": ((4, b"ftyp"),),
    **dict.fromkeys(ENDINGS[FileKind.DOCUMENT], ((0, b"PK\x03\x04"),)),
    "mp3": ((0, b"ID3"), (0, b"\xff\xfb"), (0, b"\xff\xf3"), (0, b"\xff\xf2"), (0, b"\xff\xfa")),
    "m4a": ((4, b"ftyp"),),
    "ogg": ((0, b"OggS"),),
    "wav": ((8, b"WAVE"),),
    "flac": ((0, b"fLaC"),),
    "mp4": ((4, b"ftyp"),),
    "mov": ((4, b"ftyp"), (4, b"moov"), (4, b"wide"), (4, b"mdat")),
    "webm": ((0, b"\x1a\x45\xdf\xa3"),),
}
_PDF_WITHIN = 1024
_NEVER_IN_A_NAME = re.compile(r'[\x00-\x1f\x7f<>:"/\\|?*\u202a-\u202e\u2066-\u2069]+')


@dataclass(frozen=True, slots=True)
class FileRules:
    """What may be sent: of which kinds, how many, and of what size at most; a kind's own bound
    holds as well."""

    kinds: tuple[FileKind, ...] = (FileKind.PDF, FileKind.PICTURE)
    most: int = 3
    megabytes: int = 20

    def most_bytes(self, kind: FileKind) -> int:
        """The largest file of a kind, in bytes."""
        return min(self.megabytes, MEGABYTES[kind]) * MEGABYTE

    @property
    def endings(self) -> list[str]:
        """The endings of names that are taken, without their dot."""
        return [ending for kind in self.kinds for ending in ENDINGS[kind]]


A_FEW_PAGES = FileRules()
ANY_FILE = FileRules(tuple(FileKind), MOST_FILES, max(MEGABYTES.values()))
A_PHOTOGRAPH = FileRules((FileKind.PICTURE,), 4, 20)
"""Working on paper, beside an answer."""


def ending_of(name: str) -> str:
    """Return the ending of a name in small letters, without its dot; "" without one."""
    return name.rpartition(".")[2].lower() if "." in name else ""


def kind_of(name: str) -> FileKind | None:
    """Return the kind of a file by its name's ending, or None for one that is never taken."""
    ending = ending_of(name)
    return next((kind for kind, known in ENDINGS.items() if ending in known), None)


def kept_name(name: str) -> str:
    """Return a name as it is kept: one that any system can save under, its ending at its end."""
    clean = _NEVER_IN_A_NAME.sub("_", name).strip(" .") or "file"
    ending = ending_of(clean)
    room = LONGEST_NAME - len(ending) - 1
    return clean if len(clean) <= LONGEST_NAME else f"{clean[:room]}.{ending}"


def file_problem(
    name: str, size: int, rules: FileRules, held: Sequence[int], used: int
) -> str | None:
    """Return why a file is not taken, or None.

    size: in bytes. held: sizes of those that are there already, in the same place. used: bytes
    that all of this person's files in the course take.
    """
    kind = kind_of(name)
    if kind is None or kind not in rules.kinds:
        return gettext("This kind of file isn’t taken here. Use one of: {endings}.").format(
            endings=", ".join(rules.endings)
        )
    if size < 1:
        return gettext("The file is empty.")
    most = rules.most_bytes(kind)
    if size > most:
        return gettext("The file is too large. It can have at most {most} MB.").format(
            most=most // MEGABYTE
        )
    if len(held) >= rules.most:
        return gettext("There is room for {most} files here. Remove one first.").format(
            most=rules.most
        )
    if used + size > ROOM:
        return gettext("Your files in this course take all the room there is. Remove some first.")
    return None


def begins_as_named(name: str, head: bytes) -> bool:
    """Return whether a file begins as its name says. head: its first bytes, up to `HEAD`."""
    ending = ending_of(name)
    if ending == "pdf":
        return b"%PDF-" in head[:_PDF_WITHIN]
    if ending in ENDINGS[FileKind.TEXT]:
        return not head.startswith(b"%PDF-") and b"\x00" not in head
    return any(head[at : at + len(sign)] == sign for at, sign in _BEGINS.get(ending, ()))
