"""A course's structure changed, two topics put together, a study page edited: as files."""

from __future__ import annotations

from unittest import TestCase

from vendaval_core.authoring.keys import as_key, free_key
from vendaval_core.authoring.merging import TopicFolder, merged, without_topic
from vendaval_core.authoring.structure import structure_changes, with_structure
from vendaval_core.authoring.study_pages import PageSection, page_with, sections_in, with_text
from vendaval_core.errors import MergingError
from vendaval_core.packs.course import course_faults
from vendaval_core.packs.located import parse_yaml
from vendaval_core.packs.schema import CourseModel
from vendaval_core.tests.courses import PACKS

KNOTS = """\
# What the harbour school teaches.
key: knots
title: Knots and ropes
school: Harbour school
subjects:
  - key: ropes
    title: Ropes   # all of them
    topics:
      - {key: fibres, title: Fibres}
      - {key: bends, title: Bends, importance: 1.5, after: [fibres]}
  - key: knots
    title: Knots
    topics:
      - {key: hitches, title: Hitches, after: [fibres, bends]}
"""
PAGE = "## What to look at {#start}\n\nFibres.\n\n## Care {#care}\n\nDry them.\n"


def course(text: str) -> CourseModel:
    read = parse_yaml(text, "course.yaml")
    return CourseModel.model_validate(read.data)  # type: ignore[union-attr]


class KeyTests(TestCase):
    def test_titles_become_keys(self) -> None:
        self.assertEqual(as_key("  Árvores & cabos, 2.ª parte", "topic"), "arvores-cabos-2-a-parte")
        self.assertEqual(as_key("24 hours", "topic"), "topic-24-hours")
        self.assertEqual(free_key("Bends", "topic", {"bends", "bends-2"}), "bends-3")


class StructureTests(TestCase):
    def test_only_what_changed_is_written_anew(self) -> None:
        now = course(KNOTS)
        self.assertEqual(with_structure(KNOTS, now), KNOTS)
        ropes, knots = now.subjects
        bends = ropes.topics[1].model_copy(update={"target": 85.0})
        new = bends.model_copy(update={"key": "splices", "title": "Splices", "after": ["bends"]})
        topics = [ropes.topics[0], bends, new]
        wanted = now.model_copy(
            update={"subjects": [ropes.model_copy(update={"topics": topics}), knots]}
        )
        text = with_structure(KNOTS, wanted)
        self.assertEqual(course(text), wanted)
        for line in ("# What the harbour school teaches.", "- {key: fibres, title: Fibres}"):
            self.assertIn(line, text)
        self.assertEqual(
            structure_changes(now, wanted),
            ["Bends: the target is 85, not 80.", "New topic: Splices."],
        )

    def test_no_topic_waits_for_itself(self) -> None:
        self.assertEqual(list(course_faults(course(KNOTS))), [])
        for wrong in ("[hitches]", "[bends]", "[nowhere]"):
            faults = list(course_faults(course(KNOTS.replace("[fibres]", wrong))))
            self.assertEqual([path for path, _ in faults], [("subjects", 0, "topics", 1, "after")])


class MergingTests(TestCase):
    FIBRES = TopicFolder("fibres", {"study.md": PAGE.encode(), "figures/a.svg": b"<svg/>"})

    def test_questions_find_their_sections_again(self) -> None:
        bends = TopicFolder("bends", {"study.md": b"## Sheet bend {#start}\n\nOver.\n"})
        questions = {
            "what-rots": ("fibres", "title: What rots\nstudy: start   # the first\n"),
            "how-to-dry": ("bends", "title: How to dry\nstudy: fibres#care\n"),
            "which-bend": ("bends", "title: Which bend\nstudy: start\n"),
            "which-hitch": ("hitches", "title: Which hitch\nstudy: fibres#start\n"),
        }
        found = merged(self.FIBRES, bends, questions)
        self.assertEqual(
            [one.key for one in sections_in(found.files["study.md"].decode())],
            ["start", "start-2", "care"],
        )
        self.assertEqual(found.files["figures/a.svg"], b"<svg/>")
        self.assertEqual(
            found.families,
            {
                "what-rots": "title: What rots\nstudy: start-2 # the first\n",
                "how-to-dry": "title: How to dry\nstudy: care\n",
                "which-hitch": "title: Which hitch\nstudy: bends#start-2\n",
            },
        )

    def test_files_of_one_name_that_differ_are_refused(self) -> None:
        bends = TopicFolder("bends", {"study.md": PAGE.encode(), "figures/a.svg": b"<svg></svg>"})
        with self.assertRaisesRegex(MergingError, "figures/a.svg"):
            merged(self.FIBRES, bends, {})

    def test_others_build_on_the_topic_that_stays(self) -> None:
        after = {
            kept: {
                topic.key: (topic.after, topic.closed)
                for subject in without_topic(course(KNOTS), "bends", "fibres", kept=kept).subjects
                for topic in subject.topics
            }
            for kept in (True, False)
        }
        self.assertEqual(after[True]["hitches"], (["fibres"], False))
        self.assertEqual(after[True]["bends"], (["fibres"], True))
        self.assertNotIn("bends", after[False])


class PageTests(TestCase):
    def test_what_nobody_changed_stays_as_it_was_written(self) -> None:
        for path in (PACKS / "inshore" / "topics").glob("*/study.md"):
            text = path.read_text()
            self.assertEqual(page_with(text, sections_in(text)), text, path.parent.name)

    def test_another_text_keeps_the_drawing_wherever_it_stood(self) -> None:
        body = "Over.\n\n![A bend](bend.svg)\n\nUnder."
        self.assertEqual(with_text(body, "Round.\n"), "Round.\n\n![A bend](bend.svg)")
        self.assertEqual(with_text("Over.", "Round."), "Round.")

    def test_a_section_changed_another_added_and_one_moved(self) -> None:
        first, care = sections_in(PAGE)
        new = PageSection("", "Care", "Rinse them.")
        changed = PageSection("start", "Fibres", first.body)
        self.assertEqual(
            page_with(PAGE, [care, changed, new]),
            "## Care {#care}\n\nDry them.\n\n## Fibres {#start}\n\nFibres.\n\n"
            "## Care {#care-2}\n\nRinse them.\n",
        )
