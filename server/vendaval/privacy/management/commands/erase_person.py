"""Take a person's name from what is kept, or remove all of it."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from vendaval.people.queries import account_named
from vendaval.privacy.person import erase_person, remove_person, rows_of


class Command(BaseCommand):
    help = (
        "Removes everything that says who somebody is, for ever. The log of their answers stays "
        "under a number that leads to nobody. With --everything it goes too."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("--everything", action="store_true", help="remove the answers too")
        parser.add_argument("--yes", action="store_true", help="confirm that you mean it")

    def handle(self, *, name: str, everything: bool, yes: bool, **options: Any) -> None:
        person = account_named(name)
        if not yes:
            count = len(rows_of(person))
            what = "rows would go" if everything else "rows would lose their name"
            raise CommandError(f"{count} {what}, for good. Say --yes if that is meant.")
        if not everything:
            number = person.pk
            erase_person(person)
            self.stdout.write(f"The account is number {number} now and leads to nobody.")
            return
        gone = remove_person(person)
        for kind, count in sorted(gone.items()):
            self.stdout.write(f"{kind}: {count}")
