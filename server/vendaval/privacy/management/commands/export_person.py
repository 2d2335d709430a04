"""Write out everything that goes out about a person, as a zip."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vendaval.people.audit import audit
from vendaval.people.models import AuditKind
from vendaval.people.queries import account_named
from vendaval.privacy.copies import write_data
from vendaval.privacy.models import Audience


class Command(BaseCommand):
    help = "Writes everything that may be given out about an account into a zip."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("file", type=Path)

    def handle(self, *, name: str, file: Path, **options: Any) -> None:
        person = account_named(name)
        with file.open("xb") as out:
            write_data(person, Audience.PERSON, out)
        audit(AuditKind.EXPORTED, account=person)
        self.stdout.write(f"{file}, {file.stat().st_size / 1e6:.1f} MB")
