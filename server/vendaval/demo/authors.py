"""What the demo's author finds: figures of the bank, a draft under way, and a question begun."""

from __future__ import annotations

from datetime import datetime, timedelta

from vendaval.authoring.bank.lines import refresh_figures
from vendaval.authoring.drafts import begin_family, keep_text
from vendaval.authoring.families import opened
from vendaval.authoring.schemas import NewFamilyIn
from vendaval.bank.models import Course
from vendaval.measurement.actions import propose_calibration
from vendaval.people.models import User
from vendaval.shared import clock

DRAFTED = "tide-needed-drying"
RANGE, WIDER = "drying: {range: [0.3, 1.5, 0.1]}", "drying: {range: [0.2, 2, 0.1]}"


def authors_at_work(courses: list[Course], author: User, now: datetime) -> None:
    """Rui has a wider range of a number in mind, and began another question two hours ago."""
    with clock.held_by(lambda: now - timedelta(hours=3)):
        family = opened(courses[0], DRAFTED, author)
        assert RANGE in family.text, "the demo's draft changes a range"
        keep_text(family, family.text.replace(RANGE, WIDER), author)
    with clock.held_by(lambda: now - timedelta(hours=2)):
        body = NewFamilyIn(topic="clearance-windows", title="Room over a sill", start="number")
        begin_family(courses[0], body, author)
    with clock.held_by(lambda: now):
        for course in courses:
            propose_calibration(course, author.username)
            refresh_figures(course)
