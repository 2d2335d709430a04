"""What one action is going to store: gathered first, then written in one short transaction.

Marking, inference and the choice of what comes next take their time before the lock is taken.
They start from a row with a version number; `Changes.store` takes the lock, checks that the
version still stands, and writes. If it does not, `Stale` is raised, nothing is written, and the
action does its work again (`until_stored`).
"""

from __future__ import annotations

from collections.abc import Callable
from itertools import groupby
from typing import Any, Protocol, TypeVar

from django.db import IntegrityError, models, transaction
from django.db.models import F
from django.utils.translation import gettext

from .errors import Conflict

# Two who write at once take turns; six in a row lose only where something is stuck.
ATTEMPTS = 6

T = TypeVar("T")


class Versioned(models.Model):
    """A row that guards others: whoever writes any of them moves its version on."""

    version = models.PositiveIntegerField(default=0)

    class Meta:
        abstract = True


class Stale(Exception):
    """Somebody else wrote since the work began."""


class Guard(Protocol):
    """How the versioned row of some work is written: checks the version and moves it on."""

    def claim(self) -> bool:
        """Whether the version still stood; it is moved on and what changed is stored with it."""
        ...


class Changes:
    """Rows to insert and to update under one guard."""

    def __init__(self, guard: Guard) -> None:
        self._guard = guard
        self._added: list[models.Model] = []
        self._touched: dict[int, tuple[models.Model, set[str]]] = {}
        self._queries: list[Callable[[], Any]] = []

    def add(self, *rows: models.Model) -> None:
        """Rows to insert. They may refer to each other."""
        self._added += rows

    def touch(self, row: models.Model, *fields: str) -> None:
        """Fields of a row to update, also of one that is to be inserted."""
        _, known = self._touched.setdefault(id(row), (row, set()))
        known |= set(fields)

    def then(self, query: Callable[[], Any]) -> None:
        """A query to run at the end."""
        self._queries.append(query)

    def store_if_any(self) -> None:
        """Store, unless nothing is to be changed: then no lock is taken."""
        if self._added or self._touched or self._queries:
            self.store()

    def store(self) -> None:
        """Write everything, or raise Stale and write nothing."""
        try:
            with transaction.atomic():
                if not self._guard.claim():
                    raise Stale
                self._insert()
                for row, fields in self._touched.values():
                    row.save(update_fields=sorted(fields))
                for query in self._queries:
                    query()
        except IntegrityError as error:
            raise Stale from error

    def _insert(self) -> None:
        """Insert the new rows, each after those it refers to. A reference that is to be updated
        anyway waits until then, so that two new rows can refer to each other."""
        waiting = self._take_out_references()
        for _, rows in groupby(self._in_order(), key=type):
            several = list(rows)
            if len(several) > 1:
                several[0]._meta.model._default_manager.bulk_create(several)
            else:
                several[0].save(force_insert=True)
        for row, name, other in waiting:
            setattr(row, name, other)

    def _take_out_references(self) -> list[tuple[models.Model, str, models.Model]]:
        found = []
        for row in self._added:
            _, touched = self._touched.get(id(row), (row, set()))
            for name, other in _unsaved_references(row):
                if name in touched:
                    found.append((row, name, other))
                    setattr(row, name, None)
        return found

    def _in_order(self) -> list[models.Model]:
        done: dict[int, models.Model] = {}

        def put(row: models.Model) -> None:
            if id(row) not in done:
                for _, other in _unsaved_references(row):
                    put(other)
                done[id(row)] = row

        for row in self._added:
            put(row)
        return list(done.values())


def _unsaved_references(row: models.Model) -> list[tuple[str, models.Model]]:
    """Rows without an id that a row refers to, by field."""
    found = []
    for field in row._meta.concrete_fields:
        other = row._state.fields_cache.get(field.name) if field.is_relation else None
        if isinstance(other, models.Model) and other.pk is None:
            found.append((field.name, other))
    return found


def claimed(row: Versioned, fields: tuple[str, ...]) -> bool:
    """Update fields of a versioned row if its version still stands; insert one that is new."""
    if row._state.adding:
        row.save(force_insert=True)
        return True
    values: dict[str, Any] = {name: getattr(row, name) for name in fields}
    kept = type(row)._base_manager.filter(pk=row.pk, version=row.version)
    if not kept.update(version=F("version") + 1, **values):
        return False
    row.version += 1
    return True


def until_stored(work: Callable[[], T]) -> T:
    """Do some work that ends in `Changes.store`, again when somebody else was quicker."""
    refused: BaseException | None = None
    for _ in range(ATTEMPTS):
        try:
            return work()
        except Stale as stale:
            refused = stale.__cause__
    if refused is not None:
        raise refused
    raise Conflict(gettext("We’re still saving something else. Send it again."), code="busy")
