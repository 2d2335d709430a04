"""XML of strangers, read with bounds: no entities, no network, not too deep and not too much.

QTI 3 writes `qti-choice-interaction response-identifier="…"`, QTI 2 `choiceInteraction
responseIdentifier="…"`. Both come out under the names of QTI 3, so that one reader does for both.
"""

from __future__ import annotations

import codecs
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from html.entities import html5
from typing import Literal
from xml.etree.ElementTree import ParseError
from xml.sax.saxutils import escape, quoteattr

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import DefusedXMLParser

from vendaval_core.language import gettext

from ...errors import CoreError

MOST_BYTES, MOST_NODES, DEEPEST = 1_000_000, 20_000, 100

Space = Literal[
    "qti", "html", "mathml", "svg", "include", "package", "metadata", "about", "ours", "other"
]
OURS = "urn:vendaval:question:1"

HTML_NAMES = (
    "a,abbr,acronym,address,article,aside,audio,b,bdi,bdo,big,blockquote,br,button,caption,"
    "center,cite,code,col,colgroup,data,dd,del,details,dfn,div,dl,dt,em,embed,figcaption,"
    "figure,font,footer,form,h1,h2,h3,h4,h5,h6,head,header,hr,html,i,iframe,img,input,ins,"
    "kbd,label,li,link,main,map,mark,menu,meta,nav,object,ol,output,p,param,picture,pre,q,rb,"
    "rp,rt,rtc,ruby,s,samp,script,section,select,small,source,span,strike,strong,style,sub,"
    "summary,sup,table,tbody,td,template,textarea,tfoot,th,thead,time,title,tr,track,tt,u,ul,"
    "var,video,wbr"
)
HTML = frozenset(HTML_NAMES.split(","))
_ENTITY = re.compile(r"&([A-Za-z][A-Za-z0-9]{1,31});")
_XML_ENTITIES = frozenset({"amp", "lt", "gt", "quot", "apos"})
_DECLARED = re.compile(rb"^\s*<\?xml[^>]*?encoding\s*=\s*[\"']([A-Za-z0-9._-]+)[\"']")
_DECLARATION = re.compile(r"^\s*<\?xml[^>]*\?>")
_HUMP = re.compile(r"(?<=[a-z0-9])(?=[A-Z])")
_BYTE_ORDER_MARKS = (
    (codecs.BOM_UTF8, "utf-8"),
    (codecs.BOM_UTF32_LE, "utf-32"),
    (codecs.BOM_UTF32_BE, "utf-32"),
    (codecs.BOM_UTF16_LE, "utf-16"),
    (codecs.BOM_UTF16_BE, "utf-16"),
)


class XmlError(CoreError):
    """A file that is not read. line: where, 0 if that is not known."""

    def __init__(self, what: str, line: int = 0) -> None:
        self.what, self.line = what, line
        super().__init__(f"{line}: {what}" if line else what)


@dataclass(frozen=True, slots=True)
class Node:
    """An element. name: as QTI 3 writes it. line: in its file."""

    name: str
    space: Space
    attributes: Mapping[str, str]
    line: int = 0
    within: tuple[Node | str, ...] = ()

    @property
    def children(self) -> list[Node]:
        """The elements in it."""
        return [one for one in self.within if isinstance(one, Node)]

    @property
    def text(self) -> str:
        """All text in it, at any depth."""
        return "".join(one if isinstance(one, str) else one.text for one in self.within)

    def get(self, name: str, default: str = "") -> str:
        """An attribute without blanks around it."""
        return self.attributes.get(name, default).strip()

    def all(self, *names: str) -> list[Node]:
        """The elements in it with one of these names."""
        return [one for one in self.children if one.name in names]

    def one(self, *names: str) -> Node | None:
        """The first of `all`."""
        return next(iter(self.all(*names)), None)

    def walk(self) -> Iterator[Node]:
        """This element and everything in it, in order."""
        yield self
        for one in self.children:
            yield from one.walk()


