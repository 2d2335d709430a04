"""What came of reading a study section, for whoever writes it."""

from __future__ import annotations

import random
from datetime import timedelta

from vendaval.authoring.bank.lines import sync_lines
from vendaval.authoring.bank.sections import refresh_sections
from vendaval.bank.models import Family
from vendaval.bank.snapshot import version_of
from vendaval.demo.made_answers import Made, store_answers
from vendaval.groups.models import Enrolment
from vendaval.people.models import User
from vendaval.work.models import HelpKind, HelpOpened, Visibility

from .test_publishing import AuthorTestCase

TOPIC, SECTION = "tidal-terms", "range"


class SectionsReadTests(AuthorTestCase):
    def readers(self, many: int, *, right: float, days: float = 1, held: bool = False) -> None:
        """Learners who read the section and answer a question of its topic later. right: share."""
        family = Family.objects.select_related("topic", "latest").get(key="range-of-tide")
        family.course = self.course
        now, rng = self.clock.time - timedelta(days=30), random.Random(many)
        users = User.objects.bulk_create(
            User(username=f"reader-{many}-{n}", display_name=f"Reader {n}") for n in range(many)
        )
        learners = Enrolment.objects.bulk_create(
            Enrolment(person=one, course=self.course, since=now, seed=rng.getrandbits(40))
            for one in users
        )
        HelpOpened.objects.bulk_create(
            HelpOpened(enrolment=one, kind=HelpKind.STUDY, topic=TOPIC, section=SECTION, at=now)
            for one in learners
        )
        key, part = self.right_of(family)
        later, shown = now + timedelta(days=days), Visibility.NOTHING if held else Visibility.ALL
        store_answers(
            [
                Made(
                    one,
                    family,
                    1,
                    {part: key if n < right * many else "0"},
                    later,
                    visibility=shown,
                )
                for n, one in enumerate(learners)
            ]
        )

    def right_of(self, family: Family) -> tuple[str, str]:
        assert family.latest is not None
        family.latest.family = family
        part = version_of(family.latest, 1, 0).parts[0]
        return part.examples.right, part.id

    def seen(self) -> dict:  # type: ignore[type-arg]
        sync_lines(self.course)
        refresh_sections(self.course)
        page = self.get(f"/authoring/pages/{TOPIC}")
        return dict(next(one for one in page["uses"] if one["key"] == SECTION))

    def test_next_first_tries_are_compared_with_what_was_expected(self) -> None:
        self.assertIsNone(self.seen()["after"])
        self.readers(10, right=1.0)
        self.readers(5, right=0.0, days=15)
        self.readers(6, right=0.0, held=True)
        after = self.seen()["after"]
        self.assertEqual((after["answers"], after["right"]), (10, 100))
        self.assertGreater(after["points"], 0)
        self.assertTrue(after["low"] < after["points"] < after["high"])
        self.assertEqual(self.get("/authoring/bank")["sections"], [])

    def test_a_section_that_does_not_help_is_said_on_the_author_s_home(self) -> None:
        self.readers(80, right=0.2)
        self.assertEqual(self.seen()["after"]["right"], 20)
        bank = self.get("/authoring/bank")
        self.assertEqual(bank["headline"], "One study section needs you.")
        (said,) = bank["sections"]
        self.assertEqual((said["topic"], said["section"]), (TOPIC, SECTION))
        self.assertIn("20% right of 80 first tries", said["says"])
