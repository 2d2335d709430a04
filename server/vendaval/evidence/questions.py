"""What a learner may see of a question: the one place that lets keys and solutions out."""

from __future__ import annotations

from vendaval.bank.snapshot import CourseBank, family_of
from vendaval.shared.markdown import to_html
from vendaval_core.items.keys import PartKey, WrittenKey
from vendaval_core.items.model import Family
from vendaval_core.items.versions import Version
from vendaval_core.measure.level import LevelReading
from vendaval_core.scoring.tries import (
    ONE_TRY,
    PRACTICE_TRIES,
    USED_A_TRY,
    QuestionState,
    TryRules,
)
from vendaval_core.scoring.words import pieces, right_words

from .models import Closing, Presentation, Purpose, Try
from .part_schemas import PieceOut
from .parts_out import figure_out, part_out, right_points_out, sound_out
from .schemas import PartStateOut, PlaceOut, QuestionOut, ReadingOut, StudyLinkOut

FRESH_VERSIONS = 4


def rules_of(purpose: str) -> TryRules:
    """Tries and penalties for a purpose: one try unless practising."""
    return PRACTICE_TRIES if purpose == Purpose.PRACTICE else ONE_TRY


def reading_out(reading: LevelReading) -> ReadingOut:
    """A reading as shown: whole numbers, no level while the interval is too wide."""
    return ReadingOut(
        level=round(reading.level) if reading.known else None,
        middle=round(reading.level, 1),
        low=round(reading.low, 1),
        high=round(reading.high, 1),
        target=round(reading.target),
        chance=round(reading.chance, 2),
    )


def last_answers(tries: list[Try]) -> dict[str, tuple[str, str | None]]:
    """By part: the last response that used a try and what was said of it."""
    found: dict[str, tuple[str, str | None]] = {}
    for row in tries:
        for part, result in row.results.items():
            if result in USED_A_TRY:
                found[part] = (row.response[part], row.marks[part]["says"])
    return found


def state_out(
    key: PartKey,
    state: QuestionState,
    rules: TryRules,
    answer: tuple[str, str | None],
    open_: bool,
    reveal: bool,
) -> PartStateOut:
    """How a part stands. answer: the latest one and what was said to it."""
    part = state.parts[key.id]
    closed = part.closed(rules) or not open_
    return PartStateOut(
        id=key.id,
        state="noted"
        if part.right and not part.marked
        else "right"
        if part.right
        else "closed"
        if closed
        else "open",
        share=float(max(part.shares, default=0)),
        tries=len(part.answers),
        answer=answer[0],
        answer_html=to_html(answer[0]) if closed and _is_written(key) and answer[0] else None,
        says=answer[1],
        right_answer=right_words(key) if closed and reveal else None,
        pieces=[
            PieceOut(label=p.label, given=p.given, right=p.right, ok=p.ok)
            for p in pieces(key, answer[0])
        ]
        if closed and reveal and part.answers
        else [],
        right_points=right_points_out(key) if closed and reveal else [],
    )


def _is_written(key: PartKey) -> bool:
    return isinstance(key, WrittenKey) and key.kind == "extended_text"


def study_link(bank: CourseBank, family: Family) -> StudyLinkOut:
    """Where a family's idea is explained; it need not be live any more."""
    topic, section = bank.section(family.study, family.topic)
    return StudyLinkOut(
        topic=topic.key, section=section.key, title=section.title, minutes=section.minutes
    )


def question_out(
    presentation: Presentation,
    version: Version,
    state: QuestionState,
    tries: list[Try],
    bank: CourseBank,
    *,
    fresh_used: int = 0,
    in_review: bool = False,
) -> QuestionOut:
    """A question as its learner may see it now.

    Solutions and right answers are in it once the presentation is closed, and for a diagnostic
    only in review: there, help would spoil the picture.
    """
    rules = rules_of(presentation.purpose)
    diagnostic = presentation.purpose == Purpose.DIAGNOSTIC
    closed = presentation.closed_at is not None
    reveal = closed and (in_review or not diagnostic)
    shows_parts = not diagnostic or in_review
    answers = last_answers(tries)
    family = family_of(presentation.revision)
    topic = bank.topic(family.topic)
    swap = presentation.why.get("swap_topic")
    hints = [to_html(text) for text in version.hints[: presentation.hints_shown]]
    practising = presentation.purpose == Purpose.PRACTICE
    return QuestionOut(
        id=presentation.pk,
        purpose=Purpose(presentation.purpose),
        number=presentation.number,
        title=version.title,
        topic=PlaceOut(key=topic.key, title=topic.title),
        prompt_html=to_html(version.prompt),
        parts=[part_out(key) for key in version.parts],
        figure=figure_out(version.figure),
        stimulus_html=to_html(version.stimulus) if version.stimulus else None,
        sound=sound_out(version.sound, version.sound_words),
        states=[
            state_out(key, state, rules, answers.get(key.id, ("", None)), not closed, shows_parts)
            for key in version.parts
        ],
        closed=closed,
        untouched=not tries,
        tries_left=0 if closed else state.tries_left(rules),
        tries_all=rules.tries,
        worth_now=f"{float(state.worth_now(rules)):.2f}".rstrip("0").rstrip("."),
        share=float(state.score(rules)),
        hints=hints,
        hints_left=len(version.hints) - presentation.hints_shown if practising else 0,
        fresh_left=max(0, FRESH_VERSIONS - fresh_used) if practising else 0,
        solution=[to_html(step) for step in version.solution] if reveal else None,
        solution_figure=figure_out(version.solution_figure) if reveal else None,
        source=family.source if reveal else None,
        study=study_link(bank, family),
        swap=PlaceOut(**swap) if swap and not closed else None,
    )


def closing_of(state: QuestionState, presentation: Presentation) -> Closing | None:
    """How a presentation closes after a try, None while something is left to try."""
    return Closing.ANSWERED if state.closed(rules_of(presentation.purpose)) else None
