"""A log of many learners who read one of a trial's texts and answered again, made by chance."""

from __future__ import annotations

import random
from datetime import datetime, timedelta

from vendaval.bank.models import FamilyRevision, Trial
from vendaval.bank.snapshot import course_bank
from vendaval.groups.models import Enrolment
from vendaval.levels.columns import ReadingData
from vendaval.levels.models import Observation
from vendaval.people.models import User
from vendaval.work.columns import Reply
from vendaval.work.models import Presentation, Run, Try, TryKind
from vendaval_core.measure.trials import chance_before, gets_second

LEVEL = ReadingData(level=60.0, low=45.0, high=75.0, sd=0.5, target=80.0, chance=0.1)
SAID = Reply(verdict="wrong", headline="Not yet", detail="")


def readers(
    trial: Trial,
    many: int,
    points: float,
    *,
    read: bool = True,
    later: timedelta = timedelta(days=1),
    seed: int = 1,
) -> None:
    """Let so many new learners answer a question wrongly, see its hint, and answer another version
    later. points: by how much the second text helps more, 0 to 1, half of it up and half
    down. read: whether they saw the hint at all."""
    rng = random.Random(seed)
    assert trial.family is not None
    family, began = trial.family, trial.began_at
    item = course_bank(trial.course).families[family.key]
    scale = course_bank(trial.course).scales[item.topic]
    chance = chance_before(item.curve, scale, LEVEL.reading())
    users = User.objects.bulk_create(
        User(username=f"reader-{seed}-{n}", display_name=f"Reader {n}") for n in range(many)
    )
    enrolments = Enrolment.objects.bulk_create(
        Enrolment(person=user, course=trial.course, since=began, seed=rng.getrandbits(40))
        for user in users
    )
    for number, enrolment in enumerate(enrolments):
        at = began + timedelta(minutes=number + 1)
        second = gets_second(trial.pk, enrolment.seed)
        revision = trial.revision if second else family.latest
        assert revision is not None
        _shown(enrolment, revision, 1, at, hints=int(read))
        shown = _shown(enrolment, revision, 2, at + later, hints=0)
        effect = points / 2 if second else -points / 2
        right = rng.random() < chance + effect
        tried = Try.objects.create(
            enrolment=enrolment, presentation=shown, family=family, topic=family.topic,
            replay_key="again", kind=TryKind.ANSWER, number=1, first=True, seconds=40, reply=SAID,
            at=at + later,
        )  # fmt: skip
        Observation.objects.create(
            enrolment=enrolment, tried=tried, family=family, topic=family.topic, weight=1.0,
            outcome=int(right), of=2, reason="first", sitting=1, before=LEVEL, after=LEVEL,
            at=at + later,
        )  # fmt: skip


def _shown(
    enrolment: Enrolment, revision: FamilyRevision, place: int, at: datetime, *, hints: int
) -> Presentation:
    run, _ = Run.objects.get_or_create(
        enrolment=enrolment,
        purpose="practice",
        defaults={"title": "Tides", "started_at": at, "touched_at": at},
    )
    return Presentation.objects.create(
        run=run, revision=revision, seed=place, number=place, made_at=at, hints_shown=hints
    )
