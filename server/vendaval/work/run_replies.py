"""A run as shown while answering: what all activities share."""

from __future__ import annotations

from typing import Literal

from vendaval.bank.snapshot import course_bank
from vendaval.delivery.schemas import PlaceOut, StudyLinkOut
from vendaval.shared import clock

from .activity import activities
from .models import Purpose, Run
from .schemas import GoalOut, IdeaOut, LeftOut, RunOut, TopicProgressOut


def run_out(
    run: Run,
    *,
    left: LeftOut | None = None,
    suggest_stop: Literal["long", "rapid"] | None = None,
    wanted: str | None = None,
    goal: GoalOut | None = None,
    ideas: list[IdeaOut] | None = None,
    miss: int | None = None,
    next_miss: int | None = None,
    miss_order: Literal["topic", "sure", "newest"] | None = None,
    study_first: StudyLinkOut | None = None,
    topics: list[TopicProgressOut] | None = None,
) -> RunOut:
    """A run with what its activity says of it."""
    bank = course_bank(run.enrolment.course)
    return RunOut(
        id=run.pk,
        purpose=Purpose(run.purpose),
        title=run.title,
        scope=[PlaceOut(key=topic.key, title=topic.title) for topic in bank.topics_of(run.scope)],
        answered=run.answered,
        ended=run.ended_at is not None,
        saved_at=run.touched_at,
        left=left,
        suggest_stop=suggest_stop,
        miss=miss,
        next_miss=next_miss,
        miss_order=miss_order,
        study_first=study_first,
        wanted=wanted,
        goal=goal,
        ideas=ideas or [],
        spell=run.spell,
        time_is_up=run.spell is not None and activities().time_is_up(run, clock.now()),
        topics=topics or [],
    )
