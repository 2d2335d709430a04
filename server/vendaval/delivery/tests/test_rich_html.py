"""Written answers as HTML, with the places of comments."""

from __future__ import annotations

import json
import re
from unittest import TestCase

from vendaval.delivery.answer_words import given_words
from vendaval.delivery.rich_html import Stretch, answer_html, commented_html
from vendaval_core.items.rich_text import tidied, words_of
from vendaval_core.tests.parts import key

TRICK = "<script>alert(1)</script>"


def sent(*paragraphs: list[tuple[str, str]]) -> str:
    """A text of paragraphs, each of stretches with a mark or none."""
    content = [
        {
            "type": "paragraph",
            "content": [
                {"type": "text", "text": text, "marks": [{"type": mark}] if mark else []}
                for text, mark in paragraph
            ],
        }
        for paragraph in paragraphs
    ]
    return tidied(json.dumps({"type": "doc", "content": content}, separators=(",", ":")))


def marked(html: str) -> list[str]:
    """What is marked in it, piece by piece, without the numbers."""
    found = re.findall(r"<mark[^>]*>(.*?)(?:<sup.*?</sup>)?</mark>", html)
    return [re.sub("<[^>]+>", "", one) for one in found]


class RichHtmlTests(TestCase):
    def test_structure_comes_through_and_nothing_else(self) -> None:
        html = answer_html(sent([("Wear ", ""), (TRICK, "bold")]))
        self.assertEqual(html, "<p>Wear <strong>&lt;script&gt;alert(1)&lt;/script&gt;</strong></p>")
        self.assertEqual(answer_html("so **bold**"), "<p>so <strong>bold</strong></p>")
        self.assertNotIn("<script", answer_html(TRICK) + commented_html(TRICK, []))

    def test_files_say_the_words_as_they_were_written(self) -> None:
        essay = key("extended_text", id="w", model="m")
        answer = sent([("2*3*4", "bold"), (" is 24", "")], [("1. _no_ list", "")])
        self.assertEqual(given_words(essay, answer), "2*3*4 is 24\n1. _no_ list")
        choices = [{"text": "a **north** mark", "right": True}, {"text": "none"}]
        choice = key("choice", id="c", choices=choices)
        self.assertEqual(given_words(choice, choice.examples.right), "a north mark")

    def test_comments_stand_where_they_were_set(self) -> None:
        answer = sent(
            [("Life ", ""), ("jackets", "italic"), (" first", "")], [("😀 then radio", "")]
        )
        words = words_of(answer)
        at = words.index("jackets") - 2
        html = commented_html(answer, [Stretch(at, 11, 1), Stretch(len(words) + 1 - 5, 5, 2)])
        self.assertEqual(marked(html), ["e ", "jackets", " f", "radio"])
        self.assertEqual(html.count("<sup"), 2, "the number stands once, at the end")
        self.assertIn("<em><mark", html)

    def test_comments_that_overlap_or_reach_the_end_lose_nothing(self) -> None:
        text = "Life jackets first, then the radio."
        for stretches in (
            [(0, 12), (5, 14)],
            [(0, 20), (5, 7)],
            [(30, 5), (0, 1)],
            [(33, 40)],
            [],
        ):
            numbered = [Stretch(at, size, n) for n, (at, size) in enumerate(stretches, 1)]
            for answer in (text, sent([(text[:9], "bold"), (text[9:], "")])):
                html = re.sub("<sup.*?</sup>", "", commented_html(answer, numbered))
                self.assertEqual(re.sub("<[^>]+>", "", html), text)
