"""The whole bank: five hundred random versions from seed to payload to mark."""

import json
import random

from django.test import SimpleTestCase

from vendaval.bank.preview import as_page, as_text, some_versions
from vendaval.delivery.part_schemas import PartOut
from vendaval.delivery.parts_out import figure_out, part_out
from vendaval.shared.markdown import to_html
from vendaval.work.tests.builders import inshore
from vendaval_core.items.keys import PartKey, WrittenKey
from vendaval_core.items.versions import make_version
from vendaval_core.packs.survey import reading_grade, survey
from vendaval_core.scoring.examples import right_response, wrong_response
from vendaval_core.scoring.marking import Verdict, mark_part
from vendaval_core.scoring.words import answer_words, pieces, right_words

JUNK = ("", "\x00", "☃ 9e999", "a b c\nd", "-" * 4000, "1 1\n1 1\n1 1", "s1 a\ns1 a")
DONE = {Verdict.RIGHT, Verdict.NOTED}


class VersionTests(SimpleTestCase):
    def test_five_hundred_versions_are_made_sent_and_marked(self) -> None:
        families = [item.family for item in inshore().families]
        draw = random.Random(20)
        for _ in range(500):
            family = draw.choice(families)
            version = make_version(family, draw.randint(1, family.versions), draw.randrange(9))
            with self.subTest(family=family.key, seed=version.seed):
                self.assertTrue(to_html(version.prompt))
                figure_out(version.figure)
                for key in version.parts:
                    self.sent(part_out(key))
                    self.marked(key)

    def sent(self, part: PartOut) -> None:
        payload = json.loads(part.model_dump_json())
        for secret in ("right", "answer", "near_misses", "says", "targets", "tolerance"):
            self.assertNotIn(secret, payload)

    def marked(self, key: PartKey) -> None:
        right, wrong = right_response(key), wrong_response(key)
        self.assertIn(mark_part(key, right).verdict, DONE)
        if not isinstance(key, WrittenKey):
            self.assertIn(mark_part(key, wrong).verdict, {Verdict.WRONG, Verdict.PARTLY})
        self.assertTrue(right_words(key))
        for response in (right, wrong):
            self.assertTrue(answer_words(key, response))
            pieces(key, response)
        for junk in JUNK:
            mark_part(key, junk)

    def test_every_topic_is_rich_enough(self) -> None:
        for topic in survey(inshore()):
            with self.subTest(topic=topic.key):
                self.assertGreaterEqual(topic.families, 8)
                self.assertGreaterEqual(topic.essential, 3)
                self.assertGreaterEqual(3 * topic.generated, 2 * topic.families)
                self.assertGreaterEqual(sum(n > 0 for n in topic.difficulties), 4)
                self.assertLess(topic.grade, 9)
                self.assertLess(max(topic.errors), 10)

    def test_reading_grade(self) -> None:
        """Senter and Smith 1967: 4.71 × characters per word + 0.5 × words per sentence - 21.43."""
        text = "Navigators always calculate carefully. They remember yesterday."
        self.assertAlmostEqual(reading_grade(text), 4.71 * 55 / 7 + 0.5 * 7 / 2 - 21.43)
        self.assertEqual(reading_grade("It is so."), 0)

    def test_a_preview_shows_answers_near_misses_and_solution(self) -> None:
        family = next(i.family for i in inshore().families if i.family.key == "window-from-until")
        versions = some_versions(family, 10)
        self.assertEqual(len(versions), 10)
        text, page = as_text(versions), as_page(family, versions)
        for wanted in ("From (time): ", "That is after high water", "step: Opens"):
            self.assertIn(wanted, text)
        self.assertEqual(page.count("<article>"), 10)
        self.assertIn("What is said", page)
