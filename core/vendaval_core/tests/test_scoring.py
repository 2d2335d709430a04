"""Reading, marking, tries and penalties."""

from fractions import Fraction
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from vendaval_core.items.drawn import KeyedNearMiss
from vendaval_core.items.kinds.choice import ChoiceKey, VersionChoice
from vendaval_core.items.kinds.number import NumberKey
from vendaval_core.items.kinds.protocol import Key
from vendaval_core.items.kinds.short_text import TextKey
from vendaval_core.items.kinds.time_of_day import TimeKey
from vendaval_core.items.mark import Verdict
from vendaval_core.items.numbers import read_number
from vendaval_core.items.reading import Unreadable, read_text
from vendaval_core.items.times import read_time
from vendaval_core.items.versions import Version
from vendaval_core.scoring.feedback import feedback_for
from vendaval_core.scoring.tries import (
    ONE_TRY,
    PRACTICE_TRIES,
    PartResult,
    QuestionState,
    Submission,
    TryRules,
    first_try_category,
    submit,
)

HEIGHT = NumberKey("h", "", "m", 3.5, 0.05, "3.5 m", (KeyedNearMiss(4.7, "One hour too far."),))
TIME = TimeKey("t", "", 5.0, 5.0, "00:05", ())
WORD = TextKey("w", "", ("ebb", "ebb tide"), (KeyedNearMiss("flood", "That is coming in."),))
CHOICE = ChoiceKey(
    "c", "", (VersionChoice("a", "x", False, "Not x."), VersionChoice("b", "y", True, None))
)


def version(*keys: Key) -> Version:
    return Version("f", 1, "", "", keys, (), (), {})


def sent(
    question: Version, *rounds: dict[str, str], rules: TryRules = PRACTICE_TRIES
) -> Submission:
    state = QuestionState.fresh(question.parts)
    for responses in rounds:
        submission = submit(question, state, responses, rules)
        state = submission.after
    return submission


class ReadingTests(TestCase):
    def test_numbers_as_people_type_them(self) -> None:
        readable = {
            "4.7": 4.7,
            "4,7": 4.7,
            " 4.7 m": 4.7,
            "4,7 metres": 4.7,
            "\u22121.5": -1.5,
            "+.5": 0.5,
            "12.": 12.0,
        }
        for text, expected in readable.items():
            found = read_number(text, "m")
            self.assertEqual(found.value, expected, text)  # type: ignore[union-attr]
        for text in ("", "about 4", "4.7 kn", "1,23,4", "4 7", "4..7", "1e9", "٤x", "9" * 300):
            self.assertIsInstance(read_number(text, "m"), Unreadable, text)

    def test_times(self) -> None:
        for text in ("09:10", "9:10", "9.10", "9h10", "0910"):
            self.assertEqual(read_time(text), 550)
        for text in ("24:00", "9:60", "91", "nine", "13 pm", ""):
            self.assertIsInstance(read_time(text), Unreadable, text)

    def test_short_texts_fold_case_accents_and_articles(self) -> None:
        self.assertEqual(read_text("  The  ÉBB-tide. "), "ebb tide")
        self.assertIsInstance(read_text("  …"), Unreadable)

    @settings(max_examples=400, deadline=200)
    @given(st.text(max_size=300))
    def test_nothing_typed_raises(self, text: str) -> None:
        for key in (HEIGHT, TIME, WORD, CHOICE):
            key.mark(text)


class MarkingTests(TestCase):
    def test_right_near_and_wrong(self) -> None:
        self.assertEqual(HEIGHT.mark("3,45").verdict, Verdict.RIGHT)
        self.assertEqual(HEIGHT.mark("3.56").verdict, Verdict.WRONG)
        self.assertEqual(HEIGHT.mark("4.7").says, "One hour too far.")
        self.assertEqual(TIME.mark("23:59").verdict, Verdict.WRONG)
        self.assertEqual(TIME.mark("00:00").verdict, Verdict.RIGHT)
        self.assertEqual(WORD.mark("Ebb  tide").verdict, Verdict.RIGHT)
        self.assertEqual(WORD.mark("flood").says, "That is coming in.")
        self.assertEqual(CHOICE.mark("a").says, "Not x.")
        self.assertEqual(CHOICE.mark("z").verdict, Verdict.UNREADABLE)

    def test_midnight_is_near_midnight(self) -> None:
        self.assertEqual(TimeKey("t", "", 1438, 5, "", ()).mark("00:02").verdict, Verdict.RIGHT)


