"""Archives of files from anywhere, and archives of our own, which always come out the same.

Nothing that an archive says of itself is believed: what unpacks to more than it may is given up
while it is unpacked.
"""

from __future__ import annotations

import hashlib
import io
import stat
import struct
import zipfile
import zlib
from collections.abc import Mapping
from pathlib import PurePosixPath

from vendaval_core.language import gettext

from ..errors import ArchiveError
from ..packs.reader import DIGESTS

MOST_ENTRIES, MOST_BYTES, MOST_EACH = 5_000, 120_000_000, 25_000_000
MOST_DEPTH, MOST_NAME = 12, 200
_AT_ONCE = 1 << 16
_MADE = (1980, 1, 1, 0, 0, 0)
_STORED = {".webm", ".mp4", ".png", ".pdf", ".zip"}
_ENCRYPTED = 0x1
_BROKEN = (
    zipfile.BadZipFile,
    zlib.error,
    struct.error,
    EOFError,
    OSError,
    ValueError,
    NotImplementedError,
)


def unpacked(data: bytes) -> dict[str, bytes]:
    """Return the files of a ZIP archive by their paths, without a folder that holds all of them.
    ArchiveError, in words, for what can't be read or isn't safe."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return _without_folder(_read(archive))
    except _BROKEN as error:
        raise ArchiveError(gettext("This isn’t a ZIP archive, or it is damaged.")) from error


def _read(archive: zipfile.ZipFile) -> dict[str, bytes]:
    entries = [one for one in archive.infolist() if not one.is_dir()]
    if len(entries) > MOST_ENTRIES:
        says = gettext("It has more than {most} files.")
        raise ArchiveError(says.format(most=MOST_ENTRIES))
    found: dict[str, bytes] = {}
    left = MOST_BYTES
    for one in entries:
        path = _path_of(one)
        if path in found:
            raise ArchiveError(gettext("{path} is in it twice.").format(path=path))
        found[path] = _content(archive, one, min(left, MOST_EACH))
        left -= len(found[path])
    return found


def _path_of(entry: zipfile.ZipInfo) -> str:
    name = entry.filename
    path = PurePosixPath(name)
    shown = ascii(name)[1:-1][:60]
    if (
        path.is_absolute()
        or ".." in path.parts
        or any(ord(sign) < 32 or sign in '\\:*?"<>|' for sign in name)
        or len(path.parts) > MOST_DEPTH
        or len(name) > MOST_NAME
    ):
        raise ArchiveError(
            gettext("It has a file in a place it may not be: {path}").format(path=shown)
        )
    if stat.S_ISLNK(entry.external_attr >> 16):
        raise ArchiveError(gettext("{path} is a link, not a file.").format(path=shown))
    if entry.flag_bits & _ENCRYPTED:
        raise ArchiveError(gettext("It has a password."))
    return str(path)


def _content(archive: zipfile.ZipFile, entry: zipfile.ZipInfo, most: int) -> bytes:
    out = bytearray()
    with archive.open(entry) as file:
        while part := file.read(_AT_ONCE):
            out += part
            if len(out) > most:
                says = gettext("It unpacks to more than {most} MB.")
                raise ArchiveError(says.format(most=MOST_BYTES // 1_000_000))
    return bytes(out)


def _without_folder(files: dict[str, bytes]) -> dict[str, bytes]:
    """What a program that packs a folder puts around it is taken off, with what it adds."""
    own = {p: c for p, c in files.items() if not _added(p)}
    firsts = {path.partition("/")[0] for path in own}
    if len(firsts) == 1 and all("/" in path for path in own):
        return {path.partition("/")[2]: content for path, content in own.items()}
    return own


def _added(path: str) -> bool:
    parts = PurePosixPath(path).parts
    return parts[0] == "__MACOSX" or parts[-1] in {".DS_Store", "Thumbs.db"}


def packed(files: Mapping[str, bytes], *, digests: bool = True) -> bytes:
    """Return files as an archive, with their digests; the same files are always the same bytes."""
    lines = "".join(
        f"{hashlib.sha256(files[path]).hexdigest()}  {path}\n" for path in sorted(files)
    )
    beside = [(DIGESTS, lines.encode())] if digests else []
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, content in [*sorted(files.items()), *beside]:
            entry = zipfile.ZipInfo(path, _MADE)
            kept = PurePosixPath(path).suffix in _STORED
            entry.compress_type = zipfile.ZIP_STORED if kept else zipfile.ZIP_DEFLATED
            entry.external_attr = 0o644 << 16
            archive.writestr(entry, content)
    return out.getvalue()


def digest_faults(files: Mapping[str, bytes]) -> list[str]:
    """Say what of an archive isn't as it was packed, by the digests in it, which `sha256sum -c`
    reads too: files that are missing or differ. None without digests."""
    if DIGESTS not in files:
        return []
    faults = []
    for line in files[DIGESTS].decode("utf-8", "replace").splitlines():
        digest, _, path = line.partition("  ")
        if path not in files:
            faults.append(gettext("{path} is missing.").format(path=path[:MOST_NAME]))
        elif hashlib.sha256(files[path]).hexdigest() != digest:
            faults.append(gettext("{path} was changed since it was packed.").format(path=path))
    return faults
