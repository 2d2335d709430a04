"""What a test that is being composed would bring in a group."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from statistics import median

import numpy as np
from django.utils.translation import gettext

from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import members_of
from vendaval_core.assessment.composition import Composition
from vendaval_core.measure.analysis.foreseen import Asked, foreseen
from vendaval_core.measure.analysis.words import forecast_words
from vendaval_core.measure.grid import Array

from .schemas import ComposedIn, ForecastOut
from .tests_of_course import seconds_of

FEWEST = 2


def forecast(group: Group, wanted: ComposedIn) -> ForecastOut:
    """Results, minutes and topics of a test for a group. Nothing is stored."""
    bank, composition = course_bank(group.course), wanted.composition.core()
    rows = members_of(group).filter(person__practice_for=None).exclude(state=None)
    learners = list(rows.defer("state__state", "state__families"))
    asked = _asked(composition, bank)
    found = None
    if len(learners) >= FEWEST:
        pass_mark = wanted.rules.pass_mark
        found = foreseen(
            asked, *_believed(learners, bank), None if pass_mark is None else float(pass_mark)
        )
    needed = seconds_of(composition, bank) / 60
    minutes = [needed * one.state.pace.ratio for one in learners]
    covered, others = _topics(group, composition, bank)
    return ForecastOut(
        learners=len(learners),
        lines=[] if found is None else forecast_words(found),
        mean=None if found is None else round(found.mean),
        low=None if found is None else round(found.low),
        high=None if found is None else round(found.high),
        minutes=max(1, round(median(minutes))) if minutes and asked else 0,
        slowest=max(1, round(max(minutes))) if minutes and asked else 0,
        time_says=_time_says(minutes, wanted.rules.minutes) if asked else "",
        covered=covered,
        others=others,
    )


def _asked(composition: Composition, bank: CourseBank) -> list[Asked]:
    found = []
    for section in composition.sections:
        for entry in section.entries:
            items = [bank.families[key] for key in entry.families if key in bank.families]
            if items:
                curves = tuple(item.curve for item in items)
                topics = tuple(item.topic for item in items)
                found += [Asked(curves, topics, float(entry.points))] * entry.count
    return found


def _believed(learners: Sequence[Enrolment], bank: CourseBank) -> tuple[Array, Array]:
    """Ability and its sd of each learner in each topic, as their levels stand."""
    means = np.zeros((len(learners), len(bank.topics)))
    sds = np.ones_like(means)
    for row, one in enumerate(learners):
        for topic in bank.topics:
            reading = one.state.standing.get(topic.key)
            if reading is not None:
                level = min(99.0, max(1.0, reading.level))
                means[row, topic.number] = bank.scales[topic.number].ability(level)
                sds[row, topic.number] = reading.sd
    return means, sds


def _topics(
    group: Group, composition: Composition, bank: CourseBank
) -> tuple[list[str], list[str]]:
    """Topics that a test asks about, and the others that are taught in the group."""
    keys = [k for s in composition.sections for e in s.entries for k in e.families]
    asked = {bank.families[key].topic for key in keys if key in bank.families}
    untaught = set(group.settings.not_taught)
    return (
        [topic.title for topic in bank.topics if topic.number in asked],
        [t.title for t in bank.topics if t.number not in asked and t.key not in untaught],
    )


def _time_says(minutes: Sequence[float], limit: int | None) -> str:
    """How many would need longer than the time there is; "" without a limit."""
    if limit is None or not minutes:
        return ""
    slow = sum(one > limit for one in minutes)
    if slow == 0:
        return gettext("Everybody is likely to finish in {limit} min.").format(limit=limit)
    share = Fraction(slow, len(minutes))
    if share > Fraction(1, 3):
        return gettext("{slow} of {all} are likely to run out of time in {limit} min.").format(
            slow=slow, all=len(minutes), limit=limit
        )
    return gettext("{slow} of {all} may need longer than {limit} min.").format(
        slow=slow, all=len(minutes), limit=limit
    )
