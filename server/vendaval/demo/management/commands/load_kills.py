"""A school at work while it is killed again and again."""

from __future__ import annotations

import json
import secrets
import threading
import time
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser
from django.db import connection
from django.test import Client
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult, get_date_max
from tqdm import tqdm

from vendaval.bank.models import Course
from vendaval.demo.load.comparing import faults
from vendaval.demo.load.copies import an_account, copy_of_the_demo
from vendaval.demo.load.driving import Account
from vendaval.demo.load.killed import School
from vendaval.demo.load.serving import Server, served
from vendaval.demo.story import COURSE
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData
from vendaval.exams.composing.actions import give, make_test
from vendaval.exams.models import Assignment
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Enrolment, Group
from vendaval.people.actions import give_role
from vendaval.people.models import Role, User
from vendaval.shared import clock

EACH_SECONDS = 1.5
WHOLE_EACH, JOBS_EACH = 10, 4
REST_SECONDS = 300
RETRIED_WITHIN = timedelta(minutes=30)
SHOWN = {"answers": "never", "solutions": "never"}
ESSAY, REGRADED = "briefing", "range-of-tide"
LATER = {"score": "marks_out", "correctness": "marks_out", "answers": "never", "solutions": "never"}


class Command(BaseCommand):
    help = (
        "Starts the application on a copy of the demo database with a process for jobs; learners "
        "sit tests, a tutor marks, releases and regrades, and the office takes lists, while both "
        "are killed again and again; compares what was acknowledged with what is stored, and "
        "prints JSON."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--learners", type=int, default=8)
        parser.add_argument("--kills", type=int, default=100)

    def handle(self, *, learners: int, kills: int, **options: Any) -> None:
        with copy_of_the_demo() as copy:
            course = Course.objects.get(key=COURSE)
            group = Group.objects.create(course=course, title="Killed")
            essay = self._given(course, group, ESSAY, LATER)
            numbers = self._given(course, group, REGRADED, SHOWN)
            accounts = [self._member(course, group, n) for n in range(learners)]
            desk, office = self._staff(course, group)
            connection.close()
            with served(copy) as server:
                server.start_jobs()
                until = time.monotonic() + kills * EACH_SECONDS
                school = School(server.port, COURSE, until, group.pk)
                jobs = [
                    threading.Thread(target=school.learn, args=(one, f"given-{test.pk}", n))
                    for n, one in enumerate(accounts)
                    for test in ((essay, numbers)[n % 2],)
                ]
                jobs.append(threading.Thread(target=school.mark, args=(desk, essay.pk, ESSAY)))
                again = (desk, numbers.pk, REGRADED)
                jobs.append(threading.Thread(target=school.regrade, args=again))
                jobs.append(threading.Thread(target=school.take_lists, args=(office,)))
                for job in jobs:
                    job.start()
                self._kill(server, kills)
                for job in jobs:
                    job.join()
                waited = self._rest()
                server.stop_jobs()
            self._print(school, kills, waited)

    def _kill(self, server: Server, kills: int) -> None:
        """What serves, the process for jobs, or all that serves with what they belong to."""
        for n in tqdm(range(kills), desc="Kills", disable=None):
            time.sleep(EACH_SECONDS)
            if n % WHOLE_EACH == WHOLE_EACH - 1:
                server.kill()
            elif n % JOBS_EACH == JOBS_EACH - 1:
                server.kill_jobs()
            else:
                server.kill_workers()

    def _rest(self) -> float:
        """Wait until no job is left to be done; for how long."""
        began = time.monotonic()
        waiting = DBTaskResult.objects.filter(
            status__in=(TaskResultStatus.READY, TaskResultStatus.RUNNING)
        ).exclude(run_after__gt=clock.now() + RETRIED_WITHIN, run_after__lt=get_date_max())
        while time.monotonic() - began < REST_SECONDS and waiting.exists():
            connection.close()
            time.sleep(1.0)
        return round(time.monotonic() - began, 1)

    def _print(self, school: School, kills: int, waited: float) -> None:
        done, found = school.done, list(faults(school.done))
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA integrity_check")
            integrity = cursor.fetchone()[0]
        figures = {
            "kills": kills,
            "seconds_until_jobs_were_done": waited,
            "acknowledged": {
                "saves": len(done.saves),
                "hand_ins": len(done.hand_ins),
                "marks": len(done.marks),
                "releases": done.releases,
                "regrades": done.regrades,
                "lists": len(done.lists),
            },
            "integrity": integrity,
            "faults": found[:40],
        }
        self.stdout.write(json.dumps(figures, indent=1))

    def _given(
        self, course: Course, group: Group, family: str, release: dict[str, str]
    ) -> Assignment:
        entries = [EntryData(families=[family])]
        composition = CompositionData(
            sections=[SectionData(title="All", entries=entries)], same_versions=False
        )
        rules = RulesData.model_validate({"attempts": None, "release": release})
        return give(make_test(course, f"Killed, {family}", composition, rules, None), group, None)

    def _member(self, course: Course, group: Group, number: int) -> Account:
        user, account = an_account(course, number)
        join_group(group, Enrolment.objects.get(person=user, course=course))
        return account

    def _staff(self, course: Course, group: Group) -> tuple[Account, Account]:
        found = []
        for role in (Role.TUTOR, Role.OFFICE):
            user = User.objects.create_user(f"kill-{role}", display_name=f"Kill {role}")
            give_role(user, course.school, role)
            if role is Role.TUTOR:
                put_in_charge(group, user)
            client = Client()
            client.force_login(user)
            session = client.cookies[settings.SESSION_COOKIE_NAME].value
            found.append(Account(session, secrets.token_hex(16)))
        return found[0], found[1]
