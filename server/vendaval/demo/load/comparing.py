"""What a killed server acknowledged against what is stored, once everything has come to rest."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from vendaval.exams.models import AnswerSoFar, Attempt, Marking, Regrade, RegradeState
from vendaval.exams.points import adjustments, opened_places, total_by
from vendaval.notices.models import Letter
from vendaval.people.models import User
from vendaval.work.models import Try

from .killed import PEOPLE_A_LIST, Acknowledged

UNSETTLED = (RegradeState.WAITING, RegradeState.APPLYING, RegradeState.UNDOING)


def faults(done: Acknowledged) -> Iterator[str]:
    """Everything that is not as it was said to be: lost, doubled, or half done."""
    yield from _saves(done)
    yield from _hand_ins(done)
    yield from _marks(done)
    yield from _regrades()
    yield from _totals()
    yield from _lists(done)


def _saves(done: Acknowledged) -> Iterator[str]:
    rows = AnswerSoFar.objects.filter(attempt__in={attempt for attempt, _ in done.saves})
    stored = {(row.attempt_id, row.number): (row.counter, row.data.responses) for row in rows}
    for place, said in done.saves.items():
        if stored.get(place) != said:
            yield f"save {place}: {stored.get(place)} and not {said}"


def _hand_ins(done: Acknowledged) -> Iterator[str]:
    over = Attempt.objects.exclude(handed_in_at=None).filter(marked=True)
    settled = set(over.values_list("pk", flat=True))
    for pk in set(done.hand_ins) - settled:
        yield f"hand-in of attempt {pk} is not stored, or not settled"
    tries = Try.objects.filter(presentation__run__attempt__in=settled)
    for row, count in Counter(tries.values_list("presentation", flat=True)).items():
        if count > 1:
            yield f"presentation {row} has {count} tries"


def _marks(done: Acknowledged) -> Iterator[str]:
    for (answer, part), pk in done.marks.items():
        stored = Marking.objects.filter(answer=answer, part=part).values_list("pk", flat=True)
        if list(stored) != [pk]:
            yield f"mark of answer {answer} {part}: {list(stored)} and not {[pk]}"


def _regrades() -> Iterator[str]:
    for row in Regrade.objects.filter(state__in=UNSETTLED):
        yield f"regrade {row.pk} is {row.state}"
    for row in Regrade.objects.filter(state=RegradeState.UNDONE):
        if row.attempts.filter(undone=False).exists():
            yield f"regrade {row.pk} is half undone"


def _totals() -> Iterator[str]:
    """Every total that is out is what the marks of its attempt make."""
    rows = Attempt.objects.filter(marked=True).exclude(released_at=None).exclude(assignment=None)
    attempts = list(
        rows.filter(assignment__group__title="Killed").select_related(
            "enrolment__course", "enrolment__person", "run", "test"
        )
    )
    places = opened_places(attempts)
    for one in attempts:
        again = total_by(one, places[one.pk], adjustments(one.assignment_id))
        if one.total is None or one.total.core() != again.core():
            yield f"total of attempt {one.pk}: {one.total} and not {again}"


def _lists(done: Acknowledged) -> Iterator[str]:
    mailed = Counter(
        Letter.objects.filter(to__endswith="@kill.example").values_list("to", flat=True)
    )
    for number in done.lists:
        theirs = User.objects.filter(email__startswith=f"killed{number}-")
        mails = list(theirs.values_list("email", flat=True))
        if len(mails) != PEOPLE_A_LIST:
            yield f"list {number} has {len(mails)} people"
        for mail in mails:
            if mailed[mail] != 1:
                yield f"{mail} was mailed {mailed[mail]} times"
