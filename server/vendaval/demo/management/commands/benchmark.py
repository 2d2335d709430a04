"""Measure the product's figures, with the peers beside them where they are installed."""

from __future__ import annotations

import json
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from vendaval.demo.benchmarks.alone import beside_peers, update_and_selection
from vendaval.demo.benchmarks.answers import whole_answers
from vendaval.demo.benchmarks.calibration import two_parameters
from vendaval.demo.benchmarks.change import bars_for_change
from vendaval.demo.benchmarks.copies import copied_database
from vendaval.demo.benchmarks.group import group_pages
from vendaval.demo.benchmarks.marks import marks_pages
from vendaval.demo.benchmarks.pages import pages
from vendaval.demo.benchmarks.rebuild import rebuilding
from vendaval.demo.benchmarks.regrading import regrading
from vendaval.demo.benchmarks.timing import Figures
from vendaval.demo.benchmarks.versions import making_versions

PARTS = (
    "versions",
    "alone",
    "answers",
    "pages",
    "group",
    "change",
    "calibration",
    "rebuild",
    "regrade",
    "marks",
)

MARKED = 300


class Command(BaseCommand):
    help = "Measures times and compares them with their limits. Simulations are in simulate."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--json", action="store_true", help="print one JSON object")
        parser.add_argument("--answers", type=int, default=200, help="whole answers to time")
        parser.add_argument(
            "--tries", type=int, default=2000, help="tries in the history behind pages"
        )
        parser.add_argument("--runs", type=int, default=300, help="runs for each limit of change")
        parser.add_argument("--attempts", type=int, default=500, help="attempts to regrade")
        parser.add_argument("--learners", type=int, default=512, help="learners to rebuild")
        parser.add_argument(
            "--only", default=",".join(PARTS), help=f"parts, with commas: {', '.join(PARTS)}"
        )

    def handle(
        self,
        *,
        only: str,
        answers: int,
        tries: int,
        runs: int,
        learners: int,
        attempts: int,
        **options: Any,
    ) -> None:
        wanted = only.split(",")
        if unknown := set(wanted) - set(PARTS):
            raise CommandError(f"no such part: {', '.join(sorted(unknown))}")
        figures: Figures = {}
        if "versions" in wanted:
            figures["version"] = making_versions(500)
        if "alone" in wanted:
            figures["alone"] = [update_and_selection(6, 40), update_and_selection(18, 180)]
            figures["beside_peers"] = [beside_peers(1000), beside_peers(10000)]
        if "answers" in wanted:
            with copied_database():
                figures["whole_answer"] = whole_answers(answers)
        if "group" in wanted:
            with copied_database():
                figures["group"] = group_pages()
        if "pages" in wanted:
            with copied_database():
                figures["pages"] = pages(tries)
        if "change" in wanted:
            figures["change"] = bars_for_change(runs)
        if "calibration" in wanted:
            figures["calibration"] = two_parameters()
        if "rebuild" in wanted:
            figures["rebuild"] = rebuilding(learners)
        if "regrade" in wanted:
            with copied_database():
                figures["regrade"] = regrading(attempts)
        if "marks" in wanted:
            with copied_database():
                figures["marks"] = marks_pages(min(attempts, MARKED))
        self.stdout.write(json.dumps(figures, indent=1))
