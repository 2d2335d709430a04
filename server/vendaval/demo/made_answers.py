"""Many first answers put into the log at once, marked as everybody's: for the demo and for tests.

No learner's state is made of them; it is made from the log when somebody first asks for it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import uuid4

from vendaval.bank.models import Family
from vendaval.bank.snapshot import course_bank, version_of
from vendaval.groups.models import Enrolment
from vendaval.levels.columns import ReadingData
from vendaval.levels.models import Observation
from vendaval.work.columns import Reply
from vendaval.work.models import (
    Closing,
    Mark,
    MarkRule,
    Presentation,
    Run,
    Try,
    TryKind,
    Visibility,
)
from vendaval_core.scoring.tries import (
    ONE_TRY,
    QuestionState,
    first_try_category,
    submit,
)

SAID = Reply(verdict="not_counted", headline="", detail="")
AT_ONCE = 200


@dataclass(frozen=True, slots=True)
class Made:
    """A first answer to a version of a family, by part. level: the learner's then."""

    enrolment: Enrolment
    family: Family
    seed: int
    response: dict[str, str]
    at: datetime
    level: float = 50.0
    visibility: Visibility = Visibility.ALL


def store_answers(made: Sequence[Made]) -> None:
    """Keep them all, in a run for each learner and topic."""
    runs: dict[tuple[int, int], Run] = {}
    shown, tried, marks, seen = [], [], [], []
    for one in made:
        place = one.enrolment.pk, one.family.topic_id
        run = runs.setdefault(place, _run(one))
        run.presented = run.answered = run.presented + 1
        presentation = _presentation(one, run)
        shown.append(presentation)
        row, own, outcome, of = _marked(one, presentation)
        tried.append(row)
        marks += own
        seen.append(_observation(one, row, outcome, of))
    Run.objects.bulk_create(runs.values(), AT_ONCE)
    Presentation.objects.bulk_create(shown, AT_ONCE)
    Try.objects.bulk_create(tried, AT_ONCE)
    Mark.objects.bulk_create(marks, AT_ONCE)
    Observation.objects.bulk_create(seen, AT_ONCE)


def _run(one: Made) -> Run:
    return Run(
        enrolment=one.enrolment,
        purpose="practice",
        title=one.family.topic.title,
        scope=[one.family.topic.key],
        started_at=one.at,
        touched_at=one.at,
        ended_at=one.at,
    )


def _presentation(one: Made, run: Run) -> Presentation:
    return Presentation(
        run=run,
        revision=one.family.latest,
        seed=one.seed,
        number=run.presented,
        tried=1,
        made_at=one.at,
        shown_at=one.at,
        closed_at=one.at,
        closing=Closing.ANSWERED,
        visibility=one.visibility,
    )


def _marked(one: Made, shown: Presentation) -> tuple[Try, list[Mark], int, int]:
    shown.revision.family = one.family
    version = version_of(shown.revision, one.seed, 0)
    fresh = QuestionState.fresh(version.parts)
    sent = submit(version, fresh, one.response, ONE_TRY, final=True)
    of = course_bank(one.family.course).families[one.family.key].curve.categories
    row = Try(
        enrolment=one.enrolment,
        presentation=shown,
        family=one.family,
        topic=one.family.topic,
        replay_key=uuid4().hex,
        kind=TryKind.ANSWER,
        number=1,
        first=True,
        seconds=shown.revision.data.seconds,
        reply=SAID,
        at=one.at,
    )
    row.response = one.response
    marks = [
        Mark(
            tried=row,
            part=part,
            verdict=mark.verdict.value,
            share=str(mark.share),
            canonical=mark.canonical,
            says=mark.says or "",
            rule=MarkRule.KEY,
            revision=shown.revision,
            at=one.at,
        )
        for part, mark in sent.marks.items()
    ]
    return row, marks, first_try_category(sent.after, version, of), of


def _observation(one: Made, row: Try, outcome: int, of: int) -> Observation:
    near = ReadingData(
        level=one.level,
        low=max(0.0, one.level - 12),
        high=min(100.0, one.level + 12),
        sd=0.5,
        target=80.0,
        chance=0.5,
    )
    return Observation(
        enrolment=one.enrolment,
        tried=row,
        family=one.family,
        topic=one.family.topic,
        outcome=outcome,
        of=of,
        weight=1.0,
        reason="full",
        sitting=1,
        learning=True,
        before=near,
        after=near,
        at=one.at,
    )
