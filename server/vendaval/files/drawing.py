"""Photographs, scans and documents drawn anew as pages: upright, no larger than needed, and without
anything but the picture itself. Runs as a program in a sandbox, never in the server.
"""

from __future__ import annotations

import io
from collections.abc import Iterator
from typing import Any

import pypdfium2  # type: ignore[import-untyped]
from PIL import Image, ImageOps, UnidentifiedImageError

from vendaval.shared.sandboxed import Refused, Reply, serve
from vendaval_core.language import gettext

FULL, SMALL = 1800, 320
QUALITY = 85
# A JPEG is read no larger than needed; every other format is read whole first.
MOST_PIXELS, MOST_PIXELS_WHOLE = 60_000_000, 30_000_000
PDF_DOTS = 150 / 72
PDF_MARK = b"%PDF-"


def work(asked: dict[str, Any], data: bytes) -> Reply:
    """Sheets of a file, or one sheet turned: for each its picture in full and small."""
    if "turn" in asked:
        pictures: Iterator[Image.Image] = iter([_turned(data, asked["turn"])])
    elif data[:1024].lstrip().startswith(PDF_MARK):
        pictures = _document(data, asked["most"])
    elif asked["most"] < 1:
        raise _too_many(0)
    else:
        pictures = iter([_picture(data, asked["heic"])])
    parts = [part for picture in pictures for part in _sheet(picture)]
    if not parts:
        raise Refused(gettext("We can’t read this document: it has no pages."), "unreadable")
    return {}, parts


def _too_many(most: int) -> Refused:
    says = (
        gettext("There is room for {most} more pages.").format(most=most)
        if most
        else gettext("There is no room for more pages.")
    )
    return Refused(says, gettext("too many pages"))


def _turned(full: bytes, quarters: int) -> Image.Image:
    with Image.open(io.BytesIO(full), formats=("JPEG",)) as picture:
        return picture.rotate(-90 * quarters, expand=True)


def _picture(data: bytes, heic: bool) -> Image.Image:
    formats = ["JPEG", "PNG"]
    if heic and data[4:8] == b"ftyp":
        # Only loaded for such files: its wheel carries parts under the GPL.
        from pillow_heif import register_heif_opener

        register_heif_opener()
        formats = ["HEIF"]
    try:
        picture = Image.open(io.BytesIO(data), formats=formats)
        most = MOST_PIXELS if picture.format == "JPEG" else MOST_PIXELS_WHOLE
        if picture.width * picture.height > most:
            raise Refused(
                (
                    gettext(
                        "The picture is too large. It can have at most {most} million pixels."
                    ).format(most=most // 10**6)
                ),
                gettext("too large"),
            )
        picture.draft("RGB", (2 * FULL, 2 * FULL))
        picture.load()
        picture.thumbnail((FULL, FULL))
        return ImageOps.exif_transpose(picture)
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        says = gettext("Use JPEG, PNG, HEIC or PDF.") if heic else gettext("Use JPEG, PNG or PDF.")
        raise Refused(
            gettext("We can’t read this file. {says}").format(says=says), "unreadable"
        ) from None


def _document(data: bytes, most: int) -> Iterator[Image.Image]:
    try:
        document = pypdfium2.PdfDocument(data)
        if len(document) > most:
            raise _too_many(most)
        for page in document:
            scale = min(PDF_DOTS, FULL / max(1.0, *page.get_size()))
            yield page.render(scale=scale).to_pil()
    except pypdfium2.PdfiumError:
        raise Refused(
            gettext("We can’t read this document. Is it protected by a password?"), "unreadable"
        ) from None


def _sheet(picture: Image.Image) -> tuple[bytes, bytes]:
    """Drawn anew on white, so that nothing but the picture comes along."""
    picture.thumbnail((FULL, FULL))
    clear = picture.convert("RGBA")
    drawn = Image.new("RGB", picture.size, "white")
    drawn.paste(clear, mask=clear)
    small = drawn.copy()
    small.thumbnail((SMALL, SMALL))
    return _jpeg(drawn), _jpeg(small)


def _jpeg(picture: Image.Image) -> bytes:
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue()


if __name__ == "__main__":
    serve(work)
