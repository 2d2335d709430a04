"""The pack reader: a good pack loads whole, a faulty one says file, line, field and what."""

import json
import shutil
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

from vendaval_core.items.versions import make_version
from vendaval_core.packs.located import PackInvalid
from vendaval_core.packs.reader import read_pack
from vendaval_core.packs.schema import FamilyModel
from vendaval_core.scoring.examples import right_response

PACKS = Path(__file__).resolve().parents[3] / "packs"
INSHORE = PACKS / "inshore"


class InshoreTests(TestCase):
    pack = read_pack(INSHORE)

    def test_breadth_asked_of_the_course(self) -> None:
        topics = [t.key for s in self.pack.course.subjects for t in s.topics]
        families = [item.family for item in self.pack.families]
        for topic in topics:
            own = [family for family in families if family.topic == topic]
            self.assertGreaterEqual(len(own), 5, topic)
            self.assertGreaterEqual(sum(f.essential for f in own), 3, topic)
            self.assertGreaterEqual(max(f.difficulty for f in own), 4, topic)
            self.assertEqual(min(f.difficulty for f in own), 1, topic)
            self.assertTrue(any(s.figure for s in self.pack.study[topic]), topic)
        self.assertGreaterEqual(sum(f.versions > 1 for f in families) / len(families), 2 / 3)
        shared = {f.stimulus for f in families if f.stimulus}
        self.assertTrue(shared)
        for text in shared:
            self.assertGreater(sum(f.stimulus == text for f in families), 1)

    def test_published_facts(self) -> None:
        """One cable is 185.2 m and a mile 1852 m: International Hydrographic Conference 1929."""
        family = next(i.family for i in self.pack.families if i.family.key == "cables-to-metres")
        version = make_version(family, 1)
        metres = float(right_response(version.parts[0]).split("\u00a0")[0])
        self.assertAlmostEqual(metres / float(version.variables["cables"]), 185.2, delta=0.5)

    def test_rule_of_twelfths(self) -> None:
        """1, 2, 3, 3, 2, 1 twelfths by the hour: common practice, no published source."""
        family = next(i.family for i in self.pack.families if i.family.key == "twelfths-rise")
        so_far = (0, 1, 3, 6, 9, 11, 12)
        for seed in range(1, 51):
            v = make_version(family, seed).variables
            share = (float(v["height"]) - float(v["low"])) / float(v["range_"])
            self.assertAlmostEqual(12 * share, so_far[int(v["hours"])])

    def test_the_schema_file_is_what_the_code_says(self) -> None:
        """Editors complete and check a family file by it."""
        stored = json.loads((PACKS / "family.schema.json").read_text())
        self.assertEqual(stored, FamilyModel.model_json_schema())


SMALL = """\
key: small
title: Small
school: Escola do Molhe
subjects:
  - key: tides
    title: Tides
    topics:
      - {key: tidal-terms, title: Tidal terms}
      - {key: compass-errors, title: Compass errors, after: [tidal-terms]}
"""
KEPT = {"range-of-tide.yaml", "spring-moon.yaml", "west-reads-more.yaml", "study.md"}


class FaultyPackTests(TestCase):
    def problems(self, file: str, old: str, new: str) -> list[str]:
        """What the reader says of a small course with one change in one file."""
        with TemporaryDirectory() as folder:
            root = Path(folder)
            (root / "course.yaml").write_text(SMALL)
            for topic in ("tidal-terms", "compass-errors"):
                shutil.copytree(INSHORE / "topics" / topic, root / "topics" / topic)
            for path in root.glob("topics/*/*"):
                if path.is_file() and path.name not in KEPT:
                    path.unlink()
            path = root / file
            text = path.read_text()
            self.assertIn(old, text)
            path.write_text(text.replace(old, new, 1))
            with self.assertRaises(PackInvalid) as caught:
                read_pack(root)
            return [str(problem) for problem in caught.exception.problems]

    FILE = "topics/tidal-terms/range-of-tide.yaml"

    def test_file_line_field_and_what(self) -> None:
        for old, new, expected in (
            ("difficulty: 1", "difficulty: 9", f"{self.FILE}:3: difficulty: Input should be less"),
            ("seconds: 35", "secconds: 35", f"{self.FILE}:4: secconds: Extra inputs"),
            ("study: range", "study: nowhere", f"{self.FILE}:6: study: no section “nowhere”"),
            ("answer: range_\n", "answer: rnage\n", "parts.0: version 1: cannot work out “rnage”"),
            ("answer: high + low", "answer: high - low", "near miss"),
            (
                "low: {range: [0.3, 1.9, 0.1]}",
                "low: {pick: []}",
                f"{self.FILE}:9: variables.low.pick",
            ),
            ("title: Range", "title: [Range", "(yaml)"),
            ("essential: true", "essential: true\nessential: false", "given twice"),
        ):
            found = self.problems(self.FILE, old, new)
            self.assertTrue(any(expected in line for line in found), (expected, found))

    def test_drawings_of_study_pages(self) -> None:
        page = "topics/tidal-terms/study.md"
        for old, new, expected in (
            ("(levels.svg)", "(levels-2.svg)", "figure: there is no figures/levels-2.svg"),
            ("(levels.svg)", "(levels.svg)\n![again](levels.svg)", "a section has one drawing"),
        ):
            found = self.problems(page, old, new)
            self.assertTrue(any(expected in line for line in found), (expected, found))
        found = self.problems("topics/tidal-terms/figures/levels.svg", "<line", "<script")
        self.assertTrue(any("<script> is not allowed" in line for line in found), found)

    def test_every_fault_is_told_at_once(self) -> None:
        found = self.problems("course.yaml", "key: tidal-terms", "key: tidal-term")
        self.assertTrue(any("is no topic of course.yaml" in line for line in found))
        self.assertTrue(any("study.md: is missing" in line for line in found))
        self.assertTrue(
            any("“tidal-terms” is not a topic before this one" in line for line in found)
        )
