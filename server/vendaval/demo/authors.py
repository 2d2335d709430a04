"""What the demo's author finds: figures of the bank, a draft under way, and a question begun."""

from __future__ import annotations

from datetime import datetime, timedelta
from random import Random

from vendaval.authoring.access import Begun
from vendaval.authoring.bank.lines import refresh_figures
from vendaval.authoring.bank.sections import refresh_sections
from vendaval.authoring.bank.slips import refresh_slips
from vendaval.authoring.drafts import begin_family, keep_text
from vendaval.authoring.families import opened
from vendaval.authoring.schemas import NewFamilyIn
from vendaval.authoring.trials.actions import kept, start_trial, texts_of
from vendaval.authoring.trials.schemas import StartTrialIn
from vendaval.bank.models import Course, Trial
from vendaval.measurement.actions import propose_calibration
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval_core.measure.trials import TrialAnswer, followed

from .earlier_class import earlier_class

DRAFTED = "tide-needed-drying"
DECIDED = (
    "drying-rock",
    "hints.0",
    "Sketch chart datum, the rock and the sea as three lines. How far apart are the upper two?",
)
GOING_ON = (
    "range-of-tide",
    "hints.0",
    "Think of a post on the beach. Between which two marks on it does the sea move today?",
)
RANGE, WIDER = "drying: {range: [0.3, 1.5, 0.1]}", "drying: {range: [0.2, 2, 0.1]}"


def authors_at_work(courses: list[Course], author: User, now: datetime) -> None:
    """Rui has a wider range of a number in mind, and began another question two hours ago; and
    what last year's class answered."""
    earlier_class(courses[0], author, now)
    with clock.held_by(lambda: now - timedelta(hours=3)):
        family = opened(courses[0], DRAFTED, author)
        assert RANGE in family.text, "the demo's draft changes a range"
        keep_text(family, family.text.replace(RANGE, WIDER), author)
    with clock.held_by(lambda: now - timedelta(hours=2)):
        body = NewFamilyIn(topic="clearance-windows", title="Room over a sill", start="number")
        begin_family(Begun(courses[0], None), body, author)
    trials_of(courses[0], author, now)
    with clock.held_by(lambda: now):
        for course in courses:
            propose_calibration(course, author.username)
            refresh_slips(course)
            refresh_sections(course)
            refresh_figures(course)


def trials_of(course: Course, author: User, now: datetime) -> None:
    """One trial goes on since three days; another was decided by the answers of other schools,
    which are made by chance here."""
    with clock.held_by(lambda: now - timedelta(days=60)):
        decided = start_trial(course, _wanted(course, DECIDED, author), author)
    standing = followed(_made_by_chance(0.2, 800))
    Trial.objects.filter(pk=decided.pk).update(
        verdict=standing.verdict.value,
        result=kept(standing),
        ended_at=now - timedelta(days=8),
    )
    with clock.held_by(lambda: now - timedelta(days=3)):
        start_trial(course, _wanted(course, GOING_ON, author), author)


def _wanted(course: Course, about: tuple[str, str, str], author: User) -> StartTrialIn:
    key, place, second = about
    texts = {one.place: one.text for one in texts_of(opened(course, key, author))}
    return StartTrialIn(family=key, place=place, first=texts[place], second=second)


def _made_by_chance(effect: float, many: int) -> list[TrialAnswer]:
    random = Random(7)
    found = []
    for _ in range(many):
        chance, second = random.uniform(0.4, 0.8), random.random() < 0.5
        right = random.random() < chance + (effect / 2 if second else -effect / 2)
        found.append(TrialAnswer(second, chance, right))
    return found
