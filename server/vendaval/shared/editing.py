"""Nobody saves over what they have not seen: the one way to change what several people may edit.

Whoever opens something to edit it gets its `version`, a digest of what can be edited of it (an
entity tag in the sense of RFC 9110, 8.8.3), and sends it back with what they want. Where something
else stands by then, nothing is stored, and they are told what does, in the shape of what they sent,
so that their page can put the two together. What is sent twice is no conflict with itself.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from hashlib import sha256
from typing import Annotated, Any, TypeVar

from django.db import models, transaction
from django.utils.translation import gettext
from pydantic import BaseModel, Field

from .errors import Changed, NotFound

T = TypeVar("T")
VERSION_LENGTH = 16


class Edited(BaseModel):
    """A change of something. `version`: of what it was when it was opened to be edited."""

    version: Annotated[str, Field(max_length=40)]


def sorted_once(values: Iterable[T]) -> list[T]:
    """Values in an order of their own, each once: for lists whose order says nothing."""
    return sorted(set(values))  # type: ignore[type-var]


def edit_version(now: BaseModel) -> str:
    """The version of something. now: what of it can be edited, in the shape a change has."""
    return _digest(now.model_dump(mode="json"))


def _digest(state: dict[str, Any]) -> str:
    return sha256(json.dumps(state, sort_keys=True).encode()).hexdigest()[:VERSION_LENGTH]


@contextmanager
def editing(row: models.Model, wanted: Edited, now: Callable[[], BaseModel]) -> Iterator[None]:
    """Change something within a transaction that nobody else changes it in. row: what is locked
    and read afresh; now: what of it can be edited, asked once it is. Changed, with what stands,
    when that is neither what `wanted` began from nor what it wants."""
    with transaction.atomic():
        if row._meta.model._base_manager.select_for_update().filter(pk=row.pk).first() is None:
            raise NotFound(gettext("This doesn’t exist any more."))
        row.refresh_from_db()
        current = now()
        version = edit_version(current)
        sent = _digest(wanted.model_dump(mode="json", exclude={"version"}))
        if version not in {wanted.version, sent}:
            raise Changed(version, current.model_dump(mode="json"))
        yield
