"""Put a backup in the database's place."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from vendaval.backups.backup import BackupRefused, backups, restore
from vendaval.shared.acknowledged import WORDS, in_words
from vendaval.shared.running import have_alone

MOST_NAMED = 200


class Command(BaseCommand):
    help = (
        "Replaces the database with a backup (the newest, if you name no file) and lists what was "
        "stored after it. Stop the server first. The replaced database is kept beside it."
    )
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path, nargs="?")
        parser.add_argument(
            "--stopped", action="store_true", help="say that you have stopped the server"
        )

    def handle(self, *, file: Path | None, stopped: bool, **options: Any) -> None:
        if connection.vendor != "sqlite":
            raise CommandError("this database has backups of its own; see docs/operating.md")
        if not stopped:
            raise CommandError("stop the server and the jobs, then say so with --stopped")
        if not have_alone():
            raise CommandError(
                "a process of Vendaval still has this database: stop the server and the jobs first"
            )
        chosen = file or next(iter(backups(settings.BACKUPS)), None)
        if chosen is None:
            raise CommandError(f"there is no backup in {settings.BACKUPS}")
        connection.close()
        try:
            note, aside, missing = restore(chosen, Path(str(connection.settings_dict["NAME"])))
        except BackupRefused as error:
            raise CommandError(error.detail) from error
        self.stdout.write(f"Restored as of {note.at:%d %B %Y, %H:%M:%S} UTC: {chosen}")
        self.stdout.write(f"It holds {note.answers} answers.")
        if missing:
            self.stdout.write(f"Acknowledged and not in it: {in_words(missing)}.")
            for entry in missing[:MOST_NAMED]:
                self.stdout.write(
                    f"  {entry.at:%d %B, %H:%M:%S} UTC: {WORDS[entry.kind][0]} {entry.number} of "
                    f"account {entry.person}"
                )
            if len(missing) > MOST_NAMED:
                self.stdout.write(f"  and {len(missing) - MOST_NAMED} more")
        else:
            self.stdout.write("Nothing was acknowledged that is not in it.")
        if aside is not None:
            self.stdout.write(f"The database before is {aside}")
