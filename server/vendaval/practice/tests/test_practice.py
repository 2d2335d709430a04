"""Practice: several tries, hints, fresh versions, the working, and the target met."""

from typing import Any

from vendaval.levels.models import TargetMet
from vendaval.review.models import Miss
from vendaval.work.models import Presentation
from vendaval.work.tests.builders import CourseTestCase, keys_of, right, wrong


class PracticeTests(CourseTestCase):
    def test_an_idea_missed_twice_running_is_read_about_before_the_next_question(self) -> None:
        question = self.practise_family("time-for-height")
        once = self.post(f"/questions/{question['id']}/working")
        self.assertIsNotNone(once["next"])
        self.assertIsNone(once["run"]["study_first"])
        fresh = self.post(f"/questions/{question['id']}/fresh")["question"]
        for _ in range(3):
            twice = self.answer(fresh["id"], {"time": f"0{_}:01"})
        self.assertEqual((twice["question"]["closed"], twice["next"]), (True, None))
        run = twice["run"]
        self.assertEqual(run["study_first"], question["study"])
        go_on = f"/runs/{run['id']}/go-on"
        self.assertEqual(self.post(go_on, status=409)["code"], "study_first")
        resumed = self.get(f"/runs/{run['id']}")
        self.assertEqual(resumed["question"]["id"], fresh["id"])
        on = self.onward(twice)
        self.assertFalse(on["closed"])
        again = self.post(go_on)
        self.assertEqual((again["question"]["id"], again["run"]["study_first"]), (on["id"], None))

    def test_each_miss_takes_a_third_off(self) -> None:
        question = self.practise_family("twelfths-rise")
        part = question["parts"][0]
        self.assertEqual((question["tries_left"], question["worth_now"]), (3, "1"))
        misses = ("0.01", "0.02")
        first = self.answer(question["id"], {part["id"]: misses[0]})["question"]
        self.assertEqual((first["tries_left"], first["worth_now"]), (2, "0.67"))
        again = self.answer(question["id"], {part["id"]: misses[0]})
        self.assertEqual(again["feedback"]["headline"], "Nothing has changed.")
        self.assertEqual(again["question"]["tries_left"], 2)
        second = self.answer(question["id"], {part["id"]: misses[1]})["question"]
        self.assertEqual((second["tries_left"], second["worth_now"]), (1, "0.33"))
        last = self.answer(question["id"], right(question["id"]))
        self.assertTrue(last["question"]["closed"])
        self.assertAlmostEqual(last["question"]["share"], 1 / 3)
        self.assertTrue(last["question"]["solution"])

    def test_a_foreseen_slip_gets_its_own_words_and_another_a_hint(self) -> None:
        question = self.practise_family("across-a-degree")
        key = keys_of(Presentation.objects.get(pk=question["id"]))[0]
        slip = key.near_misses[0]
        near = self.answer(question["id"], {key.id: f"{slip.value:.6f}"})
        said = f"{near['feedback']['headline']} {near['feedback']['detail']}".strip()
        self.assertTrue(said.startswith("Not ") and said.endswith(slip.says), said)
        self.assertEqual(near["question"]["hints"], [])
        odd = self.answer(question["id"], wrong(question["id"]))
        self.assertEqual(len(odd["question"]["hints"]), 1)

    def test_same_idea_new_numbers_up_to_four_times(self) -> None:
        question = self.practise_family("time-for-height")
        prompts = {question["prompt_html"]}
        family = Presentation.objects.get(pk=question["id"]).revision.family_id
        for left in (3, 2, 1, 0):
            question = self.post(f"/questions/{question['id']}/fresh")["question"]
            self.assertEqual(question["fresh_left"], left)
            prompts.add(question["prompt_html"])
        self.assertEqual(len(prompts), 5)
        shown = Presentation.objects.filter(
            run__enrolment__person=self.learner, revision__family_id=family
        )
        self.assertEqual(shown.count(), 5)
        self.post(f"/questions/{question['id']}/fresh", status=409)

    def test_the_working_closes_the_question_and_counts_nothing(self) -> None:
        question = self.practise()
        shown = self.post(f"/questions/{question['id']}/working")
        self.assertTrue(shown["question"]["closed"])
        self.assertNotEqual(shown["next"]["id"], question["id"])
        self.assertEqual(Miss.objects.count(), 0)
        self.assertIsNone(self.get("/topics/height-at-a-time")["line"]["reading"]["level"])

    def test_a_target_is_met_once_ideas_are_covered_and_said_plainly(self) -> None:
        question: dict[str, Any] = self.practise("latitude-and-distance")
        said = []
        for _ in range(40):
            self.clock.forward(minutes=31)
            reply = self.answer(question["id"], right(question["id"]))
            said += [reply["feedback"]["met"]] if reply["feedback"]["met"] else []
            question = reply["next"]
            if said:
                break
        self.assertIn(
            "You’ve reached the target for latitude and distance: all 4 ideas covered", said[0]
        )
        line = self.get("/topics/latitude-and-distance")["line"]
        self.assertEqual((line["state"], line["covered"]), ("met", 4))
        self.assertGreaterEqual(line["reading"]["chance"], 0.8)
        for _ in range(12):
            reply = self.answer(question["id"], wrong(question["id"]))
            self.assertIsNone(reply["feedback"]["met"])
            if not reply["question"]["closed"]:
                reply = self.post(f"/questions/{question['id']}/working")
            question = self.onward(reply)
        page = self.get("/topics/latitude-and-distance")
        self.assertEqual(page["line"]["state"], "check", "on record, and by now doubtful")
        self.assertIn("that stays on record", page["target_sentence"])
        self.assertEqual(TargetMet.objects.count(), 1)

    def test_an_ended_run_takes_no_fresh_version(self) -> None:
        question = self.practise_family("time-for-height")
        self.answer(question["id"], right(question["id"]))
        run = Presentation.objects.get(pk=question["id"]).run_id
        self.post(f"/runs/{run}/finish")
        self.post(f"/questions/{question['id']}/fresh", status=409)
        self.assertEqual(Presentation.objects.filter(closed_at=None).count(), 0)

    def test_a_hint_between_two_parts_takes_the_weight_away(self) -> None:
        question = self.practise_family("window-from-until")
        first, second = (part["id"] for part in question["parts"])
        self.answer(question["id"], {first: "00:01"})
        reply = self.answer(question["id"], {second: right(question["id"])[second]})
        self.assertIn("opened help first", reply["feedback"]["level"]["sentence"])

    def test_a_run_is_taken_up_where_it_was_left(self) -> None:
        question = self.practise()
        reply = self.answer(question["id"], wrong(question["id"]))
        again = self.practise()
        self.assertEqual(again, reply["question"])
        plan = self.get("/practice-plan")
        self.assertEqual([run["title"] for run in plan["under_way"]], ["Height at a time"])
