"""The bank's lines brought up to date: what families say, and what answers say of them."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from django.db import transaction
from django.db.models import Case, Count, F, Max, Q, Sum, Value, When
from django.db.models.functions import Coalesce

from vendaval.authoring.models import BankLine, BankState
from vendaval.bank.fresh import fresh_since
from vendaval.bank.models import Course, Family, FamilyCurve
from vendaval.bank.snapshot import family_of, version_of
from vendaval.levels.models import Observation
from vendaval.measurement.models import Calibration
from vendaval.shared import clock
from vendaval.threads.models import Thread, ThreadKind, ThreadState
from vendaval_core.authoring.standing import Figures, apart, needs
from vendaval_core.measure.response import judged_curve

AT_ONCE = 200
CONTENT = ["topic", "revision", "title", "words", "kind", "essential", "judged", "seconds", "apart"]
FIGURES = [
    *("answers", "right", "took", "measured", "error", "a", "fit", "spread", "asks", "reports"),
    *("urgency", "apart"),
]


def sync_lines(course: Course) -> BankState:
    """Have a line for every family as it is now; cheap where nothing was published since."""
    state, _ = BankState.objects.get_or_create(course=course, defaults={"digest": ""})
    if state.digest == course.digest:
        return state
    rows = Family.objects.filter(course=course, rehearsal=False).exclude(latest=None)
    now = {pk: rest for pk, *rest in rows.values_list("pk", "latest", "topic")}
    lines = BankLine.objects.filter(course=course).defer("words")
    known = {line.family_id: line for line in lines}
    old = [pk for pk, line in known.items() if pk not in now]
    stale = [
        pk for pk, at in now.items()
        if pk not in known or [known[pk].revision, known[pk].topic_id] != at
    ]  # fmt: skip
    new, changed = [], []
    for row in rows.filter(pk__in=stale).select_related("topic", "latest").iterator(AT_ONCE):
        row.course = course
        line, made = known.get(row.pk), _content(row)
        if line is None:
            new.append(made)
        else:
            for name in CONTENT:
                setattr(line, name, getattr(made, name))
            # Another formula may be behind what was unexpected of the one before.
            line.sought = 0
            line.apart = apart(line.judged, line.measured, line.error)
            changed.append(line)
    with transaction.atomic():
        BankLine.objects.bulk_create(new, AT_ONCE, ignore_conflicts=True)
        BankLine.objects.bulk_update(changed, [*CONTENT, "sought"], AT_ONCE)
        BankLine.objects.filter(family__in=old, course=course).delete()
        BankState.objects.filter(pk=state.pk).update(digest=course.digest)
    return state


def _content(row: Family) -> BankLine:
    revision = row.latest
    assert revision is not None, "it was published"
    revision.family = row
    family = family_of(revision)
    return BankLine(
        family=row,
        course=row.course,
        topic=row.topic,
        revision=revision.pk,
        title=version_of(revision, 1, 0).title,
        words=" ".join(_texts(revision.data.model_dump(mode="json"))).lower(),
        kind=family.parts[0].called,
        essential=family.essential,
        judged=judged_curve(family.difficulty, 1, 0.0).b,
        seconds=family.seconds,
    )


_SKIPPED = {"svg", "source", "study", "kind", "id", "value", "variables", "constraints"}


def _texts(value: Any) -> Iterator[str]:
    """Words that learners read, without what is drawn."""
    if isinstance(value, dict):
        for key, inner in value.items():
            if key not in _SKIPPED:
                yield from _texts(inner)
    elif isinstance(value, list):
        for inner in value:
            yield from _texts(inner)
    elif isinstance(value, str):
        yield re.sub(r"\[\[.*?\]\]|[*$]", " ", value)


def refresh_figures(course: Course) -> int:
    """Bring up to date what answers, calibrations and reports say; how many lines there are."""
    sync_lines(course)
    counted = _counted(course)
    fitted = _fitted(course)
    reports = dict(
        Thread.objects.filter(family__course=course, kind=ThreadKind.FAULT, state=ThreadState.OPEN)
        .values_list("family")
        .annotate(Count("pk"))
        .order_by()
    )
    lines = list(BankLine.objects.filter(course=course).select_related("family"))
    for line in lines:
        family = line.family
        line.answers, line.right = counted.get(family.pk, (0, None))
        line.took = None
        if family.timed_answers:
            line.took = family.timed_seconds / family.timed_answers / line.seconds
        fit = fitted.get(family.key, {})
        for name in ("measured", "error", "a", "fit", "spread"):
            setattr(line, name, fit.get(name))
        line.asks, line.reports = fit.get("asks", []), reports.get(family.pk, 0)
        found = needs(figures_of(line))
        line.urgency = found[0].urgency if found else 0
        line.apart = apart(line.judged, line.measured, line.error)
    BankLine.objects.bulk_update(lines, FIGURES, AT_ONCE)
    BankState.objects.filter(course=course).update(figures_at=clock.now())
    return len(lines)


def figures_of(line: BankLine) -> Figures:
    """What a line knows, as the core judges it."""
    return Figures(
        answers=line.answers,
        right=line.right,
        took=line.took,
        judged=line.judged,
        measured=line.measured,
        error=line.error,
        a=line.a,
        asks=tuple(line.asks),
        reports=line.reports,
        slips=tuple(line.slips),
    )


def _counted(course: Course) -> dict[int, tuple[int, float | None]]:
    """First tries that count, and their share that is right, by family; without those that are
    held back by the rules of a test, or from before what is asked changed."""
    right = Case(When(outcome__gte=F("of") - 1, then=Value(1.0)), default=Value(0.0))
    rows = (
        Observation.objects.told()
        .filter(family__course=course, weight__gt=0)
        .values_list("family", "tried__presentation__revision__number")
        .annotate(many=Count("pk"), share=Coalesce(Sum(right), Value(0.0)))
        .order_by()
    )
    since, found = fresh_since(course=course), dict[int, tuple[int, float]]()
    for family, number, many, share in rows:
        if family not in since or number >= since[family].number:
            before = found.get(family, (0, 0.0))
            found[family] = (before[0] + many, before[1] + share)
    return {family: (many, share / many) for family, (many, share) in found.items()}


def _fitted(course: Course) -> dict[str, dict[str, Any]]:
    """What is measured of families by the last calibration, or else by the curve in force; nothing
    from before what is asked changed."""
    fresh, found = fresh_since(course=course), dict[str, dict[str, Any]]()
    keys = {key: fresh[pk].at for key, pk in _keys(course) if pk in fresh}
    last = Calibration.objects.filter(course=course).order_by("-pk").first()
    if last is not None:
        for one in last.proposals:
            if last.made_at >= keys.get(one["item"], last.made_at):
                found[one["item"]] = _of_proposal(one)
    newest = FamilyCurve.objects.filter(family__course=course).values("family").annotate(Max("pk"))
    rows = FamilyCurve.objects.filter(pk__in=newest.values("pk__max")).select_related("family")
    for row in rows:
        key, error = row.family.key, row.errors.model_dump().get("b")
        own = found.setdefault(key, {})
        if error is None or "measured" in own or row.applied_at < keys.get(key, row.applied_at):
            continue
        own |= {"measured": row.b, "error": error, "a": row.a}
    return found


def _keys(course: Course) -> Any:
    return Family.objects.filter(course=course).values_list("key", "pk")


def _of_proposal(one: dict[str, Any]) -> dict[str, Any]:
    """What a calibration says of a family."""
    curve, error = one["proposed"], one["se"].get("b")
    says = {"asks": one.get("asks", []), "spread": one["version_spread"]}
    says["fit"] = one["fit"]["infit"]
    if curve is not None and error is not None:
        says |= {"measured": curve["b"], "error": error, "a": curve["a"]}
    return says


ASKED = Q(family__live=True) | Q(family__stopped__isnull=False)


def lines_of(course: Course) -> Any:
    """Lines of what the course asks, or did until somebody stopped it."""
    return BankLine.objects.filter(ASKED, course=course, family__collection=None)


def own_lines_of(course: Course) -> Any:
    """The same of groups' own questions."""
    return BankLine.objects.filter(ASKED, course=course, family__collection__isnull=False)
