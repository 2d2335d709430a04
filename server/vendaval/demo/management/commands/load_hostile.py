"""Learners in a test beside one who does everything that could stop them."""

from __future__ import annotations

import json
import os
import random
import secrets
import time
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser
from django.db import connection
from django.db.models import Count
from django.test import Client
from tqdm import tqdm

from vendaval.bank.models import Course
from vendaval.demo.load.copies import an_account, copy_of_the_demo
from vendaval.demo.load.driving import Account, Seen
from vendaval.demo.load.hostile import Hostile, Watch
from vendaval.demo.load.phases import percentiles
from vendaval.demo.load.serving import served
from vendaval.demo.load.sitting import Sitter, sitting
from vendaval.demo.story import COURSE
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData
from vendaval.exams.composing.actions import give, make_test
from vendaval.exams.models import Assignment
from vendaval.exams.taking import actions as attempts
from vendaval.groups.actions import join_group
from vendaval.groups.models import Enrolment, Group
from vendaval_core.assessment.paper import PagesWanted

from .load_exam import FAMILIES
from .load_test import with_a_formula


class Command(BaseCommand):
    help = (
        "Starts the application on a copy of the demo database; learners in one test save every "
        "two seconds beside one who uploads, exports, turns pages, sends formulas and searches, "
        "all at once; prints JSON with their times and the memory of all processes."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--learners", type=int, default=32)
        parser.add_argument("--seconds", type=int, default=60)

    def handle(self, *, learners: int, seconds: int, **options: Any) -> None:
        with copy_of_the_demo() as copy:
            course = Course.objects.get(key=COURSE)
            group = Group.objects.create(course=course, title="Load")
            accounts = [
                self._member(course, group, n) for n in tqdm(range(learners), desc="Accounts")
            ]
            given = self._given(course, group, PagesWanted.NONE)
            hostile, attempt = self._hostile(course, group)
            connection.close()
            with served(copy) as server:
                calm = self._sit(server.port, accounts, given, seconds / 2)
                watch = Watch(server.pid)
                watch.start()
                attacker = Hostile(server.port, hostile, COURSE, attempt)
                jobs = attacker.attack(time.monotonic() + seconds)
                for job in jobs:
                    job.start()
                beside = self._sit(server.port, accounts, given, seconds)
                for job in jobs:
                    job.join()
                watch.ended.set()
        figures = {
            "cores": os.cpu_count(),
            "learners": learners,
            "alone": calm,
            "beside": beside,
            "most_megabytes": round(watch.most),
            "hostile": dict(sorted(attacker.statuses.items())),
        }
        self.stdout.write(json.dumps(figures, indent=1))

    def _member(self, course: Course, group: Group, number: int) -> Account:
        user, account = an_account(course, number)
        join_group(group, Enrolment.objects.get(person=user, course=course))
        return account

    def _given(self, course: Course, group: Group, pages: PagesWanted) -> Assignment:
        entries = [EntryData(families=[key]) for key in FAMILIES]
        composition = CompositionData(sections=[SectionData(title="All", entries=entries)])
        test = make_test(course, "Load", composition, RulesData(minutes=90), None)
        return give(test, group, None, pages=pages)

    def _hostile(self, course: Course, group: Group) -> tuple[Account, int]:
        """Whoever has the longest record, with an attempt that takes pages, and a question that
        wants a formula."""
        rows = Enrolment.objects.filter(course=course, until=None).select_related("person")
        enrolment = rows.annotate(many=Count("tries")).order_by("-many")[0]
        join_group(group, enrolment)
        paper = self._given(course, group, PagesWanted.MUST)
        attempt = attempts.start(enrolment.person, course.key, "given", paper.pk)
        attempt = attempts.enter(enrolment.person, course.key, attempt.pk)
        interval = attempt.standing.intervals[-1].id
        attempts.give_in(enrolment.person, course.key, attempt.pk, interval)
        client = Client()
        client.force_login(enrolment.person)
        session = client.cookies[settings.SESSION_COOKIE_NAME].value
        account = Account(session, secrets.token_hex(16))
        with_a_formula(enrolment.person, course, account)
        return account, attempt.pk

    def _sit(
        self, port: int, accounts: list[Account], given: Assignment, seconds: float
    ) -> dict[str, object]:
        rng, seen = random.Random(1), Seen()
        sitters = [Sitter(one, COURSE, port, random.Random(rng.random())) for one in accounts]
        for sitter in sitters:
            sitter.begin(f"given-{given.pk}")
        sitting(sitters, seconds).wait(seconds + 120)
        for sitter in sitters:
            seen = seen.plus(sitter.seen)
        found = percentiles(seen, seconds)
        found["saves"] = found.pop("answers")
        return found
