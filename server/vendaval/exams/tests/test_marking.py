"""Answers that persons mark: by criteria, by two, held back and released, and nothing told before."""

from __future__ import annotations

import json
from fractions import Fraction
from typing import Any
from unittest.mock import patch

from django.test import Client

from vendaval.bank.snapshot import course_bank
from vendaval.exams.columns import CompositionData, EntryData, SectionData
from vendaval.exams.models import AnswerSoFar, Assignment, Marking
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.levels.models import Observation
from vendaval.notices.models import Notice, NoticeKind
from vendaval.people.models import AuditEntry, AuditKind, Role
from vendaval.privacy.person import erase_person
from vendaval.privacy.tests.reading import data_of
from vendaval.shared.tests.editing import put_over
from vendaval.work.models import Mark, MarkRule
from vendaval.work.tests.builders import (
    a_learner,
    an_account,
    enrolment_of,
    learning_for,
    with_role,
)
from vendaval_core.assessment.paper import PagesWanted
from vendaval_core.items.kinds.number import NumberKey
from vendaval_core.items.versions import make_version

from .builders import ExamTestCase

TEXT = "The life jackets are under the seats, and the engine stops with the red lever."


class MarkingTestCase(ExamTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.desk = Client()
        self.tutor = with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, self.tutor)
        self.desk.force_login(self.tutor)
        entries = [EntryData(families=[key]) for key in ("briefing", self.families[0])]
        composition = CompositionData(sections=[SectionData(title="All", entries=entries)])
        self.assignment = self.given(composition=composition)
        Assignment.objects.update(pages=PagesWanted.MAY)

    def ask(
        self, path: str, body: Any = None, *, status: int = 200, method: str = "", who: Any = None
    ) -> Any:
        address = f"/api/groups/{self.group.pk}/tests/{self.assignment.pk}/marking{path}"
        way = method or ("GET" if body is None else "POST")
        desk = who or self.desk
        if way == "PUT":
            reply = put_over(desk, address, body)
        else:
            reply = desk.generic(way, address, json.dumps(body or {}), "application/json")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def handed_in(self, text: str = TEXT, **more: Any) -> Any:
        """An attempt with a written answer, its choice right, and a right number."""
        attempt = self.begin(self.assignment)
        briefing = self.right_at(attempt, 1) | {"brief": text}
        self.save(attempt, 1, briefing if text else {}, **more)
        self.save(attempt, 2, self.right_at(attempt, 2))
        self.hand_in(attempt)
        return attempt

    def answer(self, attempt: Any, number: int = 1) -> int:
        return AnswerSoFar.objects.get(attempt=attempt["id"], number=number).pk

    def mark(self, answer: int, points: dict[int, str], **more: Any) -> Any:
        who, status = more.pop("who", None), more.pop("status", 200)
        body = {"role": "first", "points": points} | more
        return self.ask(f"/answers/{answer}/brief", body, who=who, status=status)

    def points(self, attempt: Any) -> dict[str, Any]:
        return dict(self.get(f"/attempts/{attempt['id']}/results")["attempt"]["points"])


