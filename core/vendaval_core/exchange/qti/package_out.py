"""A content package of QTI 3.0: items, tests and shared texts with their manifest.

1EdTech, QTI 3.0 content packaging and its metadata, and IEEE LOM 1484.12.3, from memory. What QTI
has no words for stands in the manifest in a namespace of ours, beside a digest of the item it
belongs to: who reads the package again knows whether the item was changed since.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field

from ...items.processing.nodes import Node, Space, q, xml_file
from ...items.versions import Version
from ...packs.families import PackFamily
from .item_out import ItemWritten, item_written
from .prose_out import blocks

STEPS = ("very easy", "easy", "medium", "difficult", "very difficult")  # not said
ITEM, TEST = "imsqti_item_xmlv3p0", "imsqti_test_xmlv3p0"
STIMULUS, RESOURCE = "imsqti_stimulus_xmlv3p0", "webcontent"


ItemsOf = Callable[[str], Sequence[tuple[str, float]]]


@dataclass(frozen=True, slots=True)
class FamilyToWrite:
    """A family and the versions of it that become items. curve: as it was measured, if it was.
    topic: its title. template: one item with template processing, where that can be."""

    read: PackFamily
    versions: Sequence[Version]
    topic: str
    curve: Mapping[str, str] = field(default_factory=dict)
    template: ItemWritten | None = None


@dataclass(frozen=True, slots=True)
class TestToWrite:
    """A test: its file, the items it refers to, and what is ours."""

    __test__ = False

    identifier: str
    title: str
    root: Node
    items: Sequence[str]
    ours: Mapping[str, object]


@dataclass(slots=True)
class PackageWritten:
    """A package's files by path, what other programs don't know, and the items with the points
    that each counts by itself, by family."""

    files: dict[str, bytes] = field(default_factory=dict)
    lost: dict[str, tuple[str, ...]] = field(default_factory=dict)
    items: dict[str, list[tuple[str, float]]] = field(default_factory=dict)


def package_written(
    title: str,
    families: Sequence[FamilyToWrite],
    tests: Callable[[ItemsOf], Sequence[TestToWrite]] = lambda _: (),
    language: str = "en",
    companions: Sequence[Node] = (),
    told: Callable[[int], None] = lambda _: None,
) -> PackageWritten:
    """Return a package of families and tests. tests: made from the items of families. companions:
    tools that may be used in its items. told: after each family, how many are written."""
    made = PackageWritten()
    resources: list[Node] = []
    paths: dict[str, str] = {}
    for count, one in enumerate(families, start=1):
        stimulus = _stimulus(one, made, resources)
        items = (
            [one.template]
            if one.template is not None
            else [
                item_written(
                    version,
                    item_id(one.read.family.key, version.seed),
                    language,
                    stimulus=f"../{stimulus}" if stimulus else "",
                    companions=companions,
                )
                for version in one.versions
            ]
        )
        made.lost[one.read.family.key] = tuple(dict.fromkeys(w for i in items for w in i.lost))
        made.items[one.read.family.key] = [(item.identifier, item.of) for item in items]
        for number, item in enumerate(items):
            path = f"items/{item.identifier}.xml"
            content = xml_file(_rooted(item.root))
            made.files[path] = content
            made.files |= dict(item.files)
            paths[item.identifier] = path
            resources.append(
                _item_resource(one, item, path, content, stimulus, language, first=number == 0)
            )
        told(count)
    for test in tests(lambda family: made.items[family]):
        path = f"tests/{test.identifier}.xml"
        made.files[path] = content = xml_file(test.root)
        resources.append(_test_resource(test, path, content))
    made.files["imsmanifest.xml"] = xml_file(_manifest(title, resources, language))
    return made


def item_id(family: str, seed: int) -> str:
    """Return the identifier of a version's item."""
    return f"{family}_v{seed}"


def _rooted(node: Node) -> Node:
    """An item whose pictures and sounds are sought from its folder."""
    said = dict(node.attributes)
    if node.name in {"img", "audio"} and "src" in said:
        said["src"] = f"../{said['src']}"
    within = tuple(one if isinstance(one, str) else _rooted(one) for one in node.within)
    return Node(node.name, node.space, said, 0, within)


def _stimulus(one: FamilyToWrite, made: PackageWritten, resources: list[Node]) -> str:
    text = one.read.family.stimulus
    if not text:
        return ""
    name = f"stimulus_{hashlib.sha256(text.encode()).hexdigest()[:12]}"
    path = f"stimuli/{name}.xml"
    if path not in made.files:
        body = q("stimulus-body", *blocks(text))
        root = q("assessment-stimulus", body, identifier=name, title=one.read.family.title)
        made.files[path] = xml_file(root)
        resources.append(_resource(name, STIMULUS, path, [path], []))
    return path


