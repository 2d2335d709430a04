"""Misses as Review shows them."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import groupby

from django.utils.translation import gettext

from vendaval.bank.snapshot import family_of, version_of
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning, learning_of
from vendaval.shared.errors import Conflict
from vendaval.shared.markdown import to_html
from vendaval.work.models import Mark, Purpose, Try
from vendaval.work.questions import (
    in_open_test,
    question_state,
    shown_in_test,
    tries_of,
    waits_elsewhere,
)
from vendaval.work.replies import last_answers, shown_question, working_area
from vendaval_core.items.kinds.protocol import Key
from vendaval_core.items.versions import Version

from .activity import mends_left, needs_another_first, own_miss
from .models import Miss, MissState
from .order import miss_counts, ordered_misses
from .run import MissOrder
from .schemas import ComparisonOut, MissDetailOut, MissListOut, MissOut, MissTopicOut

MOST_SET_ASIDE = 20
SURE = 90

GivenMarks = tuple[Try, Mark]


def sure_misses(enrolment: Enrolment) -> int:
    """Open misses that were given with a confidence of 90 % or more."""
    return Miss.objects.filter(enrolment=enrolment, state=MissState.OPEN, sure__gte=SURE).count()


def _line(miss: Miss) -> MissOut:
    presentation = miss.presentation
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    return MissOut(
        id=miss.pk,
        title=version.title,
        topic=PlaceOut(key=miss.topic.key, title=miss.topic.title),
        sure=miss.sure or None,
        purpose=Purpose(presentation.run.purpose),
        at=miss.opened_at,
        failed_mends=miss.failed_mends,
    )


def miss_list(enrolment: Enrolment, order: MissOrder = "topic") -> MissListOut:
    """Open misses in an order: by topic in groups, else in one."""
    rows = ordered_misses(enrolment, order)

    def group_of(miss: Miss) -> int | None:
        return miss.topic_id if order == "topic" else None

    groups = []
    for topic, several in groupby(rows, key=group_of):
        misses = list(several)
        place = PlaceOut(key=misses[0].topic.key, title=misses[0].topic.title)
        groups.append(
            MissTopicOut(
                topic=place if topic is not None else None, misses=[_line(one) for one in misses]
            )
        )
    aside = (
        Miss.objects.filter(enrolment=enrolment, state=MissState.SET_ASIDE)
        .select_related("topic", "presentation__run", "presentation__revision__family__topic")
        .order_by("-closed_at", "-pk")[:MOST_SET_ASIDE]
    )
    return MissListOut(
        total=miss_counts(enrolment).total(),
        order=order,
        shown=len(rows),
        topics=groups,
        set_aside=[_line(miss) for miss in aside],
    )


def _first_given(
    version: Version, tries: list[Try], marks: Mapping[int, Mapping[str, Mark]]
) -> dict[str, GivenMarks]:
    """By part the first try that was used on it, and its mark."""
    found: dict[str, GivenMarks] = {}
    for row in tries:
        for part, mark in marks.get(row.pk, {}).items():
            found.setdefault(part, (row, mark))
    return {key.id: found[key.id] for key in version.parts if key.id in found}


def _compared(key: Key, given: GivenMarks | None, told: bool) -> list[ComparisonOut]:
    """A part's answer beside the right one: a row for each of its pieces, or one. told: whether
    the right answer may be told."""
    response = given[0].response.get(key.id, "") if given else ""
    says = (given[1].says or None) if given else None
    if not told:
        right = given is not None and given[1].verdict in {"right", "noted"}
        whole = [(key.label, key.answer_words(response), right)]
        several = [(p.label, p.given, None) for p in key.pieces(response)]
        return [
            ComparisonOut(
                label=label,
                answered=words,
                right_answer=None,
                right=ok,
                says=None if several else says,
            )
            for label, words, ok in several or whole
        ]
    own = [
        ComparisonOut(
            label=", ".join(text for text in (key.label, piece.label) if text),
            answered=piece.given,
            right_answer=piece.right,
            right=piece.ok,
            says=None,
        )
        for piece in key.pieces(response)
    ]
    return own or [
        ComparisonOut(
            label=key.label,
            answered=key.answer_words(response),
            right_answer=key.right_words(),
            right=given is not None and given[1].verdict in {"right", "noted"},
            says=says,
        )
    ]


def _fresh_left(miss: Miss, learning: Learning) -> tuple[int, str]:
    """How many fresh versions may be tried now, and what to say when there are none."""
    if miss.family.key not in learning.bank.families:
        return 0, gettext("This question was removed from the course.")
    if needs_another_first(miss, learning):
        return 0, gettext("This question has only one version. Answer another question first.")
    return mends_left(miss, learning), gettext(
        "You got two fresh ones wrong. Read the section first. Then you get two more."
    )


def _feedback_given(version: Version, given: Mapping[str, tuple[Try, Mark]]) -> list[str]:
    """Feedback to the parts that are compared piece by piece, where they were not right."""
    marks = [given[key.id][1] for key in version.parts if key.id in given and key.pieces("")]
    return [mark.says for mark in marks if mark.says and mark.verdict != "right"]


def miss_detail(enrolment: Enrolment, miss_id: int) -> MissDetailOut:
    """A miss with answer, right answer, worked solution and what can be done about it.

    While its question is still open, here or where the same version waits, right answers and
    solution wait too.
    """
    learning, miss = learning_of(enrolment), own_miss(enrolment, miss_id)
    presentation = miss.presentation
    if shown_in_test(enrolment, presentation):
        raise Conflict(
            gettext("This question is {in_open_test}. It comes back after the test.").format(
                in_open_test=in_open_test()
            ),
            code="open_in_test",
        )
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    tries, marks = tries_of(presentation)
    state = question_state(version, tries, marks)
    first = next((row for row in tries if row.first), tries[0])
    given = _first_given(version, tries, marks)
    question = shown_question(
        presentation,
        version,
        state,
        last_answers(tries, marks),
        in_review=True,
        open_elsewhere=waits_elsewhere(enrolment, presentation),
    )
    told = question.solution is not None
    left, why_none = _fresh_left(miss, learning)
    return MissDetailOut(
        id=miss.pk,
        state=MissState(miss.state),
        question=question,
        given={part: row.response.get(part, "") for part, (row, _) in given.items()},
        comparison=[
            row for key in version.parts for row in _compared(key, given.get(key.id), told)
        ],
        says=_feedback_given(version, given) if told else [],
        sure=miss.sure or None,
        seconds=round(first.seconds),
        at=first.at,
        purpose=Purpose(presentation.run.purpose),
        solution=[to_html(step) for step in version.solution] if told else [],
        source=family_of(presentation.revision).source if told else None,
        study=question.study,
        mends_left=left,
        mend_note=why_none if left == 0 else None,
        failed_mends=miss.failed_mends,
        working=working_area(tries),
    )
