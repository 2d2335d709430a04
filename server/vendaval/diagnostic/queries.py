"""Diagnostics as other pages ask for them."""

from __future__ import annotations

from vendaval.groups.models import Enrolment
from vendaval.work.models import Purpose, Run
from vendaval.work.runs import open_runs


def left_open(enrolment: Enrolment) -> Run | None:
    """The diagnostic that can be taken up again, the latest of several."""
    return open_runs(enrolment, Purpose.DIAGNOSTIC).first()
