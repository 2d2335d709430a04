"""One JSON object per log line."""

from __future__ import annotations

import json
import logging
from datetime import UTC, datetime

from .requests import without_tokens

FIELDS = ("request_id", "method", "path", "status", "ms", "user")


class JsonFormatter(logging.Formatter):
    """Formats records as JSON with the fields of a request when there are any. What opens
    something by being in an address is masked, whoever logs it."""

    def format(self, record: logging.LogRecord) -> str:
        line: dict[str, object] = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(),
            "logger": record.name,
            "message": without_tokens(record.getMessage()),
        }
        line |= {name: getattr(record, name) for name in FIELDS if hasattr(record, name)}
        if record.exc_info:
            line["exception"] = without_tokens(self.formatException(record.exc_info))
        return json.dumps(line, ensure_ascii=False)
