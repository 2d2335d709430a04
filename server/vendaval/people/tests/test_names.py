"""Names as they are kept. What two spellings of a name are the same is in Unicode Standard Annex 15;
its own examples are from memory."""

from __future__ import annotations

from django.test import SimpleTestCase

from vendaval.people.names import NAME_LENGTH, plain_name


class NameTests(SimpleTestCase):
    def test_spellings_of_one_name_are_one(self) -> None:
        cases = {
            "  J\u00falia   Reis ": "J\u00falia Reis",
            "Ju\u0301lia Reis": "J\u00falia Reis",
            "\u212bsa": "\u00c5sa",  # the sign of a unit of length is the letter
            "\u1112\u1161\u11ab": "\ud55c",  # a syllable of Hangul from its parts
            "Zoe\u0308": "Zo\u00eb",
            "N" * NAME_LENGTH: "N" * NAME_LENGTH,
            "M\u00e1rio d'\u00c1vila-Sá": "M\u00e1rio d'\u00c1vila-Sá",
            "\u0645\u06cc\u200c\u0646\u0627": "\u0645\u06cc\u200c\u0646\u0627",
        }
        for typed, kept in cases.items():
            with self.subTest(typed=ascii(typed)):
                self.assertEqual(plain_name(typed), kept)
                self.assertEqual(plain_name(kept), kept)

    def test_what_is_more_than_a_line_or_turns_it_is_refused(self) -> None:
        for sign in "\n\r\t\x00\x1b\x7f\x85\u2028\u2029\u202e\u2066":
            with self.subTest(sign=ascii(sign)):
                self.assertRaisesRegex(ValueError, "one line", plain_name, f"Ana{sign}Lima")
        for text in ("", "   ", "\u00a0", "N" * (NAME_LENGTH + 1)):
            self.assertRaisesRegex(ValueError, "80 letters", plain_name, text)
