"""What an item asks, as our parts: common to all of QTI's interactions."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from vendaval_core.language import gettext

from ...items.processing.declarations import Declaration
from ...items.processing.nodes import Node
from ...items.processing.values import Single, written
from .pictures_in import Pictured, PictureError, picture_of
from .prose_in import Images, Prose

Plain = Any
MOST_TEXT = 4_000


class NotTaken(Exception):
    """An item that is not taken in, with the reason. line: in its file."""

    def __init__(self, what: str, line: int = 0) -> None:
        self.what, self.line = what, line
        super().__init__(what)


@dataclass(slots=True)
class Asked:
    """An interaction, or several drop-downs of one text, as a part of ours.

    part: its fields as a family's file has them. naming: how its answer becomes variables (see
    `kinds/by_rules`). exact: whether our own marking of it may be compared with the file's rules;
    not where the file wants what nobody can give, a single pixel.
    """

    part: dict[str, Plain]
    naming: dict[str, Plain]
    prompt: str = ""
    exact: bool = True

    @property
    def variables(self) -> list[str]:
        """Names of its responses."""
        return list(self.naming["variables"])


@dataclass(slots=True)
class Reading:
    """An item while it is read. declared: its variables. rules: of its response processing. files:
    of the package. folder: of the item. lost: what is not kept. remarks: what is otherwise, in
    sentences. figures: pictures met in its text, with their captions. model: a good answer, for
    who marks. seen: pictures that were read, by the element's id()."""

    declared: Mapping[str, Declaration]
    files: Mapping[str, bytes]
    folder: str
    rules: Sequence[Node] = ()
    lost: list[str] = field(default_factory=list)
    remarks: list[str] = field(default_factory=list)
    figures: list[tuple[str, Pictured]] = field(default_factory=list)
    model: str = ""
    seen: dict[int, Pictured] = field(default_factory=dict)

    def note(self, what: str) -> None:
        """Say once that something is not kept."""
        if what not in self.lost:
            self.lost.append(what)

    def remark(self, what: str) -> None:
        """Say once how something is otherwise than in the file."""
        if what not in self.remarks:
            self.remarks.append(what)

    def cut(self, text: str, most: int) -> str:
        """A text as long as there is room for; that it was cut is noted."""
        if len(text) <= most:
            return text
        says = gettext("the end of a text that is longer than {most} letters: {text}…")
        self.note(says.format(most=most, text=" ".join(text[:60].split())))
        return text[:most]

    def prose(
        self, stands_for: Mapping[int, str] | None = None, images: Images | None = None
    ) -> Prose:
        """A reader of its HTML. stands_for: what stands for an element, by the element's id()."""
        known = stands_for or {}
        seen = Images() if images is None else images

        def other(node: Node) -> str | None:
            if id(node) in known:
                return known[id(node)]
            match node.name:
                case "qti-printed-variable":
                    return self._printed(node)
                case "qti-prompt" | "qti-hottext":
                    return self.prose(known, seen).line(node.within)
                case "qti-content-body" | "qti-html-content" | "qti-stimulus-body":
                    return self.prose(known, seen).blocks(node.within)
                case "qti-template-inline" | "qti-template-block":
                    return self._in_version(node, known, seen)
                case "qti-rubric-block":
                    learners = for_learners(node) and not is_solution(node)
                    return self.prose(known, seen).blocks(node.within) if learners else None
                case "qti-stylesheet" | "qti-catalog-info":
                    return None
            self.note(gettext("<{name}>, which is not taken in").format(name=node.name))
            return None

        return Prose(other, seen, self.lost)

    def _in_version(self, node: Node, known: Mapping[int, str], images: Images) -> str | None:
        """A text that is shown in some versions only."""
        declared = self.declared.get(node.get("template-identifier"))
        held = () if declared is None else declared.default.values
        holds = node.get("identifier") in [said(one) for one in held]
        if holds is (node.get("show-hide", "show") == "hide"):
            return None
        prose = self.prose(known, images)
        block = node.name == "qti-template-block"
        return prose.blocks(node.within) if block else prose.line(node.within)

    def _printed(self, node: Node) -> str:
        """A variable where it is shown."""
        name = node.get("identifier")
        declared = self.declared.get(name)
        held = None if declared is None else declared.default
        if held is None or held.null or held.cardinality != "single":
            self.note(gettext("a value that is shown: {name}").format(name=name))
            return ""
        own = template_name(name)
        match = re.fullmatch(r"%\.(\d)f", node.get("format"))
        if held.base == "float" and match:
            return f"[[fixed({own}, {match.group(1)})]]"
        return f"[[{own}]]"

    def line(self, nodes: Sequence[Node | str], what: str = "") -> str:
        """A line of text; pictures in it go beside the question, under the same words. what: those
        of a picture without any."""
        prose = self.prose()
        text = prose.line(nodes)
        for image in prose.images.found:
            shown = self.picture(image)
            if shown is not None:
                text = text or shown.alt or what
                self.figures.append((text, shown))
        return self.cut(text, MOST_TEXT)

    def blocks(self, nodes: Sequence[Node | str], known: Mapping[int, str] | None = None) -> str:
        """A text of several blocks; pictures in it go beside the question."""
        prose = self.prose(known)
        text = prose.blocks(nodes)
        for image in prose.images.found:
            shown = self.picture(image)
            if shown is not None:
                self.figures.append(("", shown))
        return text

    def picture(self, node: Node) -> Pictured | None:
        """A picture, or None for one that can't be shown, which is noted."""
        try:
            return self._seen(node)
        except PictureError as error:
            self.note(gettext("a picture: {why}").format(why=error))
            return None

    def _seen(self, node: Node) -> Pictured:
        if id(node) not in self.seen:
            found = picture_of(node, self.files, self.folder)
            self.seen[id(node)] = found
            if found.dropped:
                names = ", ".join(found.dropped[:8])
                self.note(gettext("of a drawing: {names}").format(names=names))
        return self.seen[id(node)]

    def on_picture(self, node: Node) -> Pictured:
        """The picture of an interaction. NotTaken without one."""
        found = next(
            (
                one
                for one in node.children
                if (one.space == "html" and one.name in {"img", "object", "picture"})
                or one.space == "svg"
            ),
            None,
        )
        if found is not None and found.name == "picture":
            found = next((one for one in found.walk() if one.name == "img"), None)
        if found is None:
            raise NotTaken(gettext("it has no picture to be answered on"), node.line)
        try:
            return self._seen(found)
        except PictureError as error:
            raise NotTaken(str(error), node.line) from None

    def variable(self, node: Node) -> Declaration:
        """The response of an interaction. NotTaken for one that is not declared."""
        name = node.get("response-identifier")
        if name not in self.declared:
            raise NotTaken(gettext("nothing is declared as “{name}”").format(name=name), node.line)
        return self.declared[name]

    def right(self, declared: Declaration, node: Node) -> tuple[Single, ...]:
        """What is right: as it is declared, or what its mapping gives most for. NotTaken where the
        file doesn't say."""
        if not declared.correct.null:
            return declared.correct.values
        if declared.mapping is not None:
            points = declared.mapping.points
            best = max(points.values(), default=0.0)
            several = declared.cardinality != "single"
            found = tuple(
                value for value, worth in points.items() if worth > 0 and (several or worth == best)
            )
            if found:
                return found if several else found[:1]
        raise NotTaken(gettext("the file doesn’t say what is right"), node.line)


