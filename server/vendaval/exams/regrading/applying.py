"""A regrade brought to each attempt of a test, once, and undone by the same way."""

from __future__ import annotations

from fractions import Fraction

from django.db.models import F
from django.utils.translation import gettext

from vendaval.levels.learning import learning_of
from vendaval.levels.observations import set_counting
from vendaval.shared import clock
from vendaval.shared.changes import Changes, until_stored
from vendaval.work.activity import activities
from vendaval.work.marking import Given, mark_by_hand
from vendaval.work.models import Mark, MarkRule
from vendaval.work.questions import OpenQuestion

from ..attempts import handed_in_attempts
from ..columns import TotalData
from ..models import Attempt, Regrade, RegradedAttempt, RegradeState
from ..points import ADJUSTED, opened_places, recount_points
from .changing import new_shares


def apply_all(row: Regrade) -> None:
    """Apply a regrade to every attempt that is over; what is done already is not done again. One
    that was undone is applied no more."""
    waiting = (RegradeState.WAITING, RegradeState.APPLYING, RegradeState.APPLIED)
    rows = Regrade.objects.filter(pk=row.pk, state__in=waiting)
    done = set(row.attempts.values_list("attempt", flat=True))
    left = [attempt for attempt in handed_in_attempts(row.assignment) if attempt.pk not in done]
    if not rows.update(state=RegradeState.APPLYING, done=len(done), of=len(done) + len(left)):
        return
    for attempt in left:
        _apply(row, attempt)
    rows.update(state=RegradeState.APPLIED)


def _apply(row: Regrade, attempt: Attempt) -> None:
    before = attempt.total
    for question in _questions(attempt, row.family):
        if row.way.kind in ADJUSTED:
            _count(question, counts=False)
            continue
        for tried, parts in new_shares(question, row.way).items():
            given = {part: Given(share) for part, share in parts.items()}
            tried.presentation = question.presentation
            mark_by_hand(tried, given, row.by, MarkRule.REGRADE)
    after = _retotalled(attempt)
    RegradedAttempt.objects.create(regrade=row, attempt=attempt, before=before, after=after)
    Regrade.objects.filter(pk=row.pk).update(done=F("done") + 1)
    was, now = (None if one is None else one.core() for one in (before, after))
    if was != now and attempt.released_at is not None:
        for follower in activities().regraded:
            follower(attempt.run, row.family, row.why)


def undo_all(row: Regrade) -> None:
    """Take a regrade back at every attempt it was applied to."""
    for found in row.attempts.filter(undone=False).select_related("attempt"):
        _undo(row, found)
    Regrade.objects.filter(pk=row.pk).update(state=RegradeState.UNDONE)


def _undo(row: Regrade, found: RegradedAttempt) -> None:
    attempt = _loaded(found.attempt_id)
    for question in _questions(attempt, row.family):
        if row.way.kind in ADJUSTED:
            _count(question, counts=True)
            continue
        for tried in question.tries:
            given = {
                part: Given(Fraction(mark.replaces.share), mark.replaces.says)
                for part, mark in _by_regrade(row, question.marks.get(tried.pk, {}))
                if mark.replaces is not None
            }
            if given:
                tried.presentation = question.presentation
                mark_by_hand(tried, given, row.undone_by, MarkRule.REGRADE)
    after = _retotalled(attempt)
    RegradedAttempt.objects.filter(pk=found.pk).update(undone=True)
    Regrade.objects.filter(pk=row.pk).update(done=F("done") + 1)
    if found.after != after and attempt.released_at is not None:
        for follower in activities().regraded:
            follower(attempt.run, row.family, gettext("The change before was undone."))


def _by_regrade(row: Regrade, marks: dict[str, Mark]) -> list[tuple[str, Mark]]:
    return [
        (part, mark)
        for part, mark in marks.items()
        if mark.rule == MarkRule.REGRADE and mark.at >= row.at and mark.replaces_id is not None
    ]


def _loaded(attempt_id: int) -> Attempt:
    rows = Attempt.objects.select_related("enrolment__course", "enrolment__person", "run", "test")
    return rows.get(pk=attempt_id)


def _questions(attempt: Attempt, family: str) -> list[OpenQuestion]:
    """The questions of a family in an attempt, loaded anew."""
    return [one.question for one in opened_places([attempt], family)[attempt.pk]]


def _count(question: OpenQuestion, *, counts: bool) -> None:
    """What the first try says of the level counts no more, or again. The question is opened anew
    only where the learner answered something in between."""
    at_hand = iter([question])

    def work() -> None:
        fresh = next(at_hand, None) or _opened_anew(question)
        changes, now = Changes(learning_of(fresh.enrolment)), clock.now()
        for tried in fresh.tries:
            if tried.first:
                set_counting(fresh, tried, now, changes, counts=counts)
        for follower in activities().counting:
            follower(fresh, counts, now, changes)
        changes.store_if_any()

    until_stored(work)


def _opened_anew(question: OpenQuestion) -> OpenQuestion:
    attempt = _loaded(question.run.attempt.pk)
    (found,) = [
        one
        for one in _questions(attempt, question.version.family)
        if one.presentation.pk == question.presentation.pk
    ]
    return found


def _retotalled(attempt: Attempt) -> TotalData | None:
    at_hand = iter([attempt])

    def work() -> TotalData | None:
        row = next(at_hand, None) or _loaded(attempt.pk)
        row.run.enrolment, row.run.attempt = row.enrolment, row
        recount_points(row, None)
        return row.total

    return until_stored(work)
