"""Studies and journeys run in as many processes as there are cores."""

from __future__ import annotations

import os
import time
from collections.abc import Callable, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from functools import partial, reduce
from pathlib import Path
from typing import Any, TypeVar

from numpy.typing import NDArray
from tqdm import tqdm

from vendaval_core.items.versions import make_version
from vendaval_core.measure.posterior import Prior
from vendaval_core.measure.response import ResponseCurve
from vendaval_core.packs.reader import Pack, read_pack
from vendaval_core.scoring.outcomes import family_curve
from vendaval_core.simulate.by_level import LEVELS, AtLevel, at_level
from vendaval_core.simulate.calibrating import (
    Known,
    known_blocks,
    practised_log,
    recovered,
    recovery_summary,
)
from vendaval_core.simulate.circle import Choice, Circle, CircleFamily, Course, circle_blocks
from vendaval_core.simulate.circle_summary import circle_summary
from vendaval_core.simulate.pupil import Crowd
from vendaval_core.simulate.study import Record, Study, blocks, run_block, summary
from vendaval_core.simulate.weeks import run_circle

FEWEST_FOR_WORKERS = 64

Work = TypeVar("Work")
Found = TypeVar("Found")


def in_pieces(
    run: Callable[[Work, NDArray[Any]], Found],
    work: Work,
    pieces: Sequence[NDArray[Any]],
    what: str,
) -> list[Found]:
    """What each piece of the learners gives, with progress; in this process when they are few."""
    learners = sum(len(piece) for piece in pieces)
    found = []
    with tqdm(total=learners, desc=what, unit=" learners", disable=None) as bar:
        if learners < FEWEST_FOR_WORKERS:
            for piece in pieces:
                found.append(run(work, piece))
                bar.update(len(piece))
            return found
        with ProcessPoolExecutor(os.cpu_count()) as workers:
            waiting = [workers.submit(run, work, piece) for piece in pieces]
            for piece, future in zip(pieces, waiting, strict=True):
                found.append(future.result())
                bar.update(len(piece))
    return found


def simulated_study(study: Study) -> dict[str, Any]:
    """A study's figures."""
    started = time.perf_counter()
    records = in_pieces(run_block, study, blocks(study), f"Simulating, {study.policy}")
    found = summary(study, reduce(Record.plus, records))
    return found | {"seconds": round(time.perf_counter() - started, 1)}


def by_level(study: Study) -> list[AtLevel]:
    """Diagnostics at each true level, and of learners drawn from the prior."""
    levels = [None, *LEVELS]
    with (
        tqdm(
            total=len(levels),
            desc=f"Simulating, {len(levels)} levels",
            unit=" levels",
            disable=None,
        ) as bar,
        ProcessPoolExecutor(os.cpu_count()) as workers,
    ):
        found = []
        for row in workers.map(partial(at_level, study), levels):
            found.append(row)
            bar.update()
    return found


def simulated_calibration(known: Known, turn: Sequence[int]) -> dict[str, Any]:
    """Whether a log gives known curves back. turn: numbers of the families whose key is turned, one
    at a time, in each topic."""
    started = time.perf_counter()
    pieces = in_pieces(practised_log, known, known_blocks(known), f"Practice, {known.learners}")
    log = [learner for piece in pieces for learner in piece]
    with (
        tqdm(total=known.topics, desc="Calibrating", unit=" topics", disable=None) as bar,
        ProcessPoolExecutor(os.cpu_count()) as workers,
    ):
        found = []
        work = partial(recovered, known, log, turn=tuple(turn))
        for topic in workers.map(work, range(known.topics)):
            found.append(topic)
            bar.update()
    seconds = round(time.perf_counter() - started, 1)
    return recovery_summary(known, found) | {"seconds": seconds}


def simulated_weeks(circle: Circle, crowds: Sequence[Crowd]) -> dict[str, Any]:
    """The figures of some weeks of the whole circle, for each crowd; and of the first of them where
    topics come at random."""
    started = time.perf_counter()
    found: dict[str, list[Course]] = {}
    for crowd in crowds:
        own = replace(circle, crowd=crowd)
        found[crowd.value] = _weeks(own, crowd.value)
    random = replace(circle, crowd=crowds[0], choice=Choice.RANDOM, trials=False)
    name = f"{crowds[0].value}_at_random"
    found[name] = _weeks(random, name)
    return circle_summary(circle, found) | {"seconds": round(time.perf_counter() - started)}


def _weeks(circle: Circle, name: str) -> list[Course]:
    pieces = in_pieces(run_circle, circle, circle_blocks(circle), f"Weeks, {name}")
    return [course for piece in pieces for course in piece]


def circle_of_pack(folder: Path, **options: Any) -> Circle:
    """The whole circle over a pack's own families, its curves as judged."""
    pack = read_pack(folder, versions=False)
    numbers, curves = _topics(pack), _curves(pack)
    topics = [topic for subject in pack.course.subjects for topic in subject.topics]
    return Circle(
        _prior(pack),
        tuple(
            CircleFamily(
                item.family.key,
                numbers[item.family.topic],
                curves[item.family.key],
                item.family.essential,
                item.family.versions,
                item.family.seconds,
            )
            for item in pack.families
        ),
        tuple(topic.target for topic in topics),
        tuple(topic.importance for topic in topics),
        **options,
    )


def _prior(pack: Pack) -> Prior:
    prior = pack.course.prior
    return Prior.of_course(
        _subjects(pack),
        mean=prior.mean,
        sd=prior.sd,
        within=prior.within_subject,
        across=prior.across_subjects,
    )


def _subjects(pack: Pack) -> list[int]:
    return [n for n, subject in enumerate(pack.course.subjects) for _ in subject.topics]


def _topics(pack: Pack) -> dict[str, int]:
    keys = [topic.key for subject in pack.course.subjects for topic in subject.topics]
    return {key: number for number, key in enumerate(keys)}


def _curves(pack: Pack) -> dict[str, ResponseCurve]:
    return {
        item.family.key: family_curve(make_version(item.family, 1), item.family.difficulty)
        for item in pack.families
    }


def study_of_pack(folder: Path, subject: str | None, **options: Any) -> Study:
    """A study of the diagnostic over a pack's own families, of one subject or all."""
    pack = read_pack(folder, versions=False)
    curves, subjects = _curves(pack), pack.course.subjects
    chosen = [s for s in subjects if subject in {None, s.key}]
    topics = [(n, topic.key) for n, s in enumerate(chosen) for topic in s.topics]
    bank = tuple(
        tuple(curves[item.family.key] for item in pack.families if item.family.topic == key)
        for _, key in topics
    )
    prior = pack.course.prior
    return Study(
        **options
        | {
            "topics": len(topics),
            "sd": prior.sd,
            "within": prior.within_subject,
            "across": prior.across_subjects,
            "own_bank": bank,
            "own_subjects": tuple(n for n, _ in topics),
        }
    )
