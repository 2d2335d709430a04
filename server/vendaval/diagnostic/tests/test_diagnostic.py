"""A diagnostic from start to end, left, resumed, swapped, with what was not taught."""

from collections import Counter
from typing import Any

from django.db import connection
from django.test import TransactionTestCase
from django.test.utils import CaptureQueriesContext

from vendaval.bank.loading import load_pack
from vendaval.diagnostic.run import StartDiagnosticIn
from vendaval.review.models import Miss
from vendaval.work import actions
from vendaval.work.grading import Sent
from vendaval.work.models import Presentation, Purpose, Run, Try, TryKind
from vendaval.work.tests.builders import CourseTestCase, a_learner, inshore, right, wrong

COURSE = "/api/courses/inshore"


class DiagnosticTests(CourseTestCase):
    def not_taught(self, question: dict[str, Any]) -> Any:
        self.clock.forward(seconds=40)
        body = {"replay_key": self.new_key()}
        return self.post(f"/questions/{question['id']}/answer", body | {"not_taught": True})

    def test_it_settles_every_topic_and_ends(self) -> None:
        state = self.diagnose()
        question, left = state["question"], [state["run"]["left"]["questions"]]
        asked = []
        while question:
            asked.append(question["topic"]["key"])
            make = wrong if question["topic"]["key"] == "clearance-windows" else right
            reply = self.answer(question["id"], make(question["id"]))
            left.append(reply["run"]["left"]["questions"])
            question = reply["next"]
            self.assertLess(len(asked), 60)
        self.assertTrue(reply["run"]["ended"])
        self.assertEqual({t["status"] for t in reply["run"]["topics"]}, {"settled"})
        self.assertEqual(left[-1], 0)
        levels = {t["key"]: t["reading"] for t in reply["run"]["topics"]}
        self.assertGreater(levels["tidal-terms"]["level"], 80)
        self.assertLess(levels["clearance-windows"]["chance"], 0.1)
        self.assertTrue(all(asked.count(topic) >= 2 for topic in levels))
        self.assertFalse(any(len(set(asked[i : i + 4])) == 1 for i in range(len(asked) - 8)))

    def test_it_is_left_and_taken_up_at_the_same_place(self) -> None:
        state = self.diagnose()
        reply = self.answer(state["question"]["id"], right(state["question"]["id"]))
        self.clock.forward(days=2)
        again = self.get(f"/runs/{state['run']['id']}")
        self.assertEqual(again["question"], reply["next"])
        self.assertEqual(self.diagnose()["run"]["id"], state["run"]["id"])
        steps = self.get("/today")["steps"]
        self.assertEqual(steps[0]["run"], state["run"]["id"])

    def test_looking_begins_nothing(self) -> None:
        for path in (
            "/today",
            "/topics",
            "/topics/tidal-terms",
            "/practice-plan",
            "/misses",
        ):
            self.get(path)
        self.assertEqual((Run.objects.count(), Presentation.objects.count()), (0, 0))

    def test_a_swap_is_offered_once_and_loses_nothing(self) -> None:
        question = self.diagnose(None)["question"]
        for _ in range(12):
            if question["swap"]:
                break
            question = self.answer(question["id"], right(question["id"]))["next"]
        swapped = self.post(f"/questions/{question['id']}/swap")["question"]
        self.assertEqual(swapped["topic"]["key"], question["swap"]["key"])
        self.assertIsNone(swapped["swap"])
        self.post(f"/questions/{swapped['id']}/swap", status=409)
        self.post(f"/questions/{question['id']}/swap", status=409)

    def test_not_taught_is_kind_and_can_be_taken_back(self) -> None:
        state = self.diagnose()
        question = state["question"]
        before = [t["reading"] for t in state["run"]["topics"]]
        reply = self.not_taught(question)
        self.assertEqual(reply["feedback"]["verdict"], "not_taught")
        self.assertEqual(Miss.objects.count(), 0)
        change = reply["feedback"]["level"]
        self.assertLess(change["after"]["middle"], change["before"]["middle"])
        step = self.get("/today")["steps"][0]
        self.assertEqual((step["kind"], step["study"]), ("study", question["study"]))
        undone = self.post(f"/questions/{question['id']}/undo", {"replay_key": self.new_key()})
        self.assertEqual([t["reading"] for t in undone["run"]["topics"]], before)
        self.assertEqual(undone["question"]["prompt_html"], question["prompt_html"])
        self.assertEqual(Try.objects.count(), 2, "the log keeps both")
        self.assertNotEqual(self.get("/today")["steps"][0]["kind"], "study")
        self.post(
            f"/questions/{question['id']}/undo",
            {"replay_key": self.new_key()},
            status=409,
        )

    def test_every_part_is_wanted_and_nothing_is_told_before(self) -> None:
        question = self.diagnose("chartwork")["question"]
        for _ in range(20):
            if len(question["parts"]) > 1:
                break
            question = self.answer(question["id"], right(question["id"]))["next"]
        first = question["parts"][0]["id"]
        reply = self.answer(question["id"], {first: right(question["id"])[first]})
        self.assertEqual(reply["feedback"]["verdict"], "not_counted")
        self.assertEqual({p["result"] for p in reply["feedback"]["parts"]}, {"held", "blank"})

    def test_half_an_hour_suggests_stopping(self) -> None:
        question = self.diagnose(None)["question"]
        for _ in range(8):
            reply = self.answer(question["id"], right(question["id"]), after=240)
            question = reply["next"]
        self.assertEqual(reply["run"]["suggest_stop"], "long")
        self.clock.forward(hours=5)
        reply = self.answer(question["id"], right(question["id"]), after=20)
        self.assertIsNone(reply["run"]["suggest_stop"])

    def test_three_answers_running_that_came_too_fast_suggest_stopping(self) -> None:
        question, seen = self.diagnose(None)["question"], []
        for after in (20, 1, 1, 1, 60):
            reply = self.answer(question["id"], right(question["id"]), after=after)
            question = reply["next"]
            seen.append(reply["run"]["suggest_stop"])
        self.assertEqual(seen, [None, None, None, "rapid", None])

    def test_it_announces_on_today_what_it_says_when_it_begins_and_goes_on(self) -> None:
        names = ("questions", "fewest", "most")

        def today(kind: str) -> list[int]:
            steps = self.get("/today")["steps"]
            step = next(one for one in steps if one["kind"] == kind and one["topic"] != "chartwork")
            return [*(step[name] for name in names), step["minutes"]]

        def said(left: dict[str, Any]) -> list[int]:
            return [*(left[name] for name in names), left["minutes"]]

        for one in self.get("/today")["steps"]:
            if one["kind"] == "diagnose":
                run = self.post("/runs", {"purpose": "diagnostic", "subject": one["topic"]})
                break
        announced = [*(one[name] for name in names), one["minutes"]]
        self.assertEqual(said(run["run"]["left"]), announced)
        self.assertLess(announced[1], announced[2])
        reply = self.answer(run["question"]["id"], right(run["question"]["id"]))
        self.assertEqual(today("carry_on"), said(reply["run"]["left"]))

    def test_an_idea_comes_at_most_twice_however_unclear_it_stays(self) -> None:
        question, asked = self.diagnose("rules")["question"], Counter[str]()
        turn = 0
        while question:
            row = Presentation.objects.select_related("revision__family").get(pk=question["id"])
            asked[row.revision.family.key] += 1
            turn += 1
            # Too fast to tell anything: only the number of ideas ends it.
            make = right if turn % 2 else wrong
            question = self.answer(question["id"], make(question["id"]), after=1)["next"]
        self.assertEqual(set(asked.values()), {2})

    def test_ending_early_keeps_what_was_learnt(self) -> None:
        state = self.diagnose()
        self.answer(state["question"]["id"], right(state["question"]["id"]))
        ended = self.post(f"/runs/{state['run']['id']}/finish")
        self.assertTrue(ended["run"]["ended"])
        self.assertIsNone(ended["question"])
        self.assertEqual(Presentation.objects.filter(closed_at=None).count(), 0)
        self.assertEqual(self.get("/today")["under_way"], [])


