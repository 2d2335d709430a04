"""What every kind of part must do, and what single kinds do.

Scoring as QTI 3 response processing names it (1EdTech, Assessment, Section and Item Information
Model 3.0, from memory): match correct, and map response with bounds.
"""

from __future__ import annotations

import json
import random
from collections.abc import Callable
from fractions import Fraction
from functools import cache
from itertools import chain
from math import isfinite
from typing import Any, get_args
from unittest import TestCase

from hypothesis import example, given, settings
from hypothesis import strategies as st
from pydantic import TypeAdapter

from vendaval_core.items.kinds.protocol import Key
from vendaval_core.items.kinds.registry import KINDS, AnyPartOut
from vendaval_core.items.kinds.tagged import names_of
from vendaval_core.items.mark import Verdict
from vendaval_core.items.numbers import read_number
from vendaval_core.items.reading import Unreadable
from vendaval_core.items.versions import Version, make_version
from vendaval_core.measure.response import category_of
from vendaval_core.packs.language import language, language_faults
from vendaval_core.scoring.outcomes import family_curve, guess_chance
from vendaval_core.scoring.tries import PRACTICE_TRIES, QuestionState, submit

from .courses import inshore
from .parts import choices, key, part

AXIS = {"low": 0, "high": 10, "step": 0.5, "mark": 1, "name": "miles"}
SECRETS = ("right", "answer", "accepted", "near_misses", "says", "targets", "tolerance", "criteria")
RULES = language(doubled=("pan",))


def target(x: float, y: float) -> dict[str, float]:
    return {"x": x, "y": y, "tolerance": 0.2}


KEYS: dict[str, Any] = {
    "one": key("choice", choices=choices("a", "b", "c")),
    "two": key("choice", choices=choices("a", "b", "c", "d", right=2), choose=2),
    "any": key("choice", choices=choices("a", "b", "c", right=2), choose="any", partial=True),
    "number": key("number", {"n": 3}, answer="n + 0.5", tolerance=0.05, unit="M", digits=1),
    "angle": key("angle", answer=38.5, tolerance=0.001, unit="°"),
    "text": key("text", accepted=["Juliett"]),
    "order": key("order", items=["x", "y", "z"]),
    "order_shares": key("order", items=["x", "y", "z"], partial=True),
    "match": key("match", pairs=[("1", "u"), ("2", "v"), ("3", "w")], spare=["spare"]),
    "inline": key(
        "inline_choice", text="It {{0}}s", gaps=[{"choices": ["ebb", "flood"], "right": "ebb"}],
        partial=False,
    ),
    "associate": key("associate", pairs=[("a", "b"), ("c", "d")], partial=False),
    "table": key(
        "table_entry",
        columns=["h", "v"],
        rows=[
            {"label": "r", "cells": [part("number", id="q", answer=6, unit="M")]},
            {"label": "s", "cells": [part("time", id="t", answer=60, tolerance=0)]},
        ],
    ),
    "points": key("select_point", x=AXIS, y=AXIS, targets=[target(1, 1), target(8, 2)]),
    "graph": key(
        "graph", x=AXIS, y=AXIS, targets=[target(3, 0), target(3, 4)], readings=("M", "°")
    ),
}  # fmt: skip


@cache
def samples() -> tuple[tuple[str, Key], ...]:
    """Every part of the rehearsal, which has an example of each kind, and of the demo course in
    its first version; and those above."""
    pack = inshore()
    families = [item.family for item in (*pack.rehearsal, *pack.families)]
    shipped = ((f.key, one) for f in families for one in make_version(f, 1).parts)
    return (*KEYS.items(), *shipped)


