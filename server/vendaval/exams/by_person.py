"""What of an attempt a person has to mark, and how much of that waits: without making versions.

How many parts wait stands in every tutor's bar, so it is counted from what was kept at handing in.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from vendaval.bank.snapshot import family_of, version_of
from vendaval.work.questions import with_revisions
from vendaval_core.items.kinds.protocol import Key

from .models import AnswerSoFar, Attempt, MarkerRole, Marking


def parts_by_hand(answer: AnswerSoFar) -> list[Key]:
    """Parts of an answer that a person marks: what was written, what is on paper, and what no rule
    could read at handing in."""
    row = answer.presentation
    by_rule = all(part.marked_by_rule for part in family_of(row.revision).parts)
    if by_rule and not answer.data.on_paper and not answer.unreadable:
        return []
    version = version_of(row.revision, row.seed, row.order)
    return [
        key
        for key in version.parts
        if answer.data.on_paper
        or key.id in (answer.unreadable or ())
        or (key.by_person and answer.data.responses.get(key.id, "").strip())
    ]


@dataclass(slots=True)
class Roles:
    """The marking of each role that counts for one part."""

    given: dict[MarkerRole, Marking] = field(default_factory=dict, kw_only=True)

    @property
    def differ(self) -> bool:
        """Whether two markers gave different points and nobody has settled it."""
        first, second = self.given.get(MarkerRole.FIRST), self.given.get(MarkerRole.SECOND)
        if first is None or second is None or MarkerRole.AGREED in self.given:
            return False
        return first.data.share != second.data.share

    @property
    def counts(self) -> Marking | None:
        """The marking that counts: what was settled, else the first marker's; None while it waits
        or is not settled."""
        if self.differ:
            return None
        return self.given.get(MarkerRole.AGREED) or self.given.get(MarkerRole.FIRST)


def given_in(attempts: Iterable[int]) -> dict[int, dict[tuple[int, str], Roles]]:
    """By attempt what was given for its parts, by answer and part; one query."""
    found: dict[int, dict[tuple[int, str], Roles]] = {}
    rows = Marking.objects.filter(answer__attempt__in=list(attempts), withdrawn_at=None)
    wanted = rows.select_related("answer").only("part", "role", "data", "answer__attempt")
    for marking in wanted.order_by("pk"):
        of = found.setdefault(marking.answer.attempt_id, {})
        roles = of.setdefault((marking.answer_id, marking.part), Roles())
        roles.given[MarkerRole(marking.role)] = marking
    return found


def count_by_hand(attempts: Iterable[Attempt]) -> None:
    """Count the parts for a person of attempts of which that was never done, and keep it."""
    missing = {one.pk: one for one in attempts if one.by_hand is None}
    if not missing:
        return
    rows = list(AnswerSoFar.objects.filter(attempt__in=missing).select_related("presentation"))
    with_revisions(row.presentation for row in rows)
    counts: Mapping[int, int] = {
        pk: sum(len(parts_by_hand(row)) for row in rows if row.attempt_id == pk) for pk in missing
    }
    for pk, count in counts.items():
        missing[pk].by_hand = count
    Attempt.objects.bulk_update(missing.values(), ["by_hand"])
