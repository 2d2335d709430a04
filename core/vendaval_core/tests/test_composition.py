"""What a test is made of, draws from pools, and mirrors."""

from __future__ import annotations

import unittest
from dataclasses import replace
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from vendaval_core.assessment.composition import (
    Composition,
    Entry,
    Section,
    composition_problems,
    lay_out,
    lay_out_mirror,
    mirror_of,
)

VERSIONS = {f"f{i}": 1 if i < 2 else 12 for i in range(12)}
POOL = tuple(VERSIONS)


def made(*sections: Section, **options: bool) -> Composition:
    return Composition(sections, seed=7, **options)


MIXED = made(
    Section("One", (Entry(("f0",)), Entry(("f2",), points=Fraction(2)), Entry(POOL[3:8], 3))),
    Section("Two", (Entry(POOL, 4),), shuffled=True),
)


class LayoutTests(unittest.TestCase):
    @given(st.integers(0, 2**31), st.integers(1, 60), st.booleans(), st.booleans())
    def test_no_family_twice_and_the_same_for_ever(
        self, seed: int, who: int, same: bool, shuffled: bool
    ) -> None:
        test = replace(MIXED, seed=seed, same_versions=same, shuffled_choices=shuffled)
        places = lay_out(test, VERSIONS, who, 1)
        families = [place.family for place in places]
        self.assertEqual(len(set(families)), test.questions)
        self.assertEqual(places, lay_out(test, VERSIONS, who, 1))
        self.assertEqual([place.number for place in places], list(range(1, 10)))
        self.assertTrue(all(1 <= p.seed <= VERSIONS[p.family] for p in places))
        self.assertEqual(sum((p.points for p in places), Fraction(0)), test.points)
        other = lay_out(test, VERSIONS, who + 1, 2)
        versions = {(p.family, p.seed) for p in places}
        self.assertEqual(versions == {(p.family, p.seed) for p in other}, same)
        self.assertEqual(all(p.order > 0 for p in places), shuffled)

    @given(st.integers(0, 2**31), st.booleans())
    def test_a_mirror_shows_no_version_of_the_test(self, seed: int, same: bool) -> None:
        test = replace(MIXED, same_versions=same)
        mirror, left_out = mirror_of(test, VERSIONS, seed)
        self.assertEqual(set(left_out), {"f0", "f1"}, "they have one version only")
        places = lay_out_mirror(mirror, test, VERSIONS, "somebody", 1)
        self.assertEqual(len(places), mirror.questions)
        self.assertFalse({"f0", "f1"} & {place.family for place in places})
        if same:
            own = {(p.family, p.seed) for p in lay_out(test, VERSIONS, "anybody", 1)}
            self.assertFalse(own & {(p.family, p.seed) for p in places})


class ProblemTests(unittest.TestCase):
    def test_what_holds_together_has_none(self) -> None:
        self.assertEqual(composition_problems(MIXED, VERSIONS), {})

    def test_each_place_that_cannot_be_is_named(self) -> None:
        broken = made(
            Section("One", (Entry(("f1",)), Entry(("f1",)), Entry(("gone",)))),
            Section("Two", (Entry(POOL[3:], 10), Entry(("f2",), points=Fraction(0)))),
            Section("Three", ()),
        )
        self.assertEqual(
            set(composition_problems(broken, VERSIONS)),
            {
                "sections.0.entries.1.families",
                "sections.0.entries.2.families",
                "sections.1.entries.0.count",
                "sections.1.entries.1.points",
                "sections.2.entries",
            },
        )
        self.assertIn("sections", composition_problems(made(), VERSIONS))

    def test_draws_that_could_run_out_are_refused(self) -> None:
        tight = made(Section("One", (Entry(("f2",)), Entry(POOL[2:6], 2), Entry(POOL[3:6], 2))))
        self.assertEqual(
            list(composition_problems(tight, VERSIONS)), ["sections.0.entries.2.count"]
        )

    def test_limits_of_sections_are_all_or_none(self) -> None:
        one = Section("One", (Entry(("f2",)),), minutes=10)
        other = Section("Two", (Entry(("f3",)),))
        found = composition_problems(made(one, other), VERSIONS)
        self.assertEqual(list(found), ["sections.1.minutes"])

    def test_a_page_holds_only_so_many(self) -> None:
        versions = {f"g{n}": 3 for n in range(30)}
        long = Section("Long", tuple(Entry((key,)) for key in versions), one_page=True)
        found = composition_problems(made(long), versions)
        self.assertEqual(list(found), ["sections.0.one_page"])


class PageTests(unittest.TestCase):
    def test_a_section_on_one_page_keeps_together(self) -> None:
        """Each of the others has a page to itself, which is known by its first question."""
        sections = (MIXED.sections[0], replace(MIXED.sections[1], one_page=True, forward_only=True))
        places = lay_out(replace(MIXED, sections=sections), VERSIONS, "somebody", 1)
        self.assertEqual([place.page for place in places], [1, 2, 3, 4, 5, 6, 6, 6, 6])
        self.assertEqual([place.forward_only for place in places], [False] * 5 + [True] * 4)
