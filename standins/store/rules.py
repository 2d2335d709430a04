"""What a statement has to have: xAPI 1.0.3, part two, "Statements", from memory of its tables."""

from __future__ import annotations

import re
from datetime import datetime
from typing import Any
from uuid import UUID

_DURATION = re.compile(r"P(?=.)(\d+Y)?(\d+M)?(\d+W)?(\d+D)?(T(?=.)(\d+H)?(\d+M)?(\d+(\.\d+)?S)?)?")
_KNOWN = {
    "id", "actor", "verb", "object", "result", "context", "timestamp", "stored", "authority",
    "version", "attachments",
}  # fmt: skip
_RESULT = {"score", "success", "completion", "response", "duration", "extensions"}


def fault_of(statement: Any) -> str:
    """What is wrong with a statement, "" for nothing."""
    if not isinstance(statement, dict):
        return "a statement is an object"
    if strange := set(statement) - _KNOWN:
        return f"no property is called {sorted(strange)[0]}"
    for check in (_id, _actor, _verb, _object, _result, _timestamp, _nulls):
        if fault := check(statement):
            return fault
    return ""


def _id(statement: dict[str, Any]) -> str:
    try:
        UUID(str(statement.get("id")))
    except ValueError:
        return "id is no UUID"
    return ""


def _actor(statement: dict[str, Any]) -> str:
    actor = statement.get("actor")
    if not isinstance(actor, dict):
        return "actor is missing"
    kinds = [name for name in ("mbox", "mbox_sha1sum", "openid", "account") if name in actor]
    if len(kinds) != 1:
        return "actor has not exactly one identifier"
    if kinds == ["account"]:
        account = actor["account"]
        if set(account) != {"homePage", "name"} or not _is_iri(account["homePage"]):
            return "account has a homePage and a name"
    return ""


def _is_iri(text: Any) -> bool:
    return isinstance(text, str) and re.match(r"[A-Za-z][A-Za-z0-9+.-]*:\S+$", text) is not None


def _verb(statement: dict[str, Any]) -> str:
    verb = statement.get("verb")
    return "" if isinstance(verb, dict) and _is_iri(verb.get("id")) else "verb has no id"


def _object(statement: dict[str, Any]) -> str:
    about = statement.get("object")
    return "" if isinstance(about, dict) and _is_iri(about.get("id")) else "object has no id"


def _result(statement: dict[str, Any]) -> str:
    result = statement.get("result", {})
    if strange := set(result) - _RESULT:
        return f"no property of a result is called {sorted(strange)[0]}"
    score = result.get("score", {})
    if not -1 <= score.get("scaled", 0) <= 1:
        return "a scaled score is between -1 and 1"
    low, high = score.get("min"), score.get("max")
    if low is not None and high is not None and not low <= score.get("raw", low) <= high:
        return "a raw score is between min and max"
    if "duration" in result and not _DURATION.fullmatch(result["duration"]):
        return "a duration is as ISO 8601 writes one"
    return "" if all(_is_iri(name) for name in result.get("extensions", {})) else "no IRI"


def _timestamp(statement: dict[str, Any]) -> str:
    if "timestamp" not in statement:
        return ""
    try:
        aware = datetime.fromisoformat(statement["timestamp"]).tzinfo is not None
    except ValueError:
        return "timestamp is none"
    return "" if aware else "timestamp has no zone"


def _nulls(value: Any) -> str:
    if value is None:
        return "nothing may be null"
    if isinstance(value, dict):
        return next((fault for one in value.values() if (fault := _nulls(one))), "")
    if isinstance(value, list):
        return next((fault for one in value if (fault := _nulls(one))), "")
    return ""
