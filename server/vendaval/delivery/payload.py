"""A question as its learner may see it: the one place that puts keys and solutions into a payload.

No models: what is stored comes as plain values, what may be told as a `Disclosure`.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from vendaval.bank.snapshot import CourseBank
from vendaval.shared.markdown import to_html, to_inline_html
from vendaval_core.items.kinds.protocol import Key
from vendaval_core.items.model import Family
from vendaval_core.items.presented import PointOut, figure_out
from vendaval_core.items.versions import Version
from vendaval_core.mastery.practice import LIKELY_ENOUGH
from vendaval_core.measure.level import LevelReading
from vendaval_core.scoring.tries import ONE_TRY, PartState, QuestionState, TryRules

from .disclosure import EVERYTHING, Disclosure
from .part_schemas import PieceOut, sound_out
from .rich_html import answer_html
from .schemas import Can, PartStateOut, PlaceOut, QuestionOut, ReadBackOut, ReadingOut, StudyLinkOut

Answer = tuple[str, str | None]
NO_ANSWER: Answer = ("", None)


def read_back_out(version: Version, responses: Mapping[str, str]) -> list[ReadBackOut]:
    """How what stands in each part is read, by nothing that tells what is right."""
    read = ((key.id, key.read_back(responses.get(key.id, ""))) for key in version.parts)
    return [ReadBackOut(id=part, state=one.state, says=one.says) for part, one in read]


def reading_out(reading: LevelReading) -> ReadingOut:
    """A reading as shown: whole numbers, no level while the interval is too wide."""
    return ReadingOut(
        level=round(reading.level) if reading.known else None,
        middle=round(reading.level, 1),
        low=round(reading.low, 1),
        high=round(reading.high, 1),
        target=round(reading.target),
        chance=round(reading.chance, 2),
        at_target=reading.chance >= LIKELY_ENOUGH,
    )


def state_out(
    key: Key,
    state: QuestionState,
    rules: TryRules,
    answer: Answer,
    open_: bool,
    disclosure: Disclosure,
) -> PartStateOut:
    """How a part stands. answer: the latest one and what was said to it."""
    part = state.parts[key.id]
    closed = part.closed(rules) or not open_
    revealed = closed and disclosure.answers
    told = key.pieces(answer[0]) if revealed else []
    return PartStateOut(
        id=key.id,
        state=_state(part, closed) if disclosure.outcome else _untold(part, closed),
        share=float(part.best) if disclosure.outcome else 0.0,
        tries=len(part.answers),
        answer=answer[0],
        answer_html=answer_html(answer[0]) if closed and _is_written(key) and answer[0] else None,
        says=answer[1] if disclosure.parts else None,
        right_answer=key.right_words() if revealed and not told else None,
        pieces=[
            PieceOut(
                label=p.label,
                given=p.given if part.answers else None,
                right=p.right,
                ok=p.ok if part.answers else None,
            )
            for p in told
        ],
        right_points=_right_points(key) if revealed else [],
    )


def _state(
    part: PartState, closed: bool
) -> Literal["open", "right", "noted", "closed", "unanswered"]:
    if part.right:
        return "right" if part.marked else "noted"
    if not closed:
        return "open"
    return "closed" if part.answers else "unanswered"


def _untold(part: PartState, closed: bool) -> Literal["open", "given", "unanswered"]:
    if not closed:
        return "open"
    return "given" if part.answers else "unanswered"


def _is_written(key: Key) -> bool:
    return key.by_person is not None and key.by_person.shown_as == "extended_text"


def _right_points(key: Key) -> list[PointOut]:
    """Where points belong, to be drawn beside those given."""
    return [PointOut(x=round(x, 4), y=round(y, 4)) for x, y in key.right_points()]


def _worth_now(state: QuestionState, rules: TryRules, disclosure: Disclosure) -> str:
    """What can still be earned, as a share of the points: all of it while right or wrong is held
    back, for less would say that something was wrong."""
    worth = state.worth_now(rules) if disclosure.outcome else rules.worth(0)
    return f"{float(worth):.2f}".rstrip("0").rstrip(".")


def study_link(bank: CourseBank, family: Family) -> StudyLinkOut:
    """Where a family's idea is explained; it need not be live any more."""
    topic, section = bank.section(family.study, family.topic)
    return StudyLinkOut(
        topic=topic.key, section=section.key, title=section.title, minutes=section.minutes
    )


@dataclass(frozen=True, slots=True)
class Shown:
    """What is stored of a presentation, as far as its learner sees it.

    answers: by part the last response that used a try and what was said of it. swap: topic of the
    question offered in its place. fresh_left: fresh versions still to be had.
    """

    id: int
    number: int
    closed: bool
    untouched: bool
    hints_shown: int
    answers: Mapping[str, Answer]
    can: Sequence[Can]
    swap: PlaceOut | None
    fresh_left: int


@dataclass(frozen=True, slots=True)
class Where:
    """Where a family belongs: its topic, and where its idea is explained."""

    topic: PlaceOut
    study: StudyLinkOut

    @classmethod
    def of(cls, bank: CourseBank, family: Family) -> Where:
        """Where one of a course belongs."""
        topic = bank.topic(family.topic)
        return cls(PlaceOut(key=topic.key, title=topic.title), study_link(bank, family))


def question_out(
    shown: Shown,
    version: Version,
    family: Family,
    state: QuestionState,
    rules: TryRules,
    disclosure: Disclosure,
    where: Where,
) -> QuestionOut:
    """A question as its learner may see it now. where: it belongs."""
    return QuestionOut(
        id=shown.id,
        can=list(shown.can),
        number=shown.number,
        title=version.title,
        topic=where.topic,
        prompt_html=to_html(version.prompt),
        parts=[key.presented(to_inline_html) for key in version.parts],
        figure=figure_out(version.figure),
        stimulus_html=to_html(version.stimulus) if version.stimulus else None,
        sound=sound_out(version.sound, version.sound_words),
        states=[
            state_out(
                key,
                state,
                rules,
                shown.answers.get(key.id, NO_ANSWER),
                not shown.closed,
                disclosure,
            )
            for key in version.parts
        ],
        closed=shown.closed,
        untouched=shown.untouched,
        tries_left=0 if shown.closed else state.tries_left(rules),
        tries_all=rules.tries,
        worth_now=_worth_now(state, rules, disclosure),
        share=float(state.score(rules)) if disclosure.outcome else 0.0,
        outcome=state.outcome if disclosure.outcome else None,
        hints=[to_html(text) for text in version.hints[: shown.hints_shown]],
        hints_left=len(version.hints) - shown.hints_shown if "hint" in shown.can else 0,
        fresh_left=shown.fresh_left,
        solution=[to_html(step) for step in version.solution] if disclosure.solution else None,
        solution_figure=figure_out(version.solution_figure) if disclosure.solution else None,
        source=family.source if disclosure.solution else None,
        study=where.study,
        swap=shown.swap if not shown.closed else None,
    )


def told_whole(
    version: Version,
    family: Family,
    where: Where,
    number: int,
    state: QuestionState | None = None,
    answers: Mapping[str, Answer] | None = None,
) -> QuestionOut:
    """A version with everything told, for staff. state, answers: what they tried in it."""
    as_shown = Shown(
        id=0,
        number=number,
        closed=True,
        untouched=not answers,
        hints_shown=len(version.hints),
        answers=answers or {},
        can=[],
        swap=None,
        fresh_left=0,
    )
    now = QuestionState.fresh(version.parts) if state is None else state
    return question_out(as_shown, version, family, now, ONE_TRY, EVERYTHING, where)
