"""The interpreter of QTI's processing, against the standard's own words and against a library that
works the same expressions out.

1EdTech, Assessment, Section and Item Information Model 3.0: what each expression gives, also for
NULL, from memory. The peer is pyslet, which implements the expressions of QTI 2.1.
"""

from __future__ import annotations

import math
import random
import warnings
from io import BytesIO
from unittest import TestCase

from vendaval_core.items.processing.declarations import read_declarations
from vendaval_core.items.processing.nodes import Node, XmlError, q, read_xml, write_xml
from vendaval_core.items.processing.program import (
    OPERATORS,
    evaluate,
    rules_of,
    run_responses,
    run_template,
)
from vendaval_core.items.processing.run import Run
from vendaval_core.items.processing.values import Container, ProcessingError
from vendaval_core.items.randomness import SeededStream

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import pyslet.imsqtiv2p1 as peer  # type: ignore[import-untyped]

FLAGS = '<assessmentItem adaptive="false" timeDependent="false" '
NULL = "<null/>"
ITEM = """<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="i" title="t">
  <responseDeclaration identifier="NOTHING" cardinality="single" baseType="float"/>
  <responseDeclaration identifier="ONE" cardinality="single" baseType="identifier">
    <correctResponse><value>A</value></correctResponse>
    <mapping defaultValue="-1" lowerBound="0">
      <mapEntry mapKey="A" mappedValue="2"/><mapEntry mapKey="B" mappedValue="1"/>
    </mapping>
  </responseDeclaration>
  <responseDeclaration identifier="MANY" cardinality="multiple" baseType="identifier">
    <mapping defaultValue="-1" lowerBound="0" upperBound="2.5">
      <mapEntry mapKey="A" mappedValue="2"/><mapEntry mapKey="B" mappedValue="1"/>
    </mapping>
  </responseDeclaration>
  <responseDeclaration identifier="WORD" cardinality="single" baseType="string">
    <mapping defaultValue="0"><mapEntry mapKey="York" mappedValue="1"/>
      <mapEntry mapKey="york" mappedValue="0.5" caseSensitive="false"/></mapping>
  </responseDeclaration>
  <responseDeclaration identifier="POINTS" cardinality="multiple" baseType="point">
    <areaMapping defaultValue="-1"><areaMapEntry shape="circle" coords="10,10,5" mappedValue="1"/>
      <areaMapEntry shape="rect" coords="20,20,30,30" mappedValue="2"/></areaMapping>
  </responseDeclaration>
  <outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float"/>
  <outcomeDeclaration identifier="GRADE" cardinality="single" baseType="string">
    <interpolationTable defaultValue="none">
      <interpolationTableEntry sourceValue="8" targetValue="good"/>
      <interpolationTableEntry sourceValue="5" targetValue="fair" includeBoundary="false"/>
    </interpolationTable>
  </outcomeDeclaration>
</assessmentItem>"""


def value(base: str, text: str) -> str:
    return f'<baseValue baseType="{base}">{text}</baseValue>'


def whole(*numbers: int) -> str:
    return "".join(value("integer", str(one)) for one in numbers)


def real(*numbers: float) -> str:
    return "".join(value("float", repr(one)) for one in numbers)


def many(kind: str, base: str, *texts: str) -> str:
    return f"<{kind}>{''.join(value(base, text) for text in texts)}</{kind}>"


