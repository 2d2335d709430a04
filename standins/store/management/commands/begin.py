"""Make the database of the stand-ins, if it is not there."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from standins.platform.tokens import own_key


class Command(BaseCommand):
    help = "Makes the stand-ins ready to be started."

    def handle(self, **options: Any) -> None:
        call_command("migrate", verbosity=0, interactive=False)
        own_key()