def _p(name: str, *within: Node | str, **attributes: str) -> Node:
    return Node(name, "package", attributes, 0, within)


def _in(space: Space, name: str, *within: Node | str, **attributes: str) -> Node:
    return Node(name, space, {k.strip("_"): v for k, v in attributes.items()}, 0, within)


def _resource(
    identifier: str,
    kind: str,
    path: str,
    files: Sequence[str],
    depends: Sequence[str],
    *metadata: Node,
) -> Node:
    return _p(
        "resource",
        *([_p("metadata", *metadata)] if metadata else []),
        *(_p("file", href=file) for file in files),
        *(_p("dependency", identifierref=other) for other in depends),
        identifier=identifier,
        type=kind,
        href=path,
    )


def _item_resource(
    one: FamilyToWrite,
    item: ItemWritten,
    path: str,
    content: bytes,
    stimulus: str,
    language: str,
    *,
    first: bool,
) -> Node:
    about = _in(
        "about",
        "qtiMetadata",
        _in("about", "timeDependent", "false"),
        _in("about", "composite", "true" if len(item.interactions) > 1 else "false"),
        *(
            _in("about", "interactionType", _camel(name.removeprefix("qti-")))
            for name in item.interactions
        ),
        _in("about", "feedbackType", "nonadaptive"),
        _in("about", "solutionAvailable", "true"),
    )
    ours = _ours(one, item, content, first=first)
    depends = [stimulus.rpartition("/")[2].removesuffix(".xml")] if stimulus else []
    metadata = (_lom(one, item.title, language), about, ours) if first else (ours,)
    return _resource(item.identifier, ITEM, path, [path, *item.files], depends, *metadata)


def _lom(one: FamilyToWrite, title: str, language: str) -> Node:
    def m(name: str, *within: Node | str, **attributes: str) -> Node:
        return _in("metadata", name, *within, **attributes)

    def said(text: str) -> Node:
        return m("string", text, language=language)

    family = one.read.family
    general = m(
        "general",
        m("title", said(title)),
        m("language", language),
        m("description", said(family.source)),
        m("keyword", said(one.topic)),
    )
    difficulty = m("source", "LOMv1.0"), m("value", STEPS[family.difficulty - 1])
    educational = m(
        "educational",
        m("difficulty", *difficulty),
        m("typicalLearningTime", m("duration", f"PT{family.seconds:g}S")),
    )
    taxon = m("taxon", m("id", family.topic), m("entry", said(one.topic)))
    path = m("taxonPath", m("source", said("Vendaval")), taxon)
    purpose = m("purpose", m("source", "LOMv1.0"), m("value", "discipline"))
    return m("lom", general, educational, m("classification", purpose, path))


def _ours(one: FamilyToWrite, item: ItemWritten, content: bytes, *, first: bool) -> Node:
    """What QTI has no words for. The family stands beside the first of its items."""
    family = one.read.family
    said = {
        "key": family.key,
        "topic": family.topic,
        "essential": "true" if family.essential else "false",
        "digest": hashlib.sha256(content).hexdigest(),
        **{f"curve-{name}": value for name, value in one.curve.items()},
    }
    text = json.dumps(one.read.data, ensure_ascii=False) if first else ""
    return Node("family", "ours", said, 0, (text,) if text else ())


def _test_resource(test: TestToWrite, path: str, content: bytes) -> Node:
    said = {"digest": hashlib.sha256(content).hexdigest()}
    ours = Node("test", "ours", said, 0, (json.dumps(test.ours, ensure_ascii=False),))
    return _resource(test.identifier, TEST, path, [path], list(test.items), ours)


def _manifest(title: str, resources: Sequence[Node], language: str) -> Node:
    string = _in("metadata", "string", title, language=language)
    general = _in("metadata", "general", _in("metadata", "title", string))
    metadata = _p(
        "metadata",
        _p("schema", "QTI Package"),
        _p("schemaversion", "3.0.0"),
        _in("metadata", "lom", general),
    )
    digest = hashlib.sha256(title.encode()).hexdigest()[:12]
    parts = metadata, _p("organizations"), _p("resources", *resources)
    return _p("manifest", *parts, identifier=f"package_{digest}")


def _camel(name: str) -> str:
    first, *rest = name.split("-")
    return first + "".join(part.capitalize() for part in rest)