YES, NO, UNKNOWN = value("boolean", "true"), value("boolean", "false"), "<isNull/>"
ABC = many("ordered", "identifier", "A", "B", "C")
BAG = many("multiple", "identifier", "A", "B", "A")
# Expression, what is in it, and what it gives; None for NULL.
TABLE: list[tuple[str, str, object]] = [
    ("not", YES, False), ("not", NULL, None),
    ("and", YES + NULL, None), ("and", NO + NULL, False), ("and", YES + YES, True),
    ("or", YES + NULL, True), ("or", NO + NULL, None), ("or", NO + NO, False),
    ('anyN min="1" max="2"', YES + NO + NULL, True), ('anyN min="2" max="2"', YES + NULL, None),
    ('anyN min="1" max="1"', YES + YES, False), ('anyN min="2" max="3"', YES + NO, False),
    ("match", ABC + ABC, True), ("match", ABC + NULL, None),
    ("match", ABC + many("ordered", "identifier", "B", "A", "C"), False),
    ("match", BAG + many("multiple", "identifier", "B", "A", "A"), True),
    ("match", BAG + many("multiple", "identifier", "A", "B"), False),
    ("member", value("identifier", "B") + ABC, True), ("member", NULL + ABC, None),
    ("contains", ABC + many("ordered", "identifier", "B", "C"), True),
    ("contains", ABC + many("ordered", "identifier", "A", "C"), False),
    ("contains", BAG + many("multiple", "identifier", "A", "A"), True),
    ("contains", many("multiple", "identifier", "A") + BAG, False), ("contains", NULL + BAG, None),
    ("containerSize", BAG, 3), ("containerSize", NULL, 0), ("containerSize", "<multiple/>", 0),
    ("isNull", NULL, True), ("isNull", value("string", ""), True), ("isNull", whole(0), False),
    ('index n="2"', ABC, "B"), ('index n="4"', ABC, None), ('index n="1"', NULL, None),
    ("delete", value("identifier", "A") + BAG, ("B",)), ("delete", NULL + BAG, None),
    ("multiple", value("identifier", "A") + NULL + BAG, ("A", "A", "B", "A")), ("ordered", NULL, None),
    ('stringMatch caseSensitive="false"', value("string", "Fog") + value("string", "fOG"), True),
    ('stringMatch caseSensitive="true"', value("string", "Fog") + value("string", "fog"), False),
    ('stringMatch caseSensitive="true"', NULL + value("string", "fog"), None),
    ('substring caseSensitive="true"', value("string", "og") + value("string", "fog"), True),
    ('substring caseSensitive="true"', value("string", "fog") + value("string", "og"), False),
    ('patternMatch pattern="[0-9]{2}"', value("string", "41"), True),
    ('patternMatch pattern="[0-9]{2}"', value("string", "414"), False),
    ('patternMatch pattern=".*"', NULL, None),
    ('equal toleranceMode="exact"', whole(3) + real(3.0), True),
    ('equal toleranceMode="absolute" tolerance="0.5"', real(10, 10.5), True),
    ('equal toleranceMode="absolute" tolerance="0.5" includeUpperBound="false"', real(10, 10.5), False),
    ('equal toleranceMode="absolute" tolerance="0.5 2"', real(10, 11.9), True),
    ('equal toleranceMode="relative" tolerance="10"', real(50, 55), True),
    ('equal toleranceMode="relative" tolerance="10"', real(50, 55.1), False),
    ('equal toleranceMode="exact"', NULL + real(1), None),
    ('equalRounded roundingMode="significantFigures" figures="3"', real(3.175, 3.183), True),
    ('equalRounded roundingMode="decimalPlaces" figures="2"', real(1.68572, 1.69), True),
    ('equalRounded roundingMode="decimalPlaces" figures="2"', real(1.68432, 1.69), False),
    ('inside shape="circle" coords="5,5,2"', value("point", "6 6"), True),
    ('inside shape="rect" coords="0,0,4,4"', many("multiple", "point", "9 9", "1 1"), True),
    ('inside shape="poly" coords="0,0,10,0,0,10"', value("point", "9 9"), False),
    ('inside shape="rect" coords="0,0,4,4"', NULL, None),
    ("lt", real(1, 2), True), ("gt", whole(2, 2), False), ("lte", whole(2, 2), True),
    ("gte", NULL + whole(2), None),
    ('durationLT', value("duration", "59") + value("duration", "60"), True),
    ('durationGTE', value("duration", "59") + value("duration", "60"), False),
    ("sum", whole(2, 3), 5), ("sum", real(2.5) + whole(1), 3.5), ("sum", whole(2) + NULL, None),
    ("product", whole(2, 3, 4), 24), ("subtract", whole(2, 5), -3), ("divide", whole(1, 4), 0.25),
    ("divide", whole(1, 0), None), ("power", whole(2, 10), 1024.0), ("power", real(-8, 0.5), None),
    ("integerDivide", whole(-7, 2), -4), ("integerModulus", whole(-7, 2), 1),
    ("integerDivide", whole(1, 0), None), ("truncate", real(-6.8), -6), ("round", real(6.5), 7),
    ("round", real(-6.5), -6), ("round", NULL, None), ("integerToFloat", whole(3), 3.0),
    ('roundTo roundingMode="decimalPlaces" figures="1"', real(2.25), 2.3),
    ('roundTo roundingMode="significantFigures" figures="2"', real(1234.0), 1200.0),
    ("gcd", whole(12, 18), 6), ("lcm", whole(4, 6), 12), ("min", whole(4, 2) + real(3), 2.0),
    ("max", many("multiple", "integer", "1", "9"), 9), ('repeat numberRepeats="2"', whole(1), (1, 1)),
    ('statsOperator name="mean"', many("multiple", "float", "1", "2", "6"), 3.0),
    ('statsOperator name="popVariance"', many("multiple", "float", "2", "4"), 1.0),
    ('statsOperator name="sampleVariance"', many("multiple", "float", "2"), None),
    ('mathConstant name="pi"', "", math.pi), ('mathOperator name="log"', real(1000), 3.0),
    ('mathOperator name="floor"', real(-1.5), -2), ('mathOperator name="signum"', real(-2), -1),
    ('mathOperator name="atan2"', real(1, 1), math.pi / 4), ('mathOperator name="asin"', real(2), None),
    ('mathOperator name="abs"', NULL, None), ('correct identifier="ONE"', "", "A"),
    ('default identifier="ONE"', "", None), ('variable identifier="NOTHING"', "", None),
    ('random', "<multiple/>", None), ("null", "", None),
]  # fmt: skip


