"""Photographs, scans and documents made into pages: upright, no larger than needed, and without
anything but the picture itself."""

from __future__ import annotations

import io
import threading
from collections.abc import Iterator
from dataclasses import dataclass

import pypdfium2  # type: ignore[import-untyped]
from PIL import Image, ImageOps, UnidentifiedImageError
from pillow_heif import register_heif_opener

from vendaval.shared.errors import Unprocessable

register_heif_opener()

FORMATS = ("JPEG", "PNG", "HEIF")
FULL, SMALL = 1800, 320
QUALITY = 85
MOST_PIXELS = 60_000_000
PDF_DOTS = 150 / 72
PDF_MARK = b"%PDF-"
# Its library is not to be used by two threads at once.
_PDFIUM = threading.Lock()


@dataclass(frozen=True, slots=True)
class Sheet:
    """A page as JPEG, in full and small."""

    full: bytes
    small: bytes


def sheets_of(data: bytes, most: int) -> list[Sheet]:
    """Pages of a file: one of a picture, all of a document. Unprocessable, with what is wrong with
    it, when it cannot be read or has more than `most`."""
    if not data:
        raise Unprocessable("The file is empty.", fields={"file": "empty"})
    if data[:1024].lstrip().startswith(PDF_MARK):
        with _PDFIUM:
            return [_sheet(picture) for picture in _document(data, most)]
    if most < 1:
        raise _too_many(0)
    return [_sheet(_picture(data))]


def turned(full: bytes, quarters: int) -> Sheet:
    """A page turned clockwise by so many quarters."""
    with Image.open(io.BytesIO(full), formats=("JPEG",)) as picture:
        return _sheet(picture.rotate(-90 * quarters, expand=True))


def _too_many(most: int) -> Unprocessable:
    says = f"There is room for {most} more pages." if most else "There is no room for more pages."
    return Unprocessable(says, fields={"file": "too many pages"})


def _picture(data: bytes) -> Image.Image:
    try:
        picture = Image.open(io.BytesIO(data), formats=FORMATS)
        if picture.width * picture.height > MOST_PIXELS:
            raise Unprocessable(
                "The picture is too large: 60 million dots at most.", fields={"file": "too large"}
            )
        # A JPEG is read no larger than needed, which takes a fraction of the time and memory.
        picture.draft("RGB", (2 * FULL, 2 * FULL))
        return ImageOps.exif_transpose(picture)
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise Unprocessable(
            "This file cannot be read. JPEG, PNG, HEIC and PDF can.", fields={"file": "unreadable"}
        ) from None


def _document(data: bytes, most: int) -> Iterator[Image.Image]:
    try:
        document = pypdfium2.PdfDocument(data)
    except pypdfium2.PdfiumError:
        raise Unprocessable(
            "This document cannot be read; perhaps it asks for a password.",
            fields={"file": "unreadable"},
        ) from None
    try:
        if len(document) > most:
            raise _too_many(most)
        for page in document:
            scale = min(PDF_DOTS, 2 * FULL / max(page.get_size()))
            yield page.render(scale=scale).to_pil()
    finally:
        document.close()


def _sheet(picture: Image.Image) -> Sheet:
    """Drawn anew on white, so that nothing but the picture comes along."""
    picture.thumbnail((FULL, FULL))
    clear = picture.convert("RGBA")
    drawn = Image.new("RGB", picture.size, "white")
    drawn.paste(clear, mask=clear)
    return Sheet(_jpeg(drawn), _jpeg(_thumbnail(drawn)))


def _thumbnail(picture: Image.Image) -> Image.Image:
    small = picture.copy()
    small.thumbnail((SMALL, SMALL))
    return small


def _jpeg(picture: Image.Image) -> bytes:
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue()
