"""Questions as QTI and back. What each interaction, mapping and template is, and which standard
template gives which score: 1EdTech, Assessment, Section and Item Information Model 3.0, from
memory; the items are made for these tests.
"""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from typing import Any
from unittest import TestCase

from vendaval_core.assessment.composition import Composition, Entry, Section, lay_out
from vendaval_core.assessment.rules import Rules, Tool
from vendaval_core.exchange.qti.item_in import read_item
from vendaval_core.exchange.qti.item_out import item_written
from vendaval_core.exchange.qti.package_in import Taken, find, take, take_test
from vendaval_core.exchange.qti.package_out import FamilyToWrite, PackageWritten, package_written
from vendaval_core.exchange.qti.test_out import companions_of, seeds_of, written_test
from vendaval_core.items.kinds.registry import KINDS
from vendaval_core.items.mark import Verdict
from vendaval_core.items.processing.declarations import read_declarations
from vendaval_core.items.processing.nodes import read_xml
from vendaval_core.items.processing.program import rules_of, run_responses
from vendaval_core.items.versions import Version, make_version
from vendaval_core.packs.families import PackFamily, family_from_data
from vendaval_core.scoring.tries import ONE_TRY, QuestionState, submit

from .courses import inshore
from .qti_items import family_of

# Kinds that QTI has no interaction for: what they become in other programs, and here without what
# is ours in the manifest.
BECOMES = {
    "graph": "select_point",
    "position_object": "select_point",
    "grid_shading": "by_rules",
    "odd_one_out": "by_rules",
}
# Times and angles are two fields each.
IN_TWO_FIELDS = {"time", "angle"}


def every_family() -> Iterator[PackFamily]:
    pack = inshore()
    yield from (*pack.families, *pack.rehearsal)


def written(families: list[PackFamily], versions: int = 1) -> PackageWritten:
    return package_written(
        "Inshore",
        [
            FamilyToWrite(
                one,
                [
                    make_version(one.family, n + 1)
                    for n in range(min(versions, one.family.versions))
                ],
                "Topic",
            )
            for one in families
        ],
    )


def taken(files: dict[str, bytes]) -> list[Taken]:
    return [take(files, path, about) for path, about in find(files).items.items()]