class ExpressionTests(TestCase):
    def setUp(self) -> None:
        self.declared = read_declarations(read_xml(ITEM))

    def gives(self, name: str, within: str, **held: Container) -> Container:
        element = name.split()[0]
        space = "http://www.imsglobal.org/xsd/imsqti_v2p1"
        node = read_xml(f'<{name} xmlns="{space}">{within}</{element}>')
        return evaluate(Run(self.declared, held), node)

    def test_each_expression_gives_what_the_standard_says_also_for_null(self) -> None:
        for name, within, expected in TABLE:
            found = self.gives(name, within)
            got = None if found.null else found.values
            wanted = expected if isinstance(expected, tuple) or expected is None else (expected,)
            if wanted is not None and got is not None and isinstance(wanted[0], float):
                self.assertAlmostEqual(got[0], wanted[0], 9, (name, within))  # type: ignore[arg-type]
                continue
            self.assertEqual(got, wanted, (name, within))
        tried = {q_name(name) for name, _, _ in TABLE} | {"qti-multiple", "qti-base-value"}
        elsewhere = {"qti-map-response", "qti-map-response-point", "qti-field-value",
                     "qti-random-integer", "qti-random-float"}  # fmt: skip
        self.assertEqual(set(OPERATORS) - tried, elsewhere)

    def test_mappings_count_each_value_once_and_stay_within_their_bounds(self) -> None:
        for name, base, given, expected in (
            ("ONE", "identifier", ("B",), 1.0),
            ("ONE", "identifier", ("Z",), 0.0),
            ("ONE", "identifier", (), 0.0),
            ("MANY", "identifier", ("A", "A"), 2.0),
            ("MANY", "identifier", ("A", "B"), 2.5),
            ("MANY", "identifier", ("B", "Z"), 0.0),
            ("WORD", "string", ("York",), 1.0),
            ("WORD", "string", ("YORK",), 0.5),
        ):
            declared = self.declared[name]
            held = Container(declared.cardinality, base, given)  # type: ignore[arg-type]
            found = self.gives(f'mapResponse identifier="{name}"', "", **{name: held})
            self.assertEqual(found.values, (expected,), (name, given))
        points = Container("multiple", "point", ((10.0, 11.0), (11.0, 10.0), (25.0, 25.0)))
        found = self.gives('mapResponsePoint identifier="POINTS"', "", POINTS=points)
        self.assertEqual(found.values, (3.0,), "each area counts once")

    def test_what_cannot_be_worked_out_says_so(self) -> None:
        deep = "<not>" * 60 + YES + "</not>" * 60
        for name, within, says in (
            ("sum", value("string", "a"), "takes numbers"),
            ("and", whole(1), "true or false"),
            ('variable identifier="MISSING"', "", "nothing is declared"),
            ('index n="0"', ABC, "number from 1"),
            ("not", deep, "nested"),
            ("flap", "", "no expression"),
            ('mathOperator name="sinc"', real(1), "no function"),
            ('patternMatch pattern="("', value("string", "a"), "can’t be read"),
            ("match", value("integer", "1") + value("boolean", "true"), "compares"),
            ('randomInteger min="1" max="6"', "", "chance"),
        ):
            with self.assertRaisesRegex(ProcessingError, says, msg=name):
                self.gives(name, within)
        big = "<multiple>" + whole(*range(200)) + "</multiple>"
        with self.assertRaisesRegex(ProcessingError, "steps|1 MB"):
            self.gives("sum", f'<repeat numberRepeats="900">{big}</repeat>' * 60)
        slow = value("string", "a" * 40 + "!")
        with self.assertRaisesRegex(ProcessingError, "takes too long"):
            self.gives('patternMatch pattern="(a|aa)+b"', slow)

    def test_another_implementation_gives_the_same(self) -> None:
        """Trees of expressions by chance, worked out by the peer too."""
        rng = random.Random(7)
        kinds = ("number", "truth")
        nodes = [_by_chance(rng, rng.choice(kinds), 3) for _ in range(400)]
        compared = 0
        for node, wanted in zip(nodes, _by_peer(nodes), strict=True):
            mine = evaluate(Run({}, {}), node)
            got = None if mine.null else mine.values[0]
            if isinstance(wanted, float) and isinstance(got, int | float):
                self.assertAlmostEqual(got, wanted, 6, write_xml(node))
            else:
                self.assertEqual(got, wanted, write_xml(node))
            compared += wanted is not None
        self.assertGreater(compared, 150)


