"""What a test is made of, and the questions that one attempt gets from it.

A layout comes from seeds alone: the same test, learner and attempt give the same questions in the
same order with the same numbers, for ever.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from vendaval_core.language import gettext

from ..items.randomness import SeededStream

MOST_QUESTIONS = 120
MOST_ON_A_PAGE = 20


@dataclass(frozen=True, slots=True)
class Entry:
    """One family, or a draw of `count` from several. points: of each question, above 0. working:
    whether it is marked as wanting its working shown."""

    families: tuple[str, ...]
    count: int = 1
    points: Fraction = Fraction(1)
    working: bool = False

    @property
    def drawn(self) -> bool:
        """Whether the seeds decide which families come."""
        return self.count < len(self.families)


@dataclass(frozen=True, slots=True)
class Section:
    """A part of a test. minutes: of its own, None without. shuffled: its questions, per attempt.
    one_page: whether its questions stand under one another, else one at a time. forward_only:
    whether there is no way back in it, also where the rules of the test allow one."""

    title: str
    entries: tuple[Entry, ...]
    minutes: int | None = None
    shuffled: bool = False
    one_page: bool = False
    forward_only: bool = False

    @property
    def questions(self) -> int:
        """How many an attempt has of it."""
        return sum(entry.count for entry in self.entries)


@dataclass(frozen=True, slots=True)
class Composition:
    """A test. seed: kept with it. same_versions: everyone gets the same questions and numbers,
    else each learner and attempt has its own. shuffled_choices: per attempt."""

    sections: tuple[Section, ...]
    seed: int
    same_versions: bool = True
    shuffled_choices: bool = False

    @property
    def questions(self) -> int:
        """How many an attempt has."""
        return sum(section.questions for section in self.sections)

    @property
    def points(self) -> Fraction:
        """Points of an attempt."""
        entries = (entry for section in self.sections for entry in section.entries)
        return sum((entry.count * entry.points for entry in entries), Fraction(0))

    @property
    def wants_working(self) -> bool:
        """Whether any of its entries is marked as wanting working."""
        return any(entry.working for section in self.sections for entry in section.entries)

    @property
    def section_minutes(self) -> bool:
        """Whether sections have limits of their own."""
        return any(section.minutes is not None for section in self.sections)


@dataclass(frozen=True, slots=True)
class Place:
    """A question's place in an attempt. number: from 1. section: from 0. seed: of the version,
    from 1. order: by which its choices are shuffled, 0 as written. points: what it is worth.
    working: as of its entry. page: number of the first question on its page, its own where it
    stands alone. forward_only: as of its section."""

    number: int
    section: int
    family: str
    seed: int
    order: int
    points: Fraction
    page: int
    working: bool = False
    forward_only: bool = False


def composition_problems(
    composition: Composition, versions: Mapping[str, int | None]
) -> dict[str, str]:
    """Return what is wrong with a composition, by place (`sections.0.entries.1.count`), with the
    reason.

    versions: how many versions each family of the bank has; a family that is missing here is not
    live.
    """
    found: dict[str, str] = {}
    if not composition.sections:
        found["sections"] = gettext("a test has at least one section")
    if composition.questions > MOST_QUESTIONS:
        found["sections"] = gettext("at most {most_questions} questions").format(
            most_questions=MOST_QUESTIONS
        )
    fixed: set[str] = set()
    for s, section in enumerate(composition.sections):
        place = f"sections.{s}"
        if not section.entries:
            found[f"{place}.entries"] = gettext("a section has at least one question")
        if section.minutes is not None and section.minutes < 1:
            found[f"{place}.minutes"] = gettext("choose at least one")
        if section.one_page and section.questions > MOST_ON_A_PAGE:
            found[f"{place}.one_page"] = gettext(
                "at most {most} questions on one page; this section has {count}"
            ).format(most=MOST_ON_A_PAGE, count=section.questions)
        for e, entry in enumerate(section.entries):
            for name, says in _entry_problems(entry, versions, fixed):
                found[f"{place}.entries.{e}.{name}"] = says
            if not entry.drawn:
                fixed |= set(entry.families)
    if not found and composition.section_minutes:
        for s, section in enumerate(composition.sections):
            if section.minutes is None:
                found[f"sections.{s}.minutes"] = gettext(
                    "when one section has a time limit, every section needs one"
                )
    return found or _draws_too_small(composition)


def _entry_problems(
    entry: Entry, versions: Mapping[str, int | None], fixed: set[str]
) -> list[tuple[str, str]]:
    found = []
    unknown = [family for family in entry.families if family not in versions]
    if unknown:
        found.append(
            (
                "families",
                gettext("not in this course: {unknown}").format(unknown=", ".join(unknown)),
            )
        )
    if len(set(entry.families)) < len(entry.families):
        found.append(("families", gettext("choose each question only once")))
    if not 1 <= entry.count <= len(entry.families):
        found.append(("count", gettext("choose 1 to {count}").format(count=len(entry.families))))
    if entry.points <= 0:
        found.append(("points", "above 0"))
    if not entry.drawn and fixed & set(entry.families):
        found.append(
            (
                "families",
                gettext("already in the test: {fixed}").format(
                    fixed=", ".join(fixed & set(entry.families))
                ),
            )
        )
    return found


def _draws_too_small(composition: Composition) -> dict[str, str]:
    """Draws that could run out, because no family comes twice."""
    fixed = {
        family
        for section in composition.sections
        for entry in section.entries
        if not entry.drawn
        for family in entry.families
    }
    used = 0
    for s, section in enumerate(composition.sections):
        for e, entry in enumerate(section.entries):
            if not entry.drawn:
                continue
            free = len(set(entry.families) - fixed)
            # What other draws take can at most come out of this one's pool.
            if free - used < entry.count:
                return {
                    f"sections.{s}.entries.{e}.count": (
                        gettext(
                            "only {free} questions are free for {count} places, and earlier "
                            "draws may use {used} of them"
                        ).format(free=free, count=entry.count, used=used)
                    )
                }
            used += entry.count
    return {}


def lay_out(
    composition: Composition, versions: Mapping[str, int], who: object, attempt: int
) -> tuple[Place, ...]:
    """Return the questions of an attempt, in order.

    versions: of each family, 1 or more. who: identifies the learner. attempt: from 1. If everyone
    has the same versions, only the orders depend on these two.
    """
    own = () if composition.same_versions else (who, attempt)
    taken = {
        family
        for section in composition.sections
        for entry in section.entries
        if not entry.drawn
        for family in entry.families
    }
    places: list[Place] = []
    for s, section in enumerate(composition.sections):
        drawn: list[tuple[str, Entry]] = []
        for e, entry in enumerate(section.entries):
            stream = SeededStream("draw", composition.seed, s, e, *own)
            for family in _families(entry, stream, taken):
                drawn.append((family, entry))
        if section.shuffled:
            drawn = SeededStream("places", composition.seed, s, who, attempt).shuffled(drawn)
        first = len(places) + 1
        for family, entry in drawn:
            number = len(places) + 1
            order = 0
            if composition.shuffled_choices:
                order = 1 + SeededStream("order", composition.seed, family, who, attempt).below(
                    2**16
                )
            stream = SeededStream("version", composition.seed, family, *own)
            seed = 1 + stream.below(versions[family])
            places.append(
                Place(
                    number,
                    s,
                    family,
                    seed,
                    order,
                    entry.points,
                    page=first if section.one_page else number,
                    working=entry.working,
                    forward_only=section.forward_only,
                )
            )
    return tuple(places)


def _families(entry: Entry, stream: SeededStream, taken: set[str]) -> Sequence[str]:
    if not entry.drawn:
        return entry.families
    found = [one for one in stream.shuffled(entry.families) if one not in taken][: entry.count]
    taken.update(found)
    return found


def mirror_of(
    composition: Composition, versions: Mapping[str, int], seed: int
) -> tuple[Composition, list[str]]:
    """Return the same test with other numbers, and the families left out of it.

    A family with one version has no other numbers. In a mirror, which is always open, it would give
    the test away. seed: of the mirror. Where everyone has the same versions, the mirror's differ
    from the test's (see `lay_out_mirror`).
    """
    left_out = [
        family
        for section in composition.sections
        for entry in section.entries
        for family in entry.families
        if versions[family] <= 1
    ]
    return replace(without(composition, set(left_out)), seed=seed), left_out


def without(composition: Composition, left_out: Collection[str]) -> Composition:
    """Return a composition without some families. Entries and sections that become empty are
    removed too."""
    sections = []
    for section in composition.sections:
        entries = []
        for entry in section.entries:
            families = tuple(one for one in entry.families if one not in left_out)
            if families:
                count = min(entry.count, len(families))
                entries.append(replace(entry, families=families, count=count))
        if entries:
            sections.append(replace(section, entries=tuple(entries)))
    return replace(composition, sections=tuple(sections))


def lay_out_mirror(
    mirror: Composition,
    original: Composition,
    versions: Mapping[str, int],
    who: object,
    attempt: int,
) -> tuple[Place, ...]:
    """Return the questions of an attempt at a mirror: other numbers each time, and never those that
    the test itself shows everyone."""
    fresh = replace(mirror, same_versions=False)
    places = lay_out(fresh, versions, who, attempt)
    if not original.same_versions:
        return places
    own = {place.family: place.seed for place in lay_out(original, versions, who, 1)}
    return tuple(
        replace(place, seed=1 + place.seed % versions[place.family])
        if own.get(place.family) == place.seed
        else place
        for place in places
    )
