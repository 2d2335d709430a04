"""Hold every learner's stored state against the try log."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from tqdm import tqdm

from vendaval.bank.models import Course
from vendaval.levels.checking import LARGEST_DIFFERENCE, check_states, refresh_states
from vendaval.shared.health import note_check


class Command(BaseCommand):
    help = "Rebuilds every learner’s state from the log and says which stored ones differ."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument(
            "--mend", action="store_true", help="store what the log gives, for every learner"
        )

    def handle(self, *, mend: bool, **options: Any) -> None:
        said = []
        for course in Course.objects.order_by("pk"):
            if mend:
                self._mend(course)
            else:
                said.append(self._check(course))
        if not mend:
            note_check("states", True, " ".join(said))

    def _mend(self, course: Course) -> None:
        with tqdm(desc="Making states again", unit=" learners", disable=None) as bar:

            def progress(learners: int) -> None:
                bar.update(learners)

            done = refresh_states(course, progress)
        self.stdout.write(f"{course.key}: {done} learners' states were made again from the log.")

    def _check(self, course: Course) -> str:
        different, checked, largest = [], 0, 0.0
        for found in tqdm(check_states(course), desc="Checking", unit=" learners", disable=None):
            checked += 1
            largest = max(largest, found.difference or 0.0)
            if not found.agrees:
                different.append(found)
        for found in different:
            why = (
                "was stored under other curves"
                if found.difference is None
                else f"differs by {found.difference:.3g} logits"
            )
            self.stdout.write(f"{found.username}: {why}")
        if different:
            says = f"{len(different)} of {checked} learners' states differ"
            note_check("states", False, f"{course.key}: {says}.")
            raise CommandError(says)
        says = (
            f"{course.key}: {checked} learners' states equal the log’s to {LARGEST_DIFFERENCE:g} "
            f"(largest difference {largest:.2g})."
        )
        self.stdout.write(says)
        return says
