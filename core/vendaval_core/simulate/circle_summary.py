"""The figures of some simulated weeks."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from .circle import Circle, Course, Told
from .pupil import Kind


def forecasts_by_tenths(courses: Sequence[Course]) -> list[dict[str, float]]:
    """How forecasts did, by tenths of what was said: mean said, share that came, how many."""
    told = [one for course in courses for one in course.told]
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


def mean_error(tenths: Sequence[dict[str, float]]) -> float:
    """Mean difference between said and come, tenths weighted by how many they hold."""
    count = sum(one["count"] for one in tenths)
    return sum(abs(one["said"] - one["came"]) * one["count"] for one in tenths) / count


def _figures(courses: Sequence[Course], topics: int) -> dict[str, object]:
    calls = [true for course in courses for _, true in course.met.values()]
    questions = [n for course in courses for n in course.questions.values()]
    held = sum(course.held for course in courses)
    rechecks = held + sum(course.lost for course in courses)
    tenths = forecasts_by_tenths(courses)

    def mean(values: Sequence[float]) -> float | None:
        return round(float(np.mean(values)), 2) if values else None

    return {
        "learners": len(courses),
        "targets_met": mean([len(course.met) for course in courses]),
        "of_topics": topics,
        "truly_above_at_the_end": mean([course.above for course in courses]),
        "questions_a_target": float(np.median(questions)) if questions else None,
        "answers": mean([course.answered for course in courses]),
        "met_was_true": round(sum(calls) / len(calls), 4) if calls else None,
        "misses_left": mean([course.misses for course in courses]),
        "misses_mended": mean([course.mended for course in courses]),
        "rechecks_held": round(held / rechecks, 4) if rechecks else None,
        "rechecks": rechecks,
        "forecasts": tenths,
        "forecast_mean_error": round(mean_error(tenths), 4) if tenths else None,
    }


def circle_summary(circle: Circle, courses: Sequence[Course]) -> dict[str, object]:
    """The figures, for JSON: of all, of those like the model, and of each other kind."""
    size = circle.prior.size
    by_day = np.mean([course.met_by_day for course in courses], axis=0)
    kinds = {kind: [c for c in courses if c.kind is kind] for kind in Kind}
    return {
        "choice": circle.choice.value,
        "days": circle.days,
        "minutes_a_day": circle.minutes,
        "seed": circle.seed,
        "all": _figures(courses, size),
        **{kind.value: _figures(own, size) for kind, own in kinds.items() if own},
        "met_by_day": [round(float(count), 2) for count in by_day],
    }
