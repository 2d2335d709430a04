"""Tables that somebody sends, CSV or XLSX, as rows of text."""

from __future__ import annotations

import csv
import json
from collections.abc import Iterator
from io import StringIO
from itertools import islice

from django.utils.translation import gettext

from .errors import Unprocessable
from .sandbox import in_sandbox

READER = "vendaval.shared.sheet_reading"


def sheet_rows(content: bytes, most: int, who: str) -> list[list[str]]:
    """The first rows of a file, at most so many; Unprocessable for what is no table. who: whose
    work it is, in the log."""
    return list(islice(_rows(content, most, who), most))


def _rows(content: bytes, most: int, who: str) -> Iterator[list[str]]:
    if content[:2] == b"PK":
        _, (rows,) = in_sandbox(READER, {"rows": most}, content, who=who)
        yield from json.loads(rows)
        return
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise Unprocessable(
            gettext("This isn’t a spreadsheet (XLSX) or a CSV file in UTF-8.")
        ) from error
    first = text.partition("\n")[0]
    yield from _csv(text, max(",;\t", key=first.count))


def _csv(text: str, comma: str) -> Iterator[list[str]]:
    try:
        yield from csv.reader(StringIO(text, newline=""), delimiter=comma)
    except csv.Error as error:
        raise Unprocessable(
            gettext("We can’t read this CSV file: {error}.").format(error=error)
        ) from error
