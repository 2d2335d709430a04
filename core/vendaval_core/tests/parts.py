"""Parts for tests, written as in a family's file."""

from __future__ import annotations

from typing import Any

from pydantic import TypeAdapter

from vendaval_core.items.fields import Values
from vendaval_core.items.kinds.protocol import Key, Part
from vendaval_core.items.kinds.registry import AnyPart
from vendaval_core.items.randomness import SeededStream

_READER: TypeAdapter[Part] = TypeAdapter(AnyPart)


def part(kind: str, **fields: Any) -> Part:
    """A part, called `p` unless said. kind: as in a file, or what is typed into a text entry."""
    if kind in {"number", "angle", "time", "text", "expression"}:
        fields["value"], kind = kind, "text_entry"
    return _READER.validate_python({"id": "p", "kind": kind} | fields)


def key(kind: str, values: Values | None = None, **fields: Any) -> Any:
    """The key of a part in a version. Typed as anything, so that tests may look inside."""
    made = part(kind, **fields)
    found: Key = made.key(values or {}, SeededStream("test", made.id))
    return found


def choices(*texts: str, right: int = 1) -> list[dict[str, Any]]:
    """Choices of which the first so many are right."""
    return [{"text": text, "right": place < right} for place, text in enumerate(texts)]
