"""A record in each of the formats it goes out in."""

from __future__ import annotations

import json
from typing import Literal

from vendaval.groups.models import Enrolment

from .files import record_csv, record_xlsx
from .statements import statements

Format = Literal["xlsx", "csv", "xapi"]
ENDINGS: dict[Format, str] = {"xlsx": "xlsx", "csv": "csv", "xapi": "json"}


def content_of(kind: Format, enrolment: Enrolment) -> bytes:
    """A record as a file: a workbook, comma-separated values, or xAPI statements as JSON."""
    match kind:
        case "xlsx":
            return record_xlsx(enrolment)
        case "csv":
            return record_csv(enrolment)
        case "xapi":
            return json.dumps(list(statements(enrolment)), ensure_ascii=False, indent=1).encode()
