"""Try the usual ways of typing a right answer on every family of a pack."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from vendaval_core.items.formulas.workers import insisting
from vendaval_core.items.mark import Verdict
from vendaval_core.packs.forms import check_forms
from vendaval_core.packs.reader import read_pack


class Command(BaseCommand):
    """`manage.py check_marking FOLDER`."""

    help = "Types right answers in all the usual ways and lists those that are not marked right."
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("folder", type=Path, nargs="+")
        parser.add_argument("--versions", type=int, default=5, help="versions of each family")

    def handle(self, *, folder: list[Path], versions: int, **options: Any) -> None:
        wrong = 0
        for one in folder:
            pack = read_pack(one, versions=False)
            with insisting():
                report = check_forms((item.family for item in pack.families), versions)
            for found in report.found:
                self.stdout.write(
                    f"{found.verdict}: {found.family} {found.part}: “{found.typed}” {found.why}"
                )
            counts = ", ".join(f"{count} {name}" for name, count in sorted(report.counts.items()))
            self.stdout.write(f"{pack.course.title}: {counts}; {report.share_right:.1%} right")
            wrong += report.counts[Verdict.WRONG] + report.counts[Verdict.PARTLY]
        if wrong:
            raise CommandError(f"{wrong} right answers were marked wrong")