class ContractTests(TestCase):
    """The kinds of the registry through all that is asked of a kind."""

    def each(self, check: Callable[[Key], None]) -> None:
        for name, one in samples():
            with self.subTest(name, kind=one.kind):
                check(one)

    def test_each_kind_has_an_example_in_the_rehearsal(self) -> None:
        rehearsed = {part_.kind for item in inshore().rehearsal for part_ in item.family.parts}
        for kind in KINDS:
            names = {name.partition(".")[0] for name in names_of(kind.part)}
            self.assertLessEqual(names, rehearsed)
            self.assertTrue(any(type(one) is kind.key for _, one in samples()), kind)
            self.assertLessEqual(names, set(get_args(kind.out.model_fields["kind"].annotation)))

    def test_whoever_knows_nothing_can_answer_what_the_browser_sees(self) -> None:
        def check(one: Key) -> None:
            response = one.presented(str).any_response()
            self.assertTrue(response)
            self.assertIsNot(one.mark(response).verdict, Verdict.UNREADABLE, response)

        self.each(check)

    def test_its_examples_are_marked_as_what_they_are(self) -> None:
        seen = set()

        def check(one: Key) -> None:
            examples = one.examples
            if one.by_person:
                self.assertIs(one.mark(examples.right).verdict, Verdict.NOTED)
                return
            self.assertIs(one.mark(examples.right).verdict, Verdict.RIGHT)
            self.assertIn(one.mark(examples.wrong).verdict, {Verdict.WRONG, Verdict.PARTLY})
            if examples.partly is not None:
                mark = one.mark(examples.partly)
                self.assertIs(mark.verdict, Verdict.PARTLY, examples.partly)
                self.assertTrue(0 < mark.share < 1)
                self.assertGreater(one.units, 1)
                seen.add(type(one))
            if examples.unreadable is not None:
                mark = one.mark(examples.unreadable)
                self.assertIn(mark.verdict, {Verdict.UNREADABLE, Verdict.INCOMPLETE})
                self.assertTrue(mark.says)
                read = one.read_back(examples.unreadable)
                self.assertEqual((read.state, bool(read.says)), (mark.verdict.value, True))
            for response in (examples.right, examples.wrong):
                self.assertEqual(one.read_back(response).state, "read", response)
            self.assertEqual(one.read_back("  ").state, "blank")

        self.each(check)
        shares = {type(one) for _, one in samples() if one.units > 2}
        self.assertLessEqual(shares, seen, "a kind with part credit has an example of it")

    def test_what_is_missing_is_marked_as_it_stands_when_nothing_more_will_come(self) -> None:
        """Two of three pairs right are two thirds with part credit; never a thing for a person."""

        def check(one: Key) -> None:
            rows = one.examples.right.splitlines()
            if (
                one.by_person
                or len(rows) < 2
                or one.mark(rows[0]).verdict is not Verdict.INCOMPLETE
            ):
                return
            given, partly = "\n".join(rows[:-1]), one.units > 1
            version = Version("f", 1, "", "", (one,), (), (), {})
            state = QuestionState.fresh([one])
            self.assertFalse(submit(version, state, {one.id: given}, PRACTICE_TRIES).counted)
            handed = submit(version, state, {one.id: given}, PRACTICE_TRIES, final=True)
            share = Fraction(len(rows) - 1, len(rows)) if partly else Fraction(0)
            self.assertEqual(handed.marks[one.id].share, share, given)
            seen.add(one.kind)

        seen: set[str] = set()
        self.each(check)
        self.assertLessEqual({"match", "associate", "table_entry", "select_point"}, seen)

    def test_it_is_told_in_words_whole_and_in_pieces(self) -> None:
        def check(one: Key) -> None:
            right = one.examples.right
            self.assertTrue(one.right_words())
            self.assertTrue(one.answer_words(right))
            self.assertTrue(one.same_answer(right, one.mark(right).canonical))
            self.assertTrue(all(piece.ok for piece in one.pieces(right)))
            if one.pieces(""):
                self.assertFalse(any(piece.ok for piece in one.pieces("")))

        self.each(check)

    def test_a_slip_is_wrong_and_gets_its_words(self) -> None:
        """The first that fits is said, so the words are those of one of the part's slips."""

        def check(one: Key) -> None:
            said = {slip.says for slip in one.foreseen()}
            for slip in one.foreseen():
                self.assertTrue(slip.words)
                mark = one.mark(slip.response)
                self.assertIn(mark.verdict, {Verdict.WRONG, Verdict.PARTLY}, slip)
                if slip.says:
                    self.assertTrue(any(text in str(mark.says) for text in said), (slip, mark))
            right = str(one.mark(one.examples.right).says)
            self.assertFalse(any(text and text in right for text in said), right)

        self.each(check)

    def test_simulated_learners_are_wrong_readably(self) -> None:
        def check(one: Key) -> None:
            for seed in range(6):
                verdict = one.mark(one.likely_wrong(random.Random(seed))).verdict
                self.assertIn(verdict, {Verdict.WRONG, Verdict.PARTLY, Verdict.NOTED})

        self.each(check)

    def test_what_the_browser_sees_has_no_key(self) -> None:
        reader: TypeAdapter[Any] = TypeAdapter(AnyPartOut)

        def check(one: Key) -> None:
            payload = json.loads(one.presented(lambda text: text).model_dump_json())
            self.assertEqual(payload["kind"], one.kind)
            self.assertEqual(reader.validate_python(payload).model_dump(mode="json"), payload)
            for secret in SECRETS:
                self.assertNotIn(secret, payload)

        self.each(check)

    def test_its_sentences_and_numbers_are_sound(self) -> None:
        def check(one: Key) -> None:
            self.assertEqual(list(one.faults()), [])
            texts = list(one.texts())
            self.assertIn(one.label, texts)
            self.assertEqual(
                [fault for text in texts for fault in language_faults(text, RULES)], []
            )
            self.assertTrue(0 <= one.guess_chance < 1)
            self.assertTrue(0 <= one.wrong_choices(one.examples.wrong) <= one.units + 8)
            self.assertEqual(one.wrong_choices(one.examples.right), 0)
            self.assertFalse(one.right_when_typed(""))
            self.assertTrue(all(map(isfinite, chain(*one.right_points()))))

        self.each(check)

    @settings(max_examples=150, deadline=None)
    @given(st.text(alphabet="abcps0123 \n.,-", max_size=60))
    def test_nothing_sent_raises(self, text: str) -> None:
        for one in KEYS.values():
            one.mark(text)
            one.pieces(text)
            one.answer_words(text)
            one.wrong_choices(text)


