"""Items and packages as strangers write them: what they become, and what is refused.

What each interaction, mapping and template is: 1EdTech, Assessment, Section and Item Information
Model 3.0, from memory; the items are made for these tests.
"""

from __future__ import annotations

import base64
import io
import random
from typing import Any
from unittest import TestCase

from PIL import Image

from vendaval_core.errors import ArchiveError
from vendaval_core.exchange.archive import unpacked
from vendaval_core.exchange.qti.item_in import ItemRead, read_item
from vendaval_core.exchange.qti.package_in import find
from vendaval_core.items.mark import Verdict
from vendaval_core.items.processing.nodes import XmlError
from vendaval_core.items.versions import make_version
from vendaval_core.packs.checks import check_family
from vendaval_core.simulate.mutated import mutated

from .qti_items import (
    CHOICE,
    CORRECT,
    MAPPED,
    SCORE,
    SPACE,
    choices,
    declare,
    family_of,
    item,
    mapped,
    png,
)
from .test_qti import taken


class StrangersItemTests(TestCase):
    """Items as others write them, in the second edition unless a test says otherwise."""

    def part(self, read: ItemRead) -> dict[str, Any]:
        family = family_of(read)
        self.assertEqual(check_family(family), [])
        assert read.data is not None
        (part,) = read.data["parts"]
        return dict(part)

    def test_a_choice_with_words_marks_and_formulas(self) -> None:
        body = (
            "<p>A <b>bold</b> * star, H<sub>2</sub>O &amp; <i>more</i> [[x]] {{0}} $5.</p>"
            '<p><m:math xmlns:m="http://www.w3.org/1998/Math/MathML"><m:mfrac><m:mi>a</m:mi>'
            "<m:mn>2</m:mn></m:mfrac></m:math></p><script>alert(1)</script>"
            '<table><tr><th>h</th></tr><tr><td onclick="x()">1</td></tr></table>'
            '<p><a href="https://elsewhere.example">there</a></p>'
        )
        read = item(
            declare("identifier", "single", "B"),
            body + CHOICE.format(most=1, choices=choices("simpleChoice", "ash", "beech")),
        )
        part = self.part(read)
        self.assertEqual([c.get("right", False) for c in part["choices"]], [False, True])
        assert read.data is not None
        prompt = read.data["prompt"]
        for piece in (r"\frac{a}{2}", "**bold**", r"\*", "H$_{2}$O", r"\[\[x\]\]", "| h |", r"\$5"):
            self.assertIn(piece, prompt)
        self.assertNotIn("alert", prompt)
        self.assertTrue(any("script" in what for what in read.lost), read.lost)
        self.assertTrue(any("a link" in what for what in read.lost), read.lost)
        self.assertTrue(make_version(family_of(read), 1).prompt.count("["))

    def test_mappings_become_shares_points_or_rules(self) -> None:
        texts = choices("simpleChoice", "ash", "beech", "cedar", "dune")
        body = CHOICE.format(most=0, choices=texts)
        shares = mapped(-1, "0", A=1, B=1)
        points = mapped(0, "0", A=2, B=1, C=-1)
        odd = mapped(0, "0", A=0.7, B=0.31)
        for more, expected in ((shares, "partial"), (points, "bounds"), (odd, "by_rules")):
            read = item(declare("identifier", "multiple", "A", "B", more=more), body, MAPPED)
            part = self.part(read)
            self.assertTrue(expected in part or part["kind"] == expected, (expected, part))
        key = make_version(family_of(read), 1).parts[0]
        only = next(c for c in key.keys[0].choices if c.text == "ash").id  # type: ignore[attr-defined]
        self.assertAlmostEqual(float(key.mark(only).share), 0.7 / 1.01, 3)

    def test_every_interaction_that_the_player_has(self) -> None:
        pair = '<simpleAssociableChoice identifier="{}" matchMax="1">{}</simpleAssociableChoice>'
        left = "".join(pair.format(f"L{n}", f"left {n}") for n in "12")
        right = "".join(pair.format(f"R{n}", f"right {n}") for n in "123")
        at = '<hotspotChoice identifier="{}" shape="circle" coords="{}"/>'
        picture = '<object type="image/png" data="a.png" width="80" height="60"/>'
        gap = '<gapText identifier="{}" matchMax="1">{}</gapText>'
        for declared, body, kind in (
            (
                declare("identifier", "ordered", "C", "A", "B"),
                '<orderInteraction responseIdentifier="RESPONSE">'
                f"{choices('simpleChoice', 'ash', 'beech', 'cedar')}</orderInteraction>",
                "order",
            ),
            (
                declare("directedPair", "multiple", "L1 R2", "L2 R1"),
                '<matchInteraction responseIdentifier="RESPONSE" maxAssociations="2">'
                f"<simpleMatchSet>{left}</simpleMatchSet><simpleMatchSet>{right}</simpleMatchSet>"
                "</matchInteraction>",
                "match",
            ),
            (
                declare("pair", "multiple", "L1 R1", "R2 L2"),
                '<associateInteraction responseIdentifier="RESPONSE" maxAssociations="2">'
                f"{left}{right}</associateInteraction>",
                "associate",
            ),
            (
                declare("identifier", "single", "B"),
                '<hottextInteraction responseIdentifier="RESPONSE" maxChoices="1"><p>The '
                '<hottext identifier="A">sheet</hottext> or the <hottext identifier="B">tiller'
                "</hottext>.</p></hottextInteraction>",
                "hot_text",
            ),
            (
                declare("identifier", "single", "H2"),
                f'<hotspotInteraction responseIdentifier="RESPONSE" maxChoices="1">{picture}'
                f"{at.format('H1', '10,10,5')}{at.format('H2', '40,40,5')}</hotspotInteraction>",
                "hotspot",
            ),
            (
                declare("directedPair", "multiple", "G1 P1", "G2 P2"),
                '<gapMatchInteraction responseIdentifier="RESPONSE">'
                f"{gap.format('G1', 'bow')}{gap.format('G2', 'stern')}{gap.format('G3', 'keel')}"
                '<p>The <gap identifier="P1"/> is ahead of the <gap identifier="P2"/>.</p>'
                "</gapMatchInteraction>",
                "gap_match",
            ),
            (
                declare("directedPair", "multiple", "G1 P1", "G2 P2"),
                f'<graphicGapMatchInteraction responseIdentifier="RESPONSE">{picture}'
                f"{gap.format('G1', 'bow')}{gap.format('G2', 'stern')}"
                '<associableHotspot identifier="P1" matchMax="1" shape="rect" coords="0,0,9,9"/>'
                '<associableHotspot identifier="P2" matchMax="1" shape="rect" coords="20,0,29,9"/>'
                "</graphicGapMatchInteraction>",
                "graphic_gap_match",
            ),
            (
                declare("identifier", "single", "B"),
                '<p>It <inlineChoiceInteraction responseIdentifier="RESPONSE">'
                f"{choices('inlineChoice', 'ash', 'beech')}</inlineChoiceInteraction> grows.</p>",
                "inline_choice",
            ),
            (
                declare("string", "single", "York"),
                '<p>Richard of <textEntryInteraction responseIdentifier="RESPONSE"/>.</p>',
                "text_entry",
            ),
            (
                declare("integer", "single", "35"),
                '<sliderInteraction responseIdentifier="RESPONSE" lowerBound="0" upperBound="90"'
                ' step="5"/>',
                "slider",
            ),
            (
                declare("string", "single"),
                '<extendedTextInteraction responseIdentifier="RESPONSE"><prompt>Why?</prompt>'
                "</extendedTextInteraction>",
                "extended_text",
            ),
            (
                declare("file", "single"),
                '<uploadInteraction responseIdentifier="RESPONSE"/>',
                "upload",
            ),
        ):
            read = item(declared, f"<p>Do it.</p>{body}", a_png=png())
            self.assertEqual((read.refused, self.part(read)["kind"]), ("", kind))

    def test_points_that_are_mapped_by_areas(self) -> None:
        more = '<areaMapping><areaMapEntry shape="circle" coords="40,20,9" mappedValue="1"/></areaMapping>'
        body = (
            '<selectPointInteraction responseIdentifier="RESPONSE" maxChoices="1">'
            '<object type="image/png" data="a.png" width="80" height="60"/></selectPointInteraction>'
        )
        processing = CORRECT.replace("match_correct", "map_response_point")
        read = item(declare("point", "single", "40 20", more=more), body, processing, a_png=png())
        key = make_version(family_of(read), 1).parts[0]
        # Ours counts from below: 20 pixels from above are 40 from the foot of 60.
        self.assertIs(key.mark("40 48").verdict, Verdict.RIGHT)
        self.assertIs(key.mark("40 50").verdict, Verdict.WRONG)
        part = self.part(read)
        self.assertIn("data:image/png;base64,", part["figure"]["svg"])

    def test_rules_of_their_own_are_run_and_what_they_say_is_told(self) -> None:
        both = declare("float", "single", "2", name="A") + declare("float", "single", "3", name="B")
        body = (
            '<p>Two numbers whose sum is five: <textEntryInteraction responseIdentifier="A"/> and '
            '<textEntryInteraction responseIdentifier="B"/></p>'
        )
        processing = """<outcomeDeclaration identifier="FB" cardinality="single" baseType="identifier"/>
        <responseProcessing><responseCondition><responseIf><equal toleranceMode="exact"><sum>
        <variable identifier="A"/><variable identifier="B"/></sum><baseValue baseType="float">5</baseValue>
        </equal><setOutcomeValue identifier="SCORE"><baseValue baseType="float">2</baseValue>
        </setOutcomeValue></responseIf><responseElse><setOutcomeValue identifier="FB">
        <baseValue baseType="identifier">no</baseValue></setOutcomeValue></responseElse>
        </responseCondition></responseProcessing><modalFeedback outcomeIdentifier="FB" identifier="no"
        showHide="show">Add them up.</modalFeedback>"""
        read = item(both, body, processing)
        self.assertEqual(self.part(read)["kind"], "by_rules")
        key = make_version(family_of(read), 1).parts[0]
        right, wrong = key.mark('a "4.5"\nb "0.5"'), key.mark('a "1"\nb "1"')
        self.assertEqual((right.verdict, wrong.says), (Verdict.RIGHT, "Add them up."))
        half = key.mark('a "4"')
        self.assertIs(half.verdict, Verdict.INCOMPLETE)
        self.assertIs(key.mark("a [[[[[[").verdict, Verdict.INCOMPLETE)

    def test_a_template_becomes_a_family_with_versions(self) -> None:
        declared = (
            declare("integer", "single")
            + '<templateDeclaration identifier="N" cardinality="single" baseType="integer"/>'
            + '<templateDeclaration identifier="WORD" cardinality="single" baseType="string"/>'
        )
        template = """<templateProcessing><setTemplateValue identifier="N"><randomInteger min="2"
        max="9"/></setTemplateValue><templateConstraint><not><match><variable identifier="N"/>
        <baseValue baseType="integer">5</baseValue></match></not></templateConstraint>
        <templateCondition><templateIf><gt><variable identifier="N"/><baseValue baseType="integer">6
        </baseValue></gt><setTemplateValue identifier="WORD"><baseValue baseType="string">many</baseValue>
        </setTemplateValue></templateIf><templateElse><setTemplateValue identifier="WORD">
        <baseValue baseType="string">few</baseValue></setTemplateValue></templateElse></templateCondition>
        <setCorrectResponse identifier="RESPONSE"><product><variable identifier="N"/>
        <baseValue baseType="integer">10</baseValue></product></setCorrectResponse></templateProcessing>"""
        body = (
            '<p>Ten times <printedVariable identifier="N"/>, which is <printedVariable'
            ' identifier="WORD"/>: <textEntryInteraction responseIdentifier="RESPONSE"/></p>'
        )
        text = item(declared, body)
        self.assertIn("right", text.refused, "its right answer is drawn")
        whole = (
            f'<assessmentItem {SPACE} identifier="t" title="Ten">{declared}{SCORE}{template}'
            f"<itemBody>{body}</itemBody>{CORRECT}</assessmentItem>"
        )
        read = read_item(whole.encode())
        family = family_of(read)
        self.assertEqual(check_family(family), [])
        seen = set()
        for seed in range(1, family.versions + 1):
            version = make_version(family, seed)
            n = version.variables["n"]
            seen.add(n)
            self.assertIn(f"Ten times {n}, which is {'many' if n > 6 else 'few'}", version.prompt)  # type: ignore[operator]
            self.assertIs(version.parts[0].mark(str(10 * n)).verdict, Verdict.RIGHT)  # type: ignore[operator]
        self.assertEqual(seen, {2, 3, 4, 6, 7, 8, 9})

    def test_what_cannot_be_taken_is_refused_with_its_line_and_reason(self) -> None:
        one = choices("simpleChoice", "ash", "beech")
        for declared, body, processing, says in (
            (
                declare("identifier", "single"),
                CHOICE.format(most=1, choices=one),
                "",
                "what is right",
            ),
            ("", CHOICE.format(most=1, choices=one), "", "nothing is declared"),
            (declare("identifier", "single", "A"), "<p>Only text.</p>", "", "nothing is asked"),
            (
                declare("identifier", "single", "A"),
                '<customInteraction responseIdentifier="RESPONSE"/>',
                "",
                "custom-interaction",
            ),
            (
                declare("identifier", "single", "A"),
                CHOICE.format(
                    most=1, choices=one + one.replace('"A"', '"C"').replace('"B"', '"D"')
                ),
                "",
                "look the same",
            ),
            (
                declare("identifier", "single", "A"),
                CHOICE.format(most=1, choices=one),
                "<responseProcessing><setOutcomeValue identifier='SCORE'><customOperator class='x'/>"
                "</setOutcomeValue></responseProcessing>",
                "custom-operator",
            ),
            (
                declare("identifier", "single", "A"),
                CHOICE.format(most=1, choices=one),
                "<responseProcessing><setOutcomeValue identifier='SCORE'><baseValue"
                " baseType='float'>0</baseValue></setOutcomeValue></responseProcessing>",
                "earns no points",
            ),
        ):
            read = item(declared, body, processing)
            self.assertIsNone(read.data)
            self.assertIn(says, read.refused)


