"""Common wrong answers: those of first tries, and the slip that nobody foresaw."""

from __future__ import annotations

from vendaval.bank.models import Family
from vendaval.bank.snapshot import version_of
from vendaval.levels.models import Observation
from vendaval.people.models import Role
from vendaval.work.models import Mark, MarkRule, Presentation, Run, Try, TryKind, Visibility
from vendaval.work.tests.builders import enrolment_of, with_role

from .test_publishing import AuthorTestCase

KEY = "speed-made"


class WrongAnswerTests(AuthorTestCase):
    def answered(self, seed: int, text: str, *, held: bool = False) -> None:
        """A first answer, wrong, as the log keeps one."""
        ana, now = enrolment_of(self.learner), self.clock.time
        family = Family.objects.select_related("topic", "latest").get(key=KEY)
        run, _ = Run.objects.get_or_create(
            enrolment=ana, purpose="practice", defaults={"started_at": now, "touched_at": now}
        )
        shown = Presentation.objects.create(
            run=run,
            revision=family.latest,
            seed=seed,
            number=1 + run.presentations.count(),
            made_at=now,
            visibility=Visibility.NOTHING if held else Visibility.ALL,
        )
        common = {"enrolment": ana, "family": family, "topic": family.topic, "at": now}
        tried = Try.objects.create(
            presentation=shown,
            replay_key=f"try-{shown.pk}",
            kind=TryKind.ANSWER,
            number=1,
            response={"speed": text},
            first=True,
            seconds=20,
            **common,
        )
        Mark.objects.create(
            tried=tried,
            part="speed",
            verdict="wrong",
            share="0",
            canonical=text,
            rule=MarkRule.KEY,
            revision=family.latest,
            at=now,
        )
        Observation.objects.create(
            tried=tried, outcome=0, of=2, weight=1.0, reason="first", sitting=1, **common
        )

    def test_a_slip_across_versions_is_named_and_what_is_held_back_is_not(self) -> None:
        family = Family.objects.select_related("latest", "topic").get(key=KEY)
        revision = family.latest
        assert revision is not None
        revision.family = family
        for seed in range(1, 11):
            right = float(version_of(revision, seed, 0).parts[0].examples.right.split()[0])
            # The whole of the answer doubled: no near miss of the family says so.
            self.answered(seed, f"{2 * right:.1f}")
        self.answered(11, "0.1", held=True)
        told = self.told("/wrong-answers", KEY)
        self.assertEqual((told["answers"], told["wrong"], told["foreseen"]), (10, 10, 0))
        slip = told["slips"][0]
        self.assertEqual((slip["answers"], slip["of"], slip["versions"]), (10, 10, 10))
        self.assertIn("2", slip["formula"])

    def test_only_the_course_s_authors_see_them(self) -> None:
        self.client.force_login(with_role(self.course, Role.TUTOR))
        reply = self.client.get(self.at("/wrong-answers", KEY))
        self.assertEqual(reply.status_code, 404)
