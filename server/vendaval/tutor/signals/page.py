"""Signals of a group and of a learner, put together; and what was looked at."""

from __future__ import annotations

from collections.abc import Sequence

from django.utils.translation import gettext

from vendaval.bank.snapshot import course_bank
from vendaval.exams.models import Assignment
from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import members_of
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.errors import NotFound
from vendaval.shared.remembered import remembered
from vendaval_core.mastery.signal_words import Asking, SignalKind, ask_same

from ..models import LookedAt
from .own import answers_of, asked_of
from .same import alike
from .schemas import LookedOut, LookIn, SignalOut, SignalsOut, WhomOut

MOST_LOOKED = 50


def signals_of_group(group: Group) -> SignalsOut:
    """What is worth asking in a group. The number of queries does not grow with it."""
    bank, members = course_bank(group.course), list(members_of(group))
    return SignalsOut(
        group=group.title, signals=_signals(group, members), looked=_looked(group, bank.course_id)
    )


def _signals(group: Group, members: Sequence[Enrolment]) -> list[SignalOut]:
    """What is worth asking, worked out again only once somebody has answered or looked."""
    looked = list(LookedAt.objects.filter(enrolment__in=[one.pk for one in members]))
    hangs_on = _hangs_on(group, members, looked)
    return remembered(f"signals:{group.pk}", hangs_on, lambda: _worked_out(group, members, looked))


def _hangs_on(
    group: Group, members: Sequence[Enrolment], looked: Sequence[LookedAt]
) -> tuple[object, ...]:
    """What the signals of a group hang on. The version of a learner's state moves with everything
    that is stored for them: answers, marks, regrades."""
    given = Assignment.objects.filter(group=group).order_by("-pk").values_list("pk", flat=True)
    return (
        group.course.digest,
        given.first(),
        [(one.pk, one.person.display_name, _version_of(one)) for one in members],
        [row.pk for row in looked],
    )


def _version_of(enrolment: Enrolment) -> int:
    """The version of what a learner's answers made; 0 before the first."""
    return enrolment.state.version if hasattr(enrolment, "state") else 0


def _worked_out(
    group: Group, members: Sequence[Enrolment], looked: Sequence[LookedAt]
) -> list[SignalOut]:
    bank = course_bank(group.course)
    by_id = {one.pk: one for one in members}
    since = {(row.enrolment_id, row.kind): row.at for row in sorted(looked, key=lambda row: row.at)}
    lately = answers_of(by_id, bank)
    found = [
        _out(one, [enrolment])
        for enrolment in members
        for one in asked_of(enrolment.pk, lately, bank, since)
    ]
    seen = {(row.assignment, row.enrolment_id, row.other_id) for row in looked}
    for same in alike(group, members, bank):
        pair = same.pair
        if (same.assignment, pair.one, pair.other) not in seen:
            both = [by_id[pair.one], by_id[pair.other]]
            found.append(_out(ask_same(pair, same.test), both, same.assignment))
    return found


def _out(one: Asking, whom: Sequence[Enrolment], assignment: int | None = None) -> SignalOut:
    return SignalOut(
        kind=one.kind,
        whom=[WhomOut(id=each.pk, name=each.person.display_name) for each in whom],
        question=one.question,
        evidence=one.evidence,
        perhaps=list(one.perhaps),
        worked_out=one.worked_out,
        assignment=assignment,
    )


def _looked(group: Group, course: int) -> list[LookedOut]:
    rows = LookedAt.objects.filter(
        enrolment__groups__group=group, enrolment__groups__until=None, enrolment__course=course
    ).select_related("enrolment__person", "other__person", "by")
    return [
        LookedOut(
            kind=SignalKind(row.kind),
            whom=[
                WhomOut(id=each.pk, name=each.person.display_name)
                for each in (row.enrolment, row.other)
                if each is not None
            ],
            note=row.note,
            by=row.by.display_name if row.by else "",
            at=row.at,
        )
        for row in rows.order_by("-pk")[:MOST_LOOKED]
    ]


def look_at(group: Group, wanted: LookIn, by: User) -> SignalsOut:
    """Note that a signal was looked at. It is asked again only if answers given later say so."""
    page = signals_of_group(group)
    for signal in page.signals:
        whom = [one.id for one in signal.whom]
        if (signal.kind, signal.assignment, whom) == (wanted.kind, wanted.assignment, wanted.whom):
            LookedAt.objects.create(
                enrolment_id=whom[0],
                other_id=whom[1] if len(whom) > 1 else None,
                kind=signal.kind,
                assignment=signal.assignment,
                evidence=signal.evidence,
                note=wanted.note.strip(),
                by=by,
                at=clock.now(),
            )
            left = [one for one in page.signals if one is not signal]
            looked = _looked(group, group.course_id)
            return SignalsOut(group=page.group, signals=left, looked=looked)
    raise NotFound(gettext("This is no longer listed."))


def own_asked(enrolment: Enrolment) -> list[Asking]:
    """What is worth asking a learner, from their own answers."""
    bank = course_bank(enrolment.course)
    rows = LookedAt.objects.filter(enrolment=enrolment).order_by("at")
    since = {(row.enrolment_id, row.kind): row.at for row in rows}
    return asked_of(enrolment.pk, answers_of([enrolment.pk], bank), bank, since)
