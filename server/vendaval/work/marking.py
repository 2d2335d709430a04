"""Marks that a person gives: to what no rule marks, or in the place of a mark that a rule gave."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction

from django.utils.translation import gettext

from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.changes import Changes, until_stored
from vendaval.shared.errors import Unprocessable
from vendaval_core.items.mark import Verdict
from vendaval_core.scoring.tries import first_try_category

from .activity import activities
from .models import Mark, MarkRule, Presentation, Try
from .questions import LOADED, OpenQuestion, opened, question_state


@dataclass(frozen=True, slots=True)
class Given:
    """What a person gives a part: its share of the points, 0 to 1, and what they say of it."""

    share: Fraction
    says: str = ""


def mark_by_hand(
    tried: Try, given: Mapping[str, Given], by: User | None, rule: MarkRule = MarkRule.PERSON
) -> OpenQuestion:
    """Mark parts of a try; a mark before stays readable, and this one counts from now on.

    Unprocessable for a part that the try did not answer, or a share outside 0 to 1. The caller
    has asked whether `by` may.
    """

    def work() -> OpenQuestion:
        rows = Presentation.objects.select_related(*LOADED)
        question = opened(rows.get(pk=tried.presentation_id))
        before = question.marks.get(tried.pk, {})
        _refuse(given, before)
        now, changes = clock.now(), Changes(activities().guard(question.enrolment))
        added = {
            part: _mark(tried, part, one, before[part], by, rule) for part, one in given.items()
        }
        for mark in added.values():
            mark.at = now
        changes.add(*added.values())
        question.marks[tried.pk] = {**before, **added}
        question.state = question_state(question.version, question.tries, question.marks)
        counts = activities().of(question.run).counts(question.run)
        if counts and question.state.first_tries_done and not question.state.waits:
            top = question.item.curve.categories
            outcome = first_try_category(question.state, question.version, top)
            first = next(row for row in question.tries if row.first)
            for follower in activities().marked:
                follower(question, first, outcome, now, changes)
        changes.store()
        return question

    return until_stored(work)


def _refuse(given: Mapping[str, Given], before: Mapping[str, Mark]) -> None:
    fields = {part: gettext("was not answered in this try") for part in given if part not in before}
    fields |= {
        part: gettext("a share must be from 0 to 1")
        for part, one in given.items()
        if not 0 <= one.share <= 1
    }
    if fields or not given:
        raise Unprocessable(gettext("You can’t give these marks."), fields=fields)


def _mark(
    tried: Try, part: str, given: Given, before: Mark, by: User | None, rule: MarkRule
) -> Mark:
    verdict = Verdict.PARTLY
    if given.share in {0, 1}:
        verdict = Verdict.RIGHT if given.share == 1 else Verdict.WRONG
    return Mark(
        tried=tried,
        part=part,
        verdict=verdict.value,
        share=str(given.share),
        canonical=before.canonical,
        says=given.says,
        rule=rule,
        by=by,
        revision_id=tried.presentation.revision_id,
        replaces=before,
    )
