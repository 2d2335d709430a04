"""Tests of strangers: what becomes of their rules and questions, and what a test here can't do.

The form: 1EdTech, Assessment, Section and Item Information Model 3.0 and 2.1, from memory; the
tests are made for these checks.
"""

from __future__ import annotations

from unittest import TestCase

from vendaval_core.exchange.qti.test_in import read_test
from vendaval_core.exchange.qti.tests_read import TestRead

ITEMS = {f"items/{name}.xml": b"<assessmentItem/>" for name in "abcdef"}
SUM = (
    '<outcomeProcessing><setOutcomeValue identifier="SCORE"><sum><testVariables '
    'variableIdentifier="SCORE"{weight}/></sum></setOutcomeValue></outcomeProcessing>'
)
CONTROL = '<itemSessionControl maxAttempts="{tries}" allowReview="false"/>'


def ref(name: str, within: str = "", more: str = "") -> str:
    said = f'identifier="{name}" href="items/{name}.xml"{more}'
    return f"<assessmentItemRef {said}>{within}</assessmentItemRef>"


def section(name: str, within: str, more: str = ' visible="true"') -> str:
    said = f'identifier="{name}" title="{name}"{more}'
    return f"<assessmentSection {said}>{within}</assessmentSection>"


def part(
    *sections: str,
    navigation: str = "nonlinear",
    submission: str = "simultaneous",
    before: str = "",
) -> str:
    modes = f'navigationMode="{navigation}" submissionMode="{submission}"'
    return f'<testPart identifier="p" {modes}>{before}{"".join(sections)}</testPart>'


def read(*parts: str, before: str = "", after: str = "", **files: bytes) -> TestRead:
    space = 'xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1"'
    text = f'<assessmentTest {space} identifier="t" title="Week one">'
    text += f"{before}{''.join(parts)}{after}</assessmentTest>"
    more = {name.replace("_", "."): content for name, content in files.items()}
    return read_test({"t.xml": text.encode(), **ITEMS, **more}, "t.xml")


