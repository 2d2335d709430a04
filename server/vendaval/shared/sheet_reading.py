"""The first sheet of a workbook as rows of text. Runs as a program in a sandbox: a workbook is a
zip of XML, and both can be made to take all memory there is.
"""

from __future__ import annotations

import json
import zipfile
from datetime import datetime
from io import BytesIO
from itertools import islice
from typing import Any
from xml.etree.ElementTree import ParseError

from openpyxl import load_workbook
from openpyxl.utils.exceptions import InvalidFileException

from vendaval.shared.sandboxed import Refused, Reply, serve
from vendaval_core.language import gettext

MOST_UNPACKED = 40_000_000
MOST_COLUMNS, MOST_LETTERS = 60, 400
# What openpyxl raises for files that are none of its own, or are broken inside.
UNREADABLE = (
    InvalidFileException,
    zipfile.BadZipFile,
    ParseError,
    KeyError,
    ValueError,
    IndexError,
    OSError,
)


def work(asked: dict[str, Any], data: bytes) -> Reply:
    """Rows of the first sheet, at most `rows` of them."""
    try:
        with zipfile.ZipFile(BytesIO(data)) as files:
            unpacked = sum(one.file_size for one in files.infolist())
        if unpacked > MOST_UNPACKED:
            raise Refused(
                gettext("This spreadsheet is too large: more than {most_unpacked} MB.").format(
                    most_unpacked=MOST_UNPACKED // 10**6
                ),
                gettext("too large"),
            )
        book = load_workbook(BytesIO(data), read_only=True, data_only=True)
        lines = book.worksheets[0].iter_rows(values_only=True, max_col=MOST_COLUMNS)
        rows = [[_text(cell) for cell in row] for row in islice(lines, asked["rows"])]
    except UNREADABLE:
        raise Refused(gettext("We can’t read this spreadsheet."), "unreadable") from None
    return {}, [json.dumps(rows).encode()]


def _text(cell: object) -> str:
    if isinstance(cell, datetime):
        return cell.date().isoformat()
    return "" if cell is None else str(cell)[:MOST_LETTERS]


if __name__ == "__main__":
    serve(work)
