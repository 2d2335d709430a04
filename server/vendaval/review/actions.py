"""What a learner does about their misses."""

from __future__ import annotations

from datetime import datetime

from django.db import transaction

from vendaval.bank.queries import default_course
from vendaval.evidence.answer import AnswerRules, take_answer
from vendaval.evidence.models import (
    Closing,
    HelpKind,
    HelpOpened,
    Miss,
    MissState,
    Presentation,
    Purpose,
    Run,
)
from vendaval.evidence.opening import close
from vendaval.evidence.present import present
from vendaval.evidence.record import Judged, Sent
from vendaval.evidence.replies import Answered
from vendaval.evidence.state import Learning, load_learning
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import Conflict, NotFound
from vendaval_core.scoring.tries import ONE_TRY

RULES = AnswerRules(Purpose.MISSED, ONE_TRY, learning_follows=True, whole=True)
MENDS_OFFERED = 2


def own_miss(learner: User, miss_id: int) -> Miss:
    """A learner's own miss, or NotFound."""
    miss = (
        Miss.objects.select_related("family__latest", "topic", "presentation__revision")
        .filter(pk=miss_id, learner=learner)
        .first()
    )
    if miss is None:
        raise NotFound("You have no such miss.")
    return miss


def mends_left(miss: Miss, learning: Learning) -> int:
    """Fresh versions still offered: two in a sitting, and two more after its study section."""
    mends = Presentation.objects.filter(miss=miss).exclude(closed_at=None)
    family = learning.bank.families[miss.family.key].family
    topic, section = learning.bank.section(family.study, family.topic)
    detail = f"{topic.key}#{section.key}"
    read = HelpOpened.objects.filter(learner=miss.learner, kind=HelpKind.STUDY, detail=detail)
    last_read = read.order_by("-pk").values_list("at", flat=True).first()
    if last_read is not None:
        mends = mends.filter(made_at__gt=last_read)
    used = mends.filter(tries__sitting=learning.row.sitting).count()
    return max(0, MENDS_OFFERED - used)


def needs_another_first(miss: Miss, learning: Learning) -> bool:
    """A fixed question comes again only after at least one other answer."""
    family = learning.bank.families[miss.family.key].family
    return family.versions == 1 and learning.seen(miss.family.key)["last"] == learning.row.answers


@transaction.atomic
def start_mend(learner: User, miss_id: int) -> Run:
    """Present a fresh version for a miss; one already waiting is taken up."""
    miss = own_miss(learner, miss_id)
    if miss.state != MissState.OPEN:
        raise Conflict("This miss is closed already.", code="miss_closed")
    learning = load_learning(learner, default_course())
    if miss.family.key not in learning.bank.families:
        raise Conflict("This question was taken out of the course.", code="not_live")
    waiting = (
        Presentation.objects.select_related("run__course", "revision")
        .filter(miss=miss, closed_at=None)
        .first()
    )
    if waiting is not None:
        waiting.run.current = waiting
        return waiting.run
    if needs_another_first(miss, learning):
        raise Conflict(
            "This question has one version only. Answer another question first.",
            code="another_first",
        )
    if mends_left(miss, learning) == 0:
        raise Conflict("Read its study section first, then two more are here.", code="study_first")
    now = clock.now()
    run = Run(
        learner=learner,
        course_id=learning.bank.course_id,
        purpose=Purpose.MISSED,
        title=miss.topic.title,
        scope=[miss.topic.key],
        note={"miss": miss.pk},
        started_at=now,
        touched_at=now,
    )
    run.save()
    present(learning, run, miss.family.key, now, why={"rule": "mend"}, miss=miss)
    learning.save()
    run.save()
    return run


@transaction.atomic
def submit(learner: User, presentation_id: int, sent: Sent) -> Answered:
    """Take the one answer to a fresh version. Right mends the miss."""
    return take_answer(learner, presentation_id, sent, RULES, _follow)


def _follow(judged: Judged, now: datetime) -> None:
    presentation = judged.question.presentation
    close(presentation, Closing.ANSWERED, now)
    presentation.run.current = presentation
    presentation.run.ended_at = now


@transaction.atomic
def set_aside(learner: User, miss_id: int) -> Miss:
    """Take a miss that is understood off the list, recorded as set aside and not as mended."""
    miss = own_miss(learner, miss_id)
    if miss.state == MissState.OPEN:
        now = clock.now()
        learning = load_learning(learner, default_course())
        learning.seen(miss.family.key)["missed"] = None
        learning.row.save(update_fields=["seen"])
        miss.state = MissState.SET_ASIDE
        miss.closed_at = now
        miss.save(update_fields=["state", "closed_at"])
        for waiting in Presentation.objects.filter(miss=miss, closed_at=None):
            close(waiting, Closing.WITHDRAWN, now)
            waiting.save(update_fields=["closed_at", "closing"])
    return miss
