"""Questions of a course as a spreadsheet, and an empty one to begin with."""

from __future__ import annotations

from collections.abc import Iterator

from django.db.models.fields.json import KeyTextTransform
from django.utils.translation import gettext

from vendaval.authoring.families import refuse_own_tests
from vendaval.bank.models import Course, Family
from vendaval.people.models import User
from vendaval.shared.tables import FileKind, Table, as_csv, as_xlsx
from vendaval_core.exchange.sheet_columns import COLUMNS
from vendaval_core.exchange.sheet_rows import row_of_text

MOST = 2_000
WIDE = {"question": 50, "right": 24, "solution": 40, "hint": 30, "topic": 22}


def template(kind: FileKind) -> bytes:
    """Three questions as an example: a number, a choice and a word."""
    examples = [
        {
            "question": gettext("A rock dries 1.8 m. The tide is 4.7 m. How much water covers it?"),
            "right": "2.9 m ± 0.05",
            "hint": gettext("Drying heights are measured upwards."),
            "solution": gettext("4.7 − 1.8 = 2.9 m."),
            "difficulty": "2",
            "essential": gettext("yes"),
            "seconds": "45",
        },
        {
            "question": gettext("Which colour is a port hand buoy in region A?"),
            "right": gettext("red"),
            "wrong 1": gettext("green"),
            "feedback wrong 1": gettext("Green is on the starboard side."),  # not said
            "wrong 2": gettext("yellow"),
            "solution": gettext("Port is red in region A."),
        },
        {
            "question": gettext("What is the stream called while the water falls?"),
            "right": gettext("ebb; ebb tide"),
            "difficulty": "1",
        },
    ]
    return _file(kind, [_table(examples)])


def questions(course: Course, person: User, kind: FileKind) -> bytes:
    """The course's questions that fit, and in a workbook also which don't and why. Not for somebody
    who has one in a test of their own that is still open."""
    rows, left = list[dict[str, str]](), list[tuple[str, str, str]]()
    asked = Family.objects.filter(course=course, live=True, collection=None).exclude(latest=None)
    refuse_own_tests(set(asked.values_list("pk", flat=True)), person)
    kept = asked.order_by("topic__position", "key").values_list(
        "topic__key", "latest__source__text", KeyTextTransform("title", "latest__data")
    )
    for topic, text, title in kept[:MOST]:
        found = row_of_text(text or "", topic)
        if isinstance(found, str):
            left.append((topic, str(title), found))
        else:
            rows.append(found)
    others = Table(
        gettext("left out"), (gettext("topic"), gettext("question"), gettext("why")), left
    )
    return _file(kind, [_table(rows), others])


def _table(rows: list[dict[str, str]]) -> Table:
    return Table(gettext("questions"), COLUMNS, _cells(rows), WIDE)


def _cells(rows: list[dict[str, str]]) -> Iterator[tuple[str, ...]]:
    return (tuple(row.get(name, "") for name in COLUMNS) for row in rows)


def _file(kind: FileKind, tables: list[Table]) -> bytes:
    return as_xlsx(tables) if kind == "xlsx" else as_csv(tables[0])
