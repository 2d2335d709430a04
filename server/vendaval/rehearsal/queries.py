"""Questions of the rehearsal: marked when tried, and nothing is stored."""

from __future__ import annotations

from collections.abc import Mapping

from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.bank.snapshot import course_bank, version_of
from vendaval.delivery.disclosure import EVERYTHING
from vendaval.delivery.part_schemas import sound_out
from vendaval.delivery.payload import state_out
from vendaval.delivery.schemas import PartStateOut
from vendaval.shared.errors import NotFound
from vendaval.shared.markdown import to_html, to_inline_html
from vendaval_core.items.presented import figure_out
from vendaval_core.items.versions import Version
from vendaval_core.scoring.feedback import rehearsal_sentence
from vendaval_core.scoring.tries import MISSING, ONE_TRY, QuestionState, Submission, submit

from .schemas import RehearsalOut, RehearsalQuestionOut, TriedOut


def _states(
    version: Version, state: QuestionState, responses: Mapping[str, str], tried: Submission | None
) -> list[PartStateOut]:
    marks = tried.marks if tried else {}
    return [
        state_out(
            key,
            state,
            ONE_TRY,
            (
                responses.get(key.id, "") if state.parts[key.id].answers else "",
                marks[key.id].says if key.id in marks else None,
            ),
            open_=True,
            disclosure=EVERYTHING,
        )
        for key in version.parts
    ]


def rehearsal(course: Course) -> RehearsalOut:
    """Every question of the rehearsal."""
    found = []
    for key, item in course_bank(course).rehearsed.items():
        version = version_of(item.revision, 1, 0)
        state = QuestionState.fresh(version.parts)
        found.append(
            RehearsalQuestionOut(
                key=key,
                title=version.title,
                prompt_html=to_html(version.prompt),
                stimulus_html=to_html(version.stimulus) if version.stimulus else None,
                figure=figure_out(version.figure),
                sound=sound_out(version.sound, version.sound_words),
                parts=[part.presented(to_inline_html) for part in version.parts],
                states=_states(version, state, {}, None),
                tips=[to_html(tip) for tip in version.hints],
            )
        )
    return RehearsalOut(whole=course.rehearsal is not None, questions=found)


def try_out(course: Course, key: str, responses: Mapping[str, str]) -> TriedOut:
    """Mark a try at one question of the rehearsal."""
    item = course_bank(course).rehearsed.get(key)
    if item is None:
        raise NotFound(gettext("The rehearsal doesn’t have this question."))
    version = version_of(item.revision, 1, 0)
    fresh = QuestionState.fresh(version.parts)
    tried = submit(version, fresh, responses, ONE_TRY)
    complete = not set(tried.results.values()) & MISSING
    state = tried.after if complete else fresh
    return TriedOut(
        states=_states(version, state, responses, tried), says=rehearsal_sentence(tried)
    )
