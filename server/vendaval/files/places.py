"""What files can belong to. `config/settings` names them all: an app above this one has its own."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from functools import lru_cache
from typing import ClassVar

from django.conf import settings
from django.utils.module_loading import import_string

from vendaval.shared.errors import Conflict

from .models import StoredFile


class Place(ABC):
    """What some files belong to, and what may be done with them there."""

    key: ClassVar[str]

    @abstractmethod
    def closed(self, row: StoredFile) -> Conflict | None:
        """Why a file can't be changed now, or None."""

    @abstractmethod
    def is_shown(self, row: StoredFile) -> bool:
        """Whether its learner's tutors and guardians may see a file."""


@lru_cache(maxsize=1)
def _places() -> Mapping[str, Place]:
    found: list[type[Place]] = [import_string(name) for name in settings.FILE_PLACES]
    return {one.key: one() for one in found}


def place_of(row: StoredFile) -> Place:
    """What a file belongs to."""
    return _places()[row.place]
