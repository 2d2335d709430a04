"""What a learner's own draws hang on."""

from __future__ import annotations

from vendaval.work.models import Presentation
from vendaval.work.tests.builders import CourseTestCase, a_learner, enrolment_of, right


class DrawTests(CourseTestCase):
    def drawn(self, username: str, seed: int) -> list[tuple[str, int]]:
        """Ideas and versions of somebody's first questions, with a seed of their own."""
        learner = a_learner(self.course, username)
        enrolment = enrolment_of(learner)
        enrolment.seed = seed
        enrolment.save(update_fields=["seed"])
        self.client.force_login(learner)
        run = self.post("/runs", {"purpose": "quiz", "topics": ["buoyage"], "questions": 4})
        question = run["question"]
        for _ in range(3):
            question = self.answer(question["id"], right(question["id"]))["next"]
        rows = Presentation.objects.filter(run__enrolment=enrolment).order_by("number")
        return list(rows.values_list("revision__family__key", "seed"))

    def test_they_come_from_the_enrolments_seed_and_not_from_its_row(self) -> None:
        one = self.drawn("bela", 5)
        self.assertEqual(self.drawn("caio", 5), one)
        self.assertNotEqual(self.drawn("dora", 6), one)
