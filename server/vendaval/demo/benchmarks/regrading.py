"""A question regraded at many attempts while answers go on, on a copy of the demo database."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from collections.abc import Sequence
from datetime import timedelta
from random import Random

from django.conf import settings
from django.core.management.base import CommandError
from django.db import connection
from django.test.utils import CaptureQueriesContext
from tqdm import tqdm

from vendaval.bank.queries import course_of_key
from vendaval.demo.sittings import sit
from vendaval.exams.columns import CompositionData, EntryData, RegradeWay, RulesData, SectionData
from vendaval.exams.composing.actions import give, make_test
from vendaval.exams.models import Assignment, Regrade, RegradeState
from vendaval.exams.regrading.jobs import apply_in_background
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


def taken(attempts: int, families: Sequence[str] = FAMILIES) -> Assignment:
    """A test that sixty learners take in turn, as often as it takes."""
    course = course_of_key("inshore")
    group = Group.objects.create(course=course, title="Regraded")
    entries = [EntryData(families=[key]) for key in families]
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
    given = taken(attempts)
    way = RegradeWay(kind="drop")
    began = time.perf_counter()
    with CaptureQueriesContext(connection) as captured:
        changed = len(preview(given, DROPPED, way).changed)
    previewed = time.perf_counter() - began
    row = Regrade.objects.create(
        assignment=given, family=DROPPED, way=way, why="Measured.", at=clock.now(), of=attempts
    )
    apply_in_background.enqueue(row.pk)
    began = time.perf_counter()
    worker = _worker()
    answered = whole_answers(ANSWERS)
    if worker.wait() != 0:
        raise CommandError("the worker failed")
    applied = time.perf_counter() - began
    row.refresh_from_db()
    if row.state != RegradeState.APPLIED:
        raise CommandError(f"the regrade is {row.state}")
    return {
        "attempts": attempts,
        "changed": changed,
        "preview_seconds": round(previewed, 2),
        "preview_queries": len(captured),
        "apply_seconds": round(applied, 1),
        "answers_meanwhile": answered,
    }


def _worker() -> subprocess.Popen[bytes]:
    """A process of its own that does the jobs there are on the copy, as one stands beside the
    server; its start is part of what is measured."""
    database = str(connection.settings_dict["NAME"])
    return subprocess.Popen(
        [sys.executable, "manage.py", "db_worker", "--batch", "-v", "0"],
        cwd=settings.ROOT,
        env=os.environ | {"VENDAVAL_DATABASE": database},
    )
