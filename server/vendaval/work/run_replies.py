"""A run as shown while answering: what all activities share."""

from __future__ import annotations

from vendaval.bank.snapshot import course_bank
from vendaval.delivery.payload import study_link
from vendaval.delivery.schemas import PlaceOut, StudyLinkOut

from .kept import MendNote, PracticeNote
from .models import Purpose, Run
from .schemas import LeftOut, RunOut, TopicProgressOut


def _study_first(run: Run) -> StudyLinkOut | None:
    """The section to open before the run goes on."""
    bank = course_bank(run.enrolment.course)
    owed = run.note.study_first if isinstance(run.note, PracticeNote) else None
    if owed is None or run.ended_at is not None or owed.family not in bank.families:
        return None
    return study_link(bank, bank.families[owed.family].family)


def run_out(
    run: Run,
    *,
    left: LeftOut | None = None,
    suggest_stop: bool = False,
    wanted: str | None = None,
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
        miss=run.note.miss if isinstance(run.note, MendNote) else None,
        study_first=_study_first(run),
        wanted=wanted,
        topics=topics or [],
    )
