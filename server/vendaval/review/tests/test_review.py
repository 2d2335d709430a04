"""Review: misses open, are shown with what was wrong, and are mended by a fresh version."""

from typing import Any

from vendaval.bank.loading import load_pack
from vendaval.review.models import Miss, MissState
from vendaval.work.models import Presentation
from vendaval.work.replies import presented
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    inshore_without,
    learning_for,
    right,
    wrong,
)


def shown_state(question: int) -> list[dict[str, Any]]:
    """The parts of a question as it stands now."""
    row = Presentation.objects.select_related(
        "run__enrolment__course", "revision__family__topic"
    ).get(pk=question)
    return [state.model_dump() for state in presented(row).states]


class ReviewTests(CourseTestCase):
    def miss(self, family: str = "compass-to-true", confidence: int | None = 90) -> int:
        """Miss a question of a family in practice; returns the miss's id."""
        question = self.practise_family(family)
        self.answer(question["id"], wrong(question["id"]), confidence=confidence)
        self.post(f"/questions/{question['id']}/working")
        return Miss.objects.latest("pk").pk

    def mend(self, miss: int, make: Any) -> Any:
        question = self.start_mend(miss)["question"]
        return self.answer(question["id"], make(question["id"]))

    def test_nearly_everything_right_is_a_miss_all_the_same(self) -> None:
        """Five of six fall in the best outcome of four, and are not full points."""
        question = self.practise_family("worth-carrying")
        (part, answer), *others = right(question["id"]).items()
        left_out = {part: answer.rpartition("\n")[0], **dict(others)}
        reply = self.answer(question["id"], left_out)
        self.assertEqual(reply["feedback"]["verdict"], "partly")
        self.assertEqual(self.get("/misses")["total"], 1)
        family = learning_for(self.learner).family("worth-carrying")
        self.assertEqual(family.right, [])
        listed = self.get("/topics/passage-planning")["answers"]
        self.assertEqual([one["result"] for one in listed], ["partly"])

    def test_the_answer_given_stands_beside_the_right_one(self) -> None:
        miss = self.miss()
        shown = self.get(f"/misses/{miss}")
        self.assertTrue(shown["solution"])
        self.assertEqual(shown["sure"], 90)
        row = shown["comparison"][0]
        self.assertFalse(row["right"])
        self.assertTrue(
            row["answered"] and row["right_answer"] and row["answered"] != row["right_answer"]
        )

    def test_a_mend_that_waits_while_practice_mends_its_miss(self) -> None:
        """Whatever is then answered to it, nothing breaks and the list is right."""
        for make, left in ((right, 0), (wrong, 1)):
            miss = self.miss()
            waiting = self.start_mend(miss)["question"]
            fresh = self.practise_family("compass-to-true")
            self.answer(fresh["id"], right(fresh["id"]))
            self.assertEqual(self.get("/misses")["total"], 0)
            reply = self.answer(waiting["id"], make(waiting["id"]))
            self.assertTrue(reply["question"]["closed"])
            self.assertEqual(self.get("/misses")["total"], left)
            self.assertEqual(self.get(f"/misses/{miss}")["state"], "mended")

    def test_an_order_is_told_place_by_place(self) -> None:
        for family, opened in (("order-of-work", True), ("order-of-work", False)):
            question = self.practise_family(family)
            if not opened:
                self.answer(question["id"], wrong(question["id"]))
            self.post(f"/questions/{question['id']}/working")
            (state,) = shown_state(question["id"])
            self.assertEqual(state["state"], "unanswered" if opened else "closed")
            self.assertIsNone(state["right_answer"])
            self.assertEqual([p["label"] for p in state["pieces"]], ["1", "2", "3", "4", "5"])
            self.assertEqual({p["given"] is None for p in state["pieces"]}, {opened})
            self.assertEqual({p["ok"] is None for p in state["pieces"]}, {opened})

    def test_right_at_the_first_try_mends_it(self) -> None:
        miss = self.miss()
        was = Miss.objects.get().presentation.seed
        reply = self.mend(miss, right)
        self.assertTrue(reply["feedback"]["mended"])
        self.assertNotEqual(Presentation.objects.get(pk=reply["question"]["id"]).seed, was)
        self.assertEqual(self.get("/misses")["total"], 0)
        self.assertEqual(Miss.objects.get().state, MissState.MENDED)
        self.start_mend(miss, status=409)

    def test_two_fresh_ones_then_its_section_first(self) -> None:
        miss = self.miss()
        self.mend(miss, wrong)
        reply = self.mend(miss, wrong)
        self.assertTrue(reply["question"]["solution"])
        shown = self.get(f"/misses/{miss}")
        self.assertEqual((shown["mends_left"], shown["failed_mends"]), (0, 2))
        self.start_mend(miss, status=409)
        study = shown["study"]
        self.post(f"/study/{study['topic']}/{study['section']}/opened")
        self.assertEqual(self.get(f"/misses/{miss}")["mends_left"], 2)
        self.assertTrue(self.mend(miss, right)["feedback"]["mended"])

    def test_a_fixed_question_comes_again_reshuffled_after_another(self) -> None:
        miss = self.miss("west-reads-more")
        shown = self.get(f"/misses/{miss}")
        self.assertIn("Answer another question first", shown["mend_note"])
        self.start_mend(miss, status=409)
        question = self.practise("tidal-terms")
        self.answer(question["id"], right(question["id"]))
        self.assertTrue(self.mend(miss, right)["feedback"]["mended"])
        self.assertEqual(Presentation.objects.latest("pk").seed, 1)
        self.assertGreater(Presentation.objects.latest("pk").order, 0)

    def test_what_waits_elsewhere_is_not_told_here(self) -> None:
        """The only version of a question, missed before and open again, now in a mend."""
        miss = self.miss("west-reads-more")
        self.assertTrue(self.get(f"/misses/{miss}")["solution"])
        question = self.practise("tidal-terms")
        self.answer(question["id"], right(question["id"]))
        mend = self.start_mend(miss)["question"]
        shown = self.get(f"/misses/{miss}")
        self.assertEqual(shown["solution"], [])
        self.assertEqual({row["right_answer"] for row in shown["comparison"]}, {None})
        self.answer(mend["id"], wrong(mend["id"]))
        self.assertTrue(self.get(f"/misses/{miss}")["solution"])

    def test_set_aside_is_not_mended(self) -> None:
        miss = self.miss()
        self.assertEqual(self.post(f"/misses/{miss}/set-aside")["state"], "set_aside")
        self.assertEqual(self.get("/misses")["total"], 0)
        self.miss()
        self.assertEqual(Miss.objects.filter(state=MissState.OPEN).count(), 1)

    def test_the_surest_come_first_and_a_family_is_listed_once(self) -> None:
        for family, confidence in (("error-sum", 50), ("compass-to-true", 100), ("error-sum", 90)):
            self.miss(family, confidence)
        groups = self.get("/misses")["topics"]
        self.assertEqual([miss["sure"] for miss in groups[0]["misses"]], [100, 50])

    def test_over_all_topics_by_sureness_or_day_and_one_after_another(self) -> None:
        for family, confidence in (("error-sum", 70), ("spring-moon", 90), ("topmarks", 50)):
            self.miss(family, confidence)
            self.clock.forward(hours=1)

        def listed(order: str) -> list[tuple[int, int]]:
            (group,) = self.get(f"/misses?order={order}")["topics"]
            self.assertIsNone(group["topic"])
            return [(miss["id"], miss["sure"]) for miss in group["misses"]]

        self.assertEqual([sure for _, sure in listed("newest")], [50, 90, 70])
        surest = [miss for miss, _ in listed("sure")]
        self.assertEqual([sure for _, sure in listed("sure")], [90, 70, 50])
        self.get("/misses?order=oldest", status=422)
        body = {"purpose": "missed", "miss": surest[0], "order": "sure"}
        for now, after in ((surest[0], surest[1]), (surest[1], surest[2]), (surest[2], surest[1])):
            run = self.post("/runs", body | {"miss": now})
            self.assertEqual((run["run"]["miss"], run["run"]["next_miss"]), (now, None))
            make = wrong if now == surest[1] else right
            reply = self.answer(run["question"]["id"], make(run["question"]["id"]))
            self.assertEqual(reply["run"]["next_miss"], after)

    def test_another_learners_misses_are_not_there(self) -> None:
        miss = self.miss()
        self.client.force_login(a_learner(self.course, "rui"))
        self.get(f"/misses/{miss}", status=404)
        self.start_mend(miss, status=404)
        self.post(f"/misses/{miss}/set-aside", status=404)
        self.assertEqual(Miss.objects.get().state, MissState.OPEN)

    def test_one_that_waits_is_taken_up_and_goes_when_it_is_set_aside(self) -> None:
        miss = self.miss()
        first = self.start_mend(miss)
        again = self.start_mend(miss)
        self.assertEqual(again["question"], first["question"])
        seen = self.get(f"/runs/{first['run']['id']}")
        self.assertEqual(seen["question"], first["question"])
        self.post(f"/misses/{miss}/set-aside")
        late = f"/questions/{first['question']['id']}/answer"
        body = {"replay_key": self.new_key(), "responses": right(first["question"]["id"])}
        self.assertEqual(self.post(late, body, status=409)["code"], "question_closed")
        self.assertEqual(Miss.objects.get().state, MissState.SET_ASIDE)
        self.assertEqual(self.post(f"/misses/{miss}/set-aside")["state"], "set_aside")

    def test_a_miss_of_a_question_that_was_taken_out_can_be_read_and_set_aside(self) -> None:
        miss = self.miss()
        self.start_mend(miss)
        load_pack(inshore_without("compass-to-true"))
        shown = self.get(f"/misses/{miss}")
        self.assertTrue(shown["comparison"][0]["right_answer"])
        self.assertEqual(shown["mends_left"], 0)
        self.assertEqual(self.get("/misses")["total"], 1)
        refused = self.start_mend(miss, status=409)
        self.assertEqual(refused["code"], "not_live")
        self.post(f"/misses/{miss}/set-aside")
        self.assertEqual(self.get("/misses")["total"], 0)
