"""From which revision on answers say how hard a family is: an author may say that what is asked has
changed so much that those before say nothing."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from . import models


@dataclass(frozen=True, slots=True)
class Since:
    """The last revision that was asked afresh, and when it was published."""

    number: int
    at: datetime


def fresh_since(**families: object) -> dict[int, Since]:
    """The last fresh revision of each family that has one, by its id. families: which ones, as
    conditions on them."""
    conditions = {f"revision__family__{name}": value for name, value in families.items()}
    rows = models.RevisionSource.objects.filter(fresh=True, **conditions)
    values = rows.order_by("revision__number").values_list(
        "revision__family", "revision__number", "at"
    )
    return {family: Since(number, at) for family, number, at in values}
