"""Answers that are drawn, joined and ordered, through the API: words for mix-ups, right places
only once they may be told, and the pieces beside each other in review."""

from typing import Any

from vendaval.review.models import Miss
from vendaval.work.models import Presentation
from vendaval.work.tests.builders import CourseTestCase, keys_of, right


class DrawnTests(CourseTestCase):
    def keys(self, question: dict[str, Any]) -> Any:
        return keys_of(Presentation.objects.get(pk=question["id"]))

    def state(self, question: dict[str, Any], part: str) -> Any:
        return next(state for state in question["states"] if state["id"] == part)

    def test_a_curve_is_told_and_shown_once_closed(self) -> None:
        question = self.practise_family("curve-fit")
        sent = next(part for part in question["parts"] if part["kind"] == "graph")
        self.assertEqual((sent["draws"], sent["count"], sent["x"]["clock"]), ("tide", 2, True))
        self.assertNotIn("targets", str(sent))
        curve = self.keys(question)[0]
        low, high = curve.targets
        swapped = f"{low.x:g} {high.y:g}\n{high.x:g} {low.y:g}"
        reply = self.answer(question["id"], {"curve": swapped})
        self.assertIn("time of low water", str(reply["feedback"]["parts"]))
        self.assertEqual(self.state(reply["question"], "curve")["right_points"], [])
        closed = self.post(f"/questions/{question['id']}/working")["question"]
        shown = self.state(closed, "curve")
        self.assertEqual(
            [(point["x"], point["y"]) for point in shown["right_points"]],
            [(round(t.x, 4), round(t.y, 4)) for t in (low, high)],
        )
        self.assertEqual([piece["ok"] for piece in shown["pieces"]], [False, False])
        self.assertRegex(shown["pieces"][0]["right"], r"^\d\d:\d\d, \d")

    def test_a_number_line_shows_the_right_place_once_closed(self) -> None:
        question = self.practise_family("gale-begins")
        (key,) = self.keys(question)
        low = key.near_misses[0].value
        reply = self.answer(question["id"], {"wind": f"{low:g}"})
        self.assertIn("the top of the force below", str(reply["feedback"]))
        self.assertEqual(self.state(reply["question"], "wind")["right_points"], [])
        closed = self.post(f"/questions/{question['id']}/working")["question"]
        shown = self.state(closed, "wind")
        self.assertEqual(shown["right_points"], [{"x": key.number.answer, "y": 0}])

    def test_a_diagnostic_tells_no_right_place(self) -> None:
        self.diagnose("chartwork")
        question = self.ask_family("two-bearings", "diagnostic")
        far = {
            part["id"]: "\n".join(
                f"{part['x']['low'] + i * part['x']['step']} {part['y']['low']}"
                for i in range(part["count"])
            )
            for part in question["parts"]
        }
        reply = self.answer(question["id"], far)
        self.assertTrue(reply["question"]["closed"])
        self.assertEqual([s["right_points"] for s in reply["question"]["states"]], [[]])
        miss = Miss.objects.get()
        review = self.get(f"/misses/{miss.pk}")
        (shown,) = review["question"]["states"]
        self.assertGreater(len(shown["right_points"]), 0)

    def test_a_mix_up_has_its_own_words_beside_the_share(self) -> None:
        question = self.practise_family("topmarks")
        (key,) = self.keys(question)
        tokens = {token.text: token.id for token in key.tokens}
        wanted = {slot.text: slot.right for slot in key.slots}
        wanted["east"], wanted["west"] = tokens["point to point"], tokens["base to base"]
        sent = "\n".join(f"{slot.id} {wanted[slot.text]}" for slot in key.slots)
        feedback = self.answer(question["id"], {key.id: sent})["feedback"]
        self.assertEqual(feedback["headline"], "Partly right: 2 of 4.")
        self.assertIn("waist: that is west", feedback["detail"])

    def test_own_words_are_read_as_they_were_formatted(self) -> None:
        question = self.practise_family("briefing")
        words, choice = self.keys(question)
        given = right(question["id"]) | {words.id: "Wear **lifejackets**.\n\n<b>Clip</b> on."}
        reply = self.answer(question["id"], given)
        self.assertTrue(reply["question"]["closed"])
        state = self.state(reply["question"], words.id)
        self.assertEqual(state["state"], "noted")
        self.assertIn("<strong>lifejackets</strong>", state["answer_html"])
        self.assertIn("&lt;b&gt;Clip", state["answer_html"])
        self.assertEqual(state["right_answer"], words.model)
        self.assertIsNone(self.state(reply["question"], choice.id)["answer_html"])

    def test_points_of_choices_are_added_up_between_their_bounds(self) -> None:
        question = self.practise_family("worth-carrying")
        (key,) = self.keys(question)
        worth = {choice.text: choice for choice in key.choices}
        chart = next(c for text, c in worth.items() if "chart of the approach" in text)
        astray = next(c for text, c in worth.items() if "sailed last year" in text)
        reply = self.answer(question["id"], {key.id: f"{chart.id}"})
        self.assertEqual(reply["feedback"]["headline"], "Partly right: 2 of 7.")
        reply = self.answer(question["id"], {key.id: f"{chart.id}\n{astray.id}"})
        self.assertEqual(reply["feedback"]["headline"], "Not yet.")
        self.assertIn("A bar moves", str(reply["feedback"]))
        state = self.state(reply["question"], key.id)
        self.assertAlmostEqual(state["share"], 2 / 7)
        last = self.answer(question["id"], right(question["id"]))
        self.assertEqual(last["feedback"]["verdict"], "right")
        self.assertAlmostEqual(last["question"]["share"], 1 / 3, places=2)
