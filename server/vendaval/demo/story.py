"""The demo's story, told by running the real application over simulated learners.

Dates are relative to the moment it is made. Everybody in it is invented.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from datetime import datetime, timedelta

from django.utils import timezone

from vendaval.bank.models import Course
from vendaval.bank.snapshot import course_bank
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.columns import GroupSettings
from vendaval.groups.models import Group
from vendaval.notices.actions import note_rechecks_due, send_digests
from vendaval.people.actions import give_role, link_guardian
from vendaval.people.models import Role, User
from vendaval.shared import clock

from .accounts import account, enrolled
from .authors import authors_at_work
from .classmates import classmates_at_work, galley_crew
from .learners import SimulatedLearner
from .marks import mark_books
from .own_questions import own_questions
from .papers import plans_handed_in, working_beside_a_miss
from .school import at_the_office
from .sittings import give_tests
from .stories import tell_stories
from .talk import ask_around
from .tasks import set_tasks

COURSE, SECOND = "inshore", "galley"
MOST_SITTINGS = 12
Progress = Callable[[str], None]


def half_way(user: User, course: Course, now: datetime, progress: Progress) -> None:
    """Twelve days in: one diagnostic done, practice in some topics, one diagnostic left open."""
    ability = {topic.key: 0.5 for topic in course_bank(course).topics} | {
        "latitude-and-distance": 1.9,
        "speed-time-distance": 1.2,
        "compass-errors": 0.0,
        "tidal-terms": 1.5,
        "height-at-a-time": 0.1,
        "clearance-windows": -0.4,
        "buoyage": 1.7,
        "course-to-steer": -0.6,
    }
    start = now - timedelta(days=12)
    learner = SimulatedLearner(user, course.key, ability, random.Random(11), start)
    progress("Inês: diagnostic in chartwork")
    learner.run_diagnostic("chartwork", most=24)
    learner.time = now - timedelta(days=11, hours=3)
    progress("Inês: diagnostic in pilotage and safety")
    learner.run_diagnostic("pilotage", most=14)
    for days, topic, questions in (
        (10, "latitude-and-distance", 9),
        (9, "latitude-and-distance", 6),
        (7, "speed-time-distance", 8),
        (6, "tidal-terms", 9),
        (5, "buoyage", 9),
        (4, "tidal-terms", 7),
        (3, "height-at-a-time", 8),
        (1, "height-at-a-time", 7),
    ):
        learner.time = now - timedelta(days=days, hours=2)
        progress(f"Inês: {topic.replace('-', ' ')}")
        learner.practise(topic, questions, leave=days == 1)
    learner.time = now - timedelta(hours=20)
    learner.taught = {"clearance-windows": False}
    progress("Inês: diagnostic in tides, left open")
    learner.run_diagnostic("tides", most=4, leave=True)


def nearly_there(user: User, course: Course, now: datetime, progress: Progress) -> None:
    """Three weeks in: all targets met but the last topic's. Good at most, and better at some."""
    rng = random.Random(9)
    ability = {topic.key: rng.uniform(1.0, 1.9) for topic in course_bank(course).topics}
    ability["clearance-windows"] = 0.7
    learner = SimulatedLearner(
        user, course.key, ability, random.Random(5), now - timedelta(days=21)
    )
    progress("Tomás: diagnostic in all subjects")
    learner.run_diagnostic(None, most=60)
    days = 19
    for topic in course_bank(course).topics:
        if topic.key == "clearance-windows":
            continue
        for _ in range(MOST_SITTINGS):
            if topic.key in learner.met():
                break
            learner.time = now - timedelta(days=days, hours=random.Random(days).randrange(1, 9))
            progress(f"Tomás: {topic.title.lower()}")
            learner.practise(topic.key, 8, gain=0.03)
            days = max(2, days - 1)
    learner.time = now - timedelta(days=1, hours=3)
    progress("Tomás: clearance windows")
    learner.practise("clearance-windows", 6, gain=0.02, leave=True)


def tell(course: Course, second: Course, now: datetime, progress: Progress) -> None:
    """Make the demo accounts and their histories."""
    settings_ = GroupSettings(exam_on=(timezone.localtime(now) + timedelta(days=24)).date())
    group = Group.objects.create(course=course, title="Tuesday evening", settings=settings_)
    rita = account(
        "rita", "Rita Calado", "Has not answered a question yet. Start with a diagnostic."
    )
    ines = account(
        "ines", "Inês Moura", "Half way: some targets met, some mistakes, an unfinished diagnostic."
    )
    tomas = account("tomas", "Tomás Vaz", "Nearly there: only one topic is below its target.")
    with clock.held_by(lambda: now - timedelta(days=40)):
        staff = staff_of(course)
        put_in_charge(group, staff["clara"])
    with clock.held_by(lambda: now - timedelta(days=30)):
        for person in (rita, ines, tomas):
            join_group(group, enrolled(person, course))
    link_guardian(staff["teresa"], ines)
    half_way(ines, course, now, progress)
    nearly_there(tomas, course, now, progress)
    classmates = classmates_at_work(group, now, progress)
    galley_crew(second, [ines, tomas, staff["clara"]], now, progress)
    ask_around(ines, classmates, staff, now)
    progress("tests")
    people = classmates | {"ines": ines, "tomas": tomas}
    given = give_tests(course, group, staff["clara"], people, now)
    tell_stories(given, people, staff["clara"], now)
    set_tasks(group, staff["clara"], rita, now)
    plans_handed_in(group, people, staff["clara"], now)
    working_beside_a_miss(ines, now)
    mark_books(group, staff["clara"], now)
    at_the_office(group, staff["lucia"], now)
    authors_at_work([course, second], staff["rui"], now)
    own_questions(group, staff["clara"], now)
    with clock.held_by(lambda: now):
        note_rechecks_due()
        send_digests()


def staff_of(course: Course) -> dict[str, User]:
    """A tutor, an author, a guardian, and somebody at the office."""
    clara = account(
        "clara", "Clara Nunes", "Tutor of the Tuesday evening group. Also learns Galley Arithmetic."
    )
    rui = account(
        "rui", "Rui Sobral", "Author: writes questions, looks after the bank, and composes tests."
    )
    teresa = account(
        "teresa", "Teresa Moura", "Guardian: sees one learner’s progress and writes to the tutor."
    )
    lucia = account("lucia", "Lúcia Prates", "Office: people, groups, invitations and the log.")
    give_role(rui, course.school, Role.AUTHOR)
    give_role(teresa, course.school, Role.GUARDIAN)
    return {"clara": clara, "rui": rui, "teresa": teresa, "lucia": lucia}