def for_learners(rubric: Node) -> bool:
    """Whether a rubric block is for those who answer."""
    return "candidate" in rubric.get("view", "candidate").split()


def is_solution(rubric: Node) -> bool:
    """Whether a rubric block is the worked solution."""
    return "solution" in rubric.get("class").split()


def part_id(name: str) -> str:
    """Return a part's id for a response's name."""
    plain = re.sub(r"[^a-z0-9_]+", "_", name.lower()).strip("_")
    return (plain if plain[:1].isalpha() else f"r_{plain}")[:30].rstrip("_") or "answer"


def template_name(name: str) -> str:
    """Return the name that a template variable has with us."""
    plain = re.sub(r"[^a-z0-9_]+", "_", name.lower()).strip("_")
    return (plain if plain[:1].isalpha() else f"v_{plain}")[:30].rstrip("_") or "v"


def naming(*variables: str, **more: Plain) -> dict[str, Plain]:
    """Return how a part's answer becomes variables, without what is empty."""
    return {"variables": list(variables), **{k: v for k, v in more.items() if v}}


def labelled_prompt(reading: Reading, node: Node) -> str:
    """The interaction's own prompt."""
    own = node.one("qti-prompt")
    return "" if own is None else reading.blocks(own.within).strip()


def texts_differ(texts: Sequence[str], node: Node) -> None:
    """NotTaken where two choices look the same, or one is empty."""
    if any(not text.strip() for text in texts):
        raise NotTaken(
            gettext("a choice has neither words nor a picture that can be shown"), node.line
        )
    folded = [text.strip().casefold() for text in texts]
    if len(set(folded)) < len(folded):
        raise NotTaken(gettext("two choices look the same"), node.line)


def most(count: int, limit: int, what: str, node: Node) -> None:
    """NotTaken for more than we have room for."""
    if count > limit:
        says = gettext("it has {count} {what}; at most {limit} are taken")
        raise NotTaken(says.format(count=count, what=what, limit=limit), node.line)


def said(value: Single) -> str:
    """A value as QTI writes it."""
    return written([value])[0]
