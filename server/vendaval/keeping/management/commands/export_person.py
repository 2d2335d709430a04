"""Write out everything that is kept about a person."""

import json
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from vendaval.keeping.person import export_person
from vendaval.people.queries import account_named


class Command(BaseCommand):
    help = "Prints everything that is kept about an account, as JSON."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")

    def handle(self, *, name: str, **options: Any) -> None:
        found = export_person(account_named(name))
        self.stdout.write(json.dumps(found, indent=1, ensure_ascii=False))
