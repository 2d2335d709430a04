"""The pack reader: a good pack loads whole, a faulty one says file, line, field and what."""

import json
import shutil
from pathlib import Path
from unittest import TestCase

import jsonschema
import yaml

from vendaval_core.items.kinds.registry import KINDS
from vendaval_core.items.kinds.tagged import names_of
from vendaval_core.packs.schema import SCHEMAS

from .courses import INSHORE, PACKS, inshore, refused, replaced


class InshoreTests(TestCase):
    pack = inshore()

    def test_breadth_asked_of_the_course(self) -> None:
        topics = [t.key for s in self.pack.course.subjects for t in s.topics]
        families = [item.family for item in self.pack.families]
        for topic in topics:
            own = [family for family in families if family.topic == topic]
            self.assertGreaterEqual(len(own), 8, topic)
            self.assertGreaterEqual(sum(f.essential for f in own), 3, topic)
            self.assertGreaterEqual(max(f.difficulty for f in own), 4, topic)
            self.assertEqual(min(f.difficulty for f in own), 1, topic)
            self.assertTrue(any(s.figure for s in self.pack.study[topic]), topic)
        self.assertGreaterEqual(sum(f.versions > 1 for f in families) / len(families), 2 / 3)
        asked = {part.called for family in families for part in family.parts}
        named = {name.split(".")[-1] for kind in KINDS for name in names_of(kind.part)}
        self.assertEqual({name.replace("_", " ") for name in named} - asked, {"by rules"})
        shared = {f.stimulus for f in families if f.stimulus}
        self.assertTrue(shared)
        for text in shared:
            self.assertGreater(sum(f.stimulus == text for f in families), 1)

    def test_the_schema_files_are_what_the_code_says(self) -> None:
        """Editors complete and check a pack's files by them."""
        for name, model in SCHEMAS.items():
            stored = json.loads((PACKS / f"{name}.schema.json").read_text())
            self.assertEqual(stored, model.model_json_schema(), "run make openapi")

    def test_every_file_of_the_course_is_as_the_schema_says(self) -> None:
        """By a general validator of JSON Schema 2020-12, which is what an editor runs."""
        families = [*INSHORE.glob("topics/*/*.yaml"), *INSHORE.glob("rehearsal/*.yaml")]
        figures = list(INSHORE.glob("topics/*/figures/*.yaml"))
        self.assertGreater(len(families), 180)
        self.assertGreater(len(figures), 10)
        for name, files in (
            ("course", [INSHORE / "course.yaml"]),
            ("family", families),
            ("figure", figures),
        ):
            schema = json.loads((PACKS / f"{name}.schema.json").read_text())
            validator = jsonschema.Draft202012Validator(schema)
            for file in files:
                data = json.loads(json.dumps(yaml.safe_load(file.read_text())))
                faults = [fault.message for fault in validator.iter_errors(data)]
                self.assertEqual(faults, [], file.name)


