"""Nothing of a stranger's item is dropped without a word, and none of its words mean anything here.

The items are made for these tests.
"""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from vendaval_core.exchange.qti.item_in import ItemRead
from vendaval_core.exchange.qti.package_in import find
from vendaval_core.items.versions import make_version

from .qti_items import CHOICE, CORRECT, choices, declare, family_of, item, png

ENTRY = '<textEntryInteraction responseIdentifier="{}"/>'
BEECH = CHOICE.format(most=1, choices=choices("simpleChoice", "ash", "beech"))
B = declare("identifier", "single", "B")


def choice(before: str, **files: bytes) -> ItemRead:
    return item(B, before + BEECH, **files)


def data_of(read: ItemRead) -> dict[str, Any]:
    assert read.data is not None, read.refused
    return read.data


class KeptTests(TestCase):
    def test_what_is_said_to_learners_is_shown_and_what_is_said_to_others_noted(self) -> None:
        rubric = '<rubricBlock view="{}"><p>{}</p></rubricBlock>'
        read = choice(
            rubric.format("candidate tutor", "Look at the <b>tide table</b> first.")
            + rubric.format("scorer", "Half marks for a dash.")
            + rubric.format("proctor", "Ten minutes.")
            + "<div><p>Then:</p><customInteraction2/></div>"
            + "<qti-positions/>"
        )
        self.assertIn("**tide table**", data_of(read)["prompt"])
        noted = " ".join(read.lost)
        for what in ("markers", "proctor", "custom-interaction2", "positions"):
            self.assertIn(what, noted)
        self.assertNotIn("Half marks", str(read.data))

    def test_markers_are_told_what_the_file_tells_them(self) -> None:
        body = (
            '<extendedTextInteraction responseIdentifier="RESPONSE"/>'
            '<rubricBlock view="scorer"><p>A lee shore.</p></rubricBlock>'
            '<rubricBlock view="scorer tutor"><p>Or a sandbank.</p></rubricBlock>'
        )
        read = item(declare("string", "single"), body, "")
        self.assertEqual(data_of(read)["parts"][0]["model"], "A lee shore.\n\nOr a sandbank.")
        self.assertNotIn("markers", " ".join(read.lost))

    def test_a_text_that_is_cut_says_so(self) -> None:
        long = "<modalFeedback outcomeIdentifier='F' identifier='a'>" + "word " * 300
        read = choice(f"{long}</modalFeedback>")
        self.assertIn("longer than 1000 letters: word word", " ".join(read.lost))

    def test_places_for_values_are_none_in_strangers_texts(self) -> None:
        body = (
            "<p>[[1 + 1]] <code>[[1 + 1]]</code></p><pre>[[2 * 2]]</pre>"
            '<p><m:math xmlns:m="http://www.w3.org/1998/Math/MathML"><m:mtext>[[3 $ 3]]</m:mtext>'
            '</m:math></p><p><img src="a.png" alt="[[4 * 4]]"/></p>'
        )
        read = item(
            declare("string", "single", "[[5 * 5]]"),
            f"{body}<p>Type: {ENTRY.format('RESPONSE')}</p>",
            a_png=png(),
        )
        version = make_version(family_of(read), 1)
        for made in ("2", "4", "6", "16"):
            self.assertNotIn(made, version.prompt.replace("2 * 2", "").replace("4 * 4", ""))
        self.assertIn("[[2 * 2]]", version.prompt)
        assert version.figure is not None
        self.assertIn("[[4 * 4]]", version.figure.alt)
        self.assertEqual(version.parts[0].right_words(), "[[5 * 5]]")
        self.assertTrue(version.parts[0].mark("[[5 * 5]]").share)

    def test_labels_of_fields_are_plain_words(self) -> None:
        declared = declare("float", "single", "1", name="A") + declare(
            "float", "single", "2", name="B"
        )
        rules = "".join(
            f'<responseCondition><responseIf><match><variable identifier="{name}"/><correct '
            f'identifier="{name}"/></match><setOutcomeValue identifier="SCORE"><sum><variable '
            'identifier="SCORE"/><baseValue baseType="float">1</baseValue></sum>'
            "</setOutcomeValue></responseIf></responseCondition>"
            for name in "AB"
        )
        body = (
            "<table><tr><th>Mark_1</th><th>Depth <i>d</i></th></tr>"
            f"<tr><td>Low * water</td><td>{ENTRY.format('A')} m</td></tr>"
            f"<tr><td>High</td><td>{ENTRY.format('B')} m</td></tr></table>"
        )
        read = item(declared, body, f"<responseProcessing>{rules}</responseProcessing>")
        (part,) = data_of(read)["parts"]
        self.assertEqual(part["columns"], ["Mark_1", "Depth d"])
        self.assertEqual([row["label"] for row in part["rows"]], ["Low * water", "High"])
        self.assertTrue(part.get("partial", True))
        key = make_version(family_of(read), 1).parts[0]
        self.assertEqual(key.mark("a 1\nb 3").share * 2, 1)

    def test_a_table_that_is_marked_otherwise_is_refused(self) -> None:
        declared = declare("float", "single", "1", name="A") + declare(
            "float", "single", "2", name="B"
        )
        rules = (
            '<responseCondition><responseIf><gt><variable identifier="A"/><variable '
            'identifier="B"/></gt></responseIf><responseElse><setOutcomeValue identifier="SCORE">'
            '<baseValue baseType="float">1</baseValue></setOutcomeValue></responseElse>'
            "</responseCondition>"
        )
        cells = "".join(f"<tr><td>{n}</td><td>{ENTRY.format(n)}</td></tr>" for n in "AB")
        body = f"<table><tr><th>Mark</th><th>Depth</th></tr>{cells}</table>"
        read = item(declared, body, f"<responseProcessing>{rules}</responseProcessing>")
        self.assertIn("cell by cell", read.refused)

    def test_numbers_without_end_are_refused_where_they_stand(self) -> None:
        picture = '<object type="image/png" data="a.png" width="80" height="60"/>'
        body = f'<selectPointInteraction responseIdentifier="RESPONSE">{picture}'
        for right, area in (("1e999 4", ""), ("4 4", "1e999,4,3"), ("nan 4", "")):
            more = (
                '<areaMapping defaultValue="0"><areaMapEntry shape="circle" mappedValue="1" '
                f'coords="{area}"/></areaMapping>'
                if area
                else ""
            )
            read = item(
                declare("point", "single", right, more=more),
                f"{body}</selectPointInteraction>",
                a_png=png(),
            )
            self.assertTrue(read.refused, (right, area))
            self.assertGreater(read.line, 0)

    def test_rules_that_the_package_brings_are_run(self) -> None:
        text = (
            "<responseProcessing><responseCondition><responseIf><isNull><variable identifier="
            '"RESPONSE"/></isNull></responseIf><responseElseIf><match><variable identifier='
            '"RESPONSE"/><correct identifier="RESPONSE"/></match><setOutcomeValue identifier='
            '"SCORE"><baseValue baseType="float">4</baseValue></setOutcomeValue></responseElseIf>'
            "</responseCondition></responseProcessing>"
        )
        named = CORRECT.replace("match_correct", "own").replace(
            "<responseProcessing", '<responseProcessing templateLocation="rules.xml"'
        )
        read = item(B, BEECH, named, rules_xml=text.encode())
        self.assertEqual(data_of(read)["parts"][0]["kind"], "choice")
        self.assertIn("own", item(B, BEECH, named).refused)

    def test_resources_are_found_whatever_they_are_called(self) -> None:
        manifest = (
            '<manifest xmlns="http://www.imsglobal.org/xsd/imscp_v1p1"><resources><resource '
            'identifier="r" type="imsqti_apipitem_xmlv2p1" href="items\\one.xml"/></resources>'
            "</manifest>"
        )
        files = {"imsmanifest.xml": manifest.encode(), "items/one.xml": b"<assessmentItem/>"}
        self.assertEqual(list(find(files).items), ["items/one.xml"])
