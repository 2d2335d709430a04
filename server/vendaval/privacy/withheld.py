"""What of a row may be written out now: what a test holds back is held back here too."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from vendaval.bank.snapshot import version_of
from vendaval.marks.queries import is_told
from vendaval.people.models import User
from vendaval.work.models import Presentation, Purpose, Visibility
from vendaval.work.questions import gives_away, open_in_tests_of

Row = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Held:
    """Versions that are in tests still open for a person, by family id and seed."""

    in_tests: frozenset[tuple[int, int]]

    @classmethod
    def of(cls, person: User) -> Held:
        return cls(open_in_tests_of(person))

    def visibility(self, shown: Presentation) -> Visibility:
        """How much may be told of a question now."""
        if shown.run.purpose == Purpose.TEST:
            return Visibility(shown.visibility)
        if gives_away(shown.revision, shown.seed, self.in_tests):
            return Visibility.NOTHING
        return Visibility.ALL


def presentation(row: Any, plain: Row, held: Held) -> Row:
    """A question with what was asked in plain words, once its learner has seen it for certain."""
    if row.run.purpose == Purpose.TEST and row.closed_at is None:
        return plain
    version = version_of(row.revision, row.seed, row.order)
    parts = {key.id: key.label for key in version.parts}
    return plain | {"question": version.prompt, "parts": parts}


def tried(row: Any, plain: Row, held: Held) -> Row:
    """A try; what was said to it once all may be told."""
    if held.visibility(row.presentation) != Visibility.ALL:
        plain["reply"] = None
    return plain


def mark(row: Any, plain: Row, held: Held) -> Row | None:
    """A mark, once right or wrong may be told; what was said beside it once all may be."""
    visibility = held.visibility(row.tried.presentation)
    if visibility == Visibility.NOTHING:
        return None
    if visibility != Visibility.ALL:
        plain["says"] = ""
    return plain


def told_only(row: Any, plain: Row, held: Held) -> Row | None:
    """An observation or a marking, once what it says may be told."""
    if hasattr(row, "tried"):
        return None if held.visibility(row.tried.presentation) == Visibility.NOTHING else plain
    out = row.answer.attempt.released_at
    if out is None or row.at > out or held.visibility(row.answer.presentation) != Visibility.ALL:
        return None
    return plain


def entered(row: Any, plain: Row, held: Held) -> Row:
    """What a tutor entered in a mark book; the mark and its reason once the learner may see it."""
    return plain if is_told(row) else plain | {"share": None, "why": ""}
