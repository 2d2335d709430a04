"""Put a backup in the database's place."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from vendaval.keeping.backup import BackupRefused, backups, restore


class Command(BaseCommand):
    help = (
        "Puts a backup, the newest without a file, in the database's place and says what came "
        "after it. Stop the server first. The database before is put aside, not removed."
    )
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path, nargs="?")
        parser.add_argument("--stopped", action="store_true", help="the server is stopped")

    def handle(self, *, file: Path | None, stopped: bool, **options: Any) -> None:
        if connection.vendor != "sqlite":
            raise CommandError("this database has backups of its own; see docs/operating.md")
        if not stopped:
            raise CommandError("stop the server, then say so with --stopped")
        chosen = file or next(iter(backups(settings.BACKUPS)), None)
        if chosen is None:
            raise CommandError(f"there is no backup in {settings.BACKUPS}")
        connection.close()
        try:
            note, aside, after = restore(chosen, Path(str(connection.settings_dict["NAME"])))
        except BackupRefused as error:
            raise CommandError(error.detail) from error
        self.stdout.write(f"Restored as of {note.at:%d %B %Y, %H:%M:%S} UTC: {chosen}")
        self.stdout.write(f"It holds {note.answers} answers.")
        if after:
            self.stdout.write(
                f"{after} answers were acknowledged after it and are not in it; their learners "
                "give them again."
            )
        else:
            self.stdout.write("No answer was acknowledged after it.")
        if aside is not None:
            self.stdout.write(f"The database before is {aside}")
