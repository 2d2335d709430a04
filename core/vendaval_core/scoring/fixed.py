"""What of a family is the same in every version: seeing one version gives the others away."""

from __future__ import annotations

from ..items.model import Family
from ..items.versions import make_version

LOOKED_AT = 12


def fixed_parts(family: Family) -> frozenset[str]:
    """Return the ids of the parts whose right answer is the same in every version.

    Compares the first twelve versions. In a family with one version every part is fixed.
    """
    seeds = range(1, min(family.versions, LOOKED_AT) + 1)
    answers: dict[str, set[str]] = {}
    for seed in seeds:
        for key in make_version(family, seed).parts:
            answers.setdefault(key.id, set()).add(key.right_words())
    return frozenset(part for part, said in answers.items() if len(said) == 1)
