"""A person in front of the office: who asks, their school, and whether they may."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpRequest

from vendaval.people.models import School, User
from vendaval.people.permissions import current_user

from .reading import person_out
from .schemas import PersonOut
from .scope import person_of, refuse_absent, school_of


@dataclass(frozen=True, slots=True)
class Desk:
    """A person on somebody's desk at the office. by: who asks."""

    by: User
    school: School
    person: User

    def shown(self) -> PersonOut:
        """What they are now."""
        self.person.refresh_from_db()
        return person_out(self.person, self.school, self.by)


def desk_of(request: HttpRequest, person_id: int, operation: str) -> Desk:
    """A person of the asker's school, for an operation they may do; else NotFound."""
    user = current_user(request)
    school = school_of(user, operation)
    person = person_of(school, person_id)
    if operation != "get_person":
        refuse_absent(person, school)
    return Desk(user, school, person)
