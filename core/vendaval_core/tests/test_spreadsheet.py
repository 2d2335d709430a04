"""Questions in a spreadsheet: headings and cells as people write them, and the way back."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from vendaval_core.authoring.edits import written
from vendaval_core.exchange.sheet_columns import COLUMNS, column_of, read_sheet
from vendaval_core.exchange.sheet_rows import read_row, row_of
from vendaval_core.packs.families import read_family
from vendaval_core.packs.topic_files import KeptFiles

from .courses import inshore


def part_of(**cells: str) -> dict[str, Any]:
    read = read_row({"question": "How much?", **_named(cells)}, {})
    assert not read.problems, read.problems
    return dict(read.data["parts"][0])


def _named(cells: dict[str, str]) -> dict[str, str]:
    return {name.replace("_", " "): text for name, text in cells.items()}


class ColumnTests(TestCase):
    def test_headings_are_found_however_they_are_written(self) -> None:
        for heading, column in (
            ("Question", "question"),
            (" correct_answer ", "right"),
            ("Wrong answer 2", "wrong 2"),
            ("WRONG3", "wrong 3"),
            ("Distractor 1", "wrong 1"),
            ("Feedback: wrong 4", "feedback wrong 4"),
            ("wrong 2 feedback", "feedback wrong 2"),
            ("Date", None),
        ):
            self.assertEqual(column_of(heading), column, heading)
        self.assertEqual([column_of(name) for name in COLUMNS], list(COLUMNS))

    def test_what_cannot_be_read_is_said(self) -> None:
        self.assertEqual(read_sheet([["", ""], []]).faults, ("The file is empty.",))
        faults = read_sheet([["Topic", "Answer", "right"], ["", "5", "6"]]).faults
        self.assertIn("There is no column “question”.", faults)
        self.assertIn("Two columns are called “right”.", faults)
        sheet = read_sheet([[], ["Question", "Right", "By"], ["Why?", "So"], ["", ""]])
        self.assertEqual((sheet.unread, len(sheet.rows), sheet.rows[0].line), (("By",), 1, 3))
        (row,) = read_sheet([["Question", "Right"], ["Sign?", "'-a"]]).rows
        self.assertEqual(row.cells["right"], "-a")


class RowTests(TestCase):
    def test_right_answers_are_numbers_times_words_or_ticked_choices(self) -> None:
        self.assertEqual(
            part_of(right="4.7 m ± 0.1"),
            {"kind": "text_entry", "id": "answer", "value": "number", "unit": "m", "digits": 1,
             "answer": 4.7, "tolerance": 0.1},
        )  # fmt: skip
        self.assertEqual(part_of(right="4,7 m +/- 0,1"), part_of(right="4.7 m ± 0.1"))
        self.assertEqual(part_of(right="2.50")["tolerance"], 0.005)
        self.assertEqual(part_of(right="−12 °C")["answer"], -12)
        self.assertNotIn("tolerance", part_of(right="7"))
        self.assertEqual(part_of(right="09:05")["answer"], 545)
        self.assertEqual(part_of(right="ebb; ebb tide")["accepted"], ["ebb", "ebb tide"])
        for text in ("007", "3rd", "12 Harbour Road", "B2"):
            self.assertEqual(part_of(right=text)["accepted"], [text])
        several = part_of(right="red | green", wrong_1="blue", feedback_wrong_1="Not lit.")
        self.assertEqual((several["choose"], several["partial"]), ("any", True))
        self.assertEqual(
            several["choices"][2], {"text": "blue", "right": False, "says": "Not lit."}
        )

    def test_problems_are_told_by_column(self) -> None:
        read = read_row(
            _named(
                {"question": "How?", "right": "1,234", "difficulty": "9", "seconds": "soon",
                 "essential": "maybe", "picture": "buoy.png", "feedback_wrong_2": "No."}
            ),
            {},
        )  # fmt: skip
        self.assertEqual(
            {column for column, _ in read.problems},
            {"right", "difficulty", "seconds", "essential", "picture", "feedback wrong 2"},
        )
        self.assertIn("Write 1234, or 1.234", dict(read.problems)["right"])
        same = read_row({"question": "Who?", "right": "A", "wrong 1": "a"}, {})
        self.assertEqual(same.problems[0][0], "right")

    @settings(max_examples=60)
    @given(
        st.dictionaries(
            st.sampled_from(COLUMNS),
            st.text(
                st.characters(
                    blacklist_categories=("Cs", "Cc"), blacklist_characters="\u2028\u2029"
                ),
                min_size=1,
                max_size=30,
            ),
        )
    )
    def test_whatever_is_typed_becomes_a_family_or_a_problem(self, cells: dict[str, str]) -> None:
        kept = {name: text.strip() for name, text in cells.items() if text.strip()}
        read = read_row(kept, {"x": "x.svg"})
        if read.problems:
            return
        data = read.data | {"source": "A sheet", "study": "start"}
        found = read_family(
            written(data), "one.yaml", "one", "tides", KeptFiles({"figures/x.svg": ""})
        )
        for problem in found.problems:
            self.assertIn(
                problem.field.split(".")[0], {"figure", "parts", "prompt", "solution", "hints"}
            )

    def test_rows_come_back_as_they_went_out(self) -> None:
        for cells in (
            {"question": "How deep is it?", "right": "4.7 m ± 0.1", "solution": "3.2 + 1.5."},
            {"question": "When?", "right": "09:05", "hint": "After nine.\nBefore ten."},
            {"question": "Which [[brackets]]?", "right": "red; green", "wrong 1": "blue"},
            {
                "question": "A word?",
                "right": "ebb; ebb tide",
                "difficulty": "5",
                "essential": "yes",
            },
        ):
            read = read_row(cells, {})
            self.assertEqual(read.problems, ())
            back = row_of(read.data, "tides")
            assert isinstance(back, dict), back
            again = read_row({name: back[name] for name in back if name != "topic"}, {})
            self.assertEqual(again.data, read.data)
            self.assertEqual({name: back[name] for name in cells}, cells)

    def test_families_of_the_demo_go_out_and_come_back_the_same(self) -> None:
        """Those whose numbers don't vary and whose answer a table holds; the rest say why not."""
        fits, reasons = 0, set()
        for family in inshore().families:
            row = row_of(family.data, family.family.topic)
            if isinstance(row, str):
                reasons.add(row)
                continue
            fits += 1
            back = read_row(row, {})
            self.assertEqual(back.problems, (), family.family.key)
            for name in ("prompt", "hints", "solution", "difficulty", "seconds", "essential"):
                kept, now = (one.get(name) or None for one in (family.data, back.data))
                if name == "prompt":
                    kept, now = str(kept).strip(), str(now).strip()
                self.assertEqual(now, kept, (family.family.key, name))
            self.assertEqual(
                _rights(back.data["parts"][0]), _rights(family.data["parts"][0]), family.family.key
            )
        self.assertGreaterEqual(fits, 5)
        self.assertIn("its numbers vary", reasons)


def _rights(part: dict[str, Any]) -> object:
    if part["kind"] == "choice":
        return sorted((one["text"], bool(one.get("right"))) for one in part["choices"])
    return part.get("accepted") or (part["answer"], part.get("tolerance"))
