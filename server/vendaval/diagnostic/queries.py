"""Diagnostics as other pages ask for them."""

from __future__ import annotations

from vendaval.groups.models import Enrolment
from vendaval.work.models import Purpose, Run
from vendaval.work.runs import open_runs

MOST_LEFT = 2


def left_open(enrolment: Enrolment) -> list[Run]:
    """The diagnostics that can be taken up again, the latest two of several."""
    return list(open_runs(enrolment, Purpose.DIAGNOSTIC)[:MOST_LEFT])
