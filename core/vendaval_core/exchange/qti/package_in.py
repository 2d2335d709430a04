"""A package of QTI, or a single file of it: what is in it, and each item as it would be taken in.

Nothing is fetched and nothing is believed: names lead nowhere outside the package, and what the
manifest says of a file counts only where that file is there.
"""

from __future__ import annotations

import hashlib
import json
import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from pydantic import ValidationError

from vendaval_core.language import gettext

from ...errors import ExpressionError, FamilyError
from ...items.processing.declarations import read_declaration
from ...items.processing.nodes import Node, XmlError, read_xml
from ...items.versions import make_version
from ...packs.families import family_from_data
from .asked import Plain
from .item_in import ItemRead, read_item
from .package_out import STEPS
from .pictures_in import resolved
from .test_in import read_test
from .tests_read import TestRead, own_test

MANIFEST = "imsmanifest.xml"
MOST_ITEMS, MOST_TESTS, MOST_NOTES = 1_000, 20, 200
MOST_MANIFEST, MOST_NODES = 12_000_000, 150_000
_OLD = re.compile(rb"<\s*(?:\w+:)?questestinterop", re.IGNORECASE)
_FIRST = re.compile(rb"<(?:[\w.-]+:)?([A-Za-z][\w.-]*)")
_ASIDE = re.compile(rb"<!--.*?-->|<\?.*?\?>", re.DOTALL)
_ITEM = re.compile(r"qti_(apip)?item|imsqti_xml")
_TEST = re.compile(r"qti_(apip)?test|qti_assessment")
_DURATION = re.compile(r"P(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+(?:\.\d+)?)S)?)")


@dataclass(frozen=True, slots=True)
class About:
    """What a manifest says of an item. topics: its words for what it is about. ours: what Vendaval
    wrote beside it."""

    title: str = ""
    topics: tuple[str, ...] = ()
    difficulty: int | None = None
    seconds: float | None = None
    source: str = ""
    ours: Node | None = None


@dataclass(slots=True)
class PackageFound:
    """A package's items and tests by path, with what is said of each, and what is left out."""

    items: dict[str, About] = field(default_factory=dict)
    tests: dict[str, About] = field(default_factory=dict)
    notes: list[str] = field(default_factory=list)


@dataclass(slots=True)
class Taken:
    """An item as it would be taken in. key: of the family it was with us; "" for others. of: key of
    the family that it is another version of. digest: of its file."""

    read: ItemRead
    about: About
    digest: str
    key: str = ""
    of: str = ""


def find(files: Mapping[str, bytes]) -> PackageFound:
    """Return what a package has. XmlError for a manifest that can't be read."""
    found = PackageFound()
    manifest = min(
        (path for path in files if path.rpartition("/")[2].lower() == MANIFEST),
        key=lambda path: path.count("/"),
        default=None,
    )
    if manifest is None:
        _by_looking(files, found)
    else:
        _by_manifest(files, manifest, found)
    if len(found.tests) > MOST_TESTS:
        found.notes.append(gettext("tests after the first {most}").format(most=MOST_TESTS))
        found.tests = dict(list(found.tests.items())[:MOST_TESTS])
    for path in found.tests:
        _of_test(files, path, found)
    # Of ours, families come before the other versions of theirs.
    firsts = sorted(found.items.items(), key=lambda one: _only_a_version(one[1]))
    found.items = dict(firsts)
    if len(found.items) > MOST_ITEMS:
        says = gettext("items after the first {most}")
        found.notes.insert(0, says.format(most=MOST_ITEMS))
        found.items = dict(list(found.items.items())[:MOST_ITEMS])
    found.notes = found.notes[:MOST_NOTES]
    return found


def _only_a_version(about: About) -> bool:
    return about.ours is not None and not about.ours.text.strip()


def _by_looking(files: Mapping[str, bytes], found: PackageFound) -> None:
    for path in sorted(files):
        if not path.lower().endswith(".xml"):
            continue
        head = files[path][:4000].replace(b"\0", b"")
        first = _FIRST.search(_ASIDE.sub(b"", head))
        name = b"" if first is None else first.group(1)
        if name in {b"assessmentItem", b"qti-assessment-item"}:
            found.items[path] = About()
        elif name in {b"assessmentTest", b"qti-assessment-test"}:
            found.tests[path] = About()
        elif name in {b"assessmentSection", b"qti-assessment-section"}:
            continue
        elif _OLD.search(head):
            found.items[path] = About()
        else:
            found.notes.append(gettext("{path}: no item and no test").format(path=path))


def _by_manifest(files: Mapping[str, bytes], manifest: str, found: PackageFound) -> None:
    try:
        root = read_xml(files[manifest], MOST_MANIFEST, MOST_NODES)
    except XmlError as error:
        raise XmlError(f"{manifest}: {error.what}", error.line) from None
    folder = manifest.rpartition("/")[0]
    for resources in (one for one in root.walk() if _plain(one) == "resources"):
        base = _joined(folder, root.get("base"), resources.get("base"))
        for one in resources.children:
            if _plain(one) == "resource":
                _resource(files, _joined(base, one.get("base")), one, found)


def _plain(node: Node) -> str:
    return node.name.removeprefix("qti-")


def _joined(*parts: str) -> str:
    return "/".join(part.strip("/") for part in parts if part.strip("/"))


