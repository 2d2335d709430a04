"""What an item says to answers, found by giving it answers and seeing what it would show."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ...items.processing.nodes import Node
from ...items.processing.values import Container
from .asked import Reading

FEEDBACK = frozenset({"qti-modal-feedback", "qti-feedback-inline", "qti-feedback-block"})
MOST_HINTS, MOST_LETTERS = 4, 1_000


@dataclass(frozen=True, slots=True)
class Said:
    """A feedback: when it is shown, and its text."""

    outcome: str
    identifier: str
    shown: bool
    text: str

    @property
    def name(self) -> str:
        """As a part that is marked by rules names it."""
        return f"{self.outcome} {self.identifier}"

    def is_shown(self, outcomes: Mapping[str, Container]) -> bool:
        """Whether these outcomes show it."""
        held = outcomes.get(self.outcome)
        holds = held is not None and self.identifier in [str(one) for one in held.values]
        return holds is self.shown


@dataclass(slots=True)
class Feedback:
    """An item's feedback, in the order of the file. used: texts that have found a place."""

    said: list[Said] = field(default_factory=list)
    used: set[str] = field(default_factory=set)

    def shown(self, outcomes: Mapping[str, Container]) -> list[str]:
        """What these outcomes show."""
        return [one.text for one in self.said if one.is_shown(outcomes)]

    def by_name(self) -> dict[str, str]:
        """Texts by outcome and identifier, of what is shown when it is set."""
        return {one.name: one.text for one in self.said if one.shown}


def read_feedback(reading: Reading, item: Node) -> Feedback:
    """Return an item's feedback."""
    found = Feedback()
    for node in item.walk():
        if node.name in FEEDBACK:
            text = reading.cut(reading.blocks(node.within).strip(), MOST_LETTERS)
            if text:
                found.said.append(
                    Said(
                        node.get("outcome-identifier"),
                        node.get("identifier"),
                        node.get("show-hide", "show") != "hide",
                        text,
                    )
                )
    return found
