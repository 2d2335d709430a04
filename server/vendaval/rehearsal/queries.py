"""Questions of the rehearsal: marked when tried, and nothing is stored."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

from django.utils.translation import gettext

from vendaval.bank.models import Course
from vendaval.delivery.disclosure import EVERYTHING
from vendaval.delivery.part_schemas import sound_out
from vendaval.delivery.payload import state_out
from vendaval.delivery.schemas import PartStateOut
from vendaval.shared.errors import NotFound
from vendaval.shared.markdown import to_html, to_inline_html
from vendaval_core.items.presented import figure_out
from vendaval_core.items.versions import Version, make_version
from vendaval_core.packs.reader import family_from_data
from vendaval_core.scoring.feedback import rehearsal_sentence
from vendaval_core.scoring.tries import MISSING, ONE_TRY, QuestionState, Submission, submit

from .schemas import RehearsalOut, RehearsalQuestionOut, TriedOut


@lru_cache(maxsize=4)
def _versions(course_id: int, digest: str) -> dict[str, Version]:
    rows = Course.objects.get(pk=course_id).rehearsal
    families = (family_from_data(key, "", data.model_dump(mode="json")) for key, data in rows)
    return {family.key: make_version(family, 1) for family in families}


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
    for key, version in _versions(course.pk, course.digest).items():
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
    return RehearsalOut(questions=found)


def try_out(course: Course, key: str, responses: Mapping[str, str]) -> TriedOut:
    """Mark a try at one question of the rehearsal."""
    version = _versions(course.pk, course.digest).get(key)
    if version is None:
        raise NotFound(gettext("The rehearsal doesn’t have this question."))
    fresh = QuestionState.fresh(version.parts)
    tried = submit(version, fresh, responses, ONE_TRY)
    complete = not set(tried.results.values()) & MISSING
    state = tried.after if complete else fresh
    return TriedOut(
        states=_states(version, state, responses, tried), says=rehearsal_sentence(tried)
    )
