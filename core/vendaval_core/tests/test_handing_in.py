"""What set work is handed in with."""

from __future__ import annotations

import unittest
from datetime import UTC, datetime, timedelta

from vendaval_core.mastery.handing_in import (
    LONGEST_LINK,
    Asked,
    Wanted,
    lacking,
    link_problem,
    unchangeable,
)

NOW = datetime(2026, 11, 30, 12, tzinfo=UTC)
HOUR = timedelta(hours=1)


class HandingInTests(unittest.TestCase):
    def test_what_must_come_with_it(self) -> None:
        both = Asked(Wanted.MUST, Wanted.MAY)
        self.assertTrue(both.needed and both.anything)
        self.assertIn("Add a file", lacking(both, 0, 3) or "")
        self.assertIsNone(lacking(both, 1, 0))
        self.assertIn("Add a link", lacking(Asked(links=Wanted.MUST), 2, 0) or "")
        either = Asked(Wanted.MAY, Wanted.MAY)
        self.assertFalse(either.needed)
        self.assertIn("a file or a link", lacking(either, 0, 0) or "")
        self.assertIsNone(lacking(either, 0, 1))
        self.assertFalse(Asked().anything)

    def test_only_web_pages_are_links(self) -> None:
        for good in ("https://school.example/a?b=c#d", "http://a.example", "https://x.example:8/ü"):
            self.assertIsNone(link_problem(good), good)
        for bad in (
            "javascript:alert(1)",
            "data:text/html,<script>",
            "https://",
            "https://localhost",
            "https://good.example@evil.example/",
            "//a.example",
            "ftp://a.example",
            "https://a.example/ b",
            "https://[::1",
            "",
            "https://a.example/" + "x" * LONGEST_LINK,
        ):
            self.assertIsNotNone(link_problem(bad), bad)

    def test_when_it_can_be_changed(self) -> None:
        def why(*, handed_in: bool = False, marked: bool = False, opens: int = -1, closes: int = 1):
            return unchangeable(
                handed_in=NOW if handed_in else None,
                marked=marked,
                opens=NOW + opens * HOUR,
                closes=NOW + closes * HOUR,
                now=NOW,
            )

        self.assertIsNone(why())
        self.assertIn("Take it back", why(handed_in=True) or "")
        self.assertIn("marked", why(handed_in=True, marked=True) or "")
        self.assertIn("open yet", why(opens=1) or "")
        self.assertIn("closed", why(closes=0) or "")
