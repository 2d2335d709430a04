"""A test is composed for a course, checked field by field, given to a group or some of it, and
changed as far as nobody is wronged by it."""

from __future__ import annotations

import json
from typing import Any

from django.test import Client

from vendaval.bank.snapshot import course_bank
from vendaval.exams.models import Assignment, Attempt, Test
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.people.models import AuditEntry, AuditKind, Role
from vendaval.shared.tests.editing import put_over
from vendaval.work.tests.builders import a_learner, enrolment_of, with_role

from .builders import ExamTestCase


class SettingTests(ExamTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.desk = Client()
        self.tutor = with_role(self.course, Role.TUTOR)
        put_in_charge(self.group, self.tutor)
        self.desk.force_login(self.tutor)

    def ask(
        self, path: str, body: Any = None, *, status: int = 200, method: str = "", who: Any = None
    ) -> Any:
        of_course = path.startswith(("/bank", "/composed"))
        of = f"courses/{self.course.key}" if of_course else f"groups/{self.group.pk}"
        way = method or ("GET" if body is None else "POST")
        desk, address = who or self.desk, f"/api/{of}{path}"
        if way == "PUT":
            reply = put_over(desk, address, body)
        else:
            reply = desk.generic(way, address, json.dumps(body or {}), "application/json")
        self.assertEqual(reply.status_code, status, reply.content[:300])
        return reply.json()

    def wanted(self, *families: str, **more: Any) -> dict[str, Any]:
        entries = [{"families": [key], "points": "2"} for key in families]
        composition = {"sections": [{"title": "All", "entries": entries}]}
        return {"title": "Tides", "composition": composition, "rules": {}} | more

    def composed(self, **more: Any) -> int:
        return int(self.ask("/composed", self.wanted(*self.families, **more))["line"]["id"])

    def test_the_bank_is_searched_and_looked_at(self) -> None:
        found = self.ask("/bank?topic=tidal-terms")
        self.assertEqual({line["topic"]["key"] for line in found["families"]}, {"tidal-terms"})
        self.assertTrue(found["families"][0]["essential"], "what everyone must manage comes first")
        self.assertEqual(self.ask("/bank?words=no-such-thing")["total"], 0)
        one = self.ask(f"/bank/{found['families'][0]['key']}?seed=3")["question"]
        self.assertTrue(one["solution"])
        self.ask("/bank/no-such-family", status=404)

    def test_what_cannot_be_is_said_field_by_field_and_nothing_is_stored(self) -> None:
        wrong = self.wanted(
            self.families[0],
            "gone",
            rules={"tries": 3, "pass_mark": "140", "working": "chosen"},
        )
        found = self.ask("/composed/check", wrong)["problems"]
        self.assertEqual(
            set(found),
            {
                "sections.0.entries.1.families",
                "rules.tries",
                "rules.release.correctness",
                "rules.pass_mark",
                "rules.working",
            },
        )
        refused = self.ask("/composed", wrong, status=422)
        self.assertEqual(refused["fields"], found)
        self.assertEqual(Test.objects.count(), 0)
        test = self.composed(rules={"release": {"answers": "due"}})
        wrong = {"test": test, "first": [{"topic": "tidal-terms", "section": "gone"}]}
        problems = self.ask("/tests/check", wrong)["problems"]
        self.assertEqual(set(problems), {"due", "first"})
        self.assertEqual(self.ask("/tests", wrong, status=422)["fields"], problems)
        self.assertEqual(Assignment.objects.count(), 0)

    def test_a_test_goes_to_some_and_nobody_else_sees_it(self) -> None:
        other = a_learner(self.course, "bea")
        join_group(self.group, enrolment_of(other))
        mine = enrolment_of(self.learner).pk
        first = [{"topic": "tidal-terms", "section": "datums"}]
        given = {"test": self.composed(), "learners": [mine], "first": first}
        self.assertEqual(self.ask("/tests/check", given)["learners"], 1)
        (line,) = self.ask("/tests", given)["tests"]
        self.assertEqual((line["learners"], line["states"]["not_begun"]), (1, 1))
        ref = f"given-{line['id']}"
        (study,) = self.get(f"/tests/{ref}")["first"]
        self.assertEqual((study["section"], study["opened"]), ("datums", False))
        self.post("/study/tidal-terms/datums/opened")
        self.assertTrue(self.get(f"/tests/{ref}")["first"][0]["opened"])
        self.client.force_login(other)
        self.assertEqual(self.get("/tests")["tests"], [])
        self.assertEqual(self.get("/work/waiting")["tests"], [])
        for method, path in (("get", ""), ("post", "/start")):
            reply = getattr(self.client, method)(self.address(f"/tests/{ref}{path}"))
            self.assertEqual(reply.status_code, 404)
        self.ask("/tests", given | {"learners": [mine + 999]}, status=404)
        at = f"/tests/{line['id']}"
        self.assertEqual(len(self.ask(f"{at}/sitting")["learners"]), 1)
        self.ask(at, {"learners": None}, method="PUT")
        self.assertEqual(len(self.get("/tests")["tests"]), 1)

    def test_what_may_be_changed_once_somebody_has_begun(self) -> None:
        test = self.composed()
        at = f"/composed/{test}"
        self.ask(at, self.wanted(*self.families[:3]), method="PUT")
        assignment = self.ask("/tests", {"test": test})["tests"][0]["id"]
        attempt = self.begin(Assignment.objects.get())
        self.assertIn("has started it", self.ask(at)["warning"])
        refused = self.ask(at, self.wanted(*self.families), method="PUT", status=422)
        self.assertIn(self.learner.display_name, refused["fields"]["composition"])
        rules = {"minutes": 30, "release": {"score": "never"}}
        later = self.wanted(*self.families[:3], rules=rules, title="Tides, again")
        again = self.ask(at, later, method="PUT")
        self.assertEqual((again["line"]["title"], again["line"]["begun"]), ("Tides, again", 1))
        self.hand_in(attempt)
        told = self.get(f"/attempts/{attempt['id']}/results")["attempt"]["points"]
        self.assertIsNotNone(told, "an attempt keeps the rules that it began with")
        other = enrolment_of(a_learner(self.course, "bea"))
        join_group(self.group, other)
        at = f"/tests/{assignment}"
        refused = self.ask(at, {"learners": [other.pk]}, method="PUT", status=422)
        self.assertIn(self.learner.display_name, refused["fields"]["learners"])
        self.assertIn("begun", self.ask(at, method="DELETE", status=409)["code"])
        self.ask(f"/composed/{test}", method="DELETE", status=409)
        fresh = self.ask("/tests", {"test": self.composed()})["tests"][0]
        self.assertEqual(len(self.ask(f"/tests/{fresh['id']}", method="DELETE")["tests"]), 1)
        self.ask(f"/composed/{fresh['test']}", method="DELETE")

    def test_an_author_composes_tries_and_a_tutor_gives(self) -> None:
        author, desk = with_role(self.course, Role.AUTHOR), Client()
        desk.force_login(author)
        chosen = self.wanted(*self.families, rules={"working": "chosen", "tries": 1})
        chosen["composition"]["sections"][0]["entries"][1]["working"] = True
        test = self.ask("/composed", chosen, who=desk)["line"]["id"]
        self.ask("/tests", {"test": test}, status=404, who=desk)
        self.client.force_login(author)
        self.post("/practice-learner")
        attempt = self.post(f"/tests/trial-{test}/start")
        wants = [place["working_wanted"] for place in attempt["places"]]
        self.assertEqual(wants, [False, True, False, False])
        self.post(f"/attempts/{attempt['id']}/enter")
        self.client.force_login(self.learner)
        reply = self.client.get(self.address(f"/tests/trial-{test}"))
        self.assertEqual(reply.status_code, 404)
        (line,) = self.ask("/composed")["tests"]
        self.assertEqual((line["own"], line["begun"]), (False, 0), "practice is no attempt")
        self.ask(f"/composed/{test}", chosen, method="PUT", status=409)
        self.ask(f"/composed/{test}", self.wanted(*self.families[:2]), method="PUT", who=desk)
        still = Attempt.objects.get()
        self.assertEqual(len(still.places), 4)
        self.assertEqual(self.ask("/tests", {"test": test})["tests"][0]["questions"], 2)

    def test_one_learner_is_allowed_more_by_name_and_with_a_reason(self) -> None:
        assignment = self.given(minutes=20)
        at = f"/tests/{assignment.pk}/allowances"
        learner = enrolment_of(self.learner).pk
        wanted = {"learner": learner, "times": 1.25, "attempts": 1, "why": "as agreed"}
        (line,) = self.ask(at, wanted)["learners"]
        self.assertEqual(
            (line["allowance"]["times"], line["allowance"]["why"]), (1.25, "as agreed")
        )
        self.assertEqual(self.begin(assignment)["left"], 25 * 60)
        (line,) = self.ask(at, wanted | {"times": 1, "minutes": 3})["learners"]
        self.assertEqual(line["allowance"]["minutes"], 3, "the newest counts")
        early = {"opens": "2030-01-02T10:00:00Z", "closes": "2030-01-01T10:00:00Z"}
        self.assertIn("closes", self.ask(at, wanted | early, status=422)["fields"])
        self.ask(at, wanted | {"why": ""}, status=422)
        self.ask(at, wanted | {"learner": learner + 999}, status=404)

    def test_extra_time_reaches_an_attempt_under_way_at_once(self) -> None:
        assignment = self.given(minutes=10)
        attempt = self.begin(assignment)
        self.clock.forward(minutes=8)
        learner = enrolment_of(self.learner).pk
        body = {"learner": learner, "times": 1.5, "why": "was late by bus"}
        self.ask(f"/tests/{assignment.pk}/allowances", body)
        sign = {"interval": attempt["interval"]}
        signed = self.post(f"/attempts/{attempt['id']}/sign", sign)
        self.assertEqual(signed["left"], 7 * 60)
        self.clock.forward(minutes=6)
        self.save(attempt, 1, self.right_at(attempt, 1))
        entry = AuditEntry.objects.get(kind=AuditKind.ALLOWED)
        self.assertIn("was late by bus", entry.says)
        self.clock.forward(minutes=2)
        self.get("/tests")
        self.assertIsNotNone(self.row(attempt).handed_in_at)

    def test_a_test_is_set_with_its_mirror_and_says_who_stands_where(self) -> None:
        said = self.ask("/composed/check", self.wanted(*self.families))
        self.assertEqual((said["questions"], said["points"], said["problems"]), (4, "8", {}))
        (line,) = self.ask("/tests", {"test": self.composed()})["tests"]
        self.assertEqual(line["states"]["not_begun"], 1)
        self.assertEqual(Test.objects.filter(mirror_of__isnull=False).count(), 1)
        assignment = Assignment.objects.get()
        attempt = self.begin(assignment)
        self.assertEqual(self.ask("/tests")["tests"][0]["states"]["under_way"], 1)
        self.clock.forward(hours=2)
        self.assertEqual(self.ask("/tests")["tests"][0]["states"]["left"], 1)
        self.save(attempt, 1, self.right_at(attempt, 1))
        self.hand_in(attempt)
        (line,) = self.ask("/tests")["tests"]
        self.assertEqual((line["states"]["marked"], line["mean"]), (1, "25%"))

    def test_a_tutor_hands_in_for_somebody_as_it_stands(self) -> None:
        assignment = self.given()
        attempt = self.begin(assignment)
        self.save(attempt, 1, self.right_at(attempt, 1))
        at = f"/tests/{assignment.pk}/sitting/{attempt['id']}/hand-in"
        (line,) = self.ask(at, {})["learners"]
        self.assertEqual(line["state"], "handed_in")
        self.save(attempt, 2, self.right_at(attempt, 2), status=409)
        found = self.get(f"/attempts/{attempt['id']}/results")["attempt"]
        self.assertEqual(found["points"]["reached"], "1")
        self.assertIn("tutor", found["why_over"])
        self.ask(at, {})
        self.ask(f"/tests/{assignment.pk}/sitting/999999/hand-in", {}, status=404)


class ForecastTests(ExamTestCase):
    def test_what_a_test_would_bring_in_a_group(self) -> None:
        tutor, desk = with_role(self.course, Role.TUTOR), Client()
        put_in_charge(self.group, tutor)
        desk.force_login(tutor)
        body = {
            "title": "Tides",
            "composition": self.composition().model_dump(mode="json"),
            "rules": {"pass_mark": "50", "minutes": 1},
        }

        def asked(**more: Any) -> Any:
            address = f"/api/groups/{self.group.pk}/tests/forecast"
            reply = desk.post(address, body | more, content_type="application/json")
            self.assertEqual(reply.status_code, 200, reply.content)
            return reply.json()

        found = asked()
        self.assertEqual((found["learners"], found["mean"], found["lines"]), (0, None, []))
        given = self.given()
        for place, (_, attempt) in enumerate(self.begun_by(given, 4)):
            for number in range(1, 5):
                good = number <= place
                self.save(
                    attempt, number, (self.right_at if good else self.wrong_at)(attempt, number)
                )
            self.hand_in(attempt)
        found = asked()
        self.assertEqual(found["learners"], 4)
        self.assertLess(found["low"], found["mean"])
        self.assertLess(found["mean"], found["high"])
        self.assertRegex(found["lines"][0], r"^Most results between \d+ and \d+%, \d+% on average")
        self.assertRegex(found["lines"][1], "likely to pass")
        self.assertGreaterEqual(found["slowest"], found["minutes"])
        self.assertIn("run out of time in 1 min", found["time_says"])
        titles = {topic.title for topic in course_bank(self.course).topics}
        self.assertEqual(set(found["covered"]) | set(found["others"]), titles)
        self.assertEqual(asked(composition={"sections": []})["mean"], None)
