"""Write a course as the files of a pack."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from vendaval.bank.kept import kept_files, write_files
from vendaval.bank.models import Course


class Command(BaseCommand):
    help = "Writes a course, with what was changed in the browser, as a pack into an empty folder."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("course", help="the course's key")
        parser.add_argument("folder", type=Path)

    def handle(self, *, course: str, folder: Path, **options: Any) -> None:
        found = Course.objects.filter(key=course).first()
        if found is None:
            raise CommandError(f"there is no course “{course}”")
        if folder.exists() and any(folder.iterdir()):
            raise CommandError(f"{folder} is not empty")
        files = kept_files(found)
        write_files(files, folder)
        self.stdout.write(f"{found.title}: {len(files)} files in {folder}")
