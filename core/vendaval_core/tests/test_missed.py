"""What a group missed most. Common practice, no published source."""

import unittest

from vendaval_core.mastery.missed import FamilyMissed, WrongAnswer, alike, most_missed


class MissedTests(unittest.TestCase):
    def test_by_learners_then_by_share_and_never_one_alone(self) -> None:
        found = most_missed(
            [
                FamilyMissed("a", 20, 4),
                FamilyMissed("b", 5, 4),
                FamilyMissed("c", 1, 1),
                FamilyMissed("d", 9, 9),
            ]
        )
        self.assertEqual([one.family for one in found], ["d", "b", "a"])

    def test_versions_differ_in_numbers_and_the_mistake_is_the_same(self) -> None:
        said = "You added {} m: a drying height is taken off."
        found = alike(
            [
                WrongAnswer(1, "5.2 m", said.format("1.4")),
                WrongAnswer(2, "6.9 m", said.format("2.0")),
                WrongAnswer(2, "6.9 m", said.format("2.0")),
                WrongAnswer(3, "0.4 m", ""),
                WrongAnswer(4, "at neaps", ""),
                WrongAnswer(5, "At neaps", ""),
                WrongAnswer(6, "at springs", ""),
            ]
        )
        self.assertEqual([one.learners for one in found], [2, 2, 1])
        self.assertEqual((found[0].given, found[0].says), ("6.9 m", said.format("1.4")))
        self.assertEqual({one.given.lower() for one in found[1:]}, {"at neaps", "at springs"})
