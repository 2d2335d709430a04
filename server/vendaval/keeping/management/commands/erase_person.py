"""Remove a person and everything that is kept about them."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from vendaval.keeping.person import erase_person, rows_of
from vendaval.people.queries import account_named


class Command(BaseCommand):
    help = "Removes an account and everything that is kept about it, for good."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("--yes", action="store_true", help="it is meant")

    def handle(self, *, name: str, yes: bool, **options: Any) -> None:
        person = account_named(name)
        if not yes:
            count = len(rows_of(person))
            raise CommandError(f"{count} rows would go for good. Say --yes if that is meant.")
        gone = erase_person(person)
        for kind, count in sorted(gone.items()):
            self.stdout.write(f"{kind}: {count}")
