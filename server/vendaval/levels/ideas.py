"""The ideas of a topic that count, and how far each is covered."""

from __future__ import annotations

from vendaval.work.schemas import IdeaOut

from .learning import Learning


def ideas_of(learning: Learning, number: int, *, essential: bool = True) -> list[IdeaOut]:
    """Ideas of a topic, in the order of their titles. essential: those only that cover it."""
    bank = learning.bank
    found = []
    for one in learning.practice_families(number, with_success=False):
        if essential and not one.essential:
            continue
        history = learning.row.families.get(one.key)
        found.append(
            IdeaOut(
                key=one.key,
                title=bank.families[one.key].family.title,
                right=min(one.right_versions, one.wanted),
                wanted=one.wanted,
                missed=history is not None and history.missed is not None,
            )
        )
    return sorted(found, key=lambda idea: idea.title)
