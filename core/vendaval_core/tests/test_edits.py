"""Changes of a family's file: nothing moves but what was changed, and forms and files agree."""

from copy import deepcopy
from unittest import TestCase

import yaml
from hypothesis import given, settings
from hypothesis import strategies as st

from vendaval_core.authoring.edits import rewritten, same, written

from .courses import INSHORE

FILES = sorted(INSHORE.rglob("*.yaml"))
TEXTS = st.text(
    st.characters(exclude_categories=["Cs", "Cc"], include_characters="\n"), max_size=40
)
VALUES = st.recursive(
    TEXTS | st.booleans() | st.integers(-9999, 9999) | st.sampled_from([0.1, 2.5, -3.25]),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.sampled_from("abc"), inner),
    max_leaves=6,
)
HAND_WRITTEN = """\
# A family somebody wrote by hand
title:   "Water over a rock"     # short
essential: yes
source: 'IHO S-4'   # named

variables:
  drying: {range: [0.40, 2.6, 0.1]}   # in steps
  # the rock's name
  rock: {pick: [Laje Preta,
                the Anvil]}
parts:
- kind: text_entry
  id: water   # what is asked
  answer: tide - drying
  near_misses:
  - {answer: tide + drying, says: "Adding is for charted depths.", }
prompt: >
  [[rock]] dries
  [[fixed(drying, 1)]] m.
"""


class EditTests(TestCase):
    def test_a_file_that_nobody_changed_is_the_same_to_the_byte(self) -> None:
        for file in FILES:
            text = file.read_text()
            self.assertEqual(rewritten(text, yaml.safe_load(text)), text)

    def test_only_the_changed_field_is_written_anew(self) -> None:
        for file in FILES[::3]:
            text = file.read_text()
            data = yaml.safe_load(text)
            if "seconds" in data:
                changed = rewritten(text, data | {"seconds": 777})
                lines = list(zip(text.splitlines(), changed.splitlines(), strict=True))
                moved = [new for old, new in lines if old != new]
                self.assertEqual(moved, ["seconds: 777"], file.name)

    def test_comments_and_odd_spacing_stay(self) -> None:
        data = yaml.safe_load(HAND_WRITTEN)
        data["parts"][0]["answer"] = "drying"
        changed = rewritten(HAND_WRITTEN, data)
        self.assertIn("  id: water   # what is asked", changed)
        self.assertEqual(changed.split("parts:")[0], HAND_WRITTEN.split("parts:")[0])
        self.assertEqual(changed.split("prompt:")[1], HAND_WRITTEN.split("prompt:")[1])
        self.assertEqual(yaml.safe_load(changed), data)

    def test_what_reads_as_something_else_is_quoted(self) -> None:
        for odd in (
            "yes",
            "12:30",
            "0x1F",
            "null",
            "1e3",
            "- no",
            "a: b",
            "#9",
            "",
            " ",
            "2026-01-01",
        ):
            changed = rewritten(HAND_WRITTEN, yaml.safe_load(HAND_WRITTEN) | {"title": odd})
            self.assertEqual(yaml.safe_load(changed)["title"], odd)
            self.assertEqual(yaml.safe_load(written({"title": odd, "of": [odd]}))["of"], [odd])

    @settings(deadline=None, max_examples=60)
    @given(st.sampled_from(FILES), st.data())
    def test_whatever_a_form_says_is_read_back(self, file, data) -> None:
        text = file.read_text()
        before = yaml.safe_load(text)
        after = deepcopy(before)
        place = data.draw(st.sampled_from(sorted(after)))
        match data.draw(st.sampled_from(["set", "remove", "inside", "new"])):
            case "set":
                after[place] = data.draw(VALUES)
            case "remove":
                del after[place]
            case "new":
                after["new_one"] = data.draw(VALUES)
            case "inside" if isinstance(after[place], list):
                after[place].insert(data.draw(st.integers(0, len(after[place]))), data.draw(VALUES))
            case "inside" if isinstance(after[place], dict):
                after[place][data.draw(st.sampled_from([*after[place], "other"]))] = data.draw(
                    VALUES
                )
        changed = rewritten(text, after)
        self.assertTrue(same(yaml.safe_load(changed), after) or set(after) != set(before))
        self.assertEqual(yaml.safe_load(changed), after)

    @settings(deadline=None, max_examples=40)
    @given(st.dictionaries(st.sampled_from(["title", "parts", "seconds"]), VALUES))
    def test_a_new_file_says_what_was_asked(self, data) -> None:
        self.assertEqual(yaml.safe_load(written(data)), data)