class RoundTripTests(TestCase):
    def test_other_programs_give_every_answer_the_points_that_we_give(self) -> None:
        """The written rules, run by the interpreter, beside our own marks of the same answers."""
        for one in every_family():
            for seed in {1, one.family.versions // 2 + 1}:
                version = make_version(one.family, seed)
                item = item_written(version, one.family.key)
                root = read_xml(item.content)
                processing = root.one("qti-response-processing")
                if processing is None:
                    self.assertFalse(any(key.units for key in version.parts))
                    continue
                declared, rules = read_declarations(root), rules_of(processing)
                for kind in ("right", "wrong", "partly"):
                    answers = {
                        key.id: getattr(key.examples, kind) or key.examples.right
                        for key in version.parts
                    }
                    out = run_responses(declared, rules, item.values(answers))
                    self.assertAlmostEqual(
                        out["SCORE"].number() / item.of,
                        float(_score(version, answers)),
                        6,
                        (one.family.key, seed, kind),
                    )

    def test_what_comes_back_is_the_same_family_and_so_every_version_of_it(self) -> None:
        families = list(every_family())
        found = {one.key: one.read for one in taken(written(families).files)}
        self.assertEqual(len(found), len(families))
        for one in families:
            data = found[one.family.key].data
            assert data is not None, one.family.key
            self.assertEqual(family_from_data(one.family.key, one.family.topic, data), one.family)

    def test_without_what_is_ours_each_item_is_marked_as_it_was(self) -> None:
        """Read as other programs' items are: the same kinds where QTI has them, else rules."""
        for one in every_family():
            version = make_version(one.family, 1)
            item = item_written(version, one.family.key)
            read = read_item(item.content, item.files)
            assert read.data is not None, (one.family.key, read.refused)
            family = family_of(read)
            expected = [BECOMES.get(key.kind, key.kind) for key in version.parts]
            fields = {getattr(key, "value", "") for key in version.parts}
            if fields & IN_TWO_FIELDS:
                expected = ["by_rules"]
            kinds = [key.kind for key in family.parts]
            if len(kinds) == len(expected):
                self.assertEqual(kinds, expected, one.family.key)
            again = make_version(family, 1)
            self.assertIn(_plain(version.prompt)[:40], _plain(again.stimulus + again.prompt))
            for key in again.parts:
                if key.units:
                    right = key.mark(key.examples.right)
                    self.assertIs(right.verdict, Verdict.RIGHT, (one.family.key, right))
                    wrong = key.mark(key.examples.wrong)
                    self.assertIsNot(wrong.verdict, Verdict.RIGHT, one.family.key)
            said = [one for key in version.parts for one in key.foreseen() if one.says]
            if said and kinds == ["choice"]:
                self.assertTrue(any(slip.says for slip in again.parts[0].foreseen()))

    def test_every_kind_is_written(self) -> None:
        parts = {type(key) for one in every_family() for key in make_version(one.family, 1).parts}
        every = {kind.key for kind in KINDS}
        self.assertEqual({kind.__name__ for kind in every - parts}, set())

    def test_a_test_keeps_its_parts_draws_points_and_limits(self) -> None:
        pack = inshore()
        keys = [one.family.key for one in pack.families[:6]]
        composition = Composition(
            (
                Section(
                    "First", (Entry((keys[0],), points=Fraction(2)), Entry(tuple(keys[1:4]), 2))
                ),
                Section("Then", (Entry((keys[4],)),), shuffled=True, forward_only=True),
            ),
            seed=3,
        )
        rules = Rules(minutes=40, tools=frozenset({Tool.CALCULATOR, Tool.RULER}))
        families = [one for one in pack.families if one.family.key in keys]
        counts = {one.family.key: one.family.versions for one in families}
        seeds = seeds_of(composition, counts)
        places = lay_out(composition, counts, "anybody", 1)
        self.assertEqual({p.family: p.seed for p in places}.items() - seeds.items(), set())
        made = package_written(
            "A test",
            [
                FamilyToWrite(one, [make_version(one.family, seeds.get(one.family.key, 1))], "T")
                for one in families
            ],
            lambda items: [written_test("t1", "A test", "Go.", composition, rules, items, ["a"])],
            companions=companions_of(rules.tools),
        )
        root = read_xml(made.files["tests/t1.xml"])
        limits = [one.get("max-time") for one in root.walk() if one.name == "qti-time-limits"]
        self.assertEqual(limits, ["2400"])
        parts = root.all("qti-test-part")
        self.assertEqual([one.get("navigation-mode") for one in parts], ["nonlinear", "linear"])
        draws = [one.get("select") for one in root.walk() if one.name == "qti-selection"]
        self.assertEqual(draws, ["2"])
        refs = [one for one in root.walk() if one.name == "qti-assessment-item-ref"]
        self.assertEqual(len(refs), 5)
        for ref in refs:
            path = ref.get("href").removeprefix("../")
            item = read_xml(made.files[path])
            most = read_declarations(item)["SCORE"].most
            (weight,) = ref.all("qti-weight")
            worth = 2 if keys[0] in path else 1
            self.assertAlmostEqual(float(weight.get("value")) * (most or 0), worth)
            self.assertIsNotNone(item.one("qti-companion-materials-info"))
        found = find(made.files)
        back = take_test(made.files, "tests/t1.xml", found)
        self.assertEqual((back.title, back.directions, back.lost), ("A test", "Go.", []))
        for read, section in zip(back.sections, composition.sections, strict=True):
            entries = [
                ([path.split("/")[1].rpartition("_")[0] for path in e.items], e.count, e.points)
                for e in read.entries
            ]
            own = [(list(e.families), e.count, str(e.points)) for e in section.entries]
            self.assertEqual(entries, own)
            self.assertEqual(read.forward_only, section.forward_only)
        self.assertEqual(back.rules["minutes"], 40)
        self.assertEqual(back.rules["tools"], sorted(rules.tools))
        text = made.files["tests/t1.xml"]
        made.files["tests/t1.xml"] = text.replace(b"2400", b"1200")
        changed = take_test(made.files, "tests/t1.xml", found)
        self.assertEqual(changed.rules["minutes"], 20)
        self.assertEqual([len(one.entries) for one in changed.sections], [2, 1])
        self.assertEqual(changed.sections[0].entries[1].count, 2)

    def test_a_changed_item_counts_as_its_file_says(self) -> None:
        (one,) = (one for one in every_family() if one.family.key == "coming-in")
        files = written([one], 3).files
        first, *others = taken(files)
        self.assertEqual(
            (first.key, [other.of for other in others]), ("coming-in", ["coming-in"] * 2)
        )
        path = "items/coming-in_v1.xml"
        files[path] = files[path].replace(b"</p>", b" Now!</p>", 1)
        changed = taken(files)[0]
        assert changed.read.data is not None
        self.assertIn("Now!", changed.read.data["prompt"])
        self.assertTrue(any("changed since" in what for what in changed.read.remarks))


def _score(version: Version, answers: dict[str, str]) -> Any:
    state = QuestionState.fresh(version.parts)
    return submit(version, state, answers, ONE_TRY, final=True).after.score(ONE_TRY)


def _plain(text: str) -> str:
    return "".join(sign for sign in text.casefold() if sign.isalnum())
