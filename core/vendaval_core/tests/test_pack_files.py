"""Faults of a pack's files: the course, study pages, texts that cannot be read, names used twice."""

from __future__ import annotations

import shutil
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import TestCase

from vendaval_core.packs.reader import pack_digest, read_pack

from .courses import refused, replaced, small_pack

TERMS = "topics/tidal-terms"
PAGE = f"{TERMS}/study.md"
FAMILY = f"{TERMS}/range-of-tide.yaml"


class FileTests(TestCase):
    def assert_refused(self, found: list[str], expected: str) -> None:
        self.assertTrue(any(line.startswith(expected) for line in found), (expected, found))

    def test_the_course_file(self) -> None:
        topic = "      - {key: tidal-terms, title: Tidal terms}\n"
        for old, new, expected in (
            (topic, topic * 2, "course.yaml:9: subjects.0.topics.1.key: topic “tidal-terms” is"),
            ("after: [tidal-terms]", "after: [knots]", "course.yaml:9: subjects.0.topics.1.after:"),
            ("school:", "skool:", "course.yaml:3: skool: Extra inputs"),
            ("key: small\n", "", "course.yaml:1: key: Field required"),
            (
                "title: Small",
                "title: &a [*a]",
                "course.yaml:2: (yaml): aliases (*a) aren’t supported",
            ),
            ("title: Small", "title: 2026-13-40", "course.yaml:1: (yaml): month must be in 1..12"),
            ("title: Small", "title: !!python/name:os", "course.yaml:2: (yaml): could not determ"),
        ):
            self.assert_refused(refused(replaced("course.yaml", old, new)), expected)
        self.assert_refused(refused(lambda root: (root / "course.yaml").unlink()), "course.yaml:1:")
        listed = refused(lambda root: _write(root / "course.yaml", b"- tides\n"))
        self.assert_refused(listed, "course.yaml:1: (whole file): isn’t a mapping of fields")

    def test_study_pages(self) -> None:
        for text, expected in (
            ("Words before.\n\n## Terms {#terms}\n", f"{PAGE}:1: section: text before the first"),
            ("## Terms\n", f"{PAGE}:1: section: wants “## Title {{#id}}”"),
            ("## One {#one}\n## Two {#one}\n", f"{PAGE}:1: section: id “one” is used twice"),
            ("\n", f"{PAGE}:1: section: the page has no section"),
        ):
            found = refused(lambda root, text=text: _write(root / PAGE, text.encode()))
            self.assert_refused(found, expected)
            self.assertIn(f"{FAMILY}:6: study: no section “range”", found)

    def test_files_that_are_no_text(self) -> None:
        """Latin 1 where UTF-8 is wanted: told for each file, and all of them at once."""
        figure = f"{TERMS}/figures/levels.svg"
        stimulus = f"{TERMS}/stimuli/plan.md"

        def change(root: Path) -> None:
            (root / TERMS / "stimuli").mkdir()
            for file in (PAGE, FAMILY, f"{TERMS}/spring-moon.yaml", stimulus):
                _write(root / file, "maré é água".encode("latin-1"))
            replaced(
                "topics/height-at-a-time/fastest-hours.yaml", "title:", "stimulus: plan\ntitle:"
            )(root)

        found = refused(change)
        for file in (PAGE, FAMILY, f"{TERMS}/spring-moon.yaml"):
            self.assert_refused(found, f"{file}:1: (file): byte 4 is not UTF-8 text")
        self.assert_refused(
            found,
            "topics/height-at-a-time/fastest-hours.yaml:1: stimulus: stimuli/plan",
        )
        told = refused(lambda root: _write(root / figure, b"<svg>\xe9</svg>"))
        self.assert_refused(told, f"{figure}:1: (file): byte 6 is not UTF-8 text")

        def with_stimulus(root: Path) -> None:
            (root / TERMS / "stimuli").mkdir()
            _write(root / stimulus, b"\xe9")
            replaced(FAMILY, "title:", "stimulus: plan\ntitle:")(root)

        self.assert_refused(
            refused(with_stimulus), f"{stimulus}:1: (file): byte 1 is not UTF-8 text"
        )

    def test_names_stay_in_their_topic(self) -> None:
        """A file outside the topic's folder is not there, wherever a name points."""
        outside = replaced(FAMILY, "title:", "stimulus: ../../../course\ntitle:")
        self.assert_refused(refused(outside), f"{FAMILY}:1: stimulus: stimuli/../")
        found = refused(replaced(PAGE, "(levels.svg)", "(../../../course.yaml)"))
        self.assertIn("needs “![what it shows](name.svg)” on its own line", found[0])

    def test_a_pack_holds_no_links(self) -> None:
        """Wherever a link points, its end is somebody else's file."""
        found = refused(lambda root: (root / TERMS / "more.yaml").symlink_to("/etc/hostname"))
        self.assertEqual(
            found, [f"{TERMS}/more.yaml:1: (file): is a link; a pack must contain the file itself"]
        )
        found = refused(lambda root: (root / "topics/more").symlink_to("/etc"))
        self.assert_refused(found, "topics/more:1: (file): is a link")

    def test_aliases_that_unfold_to_millions_are_refused_at_once(self) -> None:
        lines = ["title: &a0 [x, x]"]
        lines += [f"a{i}: &a{i} [{', '.join([f'*a{i - 1}'] * 9)}]" for i in range(1, 30)]
        found = refused(lambda root: _write(root / FAMILY, "\n".join(lines).encode()))
        self.assert_refused(found, f"{FAMILY}:2: (yaml): aliases")

    def test_a_family_has_its_name_to_itself(self) -> None:
        def copy(root: Path) -> None:
            shutil.copy(root / FAMILY, root / "topics/height-at-a-time/range-of-tide.yaml")

        expected = f"topics/height-at-a-time/range-of-tide.yaml:1: (name): a family of this name is in {FAMILY}"
        self.assert_refused(refused(copy), expected)

    def test_a_topic_can_be_without_families_until_somebody_writes_some(self) -> None:
        with TemporaryDirectory() as folder:
            root = Path(folder)
            small_pack(root)
            (root / "topics/height-at-a-time/fastest-hours.yaml").unlink()
            topics = {item.family.topic for item in read_pack(root).families}
            self.assertEqual(topics, {"tidal-terms"})

    def test_the_digest_knows_every_file_that_counts(self) -> None:
        with TemporaryDirectory() as folder:
            root = Path(folder)
            small_pack(root)
            self.assertEqual(len(read_pack(root).families), 3)
            seen = {pack_digest(root)}
            for file in ("course.yaml", FAMILY, PAGE, f"{TERMS}/figures/levels.svg"):
                with (root / file).open("a") as open_file:
                    open_file.write("\n")
                seen.add(pack_digest(root))
            self.assertEqual(len(seen), 5)


def _write(path: Path, content: bytes) -> None:
    path.write_bytes(content)
