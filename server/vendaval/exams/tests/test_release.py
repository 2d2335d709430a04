"""What a test holds back counts, is practised and is mirrored only once it may be told."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from vendaval.bank.snapshot import course_bank, version_of
from vendaval.exams.columns import CompositionData, EntryData, SectionData
from vendaval.exams.models import AnswerSoFar, Assignment, Test
from vendaval.groups.actions import put_in_charge
from vendaval.levels.checking import check_states
from vendaval.levels.models import Observation
from vendaval.levels.voiding import count_again, void_try
from vendaval.people.models import Role
from vendaval.review.models import Miss
from vendaval.work.models import Presentation, Try
from vendaval.work.tests.builders import (
    an_account,
    enrolment_of,
    learning_for,
    right,
    with_role,
    wrong,
)

from .builders import ExamTestCase

FIXED = "spring-moon"


class ReleaseTests(ExamTestCase):
    def test_a_miss_joins_when_its_answer_may_be_told_and_help_waits_too(self) -> None:
        now = self.clock()
        assignment = self.given(
            due=now + timedelta(days=1), release={"answers": "due", "solutions": "due"}
        )
        attempt = self.begin(assignment)
        question = self.question_at(attempt, 1)
        ask = {
            "text": "Why?",
            "to_tutor": True,
            "classmates": [],
            "shows_answer": True,
            "shows_working": True,
        }
        self.post(f"/questions/{question}/ask", ask, status=409)
        self.save(attempt, 1, self.wrong_at(attempt, 1))
        self.hand_in(attempt)
        self.assertEqual(Miss.objects.count(), 0)
        self.post(f"/questions/{question}/ask", ask, status=409)
        self.clock.forward(days=1, minutes=1)
        self.get("/tests")
        self.get("/tests")
        self.assertEqual(Miss.objects.count(), 1)

    def test_the_attempt_under_way_gives_nothing_away(self) -> None:
        attempt = self.begin(self.given())
        text = self.client.get(self.address(f"/attempts/{attempt['id']}")).content.decode()
        for place in attempt["places"]:
            question = place["question"]
            self.assertIsNone(question["solution"])
            self.assertEqual((question["hints"], question["can"]), ([], []))
            self.assertEqual({state["right_answer"] for state in question["states"]}, {None})
        for name in ("seed", "order", "why", "family"):
            self.assertNotIn(f'"{name}"', text)
        row = AnswerSoFar.objects.select_related("presentation__revision__family__topic").get(
            attempt=attempt["id"], number=1
        )
        self.assertTrue(
            version_of(row.presentation.revision, row.presentation.seed, 0).parts[0].right_words()
        )

    def levels(self) -> dict[str, float]:
        learning = learning_for(self.learner)
        found = zip(learning.bank.topics, learning.readings, strict=True)
        return {topic.key: reading.level for topic, reading in found}

    def agree(self) -> None:
        self.assertTrue(all(found.agrees for found in check_states(self.course)))

    def test_a_mark_is_contested_once_there_is_one(self) -> None:
        put_in_charge(self.group, an_account("clara"))
        told = {"correctness": "at_once"}
        attempt = self.begin(self.given(submission="individual", tries=3, release=told))
        question = self.question_at(attempt, 1)
        body = {"replay_key": self.new_key(), "responses": self.wrong_at(attempt, 1)}
        self.post(f"/questions/{question}/answer", body)
        asked = {"text": "Isn’t 4.7 m right?"}
        refused = self.post(f"/questions/{question}/contest", asked, status=409)
        self.assertEqual(refused["code"], "no_mark")
        self.hand_in(attempt)
        self.post(f"/questions/{question}/contest", asked)
        empty = self.question_at(attempt, 2)
        self.post(f"/questions/{empty}/contest", asked, status=409)

    def test_a_test_without_pages_is_not_answered_on_paper(self) -> None:
        attempt = self.begin(self.given())
        refused = self.save(attempt, 1, {}, on_paper=True, status=422)
        self.assertIn("data.on_paper", refused["fields"])

    def test_what_is_held_back_counts_from_its_release_on_in_its_own_place(self) -> None:
        due = self.clock() + timedelta(days=3)
        before = self.levels()
        held = self.given(due=due, release={"correctness": "due", "answers": "due"})
        attempt = self.taken(held, rights=2)
        self.assertEqual(self.levels(), before)
        question = self.practise("tidal-terms")
        self.answer(question["id"], right(question["id"]))
        between = self.levels()
        self.assertFalse([one for one in self.row(attempt).levels if one.before != one.after])

        self.clock.time = due
        self.get("/tests")
        self.assertNotEqual(self.levels(), between)
        self.agree()
        self.assertTrue([one for one in self.row(attempt).levels if one.before != one.after])
        first = [row.tried_id for row in Observation.objects.in_force().order_by("tried_id")]
        practised = Try.objects.get(presentation=question["id"]).pk
        self.assertEqual(first[-1], practised, "three of the test, told later, come before it")
        self.assertEqual(len(first), 4)

    def test_never_told_never_counts(self) -> None:
        before = self.levels()
        never = dict.fromkeys(("score", "correctness", "answers", "solutions"), "never")
        closes = self.clock() + timedelta(days=1)
        self.taken(self.given(closes=closes, release=never), rights=4)
        self.clock.forward(days=2)
        self.get("/tests")
        self.assertEqual(self.levels(), before)
        self.assertFalse(Presentation.objects.filter(in_open_test=True).exists())

    def test_a_void_try_stays_out_at_the_release_and_can_count_again(self) -> None:
        due = self.clock() + timedelta(days=1)
        attempt = self.taken(self.given(due=due, release={"correctness": "due"}), rights=1)
        tried = Try.objects.get(presentation=self.question_at(attempt, 1))
        own, tutor = enrolment_of(self.learner), an_account("clara")
        void_try(own, tried.pk, tutor, "somebody else’s hand")
        self.clock.time = due
        self.get("/tests")
        self.assertNotIn(tried.pk, self.counting())
        count_again(enrolment_of(self.learner), tried.pk)
        self.assertIn(tried.pk, self.counting())
        self.agree()

    def counting(self) -> list[int]:
        return list(Observation.objects.in_force().values_list("tried", flat=True))

    def fixed(self, **options: Any) -> Assignment:
        """A test of a question that has one version only, and one with many."""
        entries = [EntryData(families=[key]) for key in (FIXED, self.families[0])]
        composition = CompositionData(sections=[SectionData(title="All", entries=entries)])
        return self.given(composition=composition, **options)

    def test_what_is_open_in_a_test_is_asked_and_shown_nowhere_else(self) -> None:
        waiting = self.practise_family(FIXED)
        due = self.clock() + timedelta(days=1)
        later = {"correctness": "due", "answers": "due", "solutions": "due"}
        attempt = self.begin(self.fixed(due=due, release=later))
        run = self.get("/runs/" + str(Presentation.objects.get(pk=waiting["id"]).run_id))["run"]

        refused = self.post(
            f"/questions/{waiting['id']}/answer",
            {"replay_key": self.new_key(), "responses": right(waiting["id"])},
            status=409,
        )
        self.assertEqual(refused["code"], "open_in_test")
        for path in ("hint", "working", "fresh"):
            self.assertEqual(
                self.post(f"/questions/{waiting['id']}/{path}", status=409)["code"], "open_in_test"
            )
        other = self.post(f"/runs/{run['id']}/go-on")["question"]
        self.assertNotEqual(self.family_of(other["id"]), FIXED)

        topic = course_bank(self.course).families[FIXED].family.topic
        quiz = self.get(f"/quiz?topics={topic}&questions=20")
        self.assertNotIn(FIXED, str(quiz))
        wanted = {"purpose": "practice", "topics": [topic]}
        goal = {"kind": "ideas", "families": [FIXED]}
        asked = self.post("/runs", wanted | {"goal": goal})["question"]
        self.assertNotEqual(self.family_of(asked["id"]), FIXED)

        self.save(attempt, 1, self.wrong_at(attempt, 1))
        self.hand_in(attempt)
        goes_on = self.post("/runs", wanted | {"goal": goal})["question"]
        self.assertNotEqual(self.family_of(goes_on["id"]), FIXED)
        self.clock.time = due
        self.get("/tests")
        self.answer(goes_on["id"], wrong(goes_on["id"]))
        self.start_mend(Miss.objects.get(family__key=FIXED).pk)
        again = self.ask_family(FIXED, "practice")
        self.assertTrue(self.answer(again["id"], right(again["id"]))["question"]["solution"])

    def test_what_was_answered_before_is_hidden_while_it_is_open_in_a_test(self) -> None:
        asked = self.practise_family(FIXED)
        reply = self.answer(asked["id"], wrong(asked["id"]))
        self.post(f"/questions/{asked['id']}/working")
        run = reply["run"]["id"]
        tried = Try.objects.get()
        miss = Miss.objects.get()
        key = course_bank(self.course).families[FIXED].family.topic

        def shown() -> list[Any]:
            tries = self.get("/record/tries")["tries"]
            return [
                [line["id"] for line in tries if line["id"] == tried.pk],
                self.client.get(self.address(f"/record/tries/{tried.pk}")).status_code,
                len(self.get(f"/topics/{key}")["answers"]),
                self.client.get(self.address(f"/misses/{miss.pk}")).status_code,
                asked["title"]
                in self.client.get(self.address("/record/file?kind=csv")).content.decode(),
            ]

        before = shown()
        self.assertEqual(before, [[tried.pk], 200, 1, 200, True])
        attempt = self.begin(self.fixed())
        self.assertEqual(shown(), [[], 404, 0, 409, False])
        question = self.get(f"/runs/{run}")["question"]
        if question["id"] == asked["id"]:
            self.assertIsNone(question["solution"])
        self.hand_in(attempt)
        self.assertEqual(shown(), before)

    def test_somebody_with_two_roles_previews_nothing_of_an_own_open_test(self) -> None:
        author = with_role(self.course, Role.AUTHOR)
        self.begin(self.fixed())
        path = self.address(f"/bank/{FIXED}")
        self.client.force_login(author)
        self.assertEqual(self.client.get(path).status_code, 200)
        enrolment = enrolment_of(self.learner)
        enrolment.person = author
        enrolment.save()
        self.client.force_login(author)
        self.assertEqual(self.client.get(path).json()["code"], "open_in_test")

    def family_of(self, question: int) -> str:
        shown = Presentation.objects.select_related("revision__family").get(pk=question)
        return shown.revision.family.key


class MirrorTests(ExamTestCase):
    """A mirror opens when it can give nothing away, and never counts."""

    def mirror(self, assignment: Assignment) -> str:
        return f"mirror-{Test.objects.get(mirror_of=assignment.test).pk}"

    def start_mirror(self, assignment: Assignment, *, status: int = 200) -> Any:
        return self.post(f"/tests/{self.mirror(assignment)}/start", status=status)

    def test_it_opens_when_the_attempts_are_used_up(self) -> None:
        assignment = self.given(
            attempts=2, release={"answers": "last_attempt", "solutions": "never"}
        )
        page = self.get(f"/tests/given-{assignment.pk}")
        self.assertIsNone(page["mirror_ref"])
        self.assertIn("after your last attempt", page["mirror_says"])
        self.assertEqual(self.start_mirror(assignment, status=409)["code"], "attempts_left")
        for _ in range(2):
            attempt = self.taken(assignment, rights=1)
        self.assertEqual(
            self.get(f"/tests/given-{assignment.pk}")["mirror_ref"], self.mirror(assignment)
        )
        results = self.get(f"/attempts/{attempt['id']}/results")
        self.assertEqual(results["mirror_ref"], self.mirror(assignment))
        before = Observation.objects.count(), Miss.objects.count()
        levels = self.get("/topics")
        mirror = self.start_mirror(assignment)
        mirror["interval"] = self.post(f"/attempts/{mirror['id']}/enter")["interval"]
        self.save(mirror, 1, self.wrong_at(mirror, 1))
        self.hand_in(mirror)
        self.assertEqual((Observation.objects.count(), Miss.objects.count()), before)
        self.assertEqual(self.get("/topics"), levels)

    def test_it_never_opens_before_its_test(self) -> None:
        opens = self.clock() + timedelta(days=3)
        assignment = self.given(opens=opens)
        Assignment.objects.update(mirror_early=True)
        self.assertEqual(self.start_mirror(assignment, status=409)["code"], "test_not_open")
        self.clock.time = opens
        self.start_mirror(assignment)

    def test_allowed_early_it_leaves_out_what_is_the_same_in_every_version(self) -> None:
        entries = [EntryData(families=[key]) for key in (FIXED, "briefing", self.families[0])]
        composition = CompositionData(sections=[SectionData(title="All", entries=entries)])
        assignment = self.given(
            composition=composition, release={"answers": "never", "solutions": "never"}
        )
        Assignment.objects.update(mirror_early=True)
        page = self.get(f"/tests/{self.mirror(assignment)}")
        self.assertIn("One question", str(page["lines"]))
        self.assertEqual(len(self.start_mirror(assignment)["places"]), 1)
        self.assertEqual(
            self.start_mirror(self.given(composition=only(FIXED, "briefing")), status=409)["code"],
            "attempts_left",
        )

    def test_it_has_them_once_the_test_itself_showed_its_answers(self) -> None:
        for when, many in (("handed_in", 2), ("never", 1)):
            release = {"answers": when, "solutions": when}
            assignment = self.given(
                composition=only("briefing", self.families[0], seed=len(when)), release=release
            )
            attempt = self.begin(assignment)
            self.hand_in(attempt)
            self.assertEqual(len(self.start_mirror(assignment)["places"]), many, when)


def only(*families: str, seed: int = 1) -> CompositionData:
    entries = [EntryData(families=[key]) for key in families]
    return CompositionData(sections=[SectionData(title="All", entries=entries)], seed=seed)
