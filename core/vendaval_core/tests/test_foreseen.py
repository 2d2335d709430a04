"""What the course foresees is what it says: each foreseen wrong answer, given as a learner would
give it, is marked as not wholly right and gets words of its own."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from unittest import TestCase

from vendaval_core.items.kinds.registry import KINDS
from vendaval_core.items.mark import Verdict
from vendaval_core.items.versions import Version, make_version

from .courses import inshore


class ForeseenTests(TestCase):
    pack = inshore()

    def versions(self) -> Iterator[Version]:
        for item in self.pack.families:
            for seed in range(1, item.family.versions + 1, 9):
                yield make_version(item.family, seed)

    def test_each_slip_gets_its_words(self) -> None:
        """The first that fits is said, so the words are those of one of the part's slips."""
        seen = Counter[type]()
        for version in self.versions():
            for key in version.parts:
                said = {slip.says for slip in key.foreseen()}
                for slip in key.foreseen():
                    if not slip.says:
                        continue
                    with self.subTest(family=version.family, seed=version.seed, says=slip.says):
                        mark = key.mark(slip.response)
                        self.assertIn(mark.verdict, {Verdict.WRONG, Verdict.PARTLY}, slip)
                        self.assertTrue(any(s and s in str(mark.says) for s in said), mark.says)
                    seen[type(key)] += 1
        asked = {type(key) for version in self.versions() for key in version.parts}
        for kind in KINDS:
            if kind.key in asked and kind.part.marked_by_rule:
                self.assertGreater(seen[kind.key], 0, kind)

    def test_every_family_foresees_a_slip(self) -> None:
        for item in self.pack.families:
            version = make_version(item.family, 1)
            words = [slip for key in version.parts for slip in key.foreseen() if slip.says]
            self.assertTrue(words, item.family.key)

    def test_a_right_answer_hears_of_no_slip(self) -> None:
        for version in self.versions():
            for key in version.parts:
                said = {slip.says for slip in key.foreseen() if slip.says}
                mark = key.mark(key.examples.right)
                with self.subTest(family=version.family, part=key.id):
                    self.assertFalse(any(text in str(mark.says) for text in said), mark.says)
