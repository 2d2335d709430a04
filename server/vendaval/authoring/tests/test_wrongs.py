"""Common wrong answers: those of first tries, and the slip that nobody foresaw."""

from __future__ import annotations

from unittest.mock import patch

from vendaval.authoring.bank.lines import refresh_figures
from vendaval.authoring.bank.slips import refresh_slips
from vendaval.authoring.models import BankLine
from vendaval.bank.models import Family
from vendaval.bank.snapshot import version_of
from vendaval.demo.made_answers import Made, store_answers
from vendaval.people.models import Role
from vendaval.work.models import Visibility
from vendaval.work.tests.builders import enrolment_of, with_role

from .test_publishing import AuthorTestCase

KEY = "speed-made"


class WrongAnswerTests(AuthorTestCase):
    def answered(self, texts: dict[int, str], *, held: bool = False) -> None:
        """First answers, wrong, as the log keeps them: by version."""
        family = Family.objects.select_related("topic", "latest").get(key=KEY)
        family.course, shown = self.course, Visibility.NOTHING if held else Visibility.ALL
        ana = enrolment_of(self.learner)
        store_answers(
            [
                Made(ana, family, seed, {"speed": text}, self.clock.time, visibility=shown)
                for seed, text in texts.items()
            ]
        )

    def test_a_slip_across_versions_is_named_and_what_is_held_back_is_not(self) -> None:
        family = Family.objects.select_related("latest", "topic").get(key=KEY)
        revision = family.latest
        assert revision is not None
        revision.family = family
        right = {
            seed: float(version_of(revision, seed, 0).parts[0].examples.right.split()[0])
            for seed in range(1, 13)
        }
        # The whole of the answer doubled: no near miss of the family says so.
        self.answered({seed: f"{2 * value:.1f}" for seed, value in right.items()})
        self.answered({13: "0.1"}, held=True)
        told = self.told("/wrong-answers", KEY)
        self.assertEqual((told["answers"], told["wrong"], told["foreseen"]), (12, 12, 0))
        slip = told["slips"][0]
        self.assertEqual((slip["answers"], slip["of"], slip["versions"]), (12, 12, 12))
        self.assertIn("2", slip["formula"])
        self.assertEqual(refresh_slips(self.course), 1)
        refresh_figures(self.course)
        line = BankLine.objects.get(family=family)
        says = f"12 of 12 unexpected wrong answers are {slip['formula']}."
        self.assertEqual((line.slips, line.urgency), ([says], 3))

    def test_only_the_course_s_authors_see_them(self) -> None:
        self.client.force_login(with_role(self.course, Role.TUTOR))
        reply = self.client.get(self.at("/wrong-answers", KEY))
        self.assertEqual(reply.status_code, 404)

    def test_slips_are_sought_again_only_once_more_is_unexpected(self) -> None:
        self.answered({seed: f"{900 + seed}" for seed in range(1, 14)})
        with patch("vendaval.authoring.bank.slips.slips_of", return_value=[]) as seek:
            refresh_slips(self.course)
            refresh_slips(self.course)
            self.assertEqual(seek.call_count, 1)
            self.answered({seed: f"{800 + seed}" for seed in range(20, 24)})
            refresh_slips(self.course)
        self.assertEqual(seek.call_count, 2)
