"""Many learners in one test on the served application, killed again and again."""

from __future__ import annotations

import json
import os
import random
import time
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection
from tqdm import tqdm

from vendaval.bank.models import Course
from vendaval.demo.load.copies import an_account, copy_of_the_demo
from vendaval.demo.load.driving import Seen
from vendaval.demo.load.phases import percentiles
from vendaval.demo.load.serving import Server, served
from vendaval.demo.load.sitting import Sitter, sitting
from vendaval.demo.story import COURSE
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData
from vendaval.exams.composing.actions import give, make_test
from vendaval.exams.models import Assignment
from vendaval.groups.actions import join_group
from vendaval.groups.models import Enrolment, Group

FAMILIES = (
    "springs-or-neaps",
    "order-of-levels",
    "range-of-tide",
    "drying-rock",
)
WHOLE_EACH = 25


class Command(BaseCommand):
    help = (
        "Starts the application on a copy of the demo database; learners in one test save every "
        "two seconds while the server is killed again and again; compares what was acknowledged "
        "with what is stored, and prints JSON."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--learners", type=int, default=64)
        parser.add_argument("--seconds", type=int, default=600)
        parser.add_argument("--kills", type=int, default=50)

    def handle(self, *, learners: int, seconds: int, kills: int, **options: Any) -> None:
        if not 1 <= learners <= 256 or not 10 <= seconds <= 3600 or not 0 <= kills <= seconds // 8:
            raise CommandError("1 to 256 learners, 10 to 3600 seconds, a kill each 8 s at most")
        with copy_of_the_demo() as copy:
            course = Course.objects.get(key=COURSE)
            assignment, accounts = self._sat(course, learners)
            connection.close()
            with served(copy) as server:
                rng = random.Random(1)
                sitters = [
                    Sitter(one, COURSE, server.port, random.Random(rng.random()))
                    for one in accounts
                ]
                for sitter in tqdm(sitters, desc="Begin", disable=None):
                    sitter.begin(f"given-{assignment.pk}")
                down = self._kill(server, sitters, seconds, kills)
            figures = self._figures(sitters, seconds) | {"kills": kills, "seconds_starting": down}
        self.stdout.write(json.dumps(figures, indent=1))

    def _sat(self, course: Course, learners: int) -> tuple[Assignment, list[Any]]:
        group = Group.objects.create(course=course, title="Load")
        accounts = []
        for n in tqdm(range(learners), desc="Accounts", disable=None):
            user, account = an_account(course, n)
            join_group(group, Enrolment.objects.get(person=user, course=course))
            accounts.append(account)
        entries = [EntryData(families=[key]) for key in FAMILIES]
        composition = CompositionData(sections=[SectionData(title="All", entries=entries)])
        test = make_test(course, "Load", composition, RulesData(minutes=90), None)
        return give(test, group, None), accounts

    def _kill(self, server: Server, sitters: list[Sitter], seconds: int, kills: int) -> float:
        """Kill the server so many times, evenly: what serves, and each twenty-fifth time all of
        it. For how many seconds it had to start again."""
        began = time.monotonic()
        ended = sitting(sitters, seconds)
        down = 0.0
        for n in tqdm(range(kills), desc="Kills", disable=None):
            time.sleep(max(0.0, began + (n + 0.5) * seconds / kills - time.monotonic()))
            if n % WHOLE_EACH != WHOLE_EACH // 2:
                server.kill_workers()
                continue
            gone = time.monotonic()
            server.kill()
            down += time.monotonic() - gone
        ended.wait(seconds + 120)
        return round(down, 1)

    def _figures(self, sitters: list[Sitter], seconds: int) -> dict[str, object]:
        seen = Seen()
        for sitter in sitters:
            seen = seen.plus(sitter.seen)
        found = percentiles(seen, seconds)
        found["saves"] = found.pop("answers")
        return found | {
            "cores": os.cpu_count(),
            "learners": len(sitters),
            "acknowledged": sum(sitter.acknowledged for sitter in sitters),
            "sent_again": sum(sitter.again for sitter in sitters),
            "places_not_as_stored": sum(sitter.not_as_stored() for sitter in sitters),
        }