@dataclass(slots=True)
class _Open:
    name: str
    space: Space
    attributes: dict[str, str]
    line: int
    within: list[Node | str] = field(default_factory=list)


class _Builder:
    """Takes what the parser finds, and counts."""

    def __init__(self, most: int) -> None:
        self.most = most
        self.parser: DefusedXMLParser | None = None
        self.open: list[_Open] = []
        self.root: Node | None = None
        self.count = 0

    @property
    def line(self) -> int:
        return int(self.parser.parser.CurrentLineNumber) if self.parser is not None else 0

    def start(self, tag: str, attributes: Mapping[str, str]) -> None:
        self.count += 1
        if self.count > self.most:
            raise XmlError(
                gettext("there are more than {most} elements").format(most=self.most), self.line
            )
        if len(self.open) >= DEEPEST:
            raise XmlError(
                gettext("elements are nested more than {deepest} deep").format(deepest=DEEPEST),
                self.line,
            )
        name, space = _named(tag)
        said = {_attribute(key): value for key, value in attributes.items()}
        self.open.append(_Open(name, space, said, self.line))

    def end(self, tag: str) -> None:
        done = self.open.pop()
        node = Node(done.name, done.space, done.attributes, done.line, tuple(done.within))
        if self.open:
            self.open[-1].within.append(node)
        else:
            self.root = node

    def data(self, text: str) -> None:
        if self.open:
            self.open[-1].within.append(text)

    def close(self) -> Node | None:
        return self.root


