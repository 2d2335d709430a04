"""What waits for the demo's office: an invitation nobody came by, a consent that is awaited."""

from __future__ import annotations

from datetime import datetime, timedelta

from vendaval.groups.models import Group
from vendaval.office.newcomers import Newcomer, import_people
from vendaval.people.actions import give_role
from vendaval.people.link_mails import mail_link
from vendaval.people.models import LinkKind, Role, User
from vendaval.shared import clock


def at_the_office(group: Group, office: User, now: datetime) -> None:
    """Three people were invited at different times; a young learner took the account at once."""
    school = group.course.school
    give_role(office, school, Role.OFFICE)
    young = Newcomer(
        "Xavier Lopo",
        "xavier@lopo.example",
        Role.LEARNER,
        group,
        born=now.date() - timedelta(days=round(12.4 * 365.25)),
        guardian_name="Irene Lopo",
        guardian_mail="irene@lopo.example",
    )
    tutor = Newcomer("Matilde Frade", "matilde@molhe.example", Role.TUTOR)
    for days, one in ((12, tutor), (2, young)):
        with clock.held_by(lambda days=days: now - timedelta(days=days)):  # type: ignore[misc]
            for link in import_people([one], school, office, None):
                mail_link(link)
    xavier = User.objects.get(email=young.mail)
    xavier.username = "xavier"
    xavier.set_password(f"{xavier.pk} boats at the mole")
    xavier.save(update_fields=["username", "password"])
    xavier.one_time_links.filter(kind=LinkKind.WELCOME).update(used_at=now - timedelta(days=1))
