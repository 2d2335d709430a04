"""What was handed in with set work and waits for a tutor's marks, over all of their groups."""

from __future__ import annotations

from django.db.models import Count, Min

from vendaval.groups.queries import taught_by
from vendaval.people.models import User

from .hand_in_schemas import WaitingHandInOut, WaitingHandInsOut
from .models import HandIn

MOST = 100


def waiting_hand_ins(person: User) -> WaitingHandInsOut:
    """The longest wait first; one query."""
    rows = HandIn.objects.filter(
        task__group__in=taught_by(person), task__withdrawn_at=None, marked_at=None
    ).exclude(handed_in_at=None)
    found = (
        rows.values("task", "task__title", "task__group", "task__group__title")
        .annotate(waiting=Count("pk"), since=Min("handed_in_at"))
        .order_by("since")[:MOST]
    )
    return WaitingHandInsOut(
        tasks=[
            WaitingHandInOut(
                group=row["task__group"],
                group_title=row["task__group__title"],
                task=row["task"],
                title=row["task__title"],
                waiting=row["waiting"],
                since=row["since"],
            )
            for row in found
        ]
    )