class QueryCountTests(TransactionTestCase):
    """Counted outside a test transaction, as the server runs."""

    def test_an_answer_takes_at_most_twelve_queries(self) -> None:
        learner = a_learner(load_pack(inshore()))
        self.client.force_login(learner)
        for purpose, body in (
            ("practice", {"purpose": "practice", "topics": ["tidal-terms"]}),
            ("diagnostic", {"purpose": "diagnostic", "subject": "tides"}),
        ):
            state = self.client.post(f"{COURSE}/runs", body, "application/json").json()
            self.answer_six(purpose, state["question"]["id"])
        self.assertEqual(Try.objects.filter(kind=TryKind.ANSWER).count(), 12)

    def answer_six(self, purpose: str, question: int) -> None:
        for turn in range(6):
            make = wrong if turn % 2 else right
            body = {"replay_key": f"{purpose}-{turn:04d}", "responses": make(question)}
            with CaptureQueriesContext(
                connection,
            ) as captured:
                reply = self.client.post(
                    f"{COURSE}/questions/{question}/answer", body, "application/json"
                )
            sent = [q["sql"] for q in captured if not q["sql"].startswith(("BEGIN", "COMMIT"))]
            self.assertLessEqual(len(sent), 12, "\n".join(sql[:90] for sql in sent))
            question = (reply.json()["next"] or reply.json()["question"])["id"]

    def test_lists_take_the_same_queries_at_any_size(self) -> None:
        learner = a_learner(load_pack(inshore()))
        self.client.force_login(learner)
        wanted = StartDiagnosticIn(purpose=Purpose.DIAGNOSTIC)
        run = actions.start_run(learner, "inshore", wanted)

        def counts() -> list[int]:
            found = []
            for path in ("today", "topics", "topics/tidal-terms", "misses", "practice-plan"):
                with CaptureQueriesContext(connection) as captured:
                    self.assertEqual(self.client.get(f"{COURSE}/{path}").status_code, 200)
                found.append(len(captured))
            return found

        def answer_some(question: Presentation | None, count: int) -> Presentation | None:
            for _ in range(count):
                assert question is not None
                question = actions.submit_try(
                    learner,
                    "inshore",
                    question.pk,
                    Sent(f"list-{question.pk:05d}", wrong(question.pk), 90),
                ).next
            return question

        question = answer_some(run.current, 2)
        counts()
        few = counts()
        answer_some(question, 10)
        self.assertEqual(counts(), few)
        self.assertLessEqual(max(few), 18)
