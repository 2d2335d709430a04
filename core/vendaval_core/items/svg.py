"""SVG of figures, written anew from the elements and attributes that are allowed.

What is checked and what a browser reads must be one thing: a text that two parsers read in two
ways can carry past the check what the browser then runs. So a figure is parsed, copied element by
element, and written again; nothing of the author's text reaches a page as it was.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache
from xml.etree.ElementTree import Element, ParseError, tostring

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from vendaval_core.language import gettext

from ..errors import ExpressionError

NAMESPACE = "http://www.w3.org/2000/svg"
ELEMENTS = frozenset(
    [
        "svg",
        "g",
        "path",
        "line",
        "polyline",
        "polygon",
        "rect",
        "circle",
        "ellipse",
        "text",
        "tspan",
        "defs",
        "marker",
        "title",
        "desc",
        "image",
    ]
)
ATTRIBUTES = frozenset(
    [
        "viewBox",
        "width",
        "height",
        "x",
        "y",
        "x1",
        "y1",
        "x2",
        "y2",
        "cx",
        "cy",
        "r",
        "rx",
        "ry",
        "dx",
        "dy",
        "d",
        "points",
        "transform",
        "fill",
        "stroke",
        "fill-opacity",
        "fill-rule",
        "stroke-width",
        "stroke-dasharray",
        "stroke-linecap",
        "stroke-linejoin",
        "stroke-opacity",
        "opacity",
        "font-size",
        "font-weight",
        "font-style",
        "text-anchor",
        "dominant-baseline",
        "class",
        "id",
        "marker-start",
        "marker-mid",
        "marker-end",
        "markerWidth",
        "markerHeight",
        "refX",
        "refY",
        "orient",
        "preserveAspectRatio",
        "href",
    ]
)
LONGEST, REMEMBERED = 300_000, 30_000
# A picture of dots stands in the drawing itself: nothing is fetched from anywhere.
_PICTURE = re.compile(r"data:image/(png|jpeg|gif|webp);base64,[A-Za-z0-9+/=]+")
_LINK = re.compile(r"url\s*\(\s*(?!#[\w-]+\s*\))", re.IGNORECASE)


def svg_of(inner: str, wide: float, high: float) -> str:
    """Return a drawing of what stands in it, from 0, 0."""
    return f'<svg xmlns="{NAMESPACE}" viewBox="0 0 {wide:g} {high:g}">{inner}</svg>'  # not said


def svg_faults(text: str) -> Iterator[str]:
    """Yield why a text can't be a figure; nothing if it can."""
    root = _parsed(text)
    if isinstance(root, str):
        yield root
        return
    for element in root.iter():
        name = _name(element)
        if name not in ELEMENTS:
            yield gettext("<{name}> is not allowed in a figure").format(name=name)
        for attribute, value in element.attrib.items():
            if attribute not in ATTRIBUTES:
                yield gettext("{attribute} is not allowed in a figure").format(attribute=attribute)
            elif attribute == "href":
                if name != "image" or not _PICTURE.fullmatch(value):
                    yield gettext("{attribute} points outside the figure").format(
                        attribute=attribute
                    )
            elif _LINK.search(value):
                yield gettext("{attribute} points outside the figure").format(attribute=attribute)
    if _name(root) != "svg":
        yield f"<{_name(root)}> isn’t a figure"
    if "viewBox" not in root.attrib:
        yield gettext("has no viewBox")


def clean_svg(text: str) -> str:
    """Return the figure redrawn from allowed elements. ExpressionError says what is not allowed."""
    return _cleaned(text) if len(text) <= REMEMBERED else _clean(text)


@lru_cache(maxsize=4096)
def _cleaned(text: str) -> str:
    return _clean(text)


def _clean(text: str) -> str:
    fault = next(svg_faults(text), None)
    root = _parsed(text)
    if fault is not None or isinstance(root, str):
        raise ExpressionError(gettext("a figure {fault}").format(fault=fault))
    return tostring(_copy(root), encoding="unicode")


def _parsed(text: str) -> Element | str:
    if len(text) > LONGEST:
        return gettext("is longer than {longest} characters").format(longest=LONGEST)
    try:
        root: Element = fromstring(text, forbid_dtd=True)
    except (ParseError, DefusedXmlException, ValueError) as error:
        return f"isn’t well-formed SVG: {error}"
    return root


def _name(element: Element) -> str:
    """The name without SVG's namespace; one of another namespace keeps it, and is not allowed."""
    return str(element.tag).removeprefix(f"{{{NAMESPACE}}}")


def _copy(element: Element) -> Element:
    own = Element(_name(element), dict(element.attrib))
    own.text, own.tail = element.text, element.tail
    own.extend(_copy(child) for child in element)
    return own
