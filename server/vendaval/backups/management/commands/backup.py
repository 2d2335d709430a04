"""Back the database up while it serves."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from vendaval.backups.backup import BackupRefused, back_up


class Command(BaseCommand):
    help = "Copies and checks the database while the server keeps running."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--to", type=Path, default=settings.BACKUPS, metavar="FOLDER")
        parser.add_argument("--keep", type=int, default=48, help="newest backups to keep")

    def handle(self, *, to: Path, keep: int, **options: Any) -> None:
        if connection.vendor != "sqlite":
            raise CommandError("this database has backups of its own; see docs/operating.md")
        if keep < 1:
            raise CommandError("--keep is at least 1")
        try:
            file, note = back_up(Path(str(connection.settings_dict["NAME"])), to, keep)
        except BackupRefused as error:
            raise CommandError(error.detail) from error
        self.stdout.write(f"{file}: {note.answers} answers, checked.")
