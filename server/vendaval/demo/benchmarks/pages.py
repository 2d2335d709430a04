"""Pages of a learner with a long history, and a tutor's group, through the test client, on a copy
of the demo database."""

from __future__ import annotations

import random
from datetime import timedelta

from django.core.management.base import CommandError
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from tqdm import tqdm

from vendaval.bank.queries import course_of_key
from vendaval.bank.snapshot import course_bank
from vendaval.demo.learners import SimulatedLearner
from vendaval.groups.models import Group
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.work.models import Try

from .timing import Figures, milliseconds, timed

COURSE = "inshore"
OWN = f"/api/courses/{COURSE}"
PAGES = {
    "today": f"{OWN}/today",
    "waiting_work": f"{OWN}/work/waiting",
    "record": f"{OWN}/record",
    "tries": f"{OWN}/record/tries",
    "tries_with_words": f"{OWN}/record/tries?words=tide",
    "plan_to_a_date": f"{OWN}/plan",
    "twenty_minutes": f"{OWN}/spell?minutes=20",
    "topic": f"{OWN}/topics/height-at-a-time",
    "misses": f"{OWN}/misses",
}


def _history(user: User, tries: int) -> int:
    """Let a learner practise until there are so many tries; how many there are."""
    topics = [topic.key for topic in course_bank(course_of_key(COURSE)).topics]
    rng = random.Random(7)
    ability = {key: rng.uniform(-0.5, 0.8) for key in topics}
    start = clock.now() - timedelta(days=2)
    learner = SimulatedLearner(user, COURSE, ability, rng, start, sent=50_000)
    mine = Try.objects.filter(enrolment__person=user)
    with tqdm(total=tries, desc="Tries of history", disable=None) as bar:
        while (count := mine.count()) < tries:
            bar.update(count - bar.n)
            learner.practise(rng.choice(topics), 10, gain=0.0)
            learner.wait(60)
    return mine.count()


def page(client: Client, address: str, times: int) -> Figures:
    """Milliseconds that a page takes, and its queries."""
    took: list[float] = []
    queries = 0
    for _ in range(times):
        with CaptureQueriesContext(connection) as captured, timed(took):
            reply = client.get(address)
        if reply.status_code != 200:
            raise CommandError(f"{address}: {reply.content[:300]!r}")
        queries = len(captured)
    return milliseconds(took[1:]) | {"queries": queries}


def pages(tries: int, times: int = 15) -> Figures:
    """Every page of the circle with a history of so many tries."""
    user = User.objects.get(username="ines")
    count = _history(user, tries)
    client, desk = Client(), Client()
    client.force_login(user)
    desk.force_login(User.objects.get(username="clara"))
    group = Group.objects.get(course__key=COURSE).pk
    figures: Figures = {"history": count}
    for name, address in tqdm(PAGES.items(), desc="Pages", disable=None):
        figures[name] = page(client, address, times)
    figures["group_of_14"] = page(desk, f"/api/groups/{group}", times)
    return figures
