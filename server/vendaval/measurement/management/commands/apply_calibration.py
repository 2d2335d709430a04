"""Put a proposed calibration in force."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from tqdm import tqdm

from vendaval.measurement.actions import apply_calibration
from vendaval.measurement.jobs import apply_in_background
from vendaval.measurement.models import Calibration
from vendaval.shared.errors import DomainError


class Command(BaseCommand):
    help = "Applies a calibration made by calibrate --course, and rebuilds every level."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("calibration", type=int)
        parser.add_argument("--by", required=True, help="who is responsible")
        parser.add_argument(
            "--background", action="store_true", help="leave the rebuilding to the background jobs"
        )

    def handle(self, *, calibration: int, by: str, background: bool, **options: Any) -> None:
        if background:
            if not Calibration.objects.filter(pk=calibration).exists():
                raise CommandError(f"there is no calibration {calibration}")
            apply_in_background.enqueue(calibration, by)
            self.stdout.write(f"Calibration {calibration} waits for db_worker.")
            return
        try:
            with tqdm(desc="Making levels again", unit=" learners", disable=None) as bar:

                def progress(learners: int) -> None:
                    bar.update(learners)

                families, learners = apply_calibration(calibration, by, progress)
        except Calibration.DoesNotExist as error:
            raise CommandError(f"there is no calibration {calibration}") from error
        except DomainError as error:
            raise CommandError(error.detail) from error
        self.stdout.write(
            f"{families} families have new curves; {learners} learners' levels were made again."
        )
