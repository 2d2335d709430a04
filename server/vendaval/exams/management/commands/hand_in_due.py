"""Hand in attempts whose time is up, let out what may be told by now, and put regrades back to work
whose job was lost."""

from typing import Any

from django.core.management.base import BaseCommand

from vendaval.exams.regrading.jobs import resume
from vendaval.exams.taking.state import settle_due


class Command(BaseCommand):
    help = (
        "Hands in attempts whose time is up and releases results that are due. Safe to run again."
    )

    def handle(self, **options: Any) -> None:
        self.stdout.write(f"{settle_due()} attempts were brought up to date.")
        if resumed := resume():
            self.stdout.write(f"{resumed} regrades were put back to work.")