class FaultyPackTests(TestCase):
    def problems(self, file: str, old: str, new: str) -> list[str]:
        """What the reader says of a small course with one change in one file."""
        return refused(replaced(file, old, new))

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
            ("(levels.svg)", "(levels-2.svg)", "figure: figures/levels-2.svg is missing"),
            (
                "(levels.svg)",
                "(levels.svg)\n![again](levels.svg)",
                "a section can have only one drawing",
            ),
        ):
            found = self.problems(page, old, new)
            self.assertTrue(any(expected in line for line in found), (expected, found))
        found = self.problems("topics/tidal-terms/figures/levels.svg", "<line", "<script")
        self.assertTrue(any("<script> is not allowed" in line for line in found), found)

    def test_figures_that_move(self) -> None:
        """Each fault of a moving figure is said with the page or the figure's file."""
        page, figure = "topics/tidal-terms/study.md", "topics/tidal-terms/figures/tide-over.yaml"
        for file, old, new, expected in (
            (page, "(tide-over.yaml)", "(tide.yaml)", "figures/tide.yaml is missing"),
            (figure, "step: 0.2", "step: 0.01", "a slider has at most 61 steps, not 501"),
            (figure, "step: 0.2", "step: 0", "a slider must rise from low to high"),
            (figure, "start: 3}", "start: 9}", "a slider must start between low and high"),
            (figure, "tide - 1.4", "tide - rock", "cannot work out “tide - rock”"),
            (figure, "slider:", "glider:", f"{figure}:1: glider: Extra inputs"),
            (figure, "<rect", "<use", "<use> is not allowed"),
            (figure, "says:", "tells:", f"{figure}:5: tells: Extra inputs"),
            (figure, "slider: {", "slider: [", f"{figure}:"),
        ):
            found = self.problems(file, old, new)
            self.assertTrue(any(expected in line for line in found), (expected, found))

    def test_kinds_that_want_more_than_one_field(self) -> None:
        """Rules between fields of a part: file, line, the part, and what is wrong."""
        family = "topics/tidal-terms/range-of-tide.yaml"
        part = (INSHORE / family).read_text().split("parts:\n")[1].split("hints:")[0]
        for new, expected in (
            (
                "kind: choice, id: a, choices: [{text: b, right: true, points: 2}, {text: c}]",
                "give both points and bounds, or neither",
            ),
            (
                "kind: choice, id: a, partial: true, bounds: [0, 2], "
                "choices: [{text: b, right: true, points: 2}, {text: c}]",
                "bounds must rise and can’t be used with partial",
            ),
            (
                "kind: choice, id: a, choices: [{text: b, right: true}, {text: c, right: true}]",
                "exactly one choice must be right",
            ),
            (
                "kind: choice, id: a, choose: any, choices: [{text: b}, {text: c}]",
                "at least one choice must be right",
            ),
            (
                "kind: hotspot, id: a, choices: [{text: b, right: true}, {text: c}]",
                "a hotspot needs a figure and a region for each choice",
            ),
            (
                "kind: hot_text, id: a, text: '{{0}}', choices: [{text: b, right: true}, {text: c}]",
                "{{1}} isn’t in the text",
            ),
            (
                "kind: graph, id: a, draws: tide, x: {low: 0, high: 6}, y: {low: 0, high: 6}, "
                "targets: [{x: 1, y: 1, tolerance: 1}]",
                "a line or a tide goes through two points at least",
            ),
            (
                "kind: select_point, id: a, draws: line, x: {low: 0, high: 6}, "
                "y: {low: 0, high: 6}, targets: [{x: 1, y: 1, tolerance: 1}]",
                "only a graph draws a line or a tide",
            ),
            (
                "kind: graph, id: a, x: {low: 0, high: 6}, y: {low: 0, high: 6}, "
                "heights: [{at: 1, name: h}], targets: [{x: 1, y: 1, tolerance: 1}]",
                "heights belong to a line or a tide",
            ),
            (
                "kind: select_point, id: a, x: {low: 0, high: 6}, y: {low: 0, high: 6}, "
                "targets: [{x: 9, y: 1, tolerance: 1}]",
                "target 9, 1 lies outside the grid",
            ),
            (
                "kind: select_point, id: a, x: {low: 0, high: 6}, y: {low: 0, high: 6}, "
                "targets: [{x: 1, y: 1, tolerance: 1}], "
                "near_misses: [{x: 1, y: 9, tolerance: 1, says: No.}]",
                "no point of the grid comes near to near miss 1, 9",
            ),
            ("kind: grid_shading, id: a, rows: 2, columns: 2, answer: 5", "5 cells cannot be"),
            ("kind: slider, id: a, low: 0, high: 9, step: 2, answer: 3", "cannot be set to 3"),
            (
                "kind: inline_choice, id: a, text: '{{0}}', gaps: [{choices: [b, c], right: d}]",
                "“d” isn’t one of the choices",
            ),
            (
                "kind: table_entry, id: a, columns: [b, c], rows: [{label: d, cells: [e, f]}]",
                "row 0 has 2 cells under these columns",
            ),
            (
                "kind: match, id: a, pairs: [[b, c], [d, e]], "
                "near_misses: [{place: b, token: x, says: No.}]",
                "there is no “b” with “x” to confuse",
            ),
            ("kind: extended_text, id: a, model: b", "needs a part that is marked by rule"),
            (
                "kind: text_entry, id: a, value: number, answer: 7, most: 6",
                "answer 7 is above 6",
            ),
        ):
            found = self.problems(family, part, f"  - {{{new}}}\n")
            self.assertTrue(any(expected in line for line in found), (expected, found))
            self.assertTrue(all(line.startswith(f"{family}:") for line in found), found)

    def test_a_test_to_rehearse_asks_for_what_is_there(self) -> None:
        plan = "rehearsal: {sections: [{title: All, questions: [bow, bow, stern]}]}\nsubjects:"

        def change(root: Path) -> None:
            replaced("course.yaml", "subjects:", plan)(root)
            (root / "rehearsal").mkdir()
            shutil.copy(INSHORE / "rehearsal/08-word.yaml", root / "rehearsal/bow.yaml")

        found = [line.partition("rehearsal.sections")[2] for line in refused(change)]
        self.assertEqual(
            found,
            [
                ".0.questions.1: “bow” is in it already",
                ".0.questions.2: rehearsal/stern.yaml is missing",
            ],
        )

    def test_every_fault_is_told_at_once(self) -> None:
        found = self.problems("course.yaml", "key: tidal-terms", "key: tidal-term")
        self.assertTrue(any("isn’t a topic in course.yaml" in line for line in found))
        self.assertTrue(any("study.md: is missing" in line for line in found))
        self.assertTrue(
            any("“tidal-terms” must be a topic before this one" in line for line in found)
        )
