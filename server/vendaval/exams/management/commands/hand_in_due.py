"""Hand in attempts whose time is up, and let out what may be told by now."""

from typing import Any

from django.core.management.base import BaseCommand

from vendaval.exams.standing import settle_due


class Command(BaseCommand):
    help = "Hands in attempts whose time is up and lets out what may be told. Safe, and twice."

    def handle(self, **options: Any) -> None:
        self.stdout.write(f"{settle_due()} attempts were brought up to date.")
