"""Copies of a person's data, made in the background."""

from __future__ import annotations

from django.utils.translation import gettext
from django_tasks import task

from vendaval.notices.actions import tell
from vendaval.notices.models import NoticeKind
from vendaval.people.models import School, User
from vendaval.shared.jobs import is_going

from .copies import ask_for_copy, write_copy
from .models import Audience, DataCopy


@task()
def make_copy(copy_id: int) -> int:
    """Write a copy into its file; how large it is. One that is ready, or was removed meanwhile, is
    left as it is."""
    row = DataCopy.objects.select_related("person", "school").filter(pk=copy_id).first()
    if row is None or row.ready_at is not None:
        return 0
    write_copy(row)
    if row.audience == Audience.PERSON:
        title = gettext("Your copy of your data is ready. You can download it for a day.")
        tell([row.person], NoticeKind.COPY_READY, title, "/account")
    return row.size


def start_copy(
    person: User, by: User, audience: Audience, school: School | None = None
) -> DataCopy:
    """Have a copy made; asked for again while it is being made, it is made once."""
    row = ask_for_copy(person, by, audience, school)
    if not is_going(make_copy.module_path, [row.pk]):
        make_copy.enqueue(row.pk)
    return row
