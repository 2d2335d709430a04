"""The whole bank: five hundred random versions from seed to payload to mark."""

import random

from django.test import SimpleTestCase

from vendaval.bank.preview import as_page, as_text, some_versions
from vendaval.shared.markdown import to_html, to_inline_html
from vendaval.work.tests.builders import inshore
from vendaval_core.items.kinds.protocol import Key
from vendaval_core.items.mark import Verdict
from vendaval_core.items.presented import figure_out
from vendaval_core.items.versions import make_version
from vendaval_core.packs.survey import reading_grade, survey

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
                    self.assertTrue(key.presented(to_inline_html).model_dump_json())
                    self.marked(key)

    def marked(self, key: Key) -> None:
        examples = key.examples
        self.assertIn(key.mark(examples.right).verdict, DONE)
        if not key.by_person:
            self.assertIn(key.mark(examples.wrong).verdict, {Verdict.WRONG, Verdict.PARTLY})
        self.assertTrue(key.right_words())
        for response in (examples.right, examples.wrong):
            self.assertTrue(key.answer_words(response))
            key.pieces(response)
        for junk in JUNK:
            key.mark(junk)

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
        text, page = as_text(family, versions), as_page(family, versions)
        for wanted in ("From (time): ", "That is after high water", "step: Opens"):
            self.assertIn(wanted, text)
        self.assertEqual(page.count("<article>"), 10)
        self.assertIn("What is said", page)