def _resource(files: Mapping[str, bytes], folder: str, node: Node, found: PackageFound) -> None:
    kind = node.get("type").lower()
    inner = next((one.get("href") for one in node.children if _plain(one) == "file"), "")
    href = node.get("href") or inner
    item, test = bool(_ITEM.search(kind)), bool(_TEST.search(kind))
    if not (item or test):
        known = (
            "webcontent",
            "stimulus",
            "associatedcontent",
            "rptemplate",
            "css",
            "controlfile",
            "resourcemetadata",
            "imsqti_lexicon",
            "imsqti_dictionary",
        )
        if kind and not any(one in kind for one in known):
            says = gettext("{name}: a resource of the type {kind}")
            found.notes.append(says.format(name=href or node.get("identifier"), kind=kind[:60]))
        return
    path = resolved(folder, href)
    if path is None or path not in files:
        says = gettext("{path}: named in the manifest, but not in the package")
        found.notes.append(says.format(path=href[:100]))
        return
    (found.items if item else found.tests)[path] = _about(node)


def _of_test(files: Mapping[str, bytes], path: str, found: PackageFound) -> None:
    """Items that a test, or a section with a file of its own, refers to and no manifest names."""
    waiting, seen = [path], {path}
    while waiting:
        at = waiting.pop()
        try:
            root = read_xml(files[at])
        except XmlError as error:
            found.notes.append(f"{at}:{error.line}: {error.what}")
            continue
        for node in root.walk():
            inner = resolved(at.rpartition("/")[0], node.get("href"))
            if inner is None or inner not in files or inner in seen:
                continue
            if node.name == "qti-assessment-item-ref":
                found.items.setdefault(inner, About())
            elif node.name == "qti-assessment-section-ref":
                seen.add(inner)
                waiting.append(inner)


def _about(node: Node) -> About:
    """What a resource's metadata says, in whatever edition of LOM."""
    lom = [one for one in node.walk() if one.space in {"metadata", "package", "qti", "other"}]
    own = (one for one in node.walk() if one.space == "ours" and one.name in {"family", "test"})
    ours = next(own, None)
    title = next((_words(one) for one in lom if _lower(one) == "title"), "")
    topics = [_words(one) for one in lom if _lower(one) in {"keyword", "entry"}]
    hard = next((_words(one) for one in lom if _lower(one) == "difficulty"), "").lower()
    steps = [place for place, step in enumerate(STEPS, start=1) if hard.endswith(step)]
    long = next((_words(one) for one in lom if _lower(one) == "typicallearningtime"), "")
    source = next((_words(one) for one in lom if _lower(one) == "description"), "")
    return About(
        title[:200],
        tuple(dict.fromkeys(text[:100] for text in topics if text))[:10],
        max(steps, key=lambda step: len(STEPS[step - 1])) if steps else None,
        _seconds(long),
        source[:500],
        ours,
    )


def _lower(node: Node) -> str:
    return node.name.removeprefix("qti-").replace("-", "").lower()


def _words(node: Node) -> str:
    return " ".join(node.text.split())


def _seconds(text: str) -> float | None:
    match = _DURATION.search(text)
    if match is None or not any(match.groups()):
        return None
    hours, minutes, seconds = (float(one or 0) for one in match.groups())
    total = hours * 3600 + minutes * 60 + seconds
    return total if 0 < total <= 1800 else None


def take(files: Mapping[str, bytes], path: str, about: About) -> Taken:
    """Return an item of a package as it would be taken in. Never raises for what is in it."""
    content = files[path]
    digest = hashlib.sha256(content).hexdigest()
    if _OLD.search(content[:4000]):
        says = gettext("this is QTI 1, which is not read")
        return Taken(ItemRead(path, path, path, refused=says), about, digest)
    own = _own(about, digest)
    if own is not None:
        own.full = _full(content)
        return Taken(own, about, digest, _key(about), "" if own.data else _key(about))
    read = read_item(content, files, path)
    if about.ours is not None:
        read.remarks.append(
            gettext("Its file was changed since Vendaval wrote it. Only what it says counts.")
        )
    if read.data is not None:
        if about.difficulty is not None:
            read.data["difficulty"] = about.difficulty
        if about.seconds is not None:
            read.data["seconds"] = about.seconds
    return Taken(read, about, digest, _key(about))


def _full(content: bytes) -> float:
    """Points in all of an item of ours, as it declares them."""
    outcomes = read_xml(content).all("qti-outcome-declaration")
    most = next((one for one in outcomes if one.get("identifier") == "MAXSCORE"), None)
    held = None if most is None else read_declaration(most).default
    return 1.0 if held is None or held.null else float(held.number())


def take_test(files: Mapping[str, bytes], path: str, found: PackageFound) -> TestRead:
    """Return a test of a package as it would be taken in. Never raises for what is in it."""
    digest = hashlib.sha256(files[path]).hexdigest()
    items: dict[str, str] = {}
    for item, about in found.items.items():
        items.setdefault(_key(about), item)
    own = own_test(found.tests[path].ours, digest, path, items)
    return read_test(files, path) if own is None else own


def _key(about: About) -> str:
    key = "" if about.ours is None else about.ours.get("key")
    return key if re.fullmatch(r"[a-z0-9][a-z0-9-]{0,59}", key) else ""


def _own(about: About, digest: str) -> ItemRead | None:
    """The family that stands beside an item of ours that nobody changed; without data for another
    version of one. None for all others."""
    ours = about.ours
    if ours is None or ours.get("digest") != digest or not _key(about):
        return None
    text = ours.text.strip()
    found = ItemRead(_key(about), about.title)
    if ours.get("curve-b"):
        says = gettext("It was measured elsewhere: difficulty {b} logits from {answers} answers.")
        numbers = {name: ours.get(f"curve-{name}")[:8] for name in ("b", "answers")}
        found.remarks.append(says.format(**numbers))
    if not text:
        return found
    try:
        data: Plain = json.loads(text)
        family = family_from_data(_key(about), "topic", data)
        make_version(family, 1)
    except (ValueError, RecursionError, TypeError, ValidationError, ExpressionError, FamilyError):
        return None
    return replace(found, data=data, title=family.title)
