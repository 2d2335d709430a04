"""A tutor's group of 60 learners in a course of 30 topics, on a copy of the demo database."""

from __future__ import annotations

import gc
import random
from dataclasses import replace
from datetime import timedelta

from django.conf import settings
from django.test import Client
from tqdm import tqdm

from vendaval.bank.loading import load_pack
from vendaval.bank.snapshot import course_bank
from vendaval.demo.learners import SimulatedLearner
from vendaval.groups.actions import enrol, join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval_core.packs.families import PackFamily
from vendaval_core.packs.reader import Pack, read_pack

from .pages import page
from .timing import Figures

TOPICS, LEARNERS, ANSWERS = 30, 60, 20
KEY = "thirty-topics"


def thirty_topics() -> Pack:
    """The demo course, with copies of its first topics under other names until there are 30."""
    pack = read_pack(settings.PACKS / "inshore", versions=False)
    topics = [topic for subject in pack.course.subjects for topic in subject.topics]
    extra = {topic.key for topic in topics[: TOPICS - len(topics)]}
    subjects = [
        subject.model_copy(
            update={
                "topics": [
                    *subject.topics,
                    *(
                        topic.model_copy(update={"key": f"more-{topic.key}", "after": []})
                        for topic in subject.topics
                        if topic.key in extra
                    ),
                ]
            }
        )
        for subject in pack.course.subjects
    ]
    more = [_copy(item) for item in pack.families if item.family.topic in extra]
    study = pack.study | {f"more-{key}": pack.study[key] for key in extra}
    course = pack.course.model_copy(
        update={"key": KEY, "title": "Thirty topics", "subjects": subjects}
    )
    return replace(pack, course=course, families=(*pack.families, *more), study=study)


def _copy(item: PackFamily) -> PackFamily:
    family = replace(
        item.family,
        key=f"more-{item.family.key}",
        topic=f"more-{item.family.topic}",
        study=item.family.study,
    )
    return PackFamily(family, item.data)


def group_pages(times: int = 15) -> Figures:
    """The overview, what is worth asking, what is missed and the calendar."""
    course = load_pack(thirty_topics())
    group = Group.objects.create(course=course, title="Sixty")
    clara = User.objects.get(username="clara")
    put_in_charge(group, clara)
    rng = random.Random(3)
    start = clock.now() - timedelta(days=3)
    for number in tqdm(range(LEARNERS), desc="Learners", disable=None):
        user = User.objects.create(username=f"sixty-{number}", display_name=f"Learner {number:02}")
        join_group(group, enrol(user, course))
        ability = {topic.key: rng.uniform(-1, 1.5) for topic in course_bank(course).topics}
        SimulatedLearner(user, KEY, ability, rng, start).run_diagnostic(None, most=ANSWERS)
    desk = Client()
    desk.force_login(clara)
    at = f"/api/groups/{group.pk}"
    # As when it serves: what was loaded once is not looked at again by the collector.
    desk.get(at)
    gc.collect()
    gc.freeze()
    return {
        "learners": LEARNERS,
        "topics": TOPICS,
        "group": page(desk, at, times),
        "signals": page(desk, f"{at}/signals", times),
        "missed": page(desk, f"{at}/missed", times),
        "calendar": page(desk, f"{at}/calendar", times),
    }
