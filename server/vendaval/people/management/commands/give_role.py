"""Let an account hold a role at a school: the first of an office above all."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from vendaval.people.actions import give_role
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, Role, School
from vendaval.people.queries import account_named


class Command(BaseCommand):
    help = "Gives an account a role at a school."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("role", choices=[role.value for role in Role])
        parser.add_argument("--school", required=True)

    def handle(self, *, name: str, role: str, school: str, **options: Any) -> None:
        person = account_named(name)
        found = School.objects.filter(name=school).first()
        if found is None:
            known = ", ".join(f"“{one.name}”" for one in School.objects.order_by("name"))
            raise CommandError(f"there is no school “{school}”; there is {known or 'none yet'}")
        give_role(person, found, Role(role))
        audit(AuditKind.ROLE, account=person, says=f"{role} given")
        self.stdout.write(f"{person.display_name} is {role} at {found.name} now.")
