"""Items of QTI as others write them, in the second edition, for tests."""

from __future__ import annotations

import io

from PIL import Image

from vendaval_core.exchange.qti.item_in import ItemRead, read_item
from vendaval_core.items.model import Family
from vendaval_core.packs.families import family_from_data

SPACE = 'xmlns="http://www.imsglobal.org/xsd/imsqti_v2p2"'
CORRECT = '<responseProcessing template="http://www.imsglobal.org/question/qti_v2p2/rptemplates/match_correct"/>'
MAPPED = CORRECT.replace("match_correct", "map_response")
SCORE = '<outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float"/>'


def declare(
    base: str, cardinality: str, *right: str, more: str = "", name: str = "RESPONSE"
) -> str:
    values = "".join(f"<value>{one}</value>" for one in right)
    correct = f"<correctResponse>{values}</correctResponse>" if right else ""
    said = f'identifier="{name}" cardinality="{cardinality}" baseType="{base}"'
    return f"<responseDeclaration {said}>{correct}{more}</responseDeclaration>"


def item(declared: str, body: str, processing: str = CORRECT, **files: bytes) -> ItemRead:
    text = (
        f'<assessmentItem {SPACE} identifier="i1" title="An item" adaptive="false"'
        f' timeDependent="false">{declared}{SCORE}<itemBody>{body}</itemBody>{processing}'
        "</assessmentItem>"
    )
    return read_item(text.encode(), {name.replace("_", "."): one for name, one in files.items()})


def choices(kind: str, *texts: str) -> str:
    return "".join(f'<{kind} identifier="{t[0].upper()}">{t}</{kind}>' for t in texts)


CHOICE = (
    '<choiceInteraction responseIdentifier="RESPONSE" shuffle="true" maxChoices="{most}">'
    "<prompt>Which?</prompt>{choices}</choiceInteraction>"
)


def mapped(default: float = 0, least: str = "", **points: float) -> str:
    rows = "".join(f'<mapEntry mapKey="{k}" mappedValue="{v}"/>' for k, v in points.items())
    low = f' lowerBound="{least}"' if least else ""
    return f'<mapping defaultValue="{default}"{low}>{rows}</mapping>'


def png(wide: int = 80, high: int = 60) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (wide, high), "navy").save(out, "PNG")
    return out.getvalue()


def family_of(read: ItemRead) -> Family:
    """The family that an item becomes."""
    assert read.data is not None, read.refused
    return family_from_data("item", "topic", read.data | {"study": "start", "source": "x"})
