"""Four of the latest five: too hard, too easy, or neither."""

import unittest

from vendaval_core.mastery.challenge import Challenge, challenge

HARD, EASY = Challenge.TOO_HARD, Challenge.TOO_EASY


class ChallengeTests(unittest.TestCase):
    def test_four_of_the_latest_five(self) -> None:
        cases = (
            ([0.4, 0.3, 0.8, 0.2, 0.45], HARD),
            ([0.4, 0.3, 0.8, 0.7, 0.45], None),
            ([0.95, 1.0, 0.6, 0.92, 1.0], EASY),
            ([0.95, 1.0, 0.6, 0.6, 1.0], None),
            ([0.5, 0.5, 0.5, 0.5, 0.5], None),
            ([0.9, 0.9, 0.9, 0.9, 0.9], None),
            ([0.1, 0.2, 0.3, 0.4], HARD),
            ([0.1, 0.2, 0.3], None),
            ([0.1] * 9 + [0.8] * 2, None),
            ([0.8] * 9 + [0.1] * 4, HARD),
            ([], None),
        )
        for shares, expected in cases:
            self.assertEqual(challenge(shares), expected, shares)
