"""Practice as other pages ask for it."""

from __future__ import annotations

from django.db.models import QuerySet

from vendaval.groups.models import Enrolment
from vendaval.work.models import Purpose, Run
from vendaval.work.runs import open_runs


def practice_under_way(enrolment: Enrolment) -> QuerySet[Run]:
    """Practice that can be taken up again, latest first."""
    return open_runs(enrolment, Purpose.PRACTICE)
