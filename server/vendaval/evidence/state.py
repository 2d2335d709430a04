"""A learner's state in a course: from the database to core values and back."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import TypedDict

import numpy as np

from vendaval.bank.models import Course
from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.people.models import User
from vendaval_core.mastery.practice import Coverage, PracticeFamily, coverage
from vendaval_core.measure.grid import NODES
from vendaval_core.measure.level import LevelReading, read_levels
from vendaval_core.measure.posterior import LearnerState, Posterior, infer
from vendaval_core.measure.selection import success_chances

from .models import LearnerCourse
from .rebuild import rebuilt_state


class FamilySeen(TypedDict):
    """History of one family for one learner.

    seeds: order number of the last presentation by seed. count: first tries given. right: seeds
    right at the first try with weight above 0. last: order number of the last answer. sitting:
    of the last answer. missed: the seed of an open miss.
    """

    seeds: dict[str, int]
    count: int
    right: list[int]
    last: int
    sitting: int
    missed: int | None


class ReadingData(TypedDict):
    level: float
    low: float
    high: float
    sd: float
    target: float
    chance: float


def reading_data(reading: LevelReading) -> ReadingData:
    """A reading as it is stored."""
    return {
        "level": round(reading.level, 3),
        "low": round(reading.low, 3),
        "high": round(reading.high, 3),
        "sd": round(reading.sd, 5),
        "target": reading.target,
        "chance": round(reading.chance, 5),
    }


def reading_from(data: ReadingData) -> LevelReading:
    """A stored reading."""
    return LevelReading(
        data["level"], data["low"], data["high"], data["sd"], data["target"], data["chance"]
    )


def encode(state: LearnerState) -> bytes:
    """Rows, then site precisions and shifts, as little-endian 64-bit floats."""
    arrays = (state.rows.ravel(), state.sites.ravel())
    return np.concatenate(arrays).astype("<f8").tobytes()


def decode(data: bytes, topics: int) -> LearnerState:
    """State of a course of so many topics; an empty one from nothing."""
    if not data:
        return LearnerState.empty(topics)
    flat = np.frombuffer(data, dtype="<f8").astype(np.float64)
    rows, sites = flat[: topics * NODES], flat[topics * NODES :]
    return LearnerState(rows.reshape(topics, NODES), sites)


@dataclass(slots=True)
class Learning:
    """A learner in a course, loaded for one request. The posterior is inferred when asked for."""

    learner: User
    bank: CourseBank
    row: LearnerCourse
    state: LearnerState
    _posterior: Posterior | None = None

    @property
    def posterior(self) -> Posterior:
        """Posterior of the present state."""
        if self._posterior is None:
            self._posterior, self.state = infer(self.bank.prior, self.state)
        return self._posterior

    def moved(self, posterior: Posterior, state: LearnerState) -> None:
        """Take over a new state and recompute the standing of every topic."""
        self._posterior, self.state = posterior, state
        self.refresh_standing()

    def refresh_standing(self) -> None:
        """Recompute every topic's reading from the posterior."""
        posterior, topics = self.posterior, self.bank.topics
        targets = [topic.target for topic in topics]
        readings = read_levels(posterior.marginals, posterior.sd, self.bank.scales, targets)
        self.row.standing = {
            topic.key: reading_data(reading)
            for topic, reading in zip(topics, readings, strict=True)
        }
        self.row.digest = self.bank.digest

    @property
    def readings(self) -> list[LevelReading]:
        """Every topic's reading by topic number."""
        if self.row.digest != self.bank.digest:
            self.refresh_standing()
        return [reading_from(self.row.standing[topic.key]) for topic in self.bank.topics]

    def seen(self, family: str) -> FamilySeen:
        """History of a family, made empty if there is none."""
        empty: FamilySeen = {
            "seeds": {},
            "count": 0,
            "right": [],
            "last": -1,
            "sitting": -1,
            "missed": None,
        }
        found: FamilySeen = self.row.seen.setdefault(family, empty)
        return found

    def practice_families(self, number: int, *, with_success: bool = True) -> list[PracticeFamily]:
        """A topic's families as practice and coverage see them."""
        table, posterior = self.bank.table, self.posterior if with_success else None
        success = {} if posterior is None else success_chances(table, posterior, number)
        families = []
        for item in self.bank.of_topic(number):
            key = item.family.key
            seen = self.row.seen.get(key)
            families.append(
                PracticeFamily(
                    key,
                    item.family.essential,
                    item.family.versions,
                    len(seen["right"]) if seen else 0,
                    max(seen["seeds"].values(), default=-1) if seen else -1,
                    success.get(key, 0.0),
                )
            )
        return families

    def coverage(self, number: int) -> Coverage:
        """Coverage of a topic."""
        return coverage(self.practice_families(number, with_success=False))

    def answers_in(self, number: int) -> int:
        """First tries given in a topic, ever."""
        items = self.bank.of_topic(number)
        return sum(
            self.row.seen[i.family.key]["count"] for i in items if i.family.key in self.row.seen
        )

    def save(self) -> None:
        """Store the state; inserts a learner's first."""
        self.row.measure = self.bank.measure
        self.row.state = encode(self.state)
        self.row.save()


def load_learning(learner: User, course: Course) -> Learning:
    """A learner's state in a course; an unsaved empty one before their first answer.

    Made again from the log when curves, prior or topics have changed since it was stored.
    """
    bank = course_bank(course)
    row = LearnerCourse.objects.filter(learner=learner, course=course).first()
    if row is None:
        row = LearnerCourse(learner=learner, course=course)
    if row.state and row.measure != bank.measure:
        return Learning(learner, bank, row, rebuilt_state(learner, bank))
    return Learning(learner, bank, row, decode(bytes(row.state), len(bank.topics)))


def seconds_between(earlier: datetime | None, later: datetime) -> float | None:
    """Seconds between two moments, None when there is no earlier one."""
    return None if earlier is None else (later - earlier).total_seconds()