class KindTests(TestCase):
    def test_shares(self) -> None:
        right = KEYS["any"].examples.right.splitlines()
        order = KEYS["order_shares"].examples.right.splitlines()
        lines = KEYS["match"].examples.right.splitlines()
        spare = next(t.id for t in KEYS["match"].tokens if t.text == "spare")
        for name, sent, share in (
            ("any", right[0], Fraction(1, 2)),
            ("order_shares", "\n".join(order[i] for i in (0, 2, 1)), Fraction(1, 3)),
            ("match", "\n".join([*lines[:2], f"{lines[2].split()[0]} {spare}"]), Fraction(2, 3)),
            ("table", "q 6\nt 02:00", Fraction(1, 2)),
            ("points", "8 2\n5 5", Fraction(1, 2)),
            ("graph", "3 0\n9 9", Fraction(1, 2)),
        ):
            mark = KEYS[name].mark(sent)
            self.assertEqual((mark.verdict, mark.share), (Verdict.PARTLY, share), name)

    def test_an_exact_number_is_asked_for(self) -> None:
        self.assertEqual(KEYS["two"].mark("a\nb\nc").says, "Choose exactly 2. You have chosen 3.")

    def test_points_in_any_order_but_arrows_in_theirs(self) -> None:
        self.assertEqual(KEYS["points"].mark("8 2\n1 1").verdict, Verdict.RIGHT)
        self.assertNotEqual(KEYS["graph"].mark("3 4\n3 0").verdict, Verdict.RIGHT)

    def test_lucky_answers(self) -> None:
        """1/n, 1/C(n, m), 1/n!, one of three ways to pair four: elementary probability."""
        chances = {
            "one": 1 / 3, "two": 1 / 6, "order": 1 / 6, "inline": 1 / 2, "associate": 1 / 3,
            "number": 0.0, "match": 0.0,
        }  # fmt: skip
        for name, chance in chances.items():
            self.assertAlmostEqual(guess_chance(KEYS[name]), chance, msg=name)

    def test_part_credit_makes_outcomes_of_equal_width(self) -> None:
        version = Version("f", 1, "", "", (KEYS["match"],), (), (), {})
        curve = family_curve(version, 3)
        self.assertEqual((curve.categories, KEYS["match"].units), (4, 3))
        self.assertEqual(category_of(2 / 3, 4), 2)

    def test_a_share_is_kept_and_a_later_try_is_worth_less(self) -> None:
        version = Version("f", 1, "", "", (KEYS["points"],), (), (), {})
        state = QuestionState.fresh(version.parts)
        state = submit(version, state, {"p": "8 2\n5 5"}, PRACTICE_TRIES).after
        self.assertEqual(state.score(PRACTICE_TRIES), Fraction(1, 2))
        state = submit(version, state, {"p": "8 2\n1 1"}, PRACTICE_TRIES).after
        self.assertEqual(state.score(PRACTICE_TRIES), Fraction(2, 3))

    def test_what_cannot_be_marked_is_kept_and_not_counted(self) -> None:
        written = key("extended_text", id="w", model="a model")
        version = Version("f", 1, "", "", (KEYS["number"], written), (), (), {})
        state = QuestionState.fresh(version.parts)
        after = submit(version, state, {"p": "3.5", "w": "my own words"}, PRACTICE_TRIES).after
        self.assertEqual(after.score(PRACTICE_TRIES), 1)
        self.assertTrue(after.closed(PRACTICE_TRIES))
        told = written.answer_words("Keep **well** *clear*, 2 * 3 * 4 metres. ")
        self.assertEqual(told, "Keep well clear, 2 * 3 * 4 metres.")

    @settings(max_examples=400, deadline=None)
    @given(st.floats(-180, 180), st.integers(0, 2))
    @example(38.9999, 1)
    @example(-0.0001, 0)
    def test_an_angle_as_shown_is_read_as_what_it_is(self, angle: float, digits: int) -> None:
        shown = key("angle", answer=angle, tolerance=1 / 60, digits=digits).right_words()
        self.assertRegex(shown, r"^\u2212?\d+° [0-5]\d(\.\d+)?′$")
        self.assertNotRegex(shown, r"^\u22120° [0.]+′$")
        read = read_number(shown, "°", angle=True)
        assert not isinstance(read, Unreadable)
        self.assertLessEqual(abs(read.value - angle) * 60, 0.5 * 10**-digits + 1e-6)

    def test_an_angle_and_a_slip(self) -> None:
        for typed in ("38 30", "38° 30′", "38 30,0", "38° 30.0'"):
            self.assertEqual(KEYS["angle"].mark(typed).verdict, Verdict.RIGHT, typed)
        self.assertEqual(KEYS["angle"].mark("38 61").verdict, Verdict.UNREADABLE)
        self.assertEqual(KEYS["text"].mark("juliet").says, "The spelling is Juliett.")
        self.assertEqual(KEYS["text"].mark("juliana").verdict, Verdict.WRONG)
