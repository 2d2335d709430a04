"""The address by which somebody comes to the application, for links in mails and files."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest

from .models import User

# Where nobody has signed in yet and no address is set: the demo on one machine.
USUAL = "http://127.0.0.1:8000"


def note_address(request: HttpRequest, person: User) -> None:
    """Remember by which address somebody came; its host is one of those allowed."""
    address = f"{request.scheme}://{request.get_host()}"
    if person.came_by != address:
        person.came_by = address
        person.save(update_fields=["came_by"])


def site_for(person: User) -> str:
    """The address for links to somebody: the one that is set, else by which they came last, else
    by which anybody did."""
    if settings.SITE or person.came_by:
        return str(settings.SITE or person.came_by)
    others = User.objects.filter(came_by__isnull=False).order_by("-last_login")
    return others.values_list("came_by", flat=True).first() or USUAL
