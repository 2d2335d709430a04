"""What was sent becomes a try with its marks: in memory, before any lock is graded."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime

from vendaval_core.items.mark import Verdict
from vendaval_core.measure.evidence import seconds_had
from vendaval_core.measure.level import LevelReading
from vendaval_core.measure.response import NOT_TAUGHT, Outcome
from vendaval_core.scoring.tries import Submission, TryRules, first_try_category, submit

from .columns import WorkingNote
from .models import Mark, MarkRule, Presentation, Try, TryKind
from .questions import OpenQuestion, refuse_closed


@dataclass(frozen=True, slots=True)
class Sent:
    """What a learner sent. confidence: chance of being right in per cent, if it was given.
    working: their working area, if anything is in it. seconds: in view, where that was counted."""

    replay_key: str
    responses: Mapping[str, str]
    confidence: int | None = None
    kind: TryKind = TryKind.ANSWER
    working: WorkingNote | None = None
    seconds: float | None = None


@dataclass(slots=True)
class Moved:
    """What a first try did: its weight and why, the level before and after, a target met. answers:
    that its topic has with it."""

    weight: float
    reason: str
    before: LevelReading
    after: LevelReading
    answers: int
    met_says: str | None = None


@dataclass(slots=True)
class Graded:
    """A try that is marked but not stored. outcome: category once every part had its first try.

    had: seconds the learner had for it, if known. moved: by the measurement. mended: it took a
    miss off the list. detail: said in the place of the feedback's own.
    """

    question: OpenQuestion
    row: Try
    submission: Submission | None = None
    marks: list[Mark] = field(default_factory=list)
    outcome: Outcome | None = None
    had: float | None = None
    moved: Moved | None = None
    mended: bool = False
    detail: str | None = None

    @property
    def counts(self) -> bool:
        """Whether a try was used."""
        return self.submission is None or self.submission.counted

    @property
    def top(self) -> int:
        """The best outcome of the question."""
        return self.question.item.curve.categories - 1

    @property
    def missed(self) -> bool:
        """Whether the first tries fell short of full points."""
        return isinstance(self.outcome, int) and not self.question.first_right

    @property
    def right(self) -> bool:
        """Whether every part was right at its first try."""
        return isinstance(self.outcome, int) and self.question.first_right


def grade(
    question: OpenQuestion,
    sent: Sent,
    *,
    rules: TryRules,
    whole: bool,
    now: datetime,
    final: bool = False,
) -> Graded:
    """Mark what was sent to an open question.

    whole: nothing counts until every part has an answer. final: nothing more will come, so what
    is missing is wrong, and what can't be read waits for a person.
    """
    refuse_closed(question)
    presentation = question.presentation
    row = Try(
        enrolment=question.enrolment,
        presentation=presentation,
        family_id=question.item.id,
        topic_id=question.bank.topics[question.item.topic].id,
        replay_key=sent.replay_key,
        kind=sent.kind,
        number=presentation.tried + 1,
        confidence=sent.confidence,
        working=sent.working,
        seconds=_seconds(presentation, now) if sent.seconds is None else sent.seconds,
        at=now,
    )
    graded = Graded(question, row)
    graded.had = _had(presentation, now) if sent.seconds is None else sent.seconds or None
    if sent.kind is TryKind.NOT_TAUGHT:
        graded.outcome = NOT_TAUGHT
    else:
        _mark(graded, sent, rules, whole, final)
    submission = graded.submission
    row.first = submission is None or final or submission.completes_first_tries
    return graded


def _seconds(presentation: Presentation, now: datetime) -> float:
    return max(0.0, (now - (presentation.shown_at or presentation.made_at)).total_seconds())


def _had(presentation: Presentation, now: datetime) -> float | None:
    shown = presentation.shown_at
    return seconds_had(
        None if shown is None else (shown - presentation.made_at).total_seconds(),
        (now - presentation.made_at).total_seconds(),
    )


def _mark(graded: Graded, sent: Sent, rules: TryRules, whole: bool, final: bool) -> None:
    question, row = graded.question, graded.row
    question.sent = sent.responses
    submission = submit(
        question.version, question.state, sent.responses, rules, whole=whole, final=final
    )
    graded.submission = submission
    if not submission.counted:
        return
    row.response = {p: text for p, text in sent.responses.items() if p in submission.results}
    graded.marks = [
        Mark(
            tried=row,
            part=part,
            verdict=mark.verdict.value,
            share="" if mark.verdict is Verdict.NOTED else str(mark.share),
            canonical=mark.canonical,
            says=mark.says or "",
            rule=MarkRule.KEY,
            revision_id=question.presentation.revision_id,
            at=row.at,
        )
        for part, mark in submission.marks.items()
        if submission.used(part)
    ]
    settled = final or submission.completes_first_tries
    if settled and not (submission.after.answer_waits if final else submission.after.waits):
        graded.outcome = first_try_category(submission.after, question.version, graded.top + 1)
    question.state = submission.after
