"""Whether right answers are marked right however people type them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field

from ..items.mark import Verdict
from ..items.model import Family
from ..items.versions import Version, make_version


@dataclass(frozen=True, slots=True)
class FormFound:
    """A right answer that was not marked right. why: what its learner reads."""

    family: str
    part: str
    typed: str
    verdict: Verdict
    why: str


@dataclass(slots=True)
class FormsReport:
    """How usual forms of right answers were marked, and those that were not right."""

    counts: Counter[Verdict] = field(default_factory=Counter)
    found: list[FormFound] = field(default_factory=list)

    @property
    def share_right(self) -> float:
        """Share that was marked right, 0 to 1; 1 for none."""
        return self.counts[Verdict.RIGHT] / (self.counts.total() or 1)


def forms_not_right(family: str, version: Version, report: FormsReport) -> Iterator[FormFound]:
    """Mark every usual form of a version's right answers, count it, and yield what isn't right."""
    for key in version.parts:
        for typed in key.usual_forms():
            mark = key.mark(typed)
            report.counts[mark.verdict] += 1
            if mark.verdict is not Verdict.RIGHT:
                yield FormFound(family, key.id, typed, mark.verdict, mark.says or "")


def check_forms(families: Iterable[Family], seeds: int) -> FormsReport:
    """Return how usual forms are marked over the first `seeds` versions of each family."""
    report = FormsReport()
    for family in families:
        for seed in range(1, min(seeds, family.versions) + 1):
            version = make_version(family, seed)
            report.found += forms_not_right(family.key, version, report)
    return report
