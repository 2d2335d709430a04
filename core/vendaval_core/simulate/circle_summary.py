"""The figures of some simulated weeks, and the bars they are held to."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from .circle import Circle, Course, Told
from .pupil import Crowd
from .recheck_trial import TRIED_LEVELS
from .weeks import FORECAST_DAYS

STAGES = ("start", "middle", "end")
SURE_FROM_DAY = 21


def share(parts: Sequence[int], wholes: Sequence[int]) -> dict[str, float] | None:
    """A share over people, with its standard error: people differ, so answers of one person are not
    taken for independent. None when there is nothing."""
    part, whole = np.array(parts, dtype=float), np.array(wholes, dtype=float)
    count = float(whole.sum())
    if not count:
        return None
    mean = float(part.sum() / count)
    error = float(np.sqrt(((part - mean * whole) ** 2).sum()) / count)
    return {"share": round(mean, 3), "se": round(error, 3), "of": int(count)}


def forecasts_by_tenths(told: Sequence[Told]) -> list[dict[str, float]]:
    """How forecasts did, by tenths of what was said: mean said, share that came, how many."""
    tenths: list[list[Told]] = [[] for _ in range(10)]
    for one in told:
        tenths[min(9, int(10 * one.said))].append(one)
    return [
        {
            "said": round(float(np.mean([one.said for one in own])), 3),
            "came": round(float(np.mean([one.came for one in own])), 3),
            "count": len(own),
        }
        for own in tenths
        if own
    ]


def mean_error(tenths: Sequence[Mapping[str, float]]) -> float:
    """Mean difference between said and come, tenths weighted by how many they hold."""
    count = sum(one["count"] for one in tenths)
    return sum(abs(one["said"] - one["came"]) * one["count"] for one in tenths) / count


def _reliability(told: Sequence[Told]) -> float | None:
    return round(mean_error(forecasts_by_tenths(told)), 3) if told else None


def _intervals(courses: Sequence[Course]) -> dict[str, object]:
    found: dict[str, object] = {}
    for stage, name in enumerate(STAGES):
        for practised in (None, True, False):
            pairs = [
                [
                    n
                    for key, n in course.looks.items()
                    if key[0] == stage and practised in {None, key[1]}
                ]
                for course in courses
            ]
            held = [sum(one[0] for one in own) for own in pairs]
            looked = [sum(one[1] for one in own) for own in pairs]
            label = {None: name, True: f"{name}, practised", False: f"{name}, not practised"}
            found[label[practised]] = share(held, looked)
    return found


def _checks(courses: Sequence[Course]) -> dict[str, object]:
    found: dict[str, object] = {}
    for level in TRIED_LEVELS:
        own = [[one for one in course.checks if one[0] == level] for course in courses]
        held = share([sum(one[1] for one in checks) for checks in own], [len(c) for c in own])
        questions = [one[2] for checks in own for one in checks]
        if held is not None:
            found[str(level)] = held | {"questions": round(float(np.mean(questions)), 1)}
    return found


def crowd_figures(courses: Sequence[Course]) -> dict[str, object]:
    """The figures of one crowd, for JSON."""
    calls = [[true for _, true in course.met.values()] for course in courses]
    told = [one for course in courses for one in course.told]
    rechecks = [course.held + course.lost for course in courses]

    def mean(values: Sequence[float], digits: int = 2) -> float:
        return round(float(np.mean(values)), digits)

    by_day = {str(day): [one for one in told if one.day == day] for day in FORECAST_DAYS}
    questions = [n for course in courses for n in course.questions.values()]
    return {
        "learners": len(courses),
        "met": mean([len(course.met) for course in courses]),
        "truly_above_at_the_end": mean([course.above for course in courses]),
        "met_was_true": share([sum(own) for own in calls], [len(own) for own in calls]),
        "true_at_the_end": share(
            [sum(course.called) for course in courses], [len(course.called) for course in courses]
        ),
        "interval_80_holds": _intervals(courses),
        "forecasts": {
            day: {
                "said": mean([one.said for one in own]),
                "came": mean([one.came for one in own]),
                "reliability": _reliability(own),
                "brier": mean([(one.said - one.came) ** 2 for one in own], 3),
            }
            for day, own in by_day.items()
            if own
        },
        "reliability_from_day_21": _reliability([o for o in told if o.day >= SURE_FROM_DAY]),
        "recheck_finds_held_at": _checks(courses),
        "rechecks": mean(rechecks, 1),
        "rechecks_held": share([course.held for course in courses], rechecks),
        "pace": mean([course.pace for course in courses]),
        "forgets": mean([course.forgets for course in courses], 3),
        "answers": mean([course.answered for course in courses], 0),
        "questions_a_target": float(np.median(questions)) if questions else None,
        "misses_left": mean([course.misses for course in courses], 1),
        "met_by_day": [
            round(float(count), 2)
            for count in np.mean([course.met_by_day for course in courses], axis=0)
        ],
    }


def circle_summary(circle: Circle, by_crowd: Mapping[str, Sequence[Course]]) -> dict[str, object]:
    """The figures of all crowds, for JSON. Forecasts of all of them are judged together too."""
    told = [
        one
        for name, courses in by_crowd.items()
        if name in {crowd.value for crowd in Crowd}
        for course in courses
        for one in course.told
    ]
    return {
        "days": circle.days,
        "minutes_a_day": circle.minutes,
        "topics": circle.prior.size,
        "seed": circle.seed,
        "crowds": {name: crowd_figures(courses) for name, courses in by_crowd.items()},
        "forecasts": forecasts_by_tenths(told),
        "reliability": _reliability(told),
    }
