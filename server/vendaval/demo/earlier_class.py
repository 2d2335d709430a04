"""A class that learned here last year and has left: what its answers say of three questions that
Rui wrote for it. One has the wrong key, one hides a slip that nobody foresaw, and one is much
harder in some versions than in others.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from datetime import datetime, timedelta
from pathlib import Path
from random import Random

from vendaval.bank.actions import refresh_digest
from vendaval.bank.kept import topic_files
from vendaval.bank.loading import load_families
from vendaval.bank.models import Course, Family
from vendaval.bank.snapshot import course_bank, version_of
from vendaval.groups.models import Enrolment
from vendaval.people.models import User
from vendaval.work.models import HelpKind, HelpOpened
from vendaval_core.items.kinds.choice import ChoiceKey
from vendaval_core.items.kinds.protocol import Key
from vendaval_core.packs.families import read_family

from .made_answers import Made, store_answers

TOPIC = "speed-time-distance"
READ = "triangle"
OTHERS = ("distance-run", "log-readings", "speed-made", "speed-needed", "time-to-run")
SHIFTS = {"minutes-to-run": -0.4, "over-the-ground": -0.3}
WROTE = Path(__file__).with_name("files_of_rui")
LEARNERS, EACH = 40, 2
VERSIONS = 6
FIRST = ("Abel", "Bruna", "Célia", "Dinis", "Elsa", "Fausto", "Graça", "Hélder")
LAST = ("Amaro", "Beja", "Couto", "Dias", "Espada", "Frade")


def earlier_class(course: Course, author: User, now: datetime) -> None:
    """Publish the three questions, and put the answers of those who left into the log."""
    topic = course.topics.get(key=TOPIC)
    files = topic_files(course, TOPIC)
    wanted = {}
    for file in sorted(WROTE.glob("*.yaml")):
        key = file.stem
        found = read_family(file.read_text(), f"topics/{TOPIC}/{key}.yaml", key, TOPIC, files)
        assert found.read is not None, found.problems
        wanted[key] = found.read
    began = now - timedelta(days=400)
    load_families(topic, wanted, began, by=author, why="For last year’s class.")
    refresh_digest(course)
    rng = Random(11)
    asked = course.families.filter(topic=topic, key__in=[*wanted, *OTHERS])
    rows = list(asked.select_related("latest", "topic").order_by("key"))
    for row in rows:
        row.course = course
    learners = list(_those_who_left(course, began, rng))
    store_answers(
        [
            one
            for enrolment, ability in learners
            for one in _answers(rows, enrolment, ability, began, rng)
        ]
    )
    HelpOpened.objects.bulk_create(
        HelpOpened(
            enrolment=enrolment,
            kind=HelpKind.STUDY,
            topic=TOPIC,
            section=READ,
            at=began + timedelta(days=19),
        )
        for enrolment, _ in learners
    )


def _those_who_left(
    course: Course, began: datetime, rng: Random
) -> Iterator[tuple[Enrolment, float]]:
    names = [f"{first} {last}" for last in LAST for first in FIRST][:LEARNERS]
    users = User.objects.bulk_create(
        User(username=f"left-{place:02}", display_name=name, is_active=False)
        for place, name in enumerate(names, 1)
    )
    left = began + timedelta(days=120)
    enrolments = Enrolment.objects.bulk_create(
        Enrolment(person=user, course=course, since=began, until=left, seed=place)
        for place, user in enumerate(users)
    )
    for enrolment in enrolments:
        yield enrolment, rng.gauss(0.3, 1.2)


def _answers(
    families: list[Family], enrolment: Enrolment, ability: float, began: datetime, rng: Random
) -> Iterator[Made]:
    at = began + timedelta(days=20)
    level = 100 / (1 + math.exp(-ability))
    for turn in range(EACH):
        for family in families:
            at += timedelta(minutes=rng.randrange(2, 6))
            seed = 1 + (enrolment.seed + turn * 3) % VERSIONS
            response = _response(family, seed, ability, rng)
            yield Made(enrolment, family, seed, response, at, level)


def _response(family: Family, seed: int, ability: float, rng: Random) -> dict[str, str]:
    revision = family.latest
    assert revision is not None, "it is live"
    revision.family = family
    item = course_bank(family.course).families[family.key]
    shift = SHIFTS.get(family.key, -item.curve.b)
    if family.key == "past-midnight":
        # Who starts late in the evening counts past midnight.
        shift = 2.2 if seed % 2 else -2.2
    knows = rng.random() < 1 / (1 + math.exp(-1.4 * (ability + shift)))
    return {
        key.id: _answer(family.key, key, knows, rng) for key in version_of(revision, seed, 0).parts
    }


def _answer(family: str, key: Key, knows: bool, rng: Random) -> str:
    right, wrong = key.examples.right, key.likely_wrong(rng)
    if family == "over-the-ground":
        # The key says the stream is taken away; who knows better adds it.
        assert isinstance(key, ChoiceKey)
        right, wrong = next(one.id for one in key.choices if one.id != right), right
    if family == "minutes-to-run" and not knows and rng.random() < 0.8:
        # A hundred minutes to the hour.
        wrong = f"{float(right.split()[0]) / 0.6:.0f} min"
    return right if knows else wrong
