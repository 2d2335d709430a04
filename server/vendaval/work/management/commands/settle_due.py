"""End what should have ended by now."""

from typing import Any

from django.core.management.base import BaseCommand

from vendaval.work.runs import settle_due


class Command(BaseCommand):
    help = "Ends every run whose deadline has passed. Safe to run again."

    def handle(self, **options: Any) -> None:
        self.stdout.write(f"{settle_due()} runs ended at their deadline.")
