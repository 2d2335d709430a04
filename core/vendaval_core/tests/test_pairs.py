"""Pairs with the same answers: planted ones found, honest ones left alone, chances by all cases."""

import random
import unittest
from itertools import product

from vendaval_core.mastery.signal_words import SignalKind, ask_fast, ask_misfit, ask_rapid, ask_same
from vendaval_core.measure.pairs import RIGHT, SamePair, Sheet, alike_pairs
from vendaval_core.measure.signals import Timed

QUESTIONS = [f"q{n}" for n in range(12)]


def honest(rng: random.Random, right: float) -> Sheet:
    answers = {q: RIGHT if rng.random() < right else rng.choice("abc") for q in QUESTIONS}
    return Sheet(answers, dict.fromkeys(QUESTIONS, right))


class PairTests(unittest.TestCase):
    def group(self, size: int = 20) -> dict[int, Sheet]:
        rng = random.Random(4)
        return {n: honest(rng, 0.5) for n in range(size)}

    def test_one_who_took_all_from_another_is_asked_about(self) -> None:
        sheets = self.group()
        sheets[7] = Sheet(dict(sheets[3].answers), sheets[7].chances)
        (found,) = alike_pairs(sheets)
        self.assertEqual((found.one, found.other, found.matches, found.of), (3, 7, 12, 12))
        wrong = {q for q, answer in sheets[3].answers.items() if answer != RIGHT}
        self.assertEqual(set(found.wrong), wrong)
        self.assertLess(found.chance, 0.1)

    def test_the_same_right_answers_are_no_signal(self) -> None:
        sheets = self.group()
        for n in (3, 7):
            sheets[n] = Sheet(dict.fromkeys(QUESTIONS, RIGHT), dict.fromkeys(QUESTIONS, 0.9))
        self.assertEqual(alike_pairs(sheets), [])

    def test_other_versions_are_not_compared(self) -> None:
        sheets = self.group()
        others = {f"{q} elsewhere": answer for q, answer in sheets[3].answers.items()}
        sheets[7] = Sheet(others, dict.fromkeys(others, 0.5))
        self.assertEqual(alike_pairs(sheets), [])

    def test_a_mistake_that_everybody_makes_says_little(self) -> None:
        """The same two alike, once among others who answer otherwise, once among their like."""
        alone = self.group()
        wrong = dict.fromkeys(QUESTIONS, "a")
        for n in (3, 7):
            alone[n] = Sheet(wrong, dict.fromkeys(QUESTIONS, 0.2))
        common = {n: Sheet(wrong, dict.fromkeys(QUESTIONS, 0.2)) for n in range(20)}
        self.assertTrue(alike_pairs(alone))
        self.assertEqual(alike_pairs(common), [])

    def test_the_chance_by_all_cases(self) -> None:
        """Twenty learners, ten questions: every way in which one of two could match the other is gone
        through, each as likely as its chances say. The others answered other questions."""
        questions = QUESTIONS[:10]
        source = {q: "a" if n < 5 else RIGHT for n, q in enumerate(questions)}
        sheets = {
            1: Sheet(source, dict.fromkeys(questions, 0.2)),
            2: Sheet(dict(source), dict.fromkeys(questions, 0.2)),
        }
        self.assertEqual(alike_pairs(sheets), [], "too few to tell")
        for n in range(3, 21):
            others = {f"{n} {q}": RIGHT for q in questions}
            sheets[n] = Sheet(others, dict.fromkeys(others, 0.2))
        (found,) = alike_pairs(sheets)
        chances = [0.8 if answer != RIGHT else 0.2 for answer in source.values()]
        total = 0.0
        for case in product((True, False), repeat=10):
            if sum(case) >= found.matches:
                weight = 1.0
                for hit, chance in zip(case, chances, strict=True):
                    weight *= chance if hit else 1 - chance
                total += weight
        self.assertAlmostEqual(found.alone, total)
        self.assertAlmostEqual(found.chance, 380 * total)

    def test_a_mistake_that_three_share_is_nobodys_copy(self) -> None:
        sheets = self.group()
        sheets[7] = Sheet(dict(sheets[3].answers), sheets[7].chances)
        self.assertEqual(len(alike_pairs(sheets)), 1)
        sheets[8] = Sheet(dict(sheets[3].answers), sheets[8].chances)
        self.assertEqual(alike_pairs(sheets), [])


class WordingTests(unittest.TestCase):
    def test_each_is_a_question_with_its_numbers(self) -> None:
        slow, guesses = [Timed(1.0, True)] * 17, [Timed(0.05, False, 0.25)] * 4
        rapid = ask_rapid(slow + guesses)
        assert rapid is not None
        self.assertTrue(rapid.question.endswith("?"))
        self.assertIn("4 of the latest 21 first answers", rapid.evidence)
        self.assertIn("Right among these: 0", rapid.evidence)
        fast = ask_fast([Timed(0.3, True)] * 20)
        assert fast is not None
        self.assertIn("20 of the latest 20", fast.evidence)
        self.assertIn("within 30% of the usual time", fast.evidence)
        pair = SamePair(1, 2, 20, 17, ("a", "b", "c"), 4.23, 0.012, 0.0001)
        same = ask_same(pair, "Tides")
        self.assertEqual(same.kind, SignalKind.SAME)
        self.assertIn("17 of 20 answers are the same, 3 of them the same wrong ones", same.evidence)
        self.assertIn("in about 1 of 83 tests", same.evidence)
        self.assertIsNone(ask_misfit(None))
        for one in (rapid, fast, same):
            self.assertGreaterEqual(len(one.perhaps), 2, "other explanations stand beside it")
