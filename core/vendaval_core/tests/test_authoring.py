"""What authors see of a family: versions side by side, a start for each kind, what a change means."""

import re
from copy import deepcopy
from pathlib import Path
from typing import Any
from unittest import TestCase

import yaml

from vendaval_core.authoring.changes import ChangeKind, changes, in_words, keep_answers
from vendaval_core.authoring.edits import written
from vendaval_core.authoring.expressions import expressions_in, renamed
from vendaval_core.authoring.starts import new_family, starts
from vendaval_core.authoring.table import ROWS, versions_table
from vendaval_core.errors import VariableNameError
from vendaval_core.items.expressions import Value
from vendaval_core.items.kinds.registry import KINDS
from vendaval_core.items.kinds.tagged import names_of
from vendaval_core.items.versions import draw_variables, make_version
from vendaval_core.packs.checks import check_family
from vendaval_core.packs.families import FamilyRead, read_family
from vendaval_core.packs.topic_files import FolderFiles, KeptFiles

from .courses import INSHORE

TIDE = (INSHORE / "topics/clearance-windows/tide-needed-drying.yaml").read_text()


def read(text: str) -> FamilyRead:
    return read_family(text, "family.yaml", "family", "topic", KeptFiles({}))


def drawn(path: Path, data: dict[str, Any]) -> dict[str, Value]:
    files = FolderFiles(path.parent)
    found = read_family(written(data), path.name, path.stem, path.parent.name, files)
    assert found.read is not None, (path.name, found.problems)
    make_version(found.read.family, 1)
    return draw_variables(found.read.family, 1)


class StartTests(TestCase):
    def test_every_kind_has_a_start_that_has_nothing_wrong_with_it(self) -> None:
        kinds = set()
        for start in starts():
            found = read(new_family("Something new", start, "start"))
            assert found.read is not None, (start, found.problems)
            self.assertEqual(check_family(found.read.family), [], start)
            kinds |= {part.called for part in found.read.family.parts}
        named = {name.split(".")[-1].replace("_", " ") for k in KINDS for name in names_of(k.part)}
        self.assertEqual(named - kinds, {"by rules"})


class ExpressionTests(TestCase):
    def test_a_variable_is_called_otherwise_wherever_it_stands_and_nowhere_else(self) -> None:
        asked = 0
        # Every third tells the same as all, in less time.
        for path in sorted(INSHORE.glob("topics/*/*.yaml"))[::3]:
            data = yaml.safe_load(path.read_text())
            for old in data.get("variables") or {} if "parts" in data else {}:
                changed = renamed(data, old, "quite_another")
                # Numbers are drawn by name, so the same version has others; all can be worked out.
                self.assertIn("quite_another", drawn(path, changed), (path.name, old))
                left = [one for one in expressions_in(changed) if re.search(rf"\b{old}\b", one)]
                self.assertEqual(left, [], (path.name, old))
                self.assertEqual(renamed(changed, "quite_another", old), data, (path.name, old))
                asked += 1
        self.assertGreater(asked, 40)

    def test_what_a_variable_can_not_be_called(self) -> None:
        data = yaml.safe_load(TIDE)
        for wrong in ("Draught", "2a", "drying"):
            with self.assertRaises(VariableNameError):
                renamed(data, "draught", wrong)


class TableTests(TestCase):
    def table(self, old: str = "", new: str = ""):
        found = read(TIDE.replace(old, new) if old else TIDE)
        assert found.read is not None, found.problems
        return versions_table(found.read.family)

    def test_twelve_versions_with_their_numbers_answers_and_slips(self) -> None:
        table = self.table()
        self.assertEqual((len(table.rows), table.versions, table.looked_at), (ROWS, 50, 50))
        self.assertEqual(table.names, ("boat", "draught", "margin", "drying"))
        for row in table.rows:
            boat, *numbers = row.values
            draught, margin, drying = map(float, numbers)
            self.assertEqual(row.parts[0].right, f"{draught + margin + drying:.1f}\u00a0m")
            self.assertIn(boat, {"Andorinha", "Garça", "Zimbro", "Nortada"})
            slips = [float(slip.words) for slip in row.parts[0].slips]
            self.assertAlmostEqual(slips[0], draught + margin - drying, 6)

    def test_a_slip_that_happens_to_be_a_number_of_the_prompt_can_be_kept_away(self) -> None:
        data, table = yaml.safe_load(TIDE), self.table()
        self.assertGreater(len(table.doubted), 0)
        while table.doubted:
            self.assertNotEqual(table.constraints, ())
            data["constraints"] += table.constraints
            found = read(yaml.safe_dump(data, sort_keys=False, allow_unicode=True)).read
            assert found is not None
            table = versions_table(found.family)
        self.assertEqual(table.faulty, ())

    def test_what_is_wrong_stands_beside_its_version(self) -> None:
        table = self.table("draught + margin - drying", "draught + margin + drying")
        self.assertEqual(len(table.faulty), 50)
        self.assertTrue(any("is right" in what for _, what in table.rows[0].faults))
        impossible = self.table("abs(margin - drying) > 0.06", "drying > 9")
        self.assertEqual(impossible.rows[0].parts, ())
        self.assertIn("none of 200 draws", impossible.rows[0].faults[0][1])

    def test_it_stops_when_it_has_taken_long_enough(self) -> None:
        found = read(TIDE).read
        assert found is not None
        table = versions_table(found.family, enough=lambda seed: seed == 2)
        self.assertEqual((table.looked_at, len(table.rows), table.versions), (2, 2, 50))


class ChangeTests(TestCase):
    before = yaml.safe_load(TIDE)

    def after(self, *path: str | int, to: object):
        data = deepcopy(self.before)
        place = data
        for step in path[:-1]:
            place = place[step]
        place[path[-1]] = to
        return changes(self.before, data)

    def test_wording_and_numbers_keep_the_answers_and_another_key_does_not(self) -> None:
        self.assertEqual(changes(self.before, deepcopy(self.before)), [])
        for path, to, kind, keeps in (
            (("prompt",), "How much?", ChangeKind.WORDING, True),
            (("variables", "drying"), {"range": [1, 2, 1]}, ChangeKind.NUMBERS, True),
            (("difficulty",), 5, ChangeKind.JUDGEMENT, True),
            (("parts", 0, "near_misses", 0, "says"), "No.", ChangeKind.WORDING, True),
            (("parts", 0, "answer"), "need + 1", ChangeKind.KEY, False),
            (("parts", 0, "unit"), "ft", ChangeKind.ASKED, False),
            (("parts",), [], ChangeKind.ASKED, False),
        ):
            found = self.after(*path, to=to)
            self.assertEqual([one.kind for one in found], [kind], path)
            self.assertEqual(keep_answers(found), keeps, path)
        self.assertEqual(in_words(self.after("parts", 0, "answer", to="1")[0]), "right answer")

    def test_a_clearer_choice_keeps_them_and_another_right_one_does_not(self) -> None:
        one = {"parts": [{"id": "a", "choices": [{"text": "x", "right": True}, {"text": "y"}]}]}
        clearer, other = deepcopy(one), deepcopy(one)
        clearer["parts"][0]["choices"][1]["text"] = "why"
        other["parts"][0]["choices"][0]["right"] = False
        self.assertTrue(keep_answers(changes(one, clearer)))
        self.assertFalse(keep_answers(changes(one, other)))
