"""Drive the served application on a copy of the demo, and print what it did."""

from __future__ import annotations

import json
import os
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection
from tqdm import tqdm

from vendaval.bank.models import Course
from vendaval.bank.snapshot import course_bank
from vendaval.demo.load.copies import an_account, copy_of_the_demo
from vendaval.demo.load.driving import Account
from vendaval.demo.load.phases import answering, bare
from vendaval.demo.load.serving import served
from vendaval.demo.story import COURSE
from vendaval.levels.learning import learning_of
from vendaval.levels.presenting import present
from vendaval.people.models import User
from vendaval.practice.run import StartPracticeIn
from vendaval.shared import clock
from vendaval.shared.changes import Changes
from vendaval.work import actions
from vendaval.work.columns import Why
from vendaval.work.models import Purpose
from vendaval.work.runs import loaded_runs

MOST_LEARNERS, MOST_SECONDS = 256, 600
THINK = (1.0, 3.0)
LINES = 16


def an_attacker(course: Course, number: int) -> Account:
    """A learner whose waiting question wants a formula."""
    user, account = an_account(course, number)
    with_a_formula(user, course, account)
    return account


def with_a_formula(user: User, course: Course, account: Account) -> None:
    """Let a question wait for a learner that wants a formula."""
    bank = course_bank(course)
    for item in bank.families.values():
        wanted = [part for part in item.family.parts if part.called == "expression"]
        if wanted:
            break
    else:
        raise CommandError("no question of the course wants a formula")
    start = StartPracticeIn(purpose=Purpose.PRACTICE, topics=[item.family.topic])
    run = loaded_runs().get(pk=actions.start_run(user, course.key, start).pk)
    learning = learning_of(run.enrolment)
    changes = Changes(learning)
    asked = present(learning, run, item.family.key, clock.now(), changes, why=Why())
    changes.store()
    account.question, account.part = asked.pk, wanted[0].id
    account.symbols = tuple(wanted[0].model_dump()["symbols"])


class Command(BaseCommand):
    help = (
        "Starts the application on a copy of the demo database, drives learners with and without "
        "thinking and beside attackers who send hard formulas, and prints JSON."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--learners", type=int, default=64)
        parser.add_argument("--attackers", type=int, default=4)
        parser.add_argument("--others", type=int, default=16, help="learners beside attackers")
        parser.add_argument("--seconds", type=int, default=30, help="of each phase")

    def handle(
        self, *, learners: int, attackers: int, others: int, seconds: int, **options: Any
    ) -> None:
        if not 1 <= learners <= MOST_LEARNERS or not 0 <= attackers <= MOST_LEARNERS:
            raise CommandError(f"1 to {MOST_LEARNERS} learners, and at most as many attackers")
        if not 1 <= seconds <= MOST_SECONDS:
            raise CommandError(f"a phase takes 1 to {MOST_SECONDS} seconds")
        with copy_of_the_demo() as copy:
            figures = self._phases(copy, learners, attackers, others, seconds)
        self.stdout.write(json.dumps(figures, indent=1))

    def _phases(
        self, copy: Path, learners: int, attackers: int, others: int, seconds: int
    ) -> dict[str, object]:
        course = Course.objects.get(key=COURSE)
        people = tqdm(range(learners), desc="Accounts", disable=None)
        accounts = [an_account(course, n)[1] for n in people]
        hostile = [an_attacker(course, learners + n) for n in range(attackers)]
        connection.close()
        found: dict[str, object] = {
            "cores": os.cpu_count(),
            "learners": learners,
            "seconds": seconds,
        }
        with served(copy) as server, tqdm(total=4, desc="Phases", disable=None) as bar:
            port, pid = server.port, server.pid

            def phase(name: str, figures: dict[str, object]) -> None:
                found[name] = figures
                bar.update()

            phase("bare_endpoint", bare(port, seconds / 3, LINES))
            phase("thinking", answering(port, pid, course.key, accounts, [], seconds, THINK))
            phase("not_thinking", answering(port, pid, course.key, accounts, [], seconds, None))
            if hostile:
                some = accounts[:others]
                figures = answering(port, pid, course.key, some, hostile, seconds, THINK)
                phase("beside_attackers", {"learners": len(some)} | figures)
        flat_out = found["not_thinking"]
        assert isinstance(flat_out, dict)
        could = 2 * 1000 / max(flat_out["processor_ms_an_answer"], 0.1)
        flat_out["of_what_two_processes_could"] = round(flat_out["per_second"] / could, 2)
        return found