class TryTests(TestCase):
    def test_four_tries_a_quarter_off_each(self) -> None:
        """Common practice, no published source: 1, 0.75, 0.5, 0.25, then 0; of 5 points 3.75."""
        rules = TryRules(4, Fraction(1, 4))
        self.assertEqual([float(rules.worth(n)) for n in range(5)], [1.0, 0.75, 0.5, 0.25, 0.0])
        self.assertEqual(5 * rules.worth(1), Fraction(15, 4))

    def test_three_tries_then_closed(self) -> None:
        rounds = [{"h": "1"}, {"h": "2"}, {"h": "3.5"}]
        states = [sent(version(HEIGHT), *rounds[: n + 1]).after for n in range(3)]
        self.assertEqual([s.tries_left(PRACTICE_TRIES) for s in states], [2, 1, 0])
        self.assertAlmostEqual(float(states[2].score(PRACTICE_TRIES)), 1 / 3)
        after = sent(version(HEIGHT), {"h": "1"}, {"h": "2"}, {"h": "3"}, {"h": "3.5"})
        self.assertEqual(after.results["h"], PartResult.CLOSED)
        self.assertEqual(after.after.score(PRACTICE_TRIES), 0)

    def test_parts_are_tried_separately(self) -> None:
        question = version(HEIGHT, WORD)
        second = sent(question, {"h": "9", "w": "ebb"}, {"h": "3.5", "w": "ebb"})
        self.assertEqual(second.results, {"h": PartResult.RIGHT, "w": PartResult.CLOSED})
        self.assertAlmostEqual(float(second.after.score(PRACTICE_TRIES)), (2 / 3 + 1) / 2)
        self.assertEqual(first_try_category(second.after, question, 3), 1)

    def test_unchanged_unreadable_and_blank_cost_nothing(self) -> None:
        for response in ("9", "9.0", " 9 m", "nine", ""):
            again = sent(version(HEIGHT), {"h": "9"}, {"h": response})
            self.assertFalse(again.counted, response)
        self.assertEqual(
            sent(version(HEIGHT), {"h": "9"}, {"h": "9,0"}).results["h"], PartResult.UNCHANGED
        )

    def test_an_outcome_waits_for_every_part(self) -> None:
        question = version(HEIGHT, WORD)
        self.assertFalse(sent(question, {"h": "3.5"}).completes_first_tries)
        both = sent(question, {"h": "3.5"}, {"w": "flood"})
        self.assertTrue(both.completes_first_tries)
        self.assertEqual(first_try_category(both.after, question, 3), 1)

    def test_where_all_parts_are_wanted_nothing_is_told_before(self) -> None:
        state = QuestionState.fresh([HEIGHT, WORD])
        held = submit(version(HEIGHT, WORD), state, {"h": "3.5"}, ONE_TRY, whole=True)
        self.assertFalse(held.counted)
        self.assertEqual(held.results, {"h": PartResult.HELD, "w": PartResult.BLANK})

    def test_feedback_describes_and_keeps_a_diagnostics_secret(self) -> None:
        missed = sent(version(HEIGHT), {"h": "4.7"})
        self.assertEqual(
            feedback_for(missed, {"h": "4.7 m"}, True).headline, "Not 4.7 m. One hour too far."
        )
        told = feedback_for(missed, {"h": "4.7 m"}, False)
        self.assertNotIn("hour", told.headline + told.detail)
        self.assertIn(
            "We didn’t count a try",
            feedback_for(sent(version(HEIGHT), {"h": "x"}), {}, True).detail,
        )
