"""What holds for every process of the application."""

import sys

from django.apps import AppConfig


class SharedConfig(AppConfig):
    name = "vendaval.shared"

    def ready(self) -> None:
        from .running import share_database

        if "restore" not in sys.argv[1:2]:
            share_database()