def read_xml(data: bytes | str, most_bytes: int = MOST_BYTES, most_nodes: int = MOST_NODES) -> Node:
    """Return the root of an XML file. XmlError says what is wrong, and in which line."""
    if len(data) > most_bytes:
        raise XmlError(
            gettext("the file is longer than {most} MB").format(most=most_bytes // 1_000_000)
        )
    text = data if isinstance(data, str) else _decoded(data)
    text = _ENTITY.sub(_character, _DECLARATION.sub(_blank_lines, text.lstrip("\ufeff"), count=1))
    builder = _Builder(most_nodes)
    parser = DefusedXMLParser(target=builder, encoding="utf-8", forbid_entities=True)
    builder.parser = parser
    try:
        parser.feed(text.encode("utf-8"))
        root = parser.close()
    except ParseError as error:
        raise XmlError(
            gettext("this is not well-formed XML: {error}").format(error=error.msg),
            error.position[0],
        ) from None
    except DefusedXmlException:
        raise XmlError(gettext("entities are not read"), builder.line) from None
    except (ValueError, UnicodeError) as error:
        raise XmlError(str(error), builder.line) from None
    if not isinstance(root, Node):
        raise XmlError(gettext("there is no element in it"))
    return root


def _decoded(data: bytes) -> str:
    declared = _DECLARED.match(data[:400])
    by_mark = next((name for mark, name in _BYTE_ORDER_MARKS if data.startswith(mark)), None)
    if by_mark is None and data[:2] in {b"<\x00", b"\x00<"}:
        by_mark = "utf-16-le" if data[:1] == b"<" else "utf-16-be"
    name = by_mark or (declared.group(1).decode("ascii") if declared else "utf-8")
    try:
        return data.decode(name)
    except LookupError:
        raise XmlError(gettext("the encoding “{name}” is not known").format(name=name)) from None
    except UnicodeError:
        pass
    try:
        return data.decode("cp1252")
    except UnicodeError:
        raise XmlError(gettext("it is not in {name}, as it says").format(name=name)) from None


def _blank_lines(match: re.Match[str]) -> str:
    return "\n" * match.group().count("\n")


def _character(match: re.Match[str]) -> str:
    name = match.group(1)
    known = None if name in _XML_ENTITIES else html5.get(f"{name};")
    return match.group() if known is None or set(known) & set("<&") else known


def _named(tag: str) -> tuple[str, Space]:
    space, _, name = tag[1:].rpartition("}") if tag.startswith("{") else ("", "", tag)
    kind = _space(space)
    if kind == "qti":
        if name in HTML:
            return name, "html"
        if name == "math":
            return name, "mathml"
        return (name if name.startswith("qti-") else f"qti-{_kebab(name)}"), "qti"
    return name, kind


def _space(uri: str) -> Space:
    said = uri.lower()
    known: tuple[tuple[str, Space], ...] = (
        (OURS, "ours"),
        ("http://www.w3.org/1998/math/mathml", "mathml"),
        ("http://www.w3.org/2000/svg", "svg"),
        ("http://www.w3.org/1999/xhtml", "html"),
        ("http://www.w3.org/2001/xinclude", "include"),
    )
    for begins, space in known:
        if said == begins:
            return space
    if not said or "qtiasi" in said or "imsqti_v" in said or "imsqti_item" in said:
        return "qti"
    if "imscp" in said:
        return "package"
    if "qti_metadata" in said or "qtimetadata" in said:
        return "about"
    if "lom" in said or "imsmd" in said:
        return "metadata"
    return "other"


def _kebab(name: str) -> str:
    return _HUMP.sub("-", name).lower()


def _attribute(name: str) -> str:
    local = name.rpartition("}")[2]
    return local if local.startswith("data-") else _kebab(local)


NAMESPACES: Mapping[Space, str] = {
    "qti": "http://www.imsglobal.org/xsd/imsqtiasi_v3p0",
    "html": "http://www.imsglobal.org/xsd/imsqtiasi_v3p0",
    "mathml": "http://www.w3.org/1998/Math/MathML",
    "svg": "http://www.w3.org/2000/svg",
    "package": "http://www.imsglobal.org/xsd/qti/qtiv3p0/imscp_v1p1",
    "metadata": "http://ltsc.ieee.org/xsd/LOM",
    "about": "http://www.imsglobal.org/xsd/imsqti_metadata_v3p0",
    "ours": OURS,
}


def q(name: str, *within: Node | str, **attributes: str | int | float) -> Node:
    """Return an element of QTI. attributes: with underscores for hyphens."""
    said = {k.strip("_").replace("_", "-"): _said(v) for k, v in attributes.items()}
    return Node(f"qti-{name}", "qti", said, 0, within)


def h(name: str, *within: Node | str, **attributes: str) -> Node:
    """Return an element of HTML. `class_` for class."""
    return Node(name, "html", {k.strip("_"): v for k, v in attributes.items()}, 0, within)


def _said(value: str | float) -> str:
    return f"{value:.12g}" if isinstance(value, float) else str(value)


def write_xml(node: Node, within: Space | None = None) -> str:
    """Return an element as XML, with its namespace where that is not the one it stands in."""
    outer = NAMESPACES.get(within) if within is not None else None
    namespace = NAMESPACES[node.space]
    said = dict(node.attributes)
    if namespace != outer:
        said = {"xmlns": namespace, **said}
    lang = said.pop("lang", None)
    if lang:
        said["xml:lang"] = lang
    attributes = "".join(f" {key}={quoteattr(_clean(value))}" for key, value in said.items())
    inner = "".join(
        escape(_clean(one)) if isinstance(one, str) else write_xml(one, node.space)
        for one in node.within
    )
    return (
        f"<{node.name}{attributes}>{inner}</{node.name}>"
        if inner
        else f"<{node.name}{attributes}/>"
    )


def xml_file(root: Node) -> bytes:
    """Return a file with an element as its root."""
    return b"\n".join([HEAD, write_xml(root).encode(), b""])


HEAD = b'<?xml version="1.0" encoding="UTF-8"?>'
_UNWRITABLE = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")


def _clean(text: str) -> str:
    return _UNWRITABLE.sub(" ", text)
