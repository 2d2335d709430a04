"""Unions of kinds as a file writes them, each told by its `kind`, with `value` if several share
one."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Annotated, Any, Union, get_args

from pydantic import Discriminator, Tag

from .protocol import Part

TAG = "kind:"
"""Begins what tells kinds apart in an error's path; the file has no such fields."""


def names_of(part: type[Part]) -> Iterator[str]:
    """Yield what a file writes for a kind: its `kind`, with `value` if several share one."""
    fields = part.model_fields
    values = get_args(fields["value"].annotation) if "value" in fields else ("",)
    for kind in get_args(fields["kind"].annotation):
        yield from (f"{kind}.{value}".rstrip(".") for value in values)


def tagged_union(parts: Sequence[type[Part]]) -> Any:
    """Return the union of kinds of parts, of which a file names one."""
    tags = {name: f"{TAG}{part.__name__}" for part in parts for name in names_of(part)}
    union = Union.__getitem__(
        tuple(Annotated[part, Tag(f"{TAG}{part.__name__}")] for part in parts)
    )
    return Annotated[union, Discriminator(_tag_in(tags))]


def _tag_in(tags: dict[str, str]) -> Callable[[object], str]:
    def tag(written: object) -> str:
        kind, value = _get(written, "kind"), _get(written, "value")
        return tags.get(f"{kind}.{value}") or tags.get(kind, kind)

    return tag


def _get(written: object, field: str) -> str:
    found = written.get(field) if isinstance(written, dict) else getattr(written, field, None)
    return "" if found is None else str(found)
