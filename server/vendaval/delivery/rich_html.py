"""A written answer as HTML: of what has structure, that structure; of an older one, its Markdown.

Built from what was read, so nothing of what was sent comes through by itself.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from html import escape

from vendaval.shared.markdown import to_html
from vendaval_core.items.rich_text import Mark, Node, Run, is_rich, length, read_rich

TAGS: dict[str, str] = {
    "paragraph": "p",
    "bulletList": "ul",
    "orderedList": "ol",
    "listItem": "li",
    "tableRow": "tr",
    "tableHeader": "th",
    "tableCell": "td",
}
MARK_TAGS: dict[Mark, str] = {
    "bold": "strong",
    "italic": "em",
    "underline": "u",
    "subscript": "sub",
    "superscript": "sup",
}


@dataclass(frozen=True, slots=True)
class Stretch:
    """Where a comment is anchored, in UTF-16 units of the words, and its number."""

    at: int
    length: int
    number: int


def answer_html(response: str) -> str:
    """A written answer as its reader sees it."""
    if not is_rich(response):
        return to_html(response)
    return _block(read_rich(response).root, ())


def commented_html(response: str, stretches: Sequence[Stretch]) -> str:
    """A written answer with the stretches marked that are commented on. Of overlapping ones, the
    later begins where the earlier ends."""
    kept, end = [], 0
    for one in sorted(stretches, key=lambda one: one.at):
        at = max(one.at, end)
        if one.at + one.length > at:
            kept.append(Stretch(at, one.at + one.length - at, one.number))
            end = one.at + one.length
    if not is_rich(response):
        return f'<p class="as-typed">{_words(Run(0, response), kept)}</p>'
    return _block(read_rich(response).root, kept)


def _block(node: Node, stretches: Sequence[Stretch]) -> str:
    within = "".join(
        _block(one, stretches) if isinstance(one, Node) else _run(one, stretches)
        for one in node.within
    )
    if node.kind == "doc":
        return within
    if node.kind == "table":
        return f'<div class="wide"><table><tbody>{within}</tbody></table></div>'  # not said
    start = f' start="{node.start}"' if node.start != 1 else ""
    tag = TAGS[node.kind]
    return f"<{tag}{start}>{within}</{tag}>"


def _run(run: Run, stretches: Sequence[Stretch]) -> str:
    if run.tex is not None:
        end = run.at + length(run.text)
        formula = f'<span class="math inline">{escape(run.tex)}</span>'  # not said
        about = [one for one in stretches if one.at < end and run.at < one.at + one.length]
        return _marked(formula, about[0]) if about else formula
    if run.text == "\n":
        return "<br>"
    said = _words(run, stretches)
    for mark in run.marks:
        tag = MARK_TAGS[mark]
        said = f"<{tag}>{said}</{tag}>"
    return said


def _words(run: Run, stretches: Sequence[Stretch]) -> str:
    return "".join(
        _marked(escape(text), one, last=last) if one is not None else escape(text)
        for text, one, last in _pieces(run, stretches)
    )


def _pieces(run: Run, stretches: Sequence[Stretch]) -> Iterator[tuple[str, Stretch | None, bool]]:
    """A run cut where stretches begin and end: each piece, whose it is, and whether it is the end
    of it."""
    units, at = run.text.encode("utf-16-le"), 0

    def cut(start: int, end: int) -> str:
        return units[2 * start : 2 * end].decode("utf-16-le", "replace")

    size = len(units) // 2
    for one in stretches:
        start, end = max(one.at - run.at, at), min(one.at + one.length - run.at, size)
        if end <= start:
            continue
        yield cut(at, start), None, False
        yield cut(start, end), one, one.at + one.length - run.at <= size
        at = end
    yield cut(at, size), None, False


def _marked(html: str, about: Stretch, *, last: bool = True) -> str:
    number = f"<sup>{about.number}</sup>" if last else ""
    return f"<mark>{html}{number}</mark>"