class MarkingTests(MarkingTestCase):
    def test_by_criteria_held_and_let_out_and_the_levels_follow(self) -> None:
        attempt = self.handed_in()
        answer = self.answer(attempt)
        before = Observation.objects.count()
        (question,) = self.ask("")["questions"]
        self.assertEqual((question["family"], question["marked"]), ("briefing", 0))
        (line,) = self.desk.get("/api/marking").json()["tests"]
        self.assertEqual((line["waiting"], line["held"]), (1, 0))
        (shown,) = self.ask("/questions/briefing")["answers"]
        self.assertIsNone(shown["name"], "names are hidden unless they are asked for")
        self.assertNotIn(self.learner.display_name, json.dumps(shown))
        (part,) = shown["parts"]
        self.assertEqual((part["text"], part["of"], len(part["criteria"])), (TEXT, 5, 4))
        (model,) = [state for state in shown["question"]["states"] if state["id"] == "brief"]
        self.assertIn("Where life jackets", json.dumps(model))
        too_much = self.mark(answer, {0: "3"}, status=422)
        self.assertEqual(too_much["fields"], {"points.0": "0 to 2 points"})
        note = {"at": 0, "length": 16, "says": "Good: first things first."}
        self.mark(answer, {0: "2", 1: "1/2"}, comment="Radio?", notes=[note])
        self.assertEqual(self.points(attempt)["waiting"], 1, "held: the learner sees nothing")
        shown_to_learner = self.get(f"/attempts/{attempt['id']}/results/1")
        self.assertEqual(shown_to_learner["by_person"], [])
        own = lambda: str(data_of(self.learner))  # noqa: E731
        self.assertNotIn("Radio?", own(), "nor in what is written out for the learner")
        self.assertFalse(Mark.objects.filter(rule=MarkRule.PERSON).exists())
        self.assertEqual(Observation.objects.count(), before)
        (line,) = self.desk.get("/api/marking").json()["tests"]
        self.assertEqual((line["waiting"], line["held"]), (0, 1))
        out = self.ask("/release", {"attempts": None})
        self.assertEqual(self.desk.get("/api/marking").json()["tests"], [])
        self.assertTrue(out["attempts"][0]["out"])
        points = self.points(attempt)
        self.assertEqual((points["waiting"], points["reached"], points["of"]), (0, "1.75", "2"))
        (mine,) = self.get(f"/attempts/{attempt['id']}/results/1")["by_person"]
        self.assertEqual((mine["reached"], mine["comment"]), ("2.5", "Radio?"))
        self.assertEqual(mine["notes"], [note])
        self.assertEqual(Notice.objects.filter(kind=NoticeKind.MARKS_OUT).count(), 1)
        self.ask("/release", {"attempts": None})
        self.assertEqual(Notice.objects.filter(kind=NoticeKind.MARKS_OUT).count(), 1)
        self.assertEqual(Mark.objects.filter(rule=MarkRule.PERSON).count(), 1)
        self.assertIn("Radio?", own())
        erase_person(self.learner)
        kept = Marking.objects.get().data
        self.assertEqual((kept.comment, kept.notes, kept.share), ("", [], Fraction(1, 2)))

    def test_another_mark_after_it_was_out_takes_its_place_and_the_old_stays_readable(self) -> None:
        attempt = self.handed_in()
        answer = self.answer(attempt)
        self.mark(answer, {0: "2"})
        self.ask("/release", {"attempts": [attempt["id"]]})
        newest = Marking.objects.latest("pk").pk
        self.clock.forward(minutes=1)
        more = {0: "2", 1: "1", 2: "1", 3: "1"}
        self.mark(answer, more, after=newest, comment="All of it.")
        (mine,) = self.get(f"/attempts/{attempt['id']}/results/1")["by_person"]
        self.assertEqual((mine["reached"], mine["comment"]), ("2", ""), "not before it is released")
        self.assertEqual(self.points(attempt)["reached"], "1.7")
        self.assertTrue(self.ask("")["attempts"][0]["changed"])
        self.clock.forward(minutes=1)
        out = self.ask("/release", {"attempts": None})
        self.assertFalse(out["attempts"][0]["changed"])
        self.assertEqual(self.points(attempt)["reached"], "2")
        marks = Mark.objects.filter(rule=MarkRule.PERSON).order_by("pk")
        self.assertEqual([mark.share for mark in marks], ["2/5", "1"])

    def test_a_page_of_paper_waits_is_marked_and_moves_the_level(self) -> None:
        attempt = self.begin(self.assignment)
        self.save(attempt, 2, {}, on_paper=True, sheet=1)
        self.hand_in(attempt)
        self.assertEqual(self.points(attempt)["waiting"], 1)
        topic = learning_for(self.learner).bank.families[self.families[0]].family.topic
        answer = self.answer(attempt, 2)
        (part,) = self.ask(f"/questions/{self.families[0]}")["answers"][0]["parts"]
        self.assertEqual((part["kind"], part["of"], part["criteria"]), ("paper", 10, []))
        counting = Observation.objects.in_force().filter(topic__key=topic)
        self.assertEqual(counting.count(), 0)
        body = {"role": "first", "points": {0: "10"}}
        self.ask(f"/answers/{answer}/{part['part']}", body)
        self.ask("/release", {"attempts": None})
        self.assertEqual(
            (self.points(attempt)["waiting"], self.points(attempt)["reached"]), (0, "1")
        )
        self.assertEqual(counting.count(), 1)

    def test_what_cannot_be_read_waits_for_a_person_and_is_never_wrong_by_itself(self) -> None:
        typed = next(key for key in self.families if NumberKey in map(type, self.keys(key)))
        entries = [EntryData(families=[typed])]
        composition = CompositionData(sections=[SectionData(title="All", entries=entries)])
        self.assignment = self.given(composition=composition)
        attempt = self.begin(self.assignment)
        (part,) = self.right_at(attempt, 1)
        saved = self.save(attempt, 1, {part: "about a boat’s length"})
        self.assertEqual((saved["state"], saved["read"][0]["state"]), ("unreadable", "unreadable"))
        self.assertIn("Write only the number", saved["read"][0]["says"])
        (place,) = self.get(f"/attempts/{attempt['id']}")["places"]
        self.assertEqual((place["state"], place["read"]), (saved["state"], saved["read"]))
        self.assertEqual(self.hand_in(attempt)["unreadable"], 1)
        points = self.points(attempt)
        self.assertEqual((points["waiting"], points["reached"]), (1, "0"))
        (answer,) = self.ask(f"/questions/{typed}")["answers"]
        (shown,) = answer["parts"]
        self.assertEqual((shown["kind"], shown["text"]), ("extended_text", "about a boat’s length"))
        self.assertFalse(Observation.objects.in_force().exists(), "no level knows of it")
        self.ask(f"/answers/{self.answer(attempt)}/{part}", {"role": "first", "points": {0: "10"}})
        self.ask("/release", {"attempts": None})
        self.assertEqual(
            (self.points(attempt)["waiting"], self.points(attempt)["reached"]), (0, "1")
        )
        self.assertEqual(Observation.objects.in_force().count(), 1)

    def keys(self, family: str) -> tuple[Any, ...]:
        return make_version(course_bank(self.course).families[family].family, 1).parts

    def test_the_last_mark_can_be_taken_back_until_something_was_made_of_it(self) -> None:
        attempt = self.handed_in()
        answer = self.answer(attempt)
        first = self.mark(answer, {0: "2"})["part"]["first"]
        with self.assertNumQueries(21):
            second = self.mark(answer, {0: "1"}, after=first["id"])["part"]["first"]
        path = f"/answers/{answer}/brief/marks/"
        stale = self.ask(f"{path}{first['id']}", method="DELETE", status=409)
        self.assertEqual(stale["code"], "mark_used")
        back = self.ask(f"{path}{second['id']}", method="DELETE")["part"]
        self.assertEqual((back["first"]["points"], back["latest"]), ({"0": "2"}, first["id"]))
        self.ask(f"{path}{second['id']}", method="DELETE")
        none = self.ask(f"{path}{first['id']}", method="DELETE")["part"]
        self.assertEqual((none["first"], none["latest"]), (None, None))
        self.assertEqual(self.ask("")["questions"][0]["marked"], 0)
        self.ask("/release", {"attempts": None})
        self.assertEqual(self.points(attempt)["waiting"], 1, "what was undone is no mark")
        again = self.mark(answer, {0: "2"})["part"]["first"]
        self.ask("/release", {"attempts": None})
        used = self.ask(f"{path}{again['id']}", method="DELETE", status=409)
        self.assertEqual(used["code"], "mark_used")

    def test_two_markers_see_what_the_other_gave_only_after_their_own_and_settle_it(self) -> None:
        other = an_account("bento", display_name="Bento Reis")
        put_in_charge(self.group, other)
        attempt, second = self.handed_in(), Client()
        second.force_login(other)
        answer = self.answer(attempt)
        self.ask("/second", {"person": other.pk}, method="PUT")
        self.ask("/second", {"person": self.learner.pk}, method="PUT", status=404)
        (told,) = other.notices.all()
        self.assertIn("second marker", told.title)
        self.mark(answer, {0: "2"})
        self.ask("/release", {"attempts": None})
        self.assertEqual(self.points(attempt)["waiting"], 1, "not before both have marked")
        missing = self.ask("/release", {"attempts": [attempt["id"]]}, status=409)
        self.assertEqual(missing["code"], "second_missing")
        (line,) = self.ask("", who=second)["questions"]
        self.assertEqual(line["marked"], 0, "nor how far the first has come")
        for wanted in (None, [attempt["id"]]):
            refused = self.ask("/release", {"attempts": wanted}, status=409, who=second)
            self.assertEqual(refused["code"], "second_marker")
        self.mark(answer, {0: "2"}, who=second, status=409)
        (part,) = self.ask("/questions/briefing", who=second)["answers"][0]["parts"]
        self.assertIsNone(part["first"], "the second marks without knowing what the first gave")
        self.mark(answer, {0: "1"}, who=second, role="second")
        (question,) = self.ask("")["questions"]
        self.assertEqual(question["differ"], 1)
        refused = self.ask("/release", {"attempts": [attempt["id"]]}, status=409)
        self.assertEqual(refused["code"], "markers_differ")
        self.ask("/release", {"attempts": None})
        self.assertEqual(self.points(attempt)["waiting"], 1, "all that is settled, so not this")
        latest = Marking.objects.latest("pk").pk
        self.mark(answer, {0: "3/2"}, role="agreed", after=latest)
        self.ask("/release", {"attempts": None})
        self.assertEqual(self.points(attempt)["reached"], "1.65")

    def test_somebody_named_goes_without_the_second_marking_for_attempts_named(self) -> None:
        other = an_account("bento", display_name="Bento Reis")
        put_in_charge(self.group, other)
        attempt = self.handed_in()
        self.ask("/second", {"person": other.pk}, method="PUT")
        self.mark(self.answer(attempt), {0: "2"})
        self.ask("/release", {"attempts": [attempt["id"]], "waived": "Bento is ill"})
        self.assertEqual(self.points(attempt)["waiting"], 0)
        entry = AuditEntry.objects.get(kind=AuditKind.WAIVED)
        self.assertEqual((entry.account, entry.by), (self.learner, self.tutor))
        self.assertIn("Bento is ill", entry.says)

    def test_two_first_markings_meet_at_the_answer(self) -> None:
        """Seen in what is locked, since SQLite locks the whole database anyhow."""
        attempt = self.handed_in()
        with patch.object(
            AnswerSoFar.objects.__class__, "select_for_update", autospec=True
        ) as lock:
            lock.side_effect = lambda rows, *_, **__: rows.all()
            self.mark(self.answer(attempt), {0: "2"})
        self.assertEqual([call.args[0].model for call in lock.call_args_list], [AnswerSoFar])

    def test_what_two_tutors_mark_at_once_is_not_written_over_unseen(self) -> None:
        other = an_account("bento", display_name="Bento Reis")
        put_in_charge(self.group, other)
        attempt, second = self.handed_in(), Client()
        second.force_login(other)
        answer = self.answer(attempt)
        self.mark(answer, {0: "2"})
        refused = self.mark(answer, {0: "1"}, who=second, status=409)
        self.assertEqual(refused["code"], "marked_elsewhere")
        self.assertIn(self.tutor.display_name, refused["detail"])
        self.mark(answer, {0: "1"}, who=second, after=Marking.objects.latest("pk").pk)
        self.assertEqual(Marking.objects.count(), 2, "both are kept")

    def test_criteria_of_ones_own_until_something_is_marked_by_others(self) -> None:
        attempt = self.handed_in()
        mine = [{"says": "Two things named", "points": 2}]
        at = "/questions/briefing/brief/criteria"
        self.ask(at, {"criteria": mine}, method="PUT")
        shown = self.ask("/questions/briefing")
        self.assertEqual(shown["answers"][0]["parts"][0]["of"], 2)
        self.assertEqual(shown["own_criteria"], ["brief"])
        self.mark(self.answer(attempt), {0: "2"})
        self.ask(at, {"criteria": []}, method="PUT", status=409)
        self.ask("/questions/briefing/first/criteria", {"criteria": mine}, method="PUT", status=404)

    def test_who_left_the_group_is_marked_no_more_and_queries_do_not_grow(self) -> None:
        first = self.handed_in()
        for number in range(3):
            self.client.force_login(self.one_more(number))
            self.handed_in()
        with self.assertNumQueries(14):
            self.assertEqual(len(self.ask("/questions/briefing")["answers"]), 4)
        with self.assertNumQueries(12):
            self.ask("")
        with self.assertNumQueries(5):
            waits = self.desk.get("/api/marking").json()["tests"]
        self.assertEqual([(one["waiting"], one["held"]) for one in waits], [(4, 0)])
        self.group.members.filter(enrolment__person=self.learner).update(until=self.clock())
        self.assertEqual(len(self.ask("/questions/briefing")["answers"]), 3)
        self.mark(self.answer(first), {0: "1"}, status=404)

    def one_more(self, number: int) -> Any:
        learner = a_learner(self.course, f"more{number}")
        join_group(self.group, enrolment_of(learner))
        return learner

    def given(self, **more: Any) -> Assignment:
        return super().given(**more)
