"""Trials as their authors see them."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.bank.models import Course, Trial
from vendaval.delivery.schemas import PlaceOut
from vendaval_core.measure.trials import FEWEST, Verdict
from vendaval_core.words import counted

from .actions import OF_TRIAL, looked_at
from .schemas import EffectOut, TrialOut, TrialsOut

MOST_ENDED = 50


def trials_out(course: Course) -> TrialsOut:
    """The trials of a course, those that go on looked at anew."""
    rows = Trial.objects.filter(course=course).select_related(*OF_TRIAL)
    running = [looked_at(one) for one in rows.filter(ended_at=None).order_by("pk")]
    ended = rows.exclude(ended_at=None).order_by("-ended_at")[:MOST_ENDED]
    going_on = [one for one in running if one.ended_at is None]
    return TrialsOut(
        course=course.title,
        running=[trial_out(one) for one in going_on],
        ended=[trial_out(one) for one in ended],
    )


def trial_out(trial: Trial) -> TrialOut:
    """A trial with how it stands in words."""
    result = trial.result
    of = trial.family or trial.topic
    assert of is not None, "it is about one of the two"
    by = trial.by
    return TrialOut(
        id=trial.pk,
        name=trial.name,
        of=PlaceOut(key=of.key, title=trial.name.partition(",")[0]),
        of_section=trial.family is None,
        first=trial.first,
        second=trial.second,
        by="" if by is None else by.display_name,
        began_at=trial.began_at,
        until=trial.until,
        ended=trial.ended_at is not None,
        answers=int(result.get("answers", 0)),
        effect=EffectOut(**{name: result[name] for name in ("points", "low", "high")})
        if result.get("answers")
        else None,
        says=_says(trial),
        better=trial.verdict if trial.verdict in {"first", "second"} else "",
        adopted=trial.adopted_at is not None,
    )


def _says(trial: Trial) -> str:
    answers = int(trial.result.get("answers", 0))
    points = trial.result.get("points", 0.0)
    many = counted(answers, "answer")
    match trial.verdict:
        case Verdict.SECOND.value:
            says = gettext("The second text helps more, by {points} points of 100 after {many}.")
        case Verdict.FIRST.value:
            says = gettext("The first text helps more, by {points} points of 100 after {many}.")
        case Verdict.EQUAL.value:
            says = gettext("Both help about equally, after {many}. Keep the one you like better.")
        case Verdict.UNDECIDED.value:
            says = gettext("It can’t be decided: {many} were too few or too mixed.")
        case _ if trial.verdict == Trial.STOPPED:
            says = gettext("It was ended after {many}, before anything was decided.")
        case _ if answers < FEWEST:
            says = gettext("{many} so far. Nothing can be said before there are {fewest}.")
        case _:
            says = gettext("{many} so far. It is still open which text helps more.")
    told = says.format(points=f"{abs(points):.0f}", many=many, fewest=FEWEST)
    return told[:1].upper() + told[1:]
