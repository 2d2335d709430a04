"""Pictures of a package as our figures: drawings cleaned, photographs made small enough."""

from __future__ import annotations

import base64
import io
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import PurePosixPath
from urllib.parse import unquote
from xml.sax.saxutils import escape

from PIL import Image, UnidentifiedImageError

from vendaval_core.language import gettext

from ...items.processing.nodes import Node, XmlError, read_xml, write_xml
from ...items.svg import ATTRIBUTES, ELEMENTS, NAMESPACE, svg_of
from ..sheet_rows import as_text

READ = ("PNG", "JPEG", "GIF", "WEBP", "BMP")
WIDEST, MOST_PIXELS, MOST_BYTES = 900, 40_000_000, 150_000
_STYLES_NAMES = (
    "fill,stroke,stroke-width,stroke-dasharray,stroke-linecap,stroke-linejoin,opacity,"
    "font-size,font-weight,font-style,text-anchor,fill-opacity,stroke-opacity,fill-rule"
)
_STYLES = frozenset(_STYLES_NAMES.split(","))
_LINK = re.compile(r"url\s*\(", re.IGNORECASE)
_NUMBER = re.compile(r"\s*(\d{1,4}(?:\.\d+)?|\.\d+)\s*(px|pt|mm|cm|%)?\s*$")


class PictureError(Exception):
    """A picture that can't be shown, with the reason."""


@dataclass(frozen=True, slots=True)
class Pictured:
    """A picture as SVG in its own units, from 0, 0. dropped: what of a drawing is not kept."""

    svg: str
    wide: float
    high: float
    alt: str
    dropped: tuple[str, ...] = ()

    @property
    def inner(self) -> str:
        """What stands in the SVG, without its outer element."""
        return self.svg[self.svg.index(">") + 1 : self.svg.rindex("</svg>")]

    def moved(self, inner: str, wide: float, high: float) -> Pictured:
        """It as part of a larger picture."""
        return Pictured(_svg(inner, wide, high), wide, high, self.alt)


def picture_of(node: Node, files: Mapping[str, bytes], folder: str) -> Pictured:
    """Return the picture that an element shows. PictureError for one that can't be shown.

    files: of the package. folder: of the item's file, from which names are counted.
    """
    alt = as_text(node.get("alt") or node.get("title") or _object_words(node))
    if node.space == "svg":
        wide, high = _size_of_svg(node)
        return _as_svg(node, alt, wide, high)
    source = node.get("src") or node.get("data")
    content = _content(source, files, folder)
    wide, high = _size(node.get("width")), _size(node.get("height"))
    if content.lstrip()[:5] in {b"<?xml", b"<svg ", b"<!DOC"} or source.lower().endswith(".svg"):
        if NAMESPACE.encode() not in content:
            content = content.replace(b"<svg", f'<svg xmlns="{NAMESPACE}"'.encode(), 1)  # not said
        try:
            root = read_xml(content)
        except XmlError as error:
            raise PictureError(f"{source}: {error}") from None
        own = _size_of_svg(root)
        return _as_svg(root, alt, wide or own[0], high or own[1])
    return _raster(content, source, alt, wide, high)


def _object_words(node: Node) -> str:
    return " ".join(node.text.split())[:300]


def _content(source: str, files: Mapping[str, bytes], folder: str) -> bytes:
    if source.startswith("data:"):
        head, _, body = source.partition(",")
        try:
            return base64.b64decode(body, validate=False) if "base64" in head else body.encode()
        except ValueError:
            raise PictureError(gettext("a picture written into the file is damaged")) from None
    if re.match(r"[a-z][a-z0-9+.-]*:", source, re.IGNORECASE) or source.startswith("//"):
        raise PictureError(
            gettext("{name} lies outside the package and is not fetched").format(name=source[:80])
        )
    path = resolved(folder, source)
    if path is None or path not in files:
        raise PictureError(gettext("{name} is not in the package").format(name=source[:80]))
    return files[path]


def resolved(folder: str, name: str) -> str | None:
    """Return a path in the package for a name in a file of a folder; None if it leads out."""
    plain = name.strip().replace("\\", "/")
    parts: list[str] = [] if plain.startswith("/") else [p for p in folder.split("/") if p]
    for part in PurePosixPath(unquote(plain.partition("#")[0].partition("?")[0])).parts:
        if part == "..":
            if not parts:
                return None
            parts.pop()
        elif part not in {".", "/"}:
            parts.append(part)
    return "/".join(parts)


def _size(text: str) -> float:
    match = _NUMBER.match(text)
    return float(match.group(1)) if match and match.group(2) in {None, "px"} else 0.0


def _size_of_svg(root: Node) -> tuple[float, float]:
    box = root.get("view-box").replace(",", " ").split()
    try:
        numbers = [float(one) for one in box]
    except ValueError:
        numbers = []
    wide, high = _size(root.get("width")), _size(root.get("height"))
    if len(numbers) == 4:
        return wide or numbers[2], high or numbers[3]
    return wide or 300.0, high or 150.0


