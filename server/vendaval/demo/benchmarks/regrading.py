"""A question regraded at many attempts while answers go on, on a copy of the demo database."""

from __future__ import annotations

import threading
import time
from datetime import timedelta
from random import Random

from django.db import connection
from django.test.utils import CaptureQueriesContext
from tqdm import tqdm

from vendaval.bank.queries import course_of_key
from vendaval.demo.sittings import sit
from vendaval.exams.composing import give, make_test
from vendaval.exams.kept import CompositionData, EntryData, RegradeWay, RulesData, SectionData
from vendaval.exams.models import Assignment, Regrade
from vendaval.exams.regrading.applying import apply_all
from vendaval.exams.regrading.queries import preview
from vendaval.groups.actions import enrol, join_group
from vendaval.groups.models import Group
from vendaval.people.models import User
from vendaval.shared import clock

from .answers import whole_answers
from .timing import Figures

LEARNERS = 60
FAMILIES = ("range-of-tide", "springs-or-neaps", "drying-rock", "table-of-twelfths")
DROPPED = FAMILIES[0]
ANSWERS = 100


def _taken(attempts: int) -> Assignment:
    """A test that sixty learners take by turns, as often as it takes."""
    course = course_of_key("inshore")
    group = Group.objects.create(course=course, title="Regraded")
    entries = [EntryData(families=[key]) for key in FAMILIES]
    composition = CompositionData(
        sections=[SectionData(title="All", entries=entries)], same_versions=False
    )
    test = make_test(course, "Regraded", composition, RulesData(attempts=None), None)
    given = give(test, group, None)
    people = []
    for n in range(LEARNERS):
        person = User.objects.create(username=f"regraded{n}", display_name=f"Learner {n}")
        join_group(group, enrol(person, course))
        people.append(person)
    start = clock.now() - timedelta(days=5)
    for n in tqdm(range(attempts), desc="Attempts", disable=None):
        sit(people[n % LEARNERS], given, start + timedelta(minutes=10 * n), 0.6, Random(n))
    return given


def regrading(attempts: int) -> Figures:
    """Seconds and queries of a preview; seconds of applying, and answers in the meantime."""
    given = _taken(attempts)
    way = RegradeWay(kind="drop")
    began = time.perf_counter()
    with CaptureQueriesContext(connection) as captured:
        changed = len(preview(given, DROPPED, way).changed)
    previewed = time.perf_counter() - began
    row = Regrade.objects.create(
        assignment=given, family=DROPPED, way=way, why="Measured.", at=clock.now(), of=attempts
    )
    took: list[float] = []

    def apply() -> None:
        before = time.perf_counter()
        apply_all(Regrade.objects.select_related("assignment__group__course").get(pk=row.pk))
        took.append(time.perf_counter() - before)
        connection.close()

    job = threading.Thread(target=apply)
    job.start()
    answered = whole_answers(ANSWERS)
    job.join()
    return {
        "attempts": attempts,
        "changed": changed,
        "preview_seconds": round(previewed, 2),
        "preview_queries": len(captured),
        "apply_seconds": round(took[0], 1),
        "answers_meanwhile": answered,
    }
