"""The others of the demo's groups, with lives of their own: eleven beside the three who can be
signed in as, and a crew that learns to cook."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from functools import partial

from vendaval.bank.models import Course
from vendaval.bank.snapshot import course_bank
from vendaval.groups.actions import join_group, put_in_charge, set_own_aims
from vendaval.groups.columns import GroupSettings, OwnAimsData
from vendaval.groups.models import Group
from vendaval.people.models import User
from vendaval.shared import clock

from .accounts import account, enrolled
from .learners import SimulatedLearner

Progress = Callable[[str], None]
GAIN = 0.05


@dataclass(frozen=True, slots=True)
class Life:
    """What a classmate did.

    ability: in logits, everywhere but for what `strong` says. diagnosed: (days ago, subject,
    questions, whether it was left). practised: (days ago, topic, questions). rechecked: days ago.
    """

    username: str
    name: str
    ability: float
    strong: dict[str, float] = field(default_factory=dict)
    diagnosed: tuple[tuple[int, str, int, bool], ...] = ()
    practised: tuple[tuple[int, str, int], ...] = ()
    rechecked: int | None = None
    faded: tuple[str, ...] = ()
    gain: float = GAIN
    hasty: float = 0.0
    pace: float = 1.0
    exam_in: int | None = None


LIVES = (
    Life("duarte", "Duarte Sá", 0.2, diagnosed=((5, "chartwork", 2, True),)),
    Life(
        "leonor",
        "Leonor Pinho",
        -0.8,
        diagnosed=((6, "tides", 12, False),),
        practised=((5, "tidal-terms", 14), (4, "buoyage", 10)),
        hasty=0.7,
    ),
    Life(
        "caetano",
        "Caetano Brás",
        1.7,
        {"buoyage": 2.2, "tidal-terms": 2.2, "wind-force": 2.0},
        practised=((22, "buoyage", 14), (21, "tidal-terms", 14), (20, "wind-force", 14)),
        rechecked=9,
        faded=("tidal-terms",),
    ),
    Life(
        "alda",
        "Alda Nunes",
        0.2,
        practised=((12, "compass-errors", 7), (8, "compass-errors", 7), (3, "compass-errors", 7)),
        gain=0.14,
    ),
    Life(
        "simao",
        "Simão Teles",
        -0.9,
        practised=(
            (20, "tidal-terms", 14),
            (17, "tidal-terms", 12),
            (12, "tidal-terms", 16),
            (9, "tidal-terms", 14),
            (3, "height-at-a-time", 6),
            (2, "tidal-terms", 14),
        ),
        gain=0.0,
        pace=1.5,
    ),
    Life("benedita", "Benedita Rosa", 0.6, diagnosed=((13, "weather", 10, False),)),
    Life(
        "gil",
        "Gil Faria",
        0.9,
        practised=((4, "who-gives-way", 10), (2, "lights-and-shapes", 10), (1, "sound-signals", 8)),
        exam_in=6,
        pace=0.8,
    ),
    Life("marta", "Marta Quental", 0.4, diagnosed=((3, "pilotage", 10, False),)),
    Life(
        "nuno",
        "Nuno Serrão",
        0.0,
        practised=((5, "latitude-and-distance", 8), (1, "latitude-and-distance", 6)),
    ),
    Life("olivia", "Olívia Prado", 0.0),
    Life("vasco", "Vasco Lemos", 1.3, practised=((3, "buoyage", 9), (1, "sound-signals", 6))),
)

CREW = (
    Life("gaspar", "Gaspar Rego", 0.8, practised=((4, "scaling", 8), (2, "losses", 6))),
    Life("ivone", "Ivone Paz", -0.4, practised=((3, "scaling", 7),)),
    Life("tadeu", "Tadeu Lobo", 0.2),
)


def classmates_at_work(group: Group, now: datetime, progress: Progress) -> dict[str, User]:
    """Make the classmates and let them live, by username."""
    return {life.username: _live(life, group, now, progress) for life in LIVES}


def _live(life: Life, group: Group, now: datetime, progress: Progress) -> User:
    user, course = account(life.username, life.name), group.course
    with clock.held_by(lambda: now - timedelta(days=28)):
        enrolment = enrolled(user, course)
        join_group(group, enrolment)
        if life.exam_in is not None:
            day = (now + timedelta(days=life.exam_in)).date()
            set_own_aims(enrolment, OwnAimsData(exam_on=day, minutes=[40] * 7))
    ability = {topic.key: life.ability for topic in course_bank(course).topics} | life.strong
    seed = random.Random(life.username)
    learner = SimulatedLearner(user, course.key, ability, seed, now, pace=life.pace)
    learner.hasty = life.hasty
    steps: list[tuple[float, Callable[[], object]]] = []
    for days, subject, most, leave in life.diagnosed:
        steps.append((days, partial(learner.run_diagnostic, subject, most, leave=leave)))
    for days, topic, questions in life.practised:
        steps.append((days, partial(learner.practise, topic, questions, life.gain)))
    if life.rechecked is not None:
        steps.append((life.rechecked, partial(_recheck, learner, life)))
    for ago, step in sorted(steps, key=lambda one: -one[0]):
        learner.time = now - timedelta(days=ago, hours=seed.uniform(1, 6))
        progress(life.name)
        step()
    return user


def _recheck(learner: SimulatedLearner, life: Life) -> None:
    for topic in life.faded:
        learner.ability[topic] = -2.0
    learner.recheck()


def galley_crew(course: Course, also: list[User], now: datetime, progress: Progress) -> None:
    """The group of the second course: a crew, and some who learn in both; one topic of it has not
    been taught yet."""
    group = Group.objects.create(
        course=course, title="Galley crew", settings=GroupSettings(not_taught=["stores"])
    )
    tutor = Life("anselmo", "Anselmo Vidal", 0.0)
    with clock.held_by(lambda: now - timedelta(days=28)):
        put_in_charge(group, account(tutor.username, tutor.name))
        for user in also:
            join_group(group, enrolled(user, course))
    for life in CREW:
        _live(life, group, now, progress)