def _as_svg(root: Node, alt: str, wide: float, high: float) -> Pictured:
    """A drawing with what a figure may have in it, as large as it is shown."""
    if root.name != "svg" or not 1 <= wide <= 10_000 or not 1 <= high <= 10_000:
        raise PictureError(gettext("a drawing has no size that can be shown"))
    box = root.get("view-box").replace(",", " ").split()
    try:
        left, top, across, down = (float(one) for one in box)
    except ValueError:
        left, top, across, down = 0.0, 0.0, wide, high
    if across <= 0 or down <= 0:
        raise PictureError(gettext("a drawing has no size that can be shown"))
    dropped: set[str] = set()
    inner = "".join(write_xml(one, "svg") for one in _kept(root, dropped))
    # As an image of these dimensions is drawn: as large as fits, in the middle.
    scale = min(wide / across, high / down)
    x = (wide - across * scale) / 2 - left * scale
    y = (high - down * scale) / 2 - top * scale
    moved = f'<g transform="translate({x:g} {y:g}) scale({scale:g})">{inner}</g>'
    return Pictured(_svg(moved, wide, high), wide, high, alt, tuple(sorted(dropped)))


def _svg(inner: str, wide: float, high: float) -> str:
    return svg_of(inner.replace("[[", "[ ["), wide, high)


_OPENED = frozenset({"a", "switch", "symbol", "svg"})
_UNSEEN = frozenset({"metadata", "namedview"})
_CAMEL = {name.lower(): name for name in ATTRIBUTES}


def _kept(node: Node, dropped: set[str]) -> list[Node]:
    found = []
    for one in node.children:
        if one.space not in {"svg", "other"} or one.name not in ELEMENTS or one.name == "image":
            if one.name in _OPENED:
                found += _kept(one, dropped)
            elif one.name not in _UNSEEN:
                dropped.add(one.name)
            continue
        said = {}
        for name, value in [*one.attributes.items(), *_styles(one).items()]:
            own = _CAMEL.get(name.replace("-", "")) or (name if name in ATTRIBUTES else None)
            if own and own not in {"href", "class", "id"} and not _LINK.search(value):
                said[own] = value.replace("\u2212", "-")
        texts = one.name in {"text", "tspan", "title", "desc"}
        within: tuple[Node | str, ...] = tuple(_kept(one, dropped))
        if texts:
            within = tuple(
                part if isinstance(part, str) else kept
                for part in one.within
                for kept in ([part] if isinstance(part, str) else _kept_one(part, dropped))
            )
        found.append(Node(one.name, "svg", said, 0, within))
    return found


def _kept_one(node: Node, dropped: set[str]) -> list[Node]:
    return _kept(Node("g", "svg", {}, 0, (node,)), dropped)


def _styles(node: Node) -> dict[str, str]:
    pairs = (one.partition(":") for one in node.get("style").split(";") if ":" in one)
    return {k.strip(): v.strip() for k, _, v in pairs if k.strip() in _STYLES}


def _raster(content: bytes, source: str, alt: str, wide: float, high: float) -> Pictured:
    try:
        with Image.open(io.BytesIO(content), formats=READ) as image:
            if image.width * image.height > MOST_PIXELS:
                raise PictureError(gettext("{name} is too large").format(name=source[:80]))
            size = (wide or image.width, high or image.height)
            kind, data = _small(image)
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise PictureError(
            gettext("{name} is not a picture that can be read").format(name=source[:80])
        ) from None
    said = base64.b64encode(data).decode()
    href = f"data:image/{kind};base64,{said}"
    inner = f'<image x="0" y="0" width="{size[0]:g}" height="{size[1]:g}" href="{href}"'
    stretched = f'{inner} preserveAspectRatio="none"/>'
    return Pictured(_svg(stretched, *size), *size, alt)


def _small(image: Image.Image) -> tuple[str, bytes]:
    """A picture in at most so many bytes: as it is, then as dots of full colour, then smaller."""
    see_through = image.mode in {"RGBA", "LA", "PA"} or "transparency" in image.info
    plain = image.convert("RGBA" if see_through else "RGB")
    plain.thumbnail((WIDEST, WIDEST))
    while True:
        for kind, options in (("png", {"optimize": True}), ("webp", {"quality": 80})):
            out = io.BytesIO()
            plain.save(out, kind.upper(), **options)
            if out.tell() <= MOST_BYTES:
                return kind, out.getvalue()
        plain = plain.resize((max(1, plain.width * 3 // 4), max(1, plain.height * 3 // 4)))


def stacked(pictures: Sequence[Pictured], captions: Sequence[str] = ()) -> tuple[str, str]:
    """Return several pictures as one figure, one below the other, and its description."""
    if len(pictures) == 1 and not any(captions):
        return pictures[0].svg, pictures[0].alt
    said = [*captions, *[""] * len(pictures)]
    wide = max(one.wide for one in pictures)
    size = wide * 0.045
    top, drawn = 0.0, []
    for one, caption in zip(pictures, said, strict=False):
        if caption:
            top += size * 1.4
            at = f'x="0" y="{top - size * 0.3:g}" font-size="{size:g}"'
            drawn.append(f'<text {at} fill="currentColor">{escape(caption)}</text>')
        drawn.append(f'<g transform="translate(0 {top:g})">{one.inner}</g>')
        top += one.high + size * 0.6
    alts = [
        ": ".join(text for text in (caption, one.alt) if text)
        for one, caption in zip(pictures, said, strict=False)
    ]
    return _svg("".join(drawn), wide, top), ". ".join(text for text in alts if text)