MANIFEST = """<manifest xmlns="http://www.imsglobal.org/xsd/imscp_v1p1" identifier="m">
<resources xml:base="content/"><resource identifier="r1" type="imsqti_item_xmlv2p1" href="a%20b.xml">
<metadata><imsmd:lom xmlns:imsmd="http://www.imsglobal.org/xsd/imsmd_v1p2"><imsmd:general>
<imsmd:title><imsmd:langstring>Shine</imsmd:langstring></imsmd:title></imsmd:general>
<imsmd:educational><imsmd:difficulty><imsmd:value><imsmd:langstring>very difficult</imsmd:langstring>
</imsmd:value></imsmd:difficulty><imsmd:typicallearningtime><imsmd:datetime>PT1M30S</imsmd:datetime>
</imsmd:typicallearningtime></imsmd:educational></imsmd:lom></metadata></resource>
<resource identifier="r2" type="imsqti_item_xmlv2p1" href="../../../etc/passwd"/>
<resource identifier="r3" type="flash/x" href="game.swf"/></resources></manifest>"""


class PackageTests(TestCase):
    def files(self) -> dict[str, bytes]:
        body = CHOICE.format(most=1, choices=choices("simpleChoice", "ash", "beech"))
        one = (
            f'<assessmentItem {SPACE} identifier="i" title="t">{declare("identifier", "single", "A")}'
            f'{SCORE}<itemBody><p>a</p><p><img src="../p.png" alt="b"/></p>{body}</itemBody>{CORRECT}'
            "</assessmentItem>"
        )
        return {
            "imsmanifest.xml": MANIFEST.encode(),
            "content/a b.xml": one.encode(),
            "p.png": png(),
        }

    def test_names_lead_nowhere_else_and_everything_left_out_is_listed(self) -> None:
        files = self.files()
        found = find(files)
        self.assertEqual(list(found.items), ["content/a b.xml"])
        self.assertEqual(len(found.notes), 2, found.notes)
        (one,) = taken(files)
        assert one.read.data is not None, one.read.refused
        data = one.read.data
        self.assertEqual((data["difficulty"], data["seconds"]), (5, 90.0))
        picture = base64.b64decode(data["figure"]["svg"].split("base64,")[1].split('"')[0])
        self.assertEqual(Image.open(io.BytesIO(picture)).size, (80, 60))

    def test_mutated_packages_are_read_or_refused_and_nothing_else_happens(self) -> None:
        """The command `measure_exchange` takes 2,000, and measures time and memory."""
        rng = random.Random(5)
        read = 0
        for data in mutated(self.files(), rng, 150):
            try:
                files = unpacked(data)
                items = taken(files)
            except (ArchiveError, XmlError) as error:
                self.assertTrue(str(error))
                continue
            for one in items:
                self.assertTrue(one.read.refused or one.read.data is not None or one.of)
                read += one.read.data is not None
        self.assertGreater(read, 4)
