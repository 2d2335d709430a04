"""Results of an attempt as files, with the questions or without, as far as they may be told."""

from __future__ import annotations

from typing import Any

from django.utils.translation import gettext, gettext_noop

from vendaval.delivery.answer_words import given_words
from vendaval.shared.tables import FileKind, Table, as_csv, as_xlsx
from vendaval.work.questions import opened
from vendaval.work.replies import last_answers
from vendaval_core.items.markdown import to_words

from ..attempts import answers_of
from ..models import AnswerSoFar, Attempt
from ..taking.queries import told_of
from .queries import results
from .schemas import ResultLineOut, ResultsOut

LINES = (
    "number",
    "section",
    "question",
    "topic",
    "result",
    "points",
    "of",
    "how",
    "seconds",
    "seconds_needed",
    "flagged",
    "note",
)
QUESTIONS = ("text", "answer", "right_answer")
WIDE = {"question": 30, "topic": 24, "how": 34, "note": 30, "text": 60, "answer": 40}
ON_PAPER = gettext_noop("on paper")


def results_file(attempt: Attempt, kind: FileKind, *, questions: bool) -> bytes:
    """One line a question; a workbook has a sheet about the attempt before it."""
    found = results(attempt)
    table = Table(
        "Questions",
        LINES + QUESTIONS if questions else LINES,
        _rows(attempt, found, questions=questions),
        WIDE | {"right_answer": 40},
    )
    if kind == "csv":
        return as_csv(table)
    return as_xlsx((Table("Attempt", ("what", "value"), _facts(found), {"value": 40}), table))


def _rows(attempt: Attempt, found: ResultsOut, *, questions: bool) -> list[tuple[Any, ...]]:
    sections = [section.title for section in found.sections]
    answers = answers_of(attempt)
    _, told = told_of(attempt)
    return [
        _line(line, sections[line.section])
        + (_question(answer, right=told.answers) if questions else ())
        for line, answer in zip(found.lines, answers, strict=True)
    ]


def _line(line: ResultLineOut, section: str) -> tuple[Any, ...]:
    return (
        line.number,
        section,
        line.title,
        line.topic.title if line.topic else "",
        line.result.replace("_", " "),
        _number(line.points),
        _number(line.of),
        line.sum or "",
        line.seconds,
        line.needed,
        line.flagged,
        line.note,
    )


def _number(points: str | None) -> float | None:
    return None if points is None else float(points.replace("−", "-"))


def _question(answer: AnswerSoFar, *, right: bool) -> tuple[str, str, str]:
    """Text, the answer given and, once it may be told, the right one; parts by semicolons."""
    question = opened(answer.presentation)
    given = last_answers(question.tries, question.marks)
    keys = question.version.parts
    said = "; ".join(given_words(key, given.get(key.id, ("", None))[0]) for key in keys)
    text = to_words(f"{question.version.stimulus}\n\n{question.version.prompt}")
    known = "; ".join(to_words(key.right_words()) for key in keys) if right else ""
    return text, said.strip("; ") or (gettext(ON_PAPER) if answer.data.on_paper else ""), known


def _facts(found: ResultsOut) -> list[tuple[str, Any]]:
    attempt, points = found.attempt, found.attempt.points
    facts: list[tuple[str, Any]] = [
        ("test", found.test),
        ("attempt", attempt.number),
        ("begun", attempt.begun),
        (gettext("handed in"), attempt.handed_in),
        (gettext("minutes spent"), found.minutes),
    ]
    if points is None:
        return [*facts, ("points", gettext("not released yet"))]
    facts += [("points", _number(points.reached)), ("of", _number(points.of))]
    if points.waiting:
        return [*facts, (gettext("waiting to be marked"), points.waiting)]
    return [
        *facts,
        (gettext("per cent"), _number(points.per_cent)),
        (gettext("on the scale"), points.scale),
        ("band", points.band),
    ]
