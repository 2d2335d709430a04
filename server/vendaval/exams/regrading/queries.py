"""Questions of a test that may be regraded, and what a regrade would do."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import replace
from fractions import Fraction

from django.utils.translation import gettext, gettext_noop

from vendaval.bank.snapshot import course_bank, family_of
from vendaval.groups.queries import members_of
from vendaval.shared.errors import NotFound
from vendaval.shared.remembered import remembered
from vendaval_core.assessment.points import shown

from ..attempts import handed_in_attempts
from ..columns import RegradeWay, TotalData
from ..composing.bank import with_answers
from ..models import Assignment, Attempt, Regrade, RegradeState
from ..points import ADJUSTED, Placed, adjustments, opened_places, points_at, total_by
from .changing import mended_version, regraded
from .schemas import (
    AcceptableOut,
    LookOut,
    RegradableOut,
    RegradeChoiceOut,
    RegradeLineOut,
    RegradeOut,
    RegradePreviewOut,
    RegradesOut,
)

MOST = 40
MOST_ANSWERS = 30
MOST_LOOKS = 5
SAYS = {
    "again": gettext_noop("Marked again with the current key."),
    "accept": gettext_noop("One more answer accepted."),
    "full": gettext_noop("Full marks for all."),
    "drop": gettext_noop("Dropped: doesn’t count for anybody."),
}


def _regradable(assignment: Assignment) -> list[RegradableOut]:
    """The questions of a test with how well they went, without what was regraded."""
    titles: dict[str, str] = {}
    shares: dict[str, list[Fraction]] = defaultdict(list)
    count: Counter[str] = Counter()
    attempts = handed_in_attempts(assignment)
    found = opened_places(attempts)
    for attempt in attempts:
        for one in found[attempt.pk]:
            family = one.place.family
            titles.setdefault(family, one.question.version.title)
            count[family] += 1
            points = points_at(attempt, one.place, one.question, one.answer, {})
            if points.share is not None:
                shares[family].append(points.share)
    return [
        RegradableOut(
            family=key,
            title=title,
            mean=round(100 * sum(known) / len(known)) if (known := shares[key]) else None,
            attempts=count[key],
        )
        for key, title in titles.items()
    ]


def regrades(assignment: Assignment) -> RegradesOut:
    """The questions of a test with how well they went, and what was regraded."""
    rows = Regrade.objects.filter(assignment=assignment).select_related("by", "undone_by")
    told = list(rows.order_by("-pk")[:MOST])
    attempts = Attempt.objects.filter(assignment=assignment).order_by("pk")
    hangs_on = (
        assignment.group.course.digest,
        list(attempts.values_list("pk", "version")),
        list(members_of(assignment.group).values_list("pk", flat=True)),
        [(row.pk, row.state, row.done) for row in told],
    )
    questions = remembered(f"regradable:{assignment.pk}", hangs_on, lambda: _regradable(assignment))
    titles = {one.family: one.title for one in questions}
    return RegradesOut(
        test=assignment.test.title,
        group=assignment.group.title,
        questions=questions,
        regrades=[
            RegradeOut(
                id=row.pk,
                family=row.family,
                title=titles.get(row.family, row.family),
                says=gettext(SAYS[row.way.kind]),
                why=row.why,
                by=row.by.display_name if row.by is not None else "",
                at=row.at,
                state=RegradeState(row.state),
                of=row.of,
                done=row.done,
                undone_by=None if row.undone_by is None else row.undone_by.display_name,
            )
            for row in told
        ],
    )


def _asked(places: Mapping[int, Sequence[Placed]], family: str) -> list[Placed]:
    found = [one for of in places.values() for one in of if one.place.family == family]
    if not found:
        raise NotFound(gettext("Nobody had this question in this test."))
    return found


def choices(assignment: Assignment, family: str) -> RegradeChoiceOut:
    """What there is to choose for a question of a test."""
    learners: dict[tuple[str, str, int], set[int]] = defaultdict(set)
    words: dict[tuple[str, str, int], tuple[str, str]] = {}
    mended, title = False, ""
    asked = _asked(opened_places(handed_in_attempts(assignment)), family)
    for one in asked:
        question, row = one.question, one.answer.presentation
        title = question.version.title
        latest = row.revision.family.latest
        mended |= (
            latest is not None
            and latest.pk != row.revision_id
            and (mended_version(row).parts != question.version.parts)
        )
        keys = {key.id: key for key in question.version.parts}
        for tried in question.tries:
            for part, mark in question.marks.get(tried.pk, {}).items():
                if mark.share not in {"", "1"} and mark.canonical:
                    response = tried.response.get(part, "")
                    kind = (part, keys[part].same_answer(response, mark.canonical), row.seed)
                    learners[kind].add(one.answer.attempt.enrolment_id)
                    given = keys[part].answer_words(response)
                    words[kind] = (keys[part].label, given)
    order = sorted(learners, key=lambda kind: -len(learners[kind]))[:MOST_ANSWERS]
    bank = course_bank(assignment.group.course)
    first = asked[0].answer.presentation
    return RegradeChoiceOut(
        course=assignment.group.course.key,
        family=family,
        title=title,
        question=with_answers(
            asked[0].question.version, family_of(first.revision), bank, first.seed
        ),
        looks=_looks(asked),
        mended=mended,
        acceptable=[
            AcceptableOut(
                part=kind[0],
                canonical=kind[1],
                seed=kind[2],
                label=words[kind][0],
                given=words[kind][1],
                learners=len(learners[kind]),
            )
            for kind in order
        ],
    )


def _looks(asked: Sequence[Placed]) -> list[LookOut]:
    """Some answers to look at, those with the fewest points first."""
    found = []
    for one in asked:
        if not one.question.tries:
            continue
        points = points_at(one.answer.attempt, one.place, one.question, one.answer, {})
        learner = one.answer.attempt.enrolment
        found.append(
            LookOut(
                learner=learner.pk,
                name=learner.person.display_name,
                tried=one.question.tries[-1].pk,
                share=None if points.share is None else round(100 * points.share),
            )
        )
    found.sort(key=lambda one: (one.share is None, one.share))
    return found[:MOST_LOOKS]


def preview(assignment: Assignment, family: str, way: RegradeWay) -> RegradePreviewOut:
    """Every attempt that a regrade would change, and the means."""
    attempts = handed_in_attempts(assignment)
    places = opened_places(attempts)
    _asked(places, family)
    adjusted = dict(adjustments(assignment.pk))
    after_adjusted = adjusted | ({family: ADJUSTED[way.kind]} if way.kind in ADJUSTED else {})
    pairs = []
    for attempt in attempts:
        own = places[attempt.pk]
        then = [
            replace(one, question=regraded(one.question, way))
            if one.place.family == family
            else one
            for one in own
        ]
        before = total_by(attempt, own, adjusted)
        pairs.append((attempt, before, total_by(attempt, then, after_adjusted)))
    changed = [
        RegradeLineOut(
            attempt=attempt.pk,
            name=attempt.enrolment.person.display_name,
            before=_points(before),
            after=_points(after),
            before_per_cent=f"{shown(before.core().per_cent)}%",
            after_per_cent=f"{shown(after.core().per_cent)}%",
        )
        for attempt, before, after in pairs
        if before != after
    ]
    return RegradePreviewOut(
        changed=changed,
        attempts=len(pairs),
        mean_before=_mean([before for _, before, _ in pairs]),
        mean_after=_mean([after for _, _, after in pairs]),
    )


def _points(total: TotalData) -> str:
    return gettext("{reached} of {of}").format(reached=shown(total.reached), of=shown(total.of))


def _mean(totals: Sequence[TotalData]) -> str:
    shares = [total.core().per_cent for total in totals]
    return f"{shown(sum(shares, Fraction(0)) / len(shares))}%" if shares else ""