def q_name(name: str) -> str:
    return read_xml(f'<{name} xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1"/>').name


def _by_chance(rng: random.Random, kind: str, depth: int) -> Node:
    if depth == 0 or rng.random() < 0.15:
        if rng.random() < 0.12:
            return q("null")
        if kind == "truth":
            return q("base-value", rng.choice(["true", "false"]), base_type="boolean")
        if rng.random() < 0.5:
            return q("base-value", str(rng.randint(-9, 9)), base_type="integer")
        return q("base-value", f"{rng.uniform(-9, 9):.2f}", base_type="float")

    def sub(wanted: str) -> Node:
        return _by_chance(rng, wanted, depth - 1)

    if kind == "truth":
        name = rng.choice(["and", "or", "not", "lt", "gt", "lte", "gte", "is-null"])
        if name in {"and", "or"}:
            return q(name, *(sub("truth") for _ in range(rng.randint(1, 3))))
        if name == "not":
            return q(name, sub("truth"))
        return (
            q(name, sub("number")) if name == "is-null" else q(name, sub("number"), sub("number"))
        )
    name = rng.choice(["sum", "product", "subtract", "divide", "truncate", "round"])
    if name in {"sum", "product"}:
        return q(name, *(sub("number") for _ in range(rng.randint(1, 3))))
    if name in {"truncate", "round"}:
        return q(name, q("divide", sub("number"), sub("number")))
    return q(name, sub("number"), sub("number"))


def _as_2_1(node: Node) -> str:
    """An expression as QTI 2.1 writes it, for the peer."""

    def camel(name: str) -> str:
        first, *rest = name.removeprefix("qti-").split("-")
        return first + "".join(part.capitalize() for part in rest)

    said = "".join(f' {camel(key)}="{text}"' for key, text in node.attributes.items())
    inner = "".join(one if isinstance(one, str) else _as_2_1(one) for one in node.within)
    return f"<{camel(node.name)}{said}>{inner}</{camel(node.name)}>"


def _by_peer(nodes: list[Node]) -> list[object]:
    """What the peer makes of expressions."""
    rules = "".join(
        f'<setOutcomeValue identifier="X">{_as_2_1(node)}</setOutcomeValue>' for node in nodes
    )
    item = ITEM.replace("</assessmentItem>", "").replace("<assessmentItem ", FLAGS)
    text = f"{item}<responseProcessing>{rules}</responseProcessing></assessmentItem>"
    document = peer.QTIDocument()
    document.read(src=BytesIO(text.encode()))
    children = document.root.ResponseProcessing.get_children()
    return [one.Expression.evaluate(None).value for one in children]


