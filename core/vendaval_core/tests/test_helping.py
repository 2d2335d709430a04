"""Two sentences for somebody at home: what presses most comes first, and each is something to do."""

import unittest
from dataclasses import replace

from vendaval_core.mastery.home_help import AtHome, Rise, how_to_help

QUIET = AtHome("Inês", (), None, 1.0, 0, (), (), None)


class HelpingTests(unittest.TestCase):
    def test_what_to_ask_about(self) -> None:
        due = ("Tides", "on Tuesday")
        busy = replace(QUIET, late=("Buoys",), days_away=9.0, due=due, misses=7)
        steps = (
            (busy, "“Buoys” is late"),
            (replace(busy, late=("Buoys", "Tides")), "“Buoys” and “Tides” are late"),
            (replace(busy, late=()), "haven’t answered anything for nine days"),
            (replace(busy, late=(), days_away=2.0), "“Tides” is due on Tuesday"),
            (replace(busy, late=(), days_away=2.0, due=None), "seven mistakes to correct"),
            (QUIET, "All set work is done"),
            (replace(busy, days_away=None), "Inês hasn’t started"),
        )
        for home, says in steps:
            self.assertIn(says, how_to_help(home)[0])

    def test_what_to_let_them_show(self) -> None:
        small, great = Rise("Buoyage", 60, 63), Rise("Tidal terms", 41.4, 58.2)
        steps = (
            (replace(QUIET, rises=(small, great)), "Tidal terms rose from 41 to 58"),
            (replace(QUIET, rises=(small,), met=("Buoyage",)), "reached the target in buoyage"),
            (
                replace(QUIET, met=("Buoyage", "Sound signals")),
                "reached the target in two topics, buoyage among them",
            ),
            (replace(QUIET, weakest="Buoyage"), "Buoyage is furthest from its target"),
            (QUIET, "We don’t know their level yet"),
        )
        for home, says in steps:
            self.assertIn(says, how_to_help(home)[1])
