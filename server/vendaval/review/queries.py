"""Misses as Review shows them."""

from __future__ import annotations

from vendaval.bank.queries import default_course
from vendaval.bank.snapshot import family_of, version_of
from vendaval.evidence.models import Miss, MissState, Purpose, Try
from vendaval.evidence.opening import question_state
from vendaval.evidence.queries import miss_counts, open_misses, standings
from vendaval.evidence.questions import question_out
from vendaval.evidence.schemas import PlaceOut
from vendaval.evidence.settings import CHANGE
from vendaval.evidence.state import load_learning
from vendaval.people.models import User
from vendaval.shared.markdown import to_html
from vendaval_core.items.keys import PartKey
from vendaval_core.items.versions import Version
from vendaval_core.mastery.recommend import practice_value
from vendaval_core.scoring.tries import USED_A_TRY
from vendaval_core.scoring.words import answer_words, pieces, right_words

from .actions import mends_left, needs_another_first
from .schemas import ComparisonOut, MissDetailOut, MissListOut, MissOut, MissTopicOut

MOST_SHOWN = 100


def _line(miss: Miss) -> MissOut:
    presentation = miss.presentation
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    return MissOut(
        id=miss.pk,
        title=version.title,
        sure=miss.confidence,
        purpose=Purpose(presentation.purpose),
        at=miss.opened_at,
        failed_mends=miss.failed_mends,
    )


def miss_list(learner: User) -> MissListOut:
    """Open misses: topics by what they would gain, and within one the surest first."""
    learning = load_learning(learner, default_course())
    counts = miss_counts(learner)
    rows = list(open_misses(learner)[:MOST_SHOWN])
    rows.sort(key=lambda miss: -(miss.confidence or 0))
    value = {s.key: practice_value(s, CHANGE) for s in standings(learning, counts)}
    topics = sorted({miss.topic for miss in rows}, key=lambda t: -value.get(t.key, 0.0))
    groups = [
        MissTopicOut(
            topic=PlaceOut(key=topic.key, title=topic.title),
            misses=[_line(miss) for miss in rows if miss.topic_id == topic.pk],
        )
        for topic in topics
    ]
    return MissListOut(total=counts.total(), shown=len(rows), topics=groups)


def _first_tries(version: Version, tries: list[Try]) -> dict[str, Try]:
    """By part the first try that was used on it."""
    found = {}
    for key in version.parts:
        used = (row for row in tries if row.results.get(key.id) in USED_A_TRY)
        first = next(used, None)
        if first is not None:
            found[key.id] = first
    return found


def _compared(key: PartKey, row: Try | None) -> list[ComparisonOut]:
    """A part's answer beside the right one: a row for each of its pieces, or one."""
    response = row.response[key.id] if row else ""
    says = row.marks[key.id]["says"] if row else None
    own = [
        ComparisonOut(
            label=", ".join(text for text in (key.label, piece.label) if text),
            answered=piece.given,
            right_answer=piece.right,
            right=piece.ok,
            says=says if number == 0 else None,
        )
        for number, piece in enumerate(pieces(key, response))
    ]
    return own or [
        ComparisonOut(
            label=key.label,
            answered=answer_words(key, response),
            right_answer=right_words(key),
            right=row is not None and row.results[key.id] in {"right", "noted"},
            says=says,
        )
    ]


def miss_detail(learner: User, miss: Miss) -> MissDetailOut:
    """A miss with answer, right answer, worked solution and what can be done about it."""
    learning = load_learning(learner, default_course())
    presentation = miss.presentation
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    tries = list(presentation.tries.order_by("number"))
    state = question_state(version, tries)
    live = miss.family.key in learning.bank.families
    left, note = 0, "This question was taken out of the course."
    if live:
        left = mends_left(miss, learning)
        note = "Two fresh ones went wrong. Read the section first, then two more are here."
        if needs_another_first(miss, learning):
            left, note = 0, "This question has one version only. Answer another question first."
    first = next((row for row in tries if row.first), tries[0])
    firsts = _first_tries(version, tries)
    question = question_out(presentation, version, state, tries, learning.bank, in_review=True)
    return MissDetailOut(
        id=miss.pk,
        state=MissState(miss.state),
        question=question,
        given={part: row.response[part] for part, row in firsts.items()},
        comparison=[row for key in version.parts for row in _compared(key, firsts.get(key.id))],
        sure=miss.confidence,
        seconds=round(first.seconds),
        at=first.at,
        purpose=Purpose(presentation.purpose),
        solution=[to_html(step) for step in version.solution],
        source=family_of(presentation.revision).source,
        study=question.study,
        mends_left=left,
        mend_note=note if left == 0 else None,
        failed_mends=miss.failed_mends,
    )
