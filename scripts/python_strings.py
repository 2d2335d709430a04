"""The sentences of the Python code: those a translation would find, and those it would miss.

What is a sentence is a guess: two words in a row, or one that ends like one. Commands of the
operator, the demo's story and simulations speak English only, as Django's own commands do.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parents[1]
ENGLISH_ONLY = re.compile(
    r"/(tests|migrations|management|demo|simulate|config)/|privacy/tables|shared/(headers|triggers|acknowledged)"
)
TRANSLATED = {"gettext", "gettext_noop", "gettext_lazy", "ngettext"}
# Ends a line whose string is a key or a name of data, and not said to anybody.
NOT_SAID = "# not said"
# These take nouns and verbs that go with a number, and say them through ngettext.
COUNTED = {"counted", "share_of", "sentence_of_share", "some_have"}
FOR_ENGINEERS = {
    *("ValueError", "TypeError", "RuntimeError", "AssertionError", "KeyError", "LookupError"),
    *("Field", "TypeVar", "cast", "open", "print", "RunPython"),
}
FOR_ENGINEERS_METHODS = {"compile", "execute", "executescript", "write", "strftime", "removeprefix"}
FOR_CODE = {"description", "code", "name", "kind", "verbose_name"}
SENTENCE = re.compile(r"[a-z]{2,},? [a-z]{2,}|^[A-Z][a-z]+ [a-zA-Z]+|[a-z][.?!]$")
NOT_SENTENCE = re.compile(
    r"^(SELECT|CREATE|DROP|PRAGMA|UPDATE|INSERT|DELETE|vendaval\.|manage\.py)"
    r"|__|\\d|\\b|\^|\(\?|image/|text/|%[sd(-]"
)


def files() -> Iterator[Path]:
    """The modules whose sentences people read."""
    for room in ("core/vendaval_core", "server/vendaval"):
        for file in sorted((ROOT / room).rglob("*.py")):
            if not ENGLISH_ONLY.search(str(file.relative_to(ROOT))):
                yield file


def translated(file: Path) -> Iterator[tuple[int, str]]:
    """Line and text of each sentence that a translation finds."""
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Call) and _called(node) in TRANSLATED | COUNTED:
            for said in node.args:
                if isinstance(said, ast.Constant) and isinstance(said.value, str):
                    yield node.lineno, said.value


def bare(file: Path) -> Iterator[tuple[int, str]]:
    """Line and text of each sentence that a translation would miss."""
    text = file.read_text()
    lines = text.splitlines()
    yield from (one for one in _bare(ast.parse(text)) if NOT_SAID not in lines[one[0] - 1])


def _bare(node: ast.AST) -> Iterator[tuple[int, str]]:
    match node:
        case ast.Constant(value=str()) | ast.JoinedStr() as said:
            text = text_of(said)
            if SENTENCE.search(re.sub(r"\{[^{}]*\}", "x", text)) and not NOT_SENTENCE.search(text):
                yield said.lineno, text
            return
        case ast.Expr(value=ast.Constant()) | ast.Assert():
            return
        case ast.Call() if _is_for_code(node):
            return
        case ast.keyword(arg=arg) if arg in FOR_CODE:
            return
        case ast.AnnAssign(value=value):
            yield from () if value is None else _bare(value)
            return
        case ast.arg():
            return
    for child in ast.iter_child_nodes(node):
        yield from _bare(child)


def text_of(node: ast.expr) -> str:
    """A string as it is written, with its placeholders."""
    if isinstance(node, ast.Constant):
        return str(node.value)
    assert isinstance(node, ast.JoinedStr)
    return "".join(
        str(part.value) if isinstance(part, ast.Constant) else f"{{{ast.unparse(part)}}}"
        for part in node.values
    )


def _called(node: ast.Call) -> str:
    return ast.unparse(node.func).rsplit(".", 1)[-1]


def _is_for_code(node: ast.Call) -> bool:
    whole = ast.unparse(node.func)
    return _called(
        node
    ) in TRANSLATED | COUNTED | FOR_ENGINEERS | FOR_ENGINEERS_METHODS or whole.split(".")[0] in {
        "logger",
        "logging",
    }
