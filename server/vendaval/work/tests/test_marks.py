"""Marks beside tries: those that come later, and those that take another's place."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from typing import Any

from vendaval.bank.loading import load_pack
from vendaval.levels.checking import check_states
from vendaval.levels.models import Observation
from vendaval.measurement.queries import log_answers
from vendaval.review.models import Miss
from vendaval.shared.errors import Unprocessable
from vendaval.work.marking import Given, mark_by_hand
from vendaval.work.models import Mark, Try
from vendaval.work.tests.builders import CourseTestCase, an_account, inshore, wrong
from vendaval_core.packs.families import PackFamily, family_from_data
from vendaval_core.packs.reader import Pack

BRIEFING = "own-words-only"


def with_written_question() -> Pack:
    """The course with a question that only a person can mark."""
    pack = inshore()
    item = next(one for one in pack.families if one.family.key == "briefing")
    data: dict[str, Any] = dict(item.data)
    data["parts"] = [part for part in data["parts"] if part["kind"] == "extended_text"]
    data |= {"essential": False, "title": "In your own words"}
    family = family_from_data(BRIEFING, item.family.topic, data)
    return replace(pack, families=(*pack.families, PackFamily(family, data)))


class MarkedLaterTests(CourseTestCase):
    def setUp(self) -> None:
        super().setUp()
        load_pack(with_written_question())
        self.course.refresh_from_db()
        self.tutor = an_account("clara")

    def level(self) -> dict[str, Any]:
        return dict(self.get("/topics/passage-planning")["line"]["reading"])

    def write(self) -> tuple[Try, dict[str, Any]]:
        question = self.practise_family(BRIEFING)
        reply = self.answer(question["id"], {"brief": "Life jackets first, then the radio."})
        return Try.objects.latest("pk"), reply

    def test_it_waits_for_its_marks_and_then_counts(self) -> None:
        before = self.level()
        row, reply = self.write()
        self.assertEqual(reply["feedback"]["verdict"], "waiting")
        self.assertEqual(reply["question"]["share"], 0)
        self.assertTrue(reply["question"]["closed"])
        self.assertEqual(self.level(), before)
        self.assertFalse(Observation.objects.in_force().exists())
        self.assertTrue(all(found.agrees for found in check_states(self.course)))
        mark_by_hand(row, {"brief": Given(Fraction(1), "Clear and short.")}, self.tutor)
        self.assertGreater(self.level()["middle"], before["middle"])
        seen = Observation.objects.in_force().get()
        self.assertEqual((seen.outcome, seen.weight, seen.tried), (1, 1.0, row))
        mark = Mark.objects.latest("pk")
        self.assertEqual(
            (mark.by, mark.rule, mark.says), (self.tutor, "person", "Clear and short.")
        )
        self.assertTrue(all(found.agrees for found in check_states(self.course)))

    def test_a_mark_is_replaced_and_the_one_before_stays_readable(self) -> None:
        row, _ = self.write()
        mark_by_hand(row, {"brief": Given(Fraction(1))}, self.tutor)
        high = self.level()
        question = self.practise("tidal-terms")
        self.answer(question["id"], wrong(question["id"]))
        mark_by_hand(row, {"brief": Given(Fraction(1, 4), "The engine is missing.")}, self.tutor)
        self.assertLess(self.level()["middle"], high["middle"])
        marks = Mark.objects.filter(tried=row).order_by("pk")
        self.assertEqual([mark.share for mark in marks], ["", "1", "1/4"])
        waited, first, second = Observation.objects.filter(tried=row).order_by("pk")
        self.assertEqual((first.replaces, first.outcome), (waited, 1))
        self.assertEqual((second.replaces, second.outcome), (first, 0))
        listed = self.get("/topics/passage-planning")["answers"]
        self.assertEqual([one["result"] for one in listed], ["wrong"])
        self.assertTrue(all(found.agrees for found in check_states(self.course)))
        logged = log_answers(self.course).values()
        used = [one for histories in logged for own in histories for one in own if one.weight]
        self.assertEqual([one.outcome for one in used if one.family == BRIEFING], [0])

    def test_late_marks_open_a_miss_and_close_it(self) -> None:
        first, _ = self.write()
        mark_by_hand(first, {"brief": Given(Fraction(1, 4))}, self.tutor)
        miss = Miss.objects.get()
        self.assertEqual((miss.presentation, miss.state), (first.presentation, "open"))
        self.assertEqual(self.get("/misses")["total"], 1)
        second, _ = self.write()
        mark_by_hand(second, {"brief": Given(Fraction(1))}, self.tutor)
        self.assertEqual(Miss.objects.get().state, "mended")
        mark_by_hand(second, {"brief": Given(Fraction(0))}, self.tutor)
        self.assertEqual([one.state for one in Miss.objects.order_by("pk")], ["mended", "open"])
        mark_by_hand(second, {"brief": Given(Fraction(1), "Read again: it is there.")}, self.tutor)
        self.assertFalse(Miss.objects.filter(state="open").exists())
        self.assertTrue(all(found.agrees for found in check_states(self.course)))

    def test_marks_that_make_no_sense_change_nothing(self) -> None:
        row, _ = self.write()
        for given in (
            {},
            {"brief": Given(Fraction(3, 2))},
            {"brief": Given(Fraction(-1))},
            {"other": Given(Fraction(1))},
        ):
            with self.assertRaises(Unprocessable):
                mark_by_hand(row, given, self.tutor)
        self.assertEqual((Mark.objects.count(), Observation.objects.count()), (1, 1))

    def test_marks_count_as_they_would_have_when_the_answer_was_given(self) -> None:
        """Another version in the same sitting counts half, however late its marks come."""
        first, _ = self.write()
        second, _ = self.write()
        self.clock.forward(days=3)
        for row in (second, first):
            mark_by_hand(row, {"brief": Given(Fraction(1))}, self.tutor)
        seen = Observation.objects.in_force().order_by("tried")
        self.assertEqual([(one.weight, one.sitting) for one in seen], [(1.0, 1), (0.5, 1)])
        self.assertTrue(all(found.agrees for found in check_states(self.course)))
