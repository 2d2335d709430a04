"""Texts with structure: what is kept of what was sent, its words, and places in them."""

from __future__ import annotations

import json
import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from vendaval_core.items.rich_text import (
    DEEPEST,
    LONGEST,
    MOST_NODES,
    Node,
    RichTextError,
    Run,
    count_words,
    length,
    read_rich,
    tidied,
    words_of,
)
from vendaval_core.tests.parts import key


def text(words: str, *marks: str) -> dict[str, Any]:
    made: dict[str, Any] = {"type": "text", "text": words}
    return made | ({"marks": [{"type": mark} for mark in marks]} if marks else {})


def block(kind: str, *within: dict[str, Any], **attrs: Any) -> dict[str, Any]:
    made: dict[str, Any] = {"type": kind}
    return made | ({"attrs": attrs} if attrs else {}) | {"content": list(within)}


def para(*within: dict[str, Any]) -> dict[str, Any]:
    return block("paragraph", *within)


def sent(*within: dict[str, Any]) -> str:
    return json.dumps(block("doc", *within), separators=(",", ":"))


def runs(node: Node) -> list[Run]:
    return [run for one in node.within for run in (runs(one) if isinstance(one, Node) else [one])]


LEAVES = st.one_of(
    st.builds(text, st.text(min_size=1, max_size=12), st.sampled_from(["bold", "underline"])),
    st.just({"type": "hardBreak"}),
    st.just({"type": "formula", "attrs": {"tex": r"\frac{d}{v}", "text": "d/v"}}),
)
PARAGRAPHS = st.lists(LEAVES, max_size=4).map(lambda within: para(*within))
ITEMS = st.recursive(
    PARAGRAPHS,
    lambda inner: st.lists(inner, min_size=1, max_size=3).map(
        lambda of: block("bulletList", *(block("listItem", para(), one) for one in of))
    ),
    max_leaves=5,
)
TABLES = st.lists(ITEMS, min_size=1, max_size=3).map(
    lambda of: block("table", block("tableRow", *(block("tableCell", one) for one in of)))
)
BLOCKS = st.one_of(ITEMS, TABLES)


class RichTextTests(unittest.TestCase):
    def test_its_words_line_by_line(self) -> None:
        doc = sent(
            para(text("Speed is "), {"type": "formula", "attrs": {"tex": "d/t", "text": "d/t"}}),
            block(
                "orderedList",
                block("listItem", para(text("Measure"))),
                block("listItem", para(text("Divide", "bold"))),
                start=3,
            ),
            block(
                "table",
                block("tableRow", block("tableHeader", para(text("a"))), block("tableHeader")),
                block("tableRow", block("tableCell", para(text("1"))), block("tableCell", para())),
            ),
            para(text("End"), {"type": "hardBreak"}, text("of it")),
        )
        words = "Speed is d/t\n3. Measure\n4. Divide\na | \n1 | \nEnd\nof it"
        self.assertEqual(words_of(doc), words)
        self.assertEqual(words_of(tidied(doc)), words)

    @given(st.lists(BLOCKS, max_size=4))
    def test_what_is_kept_is_kept_again_and_every_run_stands_where_it_says(
        self, blocks: list[dict[str, Any]]
    ) -> None:
        kept = tidied(sent(*blocks))
        self.assertEqual(tidied(kept), kept)
        if kept:
            read = read_rich(kept)
            units = read.text.encode("utf-16-le")
            for run in runs(read.root):
                stands = units[2 * run.at : 2 * (run.at + length(run.text))]
                self.assertEqual(stands.decode("utf-16-le"), run.text)

    def test_nothing_else_comes_through(self) -> None:
        tricky = json.dumps(
            {
                "type": "doc",
                "onload": "x()",
                "content": [
                    block("paragraph", text("a\x00b\nc", "bold", "link", "bold"), style="x")
                    | {"onclick": "x()"}
                ],
            },
            separators=(",", ":"),
        )
        marks = [{"type": "bold"}]
        kept = json.loads(tidied(tricky))
        self.assertEqual(
            kept, block("doc", para({"type": "text", "text": "a b c", "marks": marks}))
        )
        self.assertEqual(tidied(sent(para(text("  ")), para())), "", "an empty text is no answer")

    def test_what_is_no_such_text_is_refused(self) -> None:
        deep = para(text("x"))
        for _ in range(DEEPEST):
            deep = block("bulletList", block("listItem", deep))
        for wrong in (
            sent(block("image", src="x")),
            sent(text("bare")),
            sent(para(block("table"))),
            sent(deep),
            sent(*(para() for _ in range(MOST_NODES + 1))),
            sent(para(text("x" * LONGEST))),
            '{"type":"doc","content":' + "[" * 5000,
            '{"type":"doc","content":{}}',
            sent(para({"type": "formula", "attrs": {"tex": "x" * 700, "text": ""}})),
        ):
            with self.subTest(wrong[:60]), self.assertRaises(RichTextError):
                tidied(wrong)

    def test_words_are_counted_as_people_count_them(self) -> None:
        # The same examples are in the browser's counting: web/src/player/kinds/extended_text.
        for words, said in (
            ("", 0),
            ("It’s a four-knot tide, isn't it?", 6),
            ("at 13:50 – 2.4 m", 4),
            ("São João | água_viva", 4),
            ("…", 0),
        ):
            self.assertEqual(count_words(words), said, words)

    def test_a_key_says_how_long_it_is(self) -> None:
        asked = key("extended_text", id="w", model="m", words={"least": 3, "most": 5})
        says = asked.read_back(sent(para(text("one two", "bold")))).says
        self.assertEqual(says, "2 words. The question asks for 3 to 5.")
        self.assertEqual(asked.read_back("").state, "blank")
        self.assertEqual(asked.answer_words("so **bold**"), "so bold", "as texts used to be kept")