class StrangersTestTests(TestCase):
    def entries(self, found: TestRead) -> list[list[tuple[str, int, float]]]:
        self.assertEqual(found.refused, "")
        return [
            [("".join(p[6] for p in e.items), e.count, e.weight) for e in one.entries]
            for one in found.sections
        ]

    def test_sections_draws_weights_limits_and_order(self) -> None:
        weights = '<weight identifier="W" value="2.5"/><weight identifier="Z" value="9"/>'
        found = read(
            part(
                section("One", '<ordering shuffle="true"/>' + ref("a", weights) + ref("b")),
                section(
                    "Two",
                    '<timeLimits maxTime="90"/><rubricBlock view="candidate"><p>Think.</p>'
                    '</rubricBlock><selection select="2"/>' + ref("c") + ref("d") + ref("e"),
                ),
            ),
            after=SUM.format(weight=' weightIdentifier="W"'),
        )
        self.assertEqual(self.entries(found), [[("a", 1, 2.5), ("b", 1, 1.0)], [("cde", 2, 1.0)]])
        first, second = found.sections
        self.assertEqual((first.shuffled, second.shuffled), (True, False))
        self.assertEqual((second.minutes, second.directions), (2, "Think."))
        self.assertEqual(len(found.lost), 1, found.lost)
        self.assertIn("2 minutes", found.lost[0])

    def test_weights_that_no_result_counts_count_nothing(self) -> None:
        found = read(part(section("One", ref("a", '<weight identifier="W" value="3"/>'))))
        self.assertEqual(self.entries(found), [[("a", 1, 1.0)]])
        self.assertIn("weight that no result counts", found.lost[0])

    def test_what_a_test_here_can_not_do_is_listed_with_its_line(self) -> None:
        rule = '<{name} target="x"><isNull><variable identifier="a.SCORE"/></isNull></{name}>'
        found = read(
            part(
                section(
                    "One",
                    ref("a", rule.format(name="preCondition"))
                    + ref("b", rule.format(name="branchRule"))
                    + ref("c", '<timeLimits maxTime="60"/>', ' fixed="true" required="true"')
                    + ref("zz"),
                ),
                before="\n" + rule.format(name="branchRule"),
            ),
            after=(
                "<outcomeProcessing><outcomeCondition><outcomeIf><gt><testVariables variableIdentifier"
                '="SCORE"/><baseValue baseType="float">2</baseValue></gt></outcomeIf>'
                "</outcomeCondition></outcomeProcessing>"
                '<testFeedback identifier="f" outcomeIdentifier="F">Well done</testFeedback>'
            ),
        )
        self.assertEqual(self.entries(found), [[("a", 1, 1.0), ("b", 1, 1.0), ("c", 1, 1.0)]])
        lost = "\n".join(found.lost)
        for what in (
            "section One, a, line 2: it is asked on a condition (precondition)",
            "section One, b, line 2: what comes next depends on an answer (branch rule)",
            "part p, line 2: what comes next",
            "section One, c: its time limit",
            "section One, c: that it stays in its place",
            "section One, zz: it is not in the package",
            "how the result is worked out (line 2)",
            "what is said at the end (test feedback)",
        ):
            self.assertIn(what, lost)

    def test_parts_that_go_forward_and_what_is_tried_again(self) -> None:
        forward = part(section("A", ref("a")), navigation="linear")
        found = read(forward, part(section("B", ref("b"))), before='<timeLimits maxTime="1800"/>')
        self.assertEqual([one.forward_only for one in found.sections], [True, False])
        self.assertEqual(found.rules, {"minutes": 30})
        tried = read(
            part(
                section("A", ref("a")),
                navigation="linear",
                submission="individual",
                before=CONTROL.format(tries=3),
            )
        )
        told = dict.fromkeys(("correctness", "answers", "solutions"), "never")
        self.assertEqual(
            tried.rules,
            {"navigation": "linear", "submission": "individual", "tries": 3, "release": told},
        )

    def test_sections_in_sections_and_in_files_of_their_own(self) -> None:
        inner = section("Inner", ref("b"))
        hidden = section("Hidden", ref("d"), ' visible="false"')
        drawn = section("Drawn", '<selection select="1"/>' + ref("e") + ref("f"))
        own = section("Own", ref("c")).replace(
            "<assessmentSection",
            '<assessmentSection xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1"',
        )
        found = read(
            part(
                section("Outer", ref("a") + inner + hidden + drawn),
                '<assessmentSectionRef identifier="s" href="own.xml"/>',
            ),
            own_xml=own.encode(),
        )
        self.assertEqual([one.title for one in found.sections], ["Outer", "Inner", "Outer", "Own"])
        self.assertEqual(
            self.entries(found),
            [[("a", 1, 1.0)], [("b", 1, 1.0)], [("d", 1, 1.0), ("ef", 1, 1.0)], [("c", 1, 1.0)]],
        )

    def test_limits_that_can_not_stand_together(self) -> None:
        limit = '<timeLimits maxTime="600"/>'
        found = read(part(section("A", limit + ref("a"))), before=limit)
        self.assertEqual((found.rules, found.sections[0].minutes), ({"minutes": 10}, None))
        self.assertIn("the test has one as a whole", found.lost[0])

    def test_tests_that_are_refused_say_why_and_where(self) -> None:
        loop = '<assessmentSectionRef identifier="s" href="own.xml"/>'
        own = section("Own", loop).replace(
            "<assessmentSection ",
            '<assessmentSection xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" ',
        )
        for parts, files, says in (
            ((part(section("A", "")),), {}, "no question of it is in the package"),
            ((part(loop),), {}, "a section that is not in the package: own.xml"),
            ((part(loop),), {"own_xml": own.encode()}, "nested too deep"),
            ((part(loop),), {"own_xml": b"<html/>"}, "is no section"),
        ):
            found = read(*parts, **files)
            self.assertIn(says, found.refused)
            self.assertGreater(found.line, 0)
        self.assertIn("not a test of QTI", read_test({"t.xml": b"<tests/>"}, "t.xml").refused)
