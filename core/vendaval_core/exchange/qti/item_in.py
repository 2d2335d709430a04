"""An item of QTI 3 or 2.x as a family: its text, its parts, how it is marked, what it says."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from pydantic import ValidationError

from vendaval_core.language import gettext

from ...errors import ExpressionError, FamilyError
from ...items.processing.declarations import read_declarations
from ...items.processing.nodes import Node, XmlError, read_xml
from ...items.processing.program import STANDARD, rules_of, template_of
from ...items.processing.values import ProcessingError
from ...items.versions import make_version
from ...packs.families import family_from_data
from ..sheet_rows import LONGEST_TITLE, USUAL
from .asked import NotTaken, Plain, Reading, is_solution
from .body_in import BodyRead, read_body
from .feedback_in import read_feedback
from .marked_in import Marked
from .pictures_in import resolved, stacked
from .templates_in import template_runs, variables_of, woven

MOST_PROMPT, MOST_STEPS = 4_000, 10


@dataclass(slots=True)
class ItemRead:
    """An item. data: a family's fields without its study section and source, None where it is
    refused: refused says why, line where. full: its points in all. lost: what is not kept."""

    identifier: str
    title: str
    path: str = ""
    data: dict[str, Plain] | None = None
    lost: list[str] = field(default_factory=list)
    remarks: list[str] = field(default_factory=list)
    refused: str = ""
    line: int = 0
    full: float = 1.0


def read_item(
    content: bytes | Node, files: Mapping[str, bytes] | None = None, path: str = "item.xml"
) -> ItemRead:
    """Return an item as it would be taken in. files: of its package. path: of the item in it.
    Never raises for what stands in the file."""
    try:
        item = content if isinstance(content, Node) else read_xml(content)
    except XmlError as error:
        return ItemRead(path, path, path, refused=error.what, line=error.line)
    found = ItemRead(item.get("identifier") or path, title_of(item, path), path)
    if item.name != "qti-assessment-item":
        says = gettext("this is <{name}>, not an item of QTI 2 or 3")
        found.refused, found.line = says.format(name=item.name.removeprefix("qti-")), item.line
        return found
    try:
        _read(item, files or {}, path, found)
    except (NotTaken, ProcessingError) as error:
        found.data, found.refused, found.line = None, error.what, error.line
    except (ExpressionError, FamilyError) as error:
        found.data, found.refused = None, str(error)
    except (ArithmeticError, RecursionError):
        found.data, found.refused = None, gettext("a number in it is too large, or it is nested")
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(one) for one in first["loc"] if not str(one).startswith("kind:"))
        found.data, found.refused = None, f"{where}: {first['msg']}"
    return found


def title_of(item: Node, path: str) -> str:
    """A title for lists: what the item is called."""
    text = " ".join((item.get("title") or item.get("identifier") or path).split())
    text = text if len(text) <= LONGEST_TITLE else f"{text[: LONGEST_TITLE - 1]}…"
    return text.replace("[[", "[ [").ljust(3, ".")


def _read(item: Node, files: Mapping[str, bytes], path: str, found: ItemRead) -> None:
    declared = read_declarations(item)
    folder = path.rpartition("/")[0]
    rules = _rules(item.one("qti-response-processing"), files, folder)
    reading = Reading(declared, files, folder, rules)
    found.lost, found.remarks = reading.lost, reading.remarks
    body = item.one("qti-item-body")
    if body is None:
        raise NotTaken(gettext("it has no body"), item.line)
    _notes(reading, item)
    runs = template_runs(item, declared)
    feedback = read_feedback(reading, item)
    plain_body = _without_feedback(body)
    bodies: list[BodyRead] = []
    for run in runs:
        reading.declared, reading.figures = run.declared(declared), []
        bodies.append(read_body(reading, plain_body))
    stimulus = _stimulus(reading, item)
    marked = Marked(reading, declared, runs, [one.asked for one in bodies], feedback, item.line)
    parts = marked.parts()
    data: dict[str, Plain] = {
        "title": found.title,
        "difficulty": USUAL["difficulty"],
        "seconds": USUAL["seconds"],
        "elsewhere": True,
    }
    if variables := variables_of(runs):
        data["variables"] = variables
    prompt = woven([one.prompt for one in bodies]) or gettext("Answer.")
    if len(prompt) > MOST_PROMPT:
        raise NotTaken(gettext("its text is longer than {most} letters").format(most=MOST_PROMPT))
    data["prompt"] = f"{prompt}\n"
    if stimulus:
        data["stimulus"] = f"{stimulus}\n"
    if reading.figures:
        pictures = [one for _, one in reading.figures]
        svg, alt = stacked(pictures, [caption for caption, _ in reading.figures])
        data["figure"] = {"alt": alt or gettext("A picture without a description"), "svg": svg}
    data["parts"] = parts
    if hints := marked.hints():
        data["hints"] = hints
    data["solution"] = _solution(reading, item, marked)
    left = [one.text for one in feedback.said if one.text not in feedback.used]
    for text in left:
        reading.note(gettext("what is said to an answer: {text}").format(text=text[:80]))
    if reading.model and all(part.get("model") != reading.model for part in parts):
        reading.note(gettext("what is said to markers"))
    found.data, found.full = data, marked.full
    family = family_from_data("item", "topic", data | {"study": "start", "source": "QTI"})
    make_version(family, 1)
    if not _finite(data):
        raise NotTaken(gettext("a number in it has no end"))


def _rules(processing: Node | None, files: Mapping[str, bytes], folder: str) -> list[Node]:
    """The rules of response processing, also those of a template that the package brings."""
    if processing is None or processing.children or template_of(processing) in STANDARD:
        return rules_of(processing)
    for name in (processing.get("template-location"), processing.get("template")):
        path = resolved(folder, name) if name else None
        if path is not None and path in files:
            try:
                return rules_of(read_xml(files[path]))
            except XmlError as error:
                raise NotTaken(f"{path}: {error.what}", error.line) from None
    return rules_of(processing)


def _finite(value: Plain) -> bool:
    """Whether all numbers in it can be written."""
    if isinstance(value, dict):
        return all(map(_finite, value.values()))
    if isinstance(value, list):
        return all(map(_finite, value))
    return not isinstance(value, float) or math.isfinite(value)


def _notes(reading: Reading, item: Node) -> None:
    """What is read and not kept."""
    if item.get("adaptive") in {"true", "1"}:
        reading.note(gettext("that the item goes on after an answer (adaptive)"))
    for node in item.children:
        if node.name == "qti-stylesheet":
            reading.note(gettext("a style sheet"))
        elif node.name == "qti-companion-materials-info":
            tools = [one.name.removeprefix("qti-") for one in node.children]
            reading.note(gettext("tools beside it: {tools}").format(tools=", ".join(tools)))
        elif node.name == "qti-catalog-info" and len(node.children) > 1:
            reading.note(gettext("other forms of its text (catalogue)"))


def _without_feedback(node: Node) -> Node:
    """A body without what is shown after an answer only."""
    within = tuple(
        one if isinstance(one, str) else _without_feedback(one)
        for one in node.within
        if isinstance(one, str)
        or one.name not in {"qti-feedback-block", "qti-feedback-inline", "qti-modal-feedback"}
    )
    return Node(node.name, node.space, node.attributes, node.line, within)


def _stimulus(reading: Reading, item: Node) -> str:
    """Texts that several items share."""
    texts = []
    for ref in item.all("qti-assessment-stimulus-ref"):
        path = resolved(reading.folder, ref.get("href"))
        if path is None or path not in reading.files:
            reading.note(
                gettext("a shared text that is missing: {name}").format(name=ref.get("href")[:80])
            )
            continue
        try:
            root = read_xml(reading.files[path])
        except XmlError as error:
            raise NotTaken(f"{path}: {error.what}", error.line) from None
        own = reading.folder
        reading.folder = path.rpartition("/")[0]
        body = root.one("qti-stimulus-body") or root
        texts.append(reading.blocks(body.within))
        reading.folder = own
    return "\n\n".join(text for text in texts if text.strip())


def _solution(reading: Reading, item: Node, marked: Marked) -> list[str]:
    """The worked solution: as a block says it, what is said to a right answer, or that answer."""
    for node in item.walk():
        if node.name == "qti-rubric-block" and is_solution(node):
            inner = node.one("qti-content-body") or node
            steps = [one for one in inner.children if one.get("class") == "step"]
            texts = [reading.blocks(one.within) for one in steps] or [reading.blocks(inner.within)]
            if texts := [text for text in texts if text.strip()]:
                return _steps(reading, texts)
    if told := [text for text in marked.said_to_right() if text.strip()]:
        marked.feedback.used |= set(told)
        return _steps(reading, told)
    reading.remark(
        gettext("No worked solution is in the file, so the right answer stands in its place.")
    )
    if len(marked.runs) > 1:
        return [gettext("The right answer is shown above.")]
    return [marked.right_words()]


def _steps(reading: Reading, texts: Sequence[str]) -> list[str]:
    """As many steps of a solution as there is room for."""
    if len(texts) > MOST_STEPS:
        says = gettext("steps of the solution beyond the first {most}")
        reading.note(says.format(most=MOST_STEPS))
    return list(texts[:MOST_STEPS])