class ProgramTests(TestCase):
    def test_standard_templates_tables_and_early_ends(self) -> None:
        item = read_xml(ITEM.replace('"ONE"', '"RESPONSE"'))
        declared = read_declarations(item)
        one = Container("single", "identifier", ("A",))
        for template, given, expected in (
            ("match_correct", one, 1.0),
            ("match_correct", Container("single", "identifier"), 0.0),
            ("map_response", one, 2.0),
            ("map_response", Container("single", "identifier"), 0.0),
        ):
            named = q("response-processing", template=f"http://x/rptemplates/{template}.xml")
            out = run_responses(declared, rules_of(named), {"RESPONSE": given})
            self.assertEqual(out["SCORE"].values, (expected,), (template, given))
        with self.assertRaisesRegex(ProcessingError, "not known"):
            rules_of(q("response-processing", template="http://x/rptemplates/guess"))
        looked = {8.0: "good", 5.0: "none", 6.0: "fair", 1.0: "none"}
        for number, grade in looked.items():
            held = q("base-value", str(number), base_type="float")
            rules = [
                q("lookup-outcome-value", held, identifier="GRADE"),
                q("exit-response"),
                q("set-outcome-value", held, identifier="SCORE"),
            ]
            out = run_responses(declared, rules, {})
            self.assertEqual((out["GRADE"].values, out["SCORE"].values), ((grade,), (0.0,)))

    def test_templates_draw_again_until_constraints_are_met(self) -> None:
        x = q("template-declaration", identifier="X", cardinality="single", base_type="integer")
        drawn = q("random-integer", min=1, max=9, step=2)
        unlike = q("not", q("match", q("variable", identifier="X"),
                            q("base-value", "5", base_type="integer")))  # fmt: skip
        program = q(
            "template-processing",
            q("set-template-value", drawn, identifier="X"),
            q("template-constraint", unlike),
        )
        declared = read_declarations(q("assessment-item", x))
        found = {
            run_template(declared, program, SeededStream("t", seed))[0]["X"].values[0]
            for seed in range(60)
        }
        self.assertEqual(found, {1, 3, 7, 9})
        never = q("template-processing", q("template-constraint", q("null")))
        with self.assertRaisesRegex(ProcessingError, "none of 100 draws"):
            run_template(declared, never, SeededStream("t"))


class XmlTests(TestCase):
    def test_files_of_any_encoding_and_both_editions_read_the_same(self) -> None:
        body = '<?xml version="1.0" encoding="{}"?>\n<x:itemBody xmlns:x="{}"><x:p>Öl&nbsp;é</x:p></x:itemBody>'
        two = "http://www.imsglobal.org/xsd/imsqti_v2p2"
        for encoding in ("utf-8", "iso-8859-1", "windows-1252", "utf-16"):
            node = read_xml(body.format(encoding, two).encode(encoding))
            self.assertEqual((node.name, node.text, node.line), ("qti-item-body", "Öl\xa0é", 2))
        three = '<qti-item-body xmlns="http://www.imsglobal.org/xsd/imsqtiasi_v3p0"><p>a</p></qti-item-body>'
        self.assertEqual(read_xml(three).children[0].space, "html")
        self.assertEqual(read_xml(b"\xef\xbb\xbf" + three.encode()).name, "qti-item-body")

    def test_what_is_hostile_or_broken_is_refused_with_its_line(self) -> None:
        bomb = '<!DOCTYPE a [<!ENTITY b "bb"><!ENTITY c "&b;&b;">]><a>&c;</a>'
        for text, line, says in (
            (bomb, 1, "entities"),
            ('<!DOCTYPE a [<!ENTITY b SYSTEM "file:///etc/passwd">]><a>&b;</a>', 1, "entities"),
            ("<a>\n<b></a>", 2, "well-formed"),
            ("<a>" * 200, 1, "100 deep"),
            ("<a>" + "<b/>" * 30_000 + "</a>", 1, "20000 elements"),
            ("", 1, "well-formed"),
            ("<a>" + "x" * 1_000_001 + "</a>", 0, "longer than 1 MB"),
            ('<?xml version="1.0" encoding="klingon"?><a/>', 0, "not known"),
        ):
            data = text.encode() if "klingon" in text else text
            with self.assertRaisesRegex(XmlError, says) as caught:
                read_xml(data)
            self.assertEqual(caught.exception.line, line, text[:40])
