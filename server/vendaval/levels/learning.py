"""A learner in a course: from the database to core values and back."""

from __future__ import annotations

import logging
from dataclasses import dataclass, field
from datetime import datetime
from hashlib import sha256

from vendaval.bank.snapshot import BankTopic, CourseBank, course_bank, fixed_parts_of
from vendaval.groups.models import Enrolment
from vendaval.shared.changes import Stale, claimed
from vendaval.work.questions import open_in_test
from vendaval_core.mastery.practice import Coverage, PracticeFamily, coverage, target_met
from vendaval_core.mastery.recheck import next_after
from vendaval_core.measure.journal import after_days
from vendaval_core.measure.level import LevelReading, read_levels
from vendaval_core.measure.posterior import LearnerState as CoreState
from vendaval_core.measure.posterior import Posterior, infer
from vendaval_core.measure.rates import Paces, paces_of
from vendaval_core.measure.selection import success_chances

from .columns import FamilyHistory, ReadingData, TopicHistory
from .encoding import decode, encode
from .models import LearnerState, Observation
from .rebuild import posterior_with, rebuilt_state
from .settings import CHANGE

LEAST_DAYS = 1.0

logger = logging.getLogger("vendaval.levels")

STORED = (
    "state",
    "families",
    "topics",
    "standing",
    "to_study",
    "digest",
    "base",
    "presented",
    "answers",
    "sitting",
    "idle_days",
    "pace",
    "effort",
    "freshened_at",
    "last_answer_at",
)


@dataclass(slots=True)
class Learning:
    """A learner in a course, loaded for one request. The posterior is inferred when asked for.

    pending: observations that are to be stored with this state, in order.
    """

    enrolment: Enrolment
    bank: CourseBank
    row: LearnerState
    state: CoreState
    pending: list[Observation] = field(default_factory=list)
    _posterior: Posterior | None = None

    @property
    def posterior(self) -> Posterior:
        """Posterior of the present state."""
        if self._posterior is None:
            self._posterior, self.state = infer(self.bank.prior, self.state)
        return self._posterior

    def moved(self, posterior: Posterior, state: CoreState) -> None:
        """Take over a new state and recompute the standing of every topic."""
        if not posterior.converged:
            logger.error("sweeps did not settle", extra={"enrolment": self.enrolment.pk})
        self._posterior, self.state = posterior, state
        self.refresh_standing()

    def observed(self, added: Observation) -> None:
        """Note an observation that is to be stored with this state."""
        self.pending.append(added)

    def fold_again(self) -> None:
        """Make the state again from the log and what is to be stored: something in it was replaced
        in its own place in time."""
        self.moved(*posterior_with(self.enrolment.pk, self.bank, self.pending))

    def refresh_standing(self) -> None:
        """Recompute every topic's reading from the posterior."""
        posterior, topics = self.posterior, self.bank.topics
        readings = read_levels(posterior.marginals, posterior.sd, self.bank.scales, self.targets)
        self.row.standing = {
            topic.key: ReadingData.of(reading)
            for topic, reading in zip(topics, readings, strict=True)
        }
        self.row.digest = self.digest

    @property
    def digest(self) -> str:
        """Of what a standing is computed with: the content, and targets of the learner's own."""
        own = self.enrolment.aims.targets
        if not own:
            return self.bank.digest
        return sha256(f"{self.bank.digest}:{sorted(own.items())}".encode()).hexdigest()

    @property
    def paces(self) -> Paces:
        """What is known of how fast this learner learns and forgets."""
        return paces_of(self.state.followed, CHANGE)

    @property
    def targets(self) -> list[float]:
        """Target of each topic for this learner, in per cent."""
        return [self.enrolment.aims.targets.get(t.key, t.target) for t in self.bank.topics]

    @property
    def importance(self) -> list[float]:
        """Importance of each topic for this learner."""
        return [self.enrolment.aims.importance.get(t.key, t.importance) for t in self.bank.topics]

    def taught(self, topic: BankTopic) -> bool:
        """Whether a topic has been taught so far: others are neither asked nor counted."""
        return topic.key not in self.enrolment.aims.not_taught

    @property
    def readings(self) -> list[LevelReading]:
        """Every topic's reading by topic number."""
        if self.row.digest != self.digest:
            self.refresh_standing()
        return [self.row.standing[topic.key].reading() for topic in self.bank.topics]

    def posterior_at(self, now: datetime) -> Posterior:
        """Posterior with the time since the last answer taken in."""
        last = self.row.last_answer_at
        days = self.row.idle_days + (0.0 if last is None else (now - last).total_seconds() / 86400)
        if days < LEAST_DAYS:
            return self.posterior
        return after_days(self.bank.prior, self.state, days, CHANGE)

    def readings_at(self, now: datetime) -> list[LevelReading]:
        """Every topic's reading with the time since the last answer taken in."""
        posterior = self.posterior_at(now)
        return read_levels(posterior.marginals, posterior.sd, self.bank.scales, self.targets)

    def family(self, key: str) -> FamilyHistory:
        """History of a family, made empty if there is none."""
        found = self.row.families.get(key)
        if found is None:
            found = self.row.families[key] = FamilyHistory()
        return found

    def topic(self, key: str) -> TopicHistory:
        """History of a topic, made empty if there is none."""
        found = self.row.topics.get(key)
        if found is None:
            found = self.row.topics[key] = TopicHistory()
        return found

    def practice_families(self, number: int, *, with_success: bool = True) -> list[PracticeFamily]:
        """A topic's families as practice and coverage see them."""
        table, posterior = self.bank.table, self.posterior if with_success else None
        success = {} if posterior is None else success_chances(table, posterior, number)
        families = []
        for item in self.bank.of_topic(number):
            key = item.family.key
            seen = self.row.families.get(key)
            families.append(
                PracticeFamily(
                    key,
                    item.family.essential,
                    item.family.versions,
                    len(seen.right) if seen else 0,
                    max(seen.seeds.values(), default=-1) if seen else -1,
                    success.get(key, 0.0),
                )
            )
        return families

    def seeds_in_test(self, key: str) -> set[int]:
        """Seeds of a family that would give away a question of a test still open for this learner:
        those in it, or all of them where a part is the same in every version."""
        item = self.bank.families[key]
        seeds = {seed for family, seed in open_in_test(self.enrolment) if family == item.id}
        if seeds and fixed_parts_of(item.revision):
            return set(range(1, item.family.versions + 1))
        return seeds

    def askable(self, key: str) -> bool:
        """Whether a family is in the course and has a version that no open test holds."""
        item = self.bank.families.get(key)
        return item is not None and len(self.seeds_in_test(key)) < item.family.versions

    def may_have(self, key: str) -> bool:
        """Whether a family is the course's, or one of the learner's groups' own."""
        item = self.bank.families.get(key)
        return item is not None and item.collection in {None, *self.enrolment.aims.collections}

    def families_in_test(self) -> list[str]:
        """Families of the course all of whose versions are in tests still open for this learner."""
        held = {family for family, _ in open_in_test(self.enrolment)}
        return [
            key
            for key, item in self.bank.families.items()
            if item.id in held and not self.askable(key)
        ]

    def families_to_ask(self, number: int) -> list[PracticeFamily]:
        """A topic's families that may be asked now."""
        return [one for one in self.practice_families(number) if self.askable(one.key)]

    def coverage(self, number: int) -> Coverage:
        """Coverage of a topic."""
        return coverage(self.practice_families(number, with_success=False))

    def steady(self, number: int) -> float:
        """Weight of the answers running that left a topic likely enough to be at its target."""
        return self.topic(self.bank.topics[number].key).steady

    def is_met(self, number: int) -> bool:
        """Whether a topic's target is met now."""
        return target_met(self.steady(number), self.coverage(number))

    def next_check(self, number: int, held_for: float | None) -> float:
        """Days until a topic is to be rechecked. held_for: see `next_after`."""
        mass = self.posterior.marginals[number]
        target = self.bank.scales[number].ability(self.targets[number])
        return next_after(held_for, mass, target, self.paces, CHANGE)

    def answers_in(self, number: int) -> int:
        """First tries given in a topic, ever."""
        keys = (item.family.key for item in self.bank.of_topic(number))
        return sum(self.row.families[key].count for key in keys if key in self.row.families)

    def answers_by_topic(self) -> list[int]:
        """First tries given in each topic, ever, by topic number."""
        found = [0] * len(self.bank.topics)
        for key, history in self.row.families.items():
            item = self.bank.families.get(key)
            if item is not None:
                found[item.topic] += history.count
        return found

    def seconds(self, number: int) -> float:
        """Mean seconds that a question of a topic takes this learner."""
        return self.bank.mean_seconds(number) * self.row.pace.ratio

    def claim(self) -> bool:
        """Store the state if its version still stands: the guard of all that an enrolment has."""
        self.row.base = self.bank.base
        self.row.state = encode(self.state)
        return claimed(self.row, STORED)


def learning_of(enrolment: Enrolment) -> Learning:
    """A learner's state in a course, read once for an enrolment that was loaded; an empty one,
    not stored yet, before anything was done.

    Made again from the observations, and stored, when the prior, the topics, or a curve of a
    family that the learner has answered changed since.
    """
    found: Learning | None = enrolment.__dict__.get("_learning")
    if found is None:
        found = enrolment.__dict__["_learning"] = _loaded(enrolment)
    return found


def _loaded(enrolment: Enrolment) -> Learning:
    bank = course_bank(enrolment.course)
    try:
        row: LearnerState = enrolment.state
    except LearnerState.DoesNotExist:
        row = LearnerState(enrolment=enrolment, base=bank.base)
        return Learning(enrolment, bank, row, CoreState.of(bank.prior))
    if not row.state or not outdated(row, bank):
        return Learning(enrolment, bank, row, decode(bytes(row.state), bank.prior, CHANGE))
    learning = Learning(enrolment, bank, row, rebuilt_state(enrolment.pk, bank))
    note_curves(learning)
    learning.refresh_standing()
    if not learning.claim():
        raise Stale
    return learning


def outdated(row: LearnerState, bank: CourseBank) -> bool:
    """Whether a state was made with another prior, other topics, or another curve of a family
    that its learner has answered. Families that nobody answered make nothing outdated."""
    if row.base != bank.base:
        return True
    if row.digest == bank.digest:
        return False
    return any(
        history.mark != bank.marks.get(key) for key, history in row.families.items() if history.mark
    )


def note_curves(learning: Learning) -> None:
    """Note by which curves the state was folded."""
    for key, history in learning.row.families.items():
        if history.count:
            history.mark = learning.bank.marks.get(key, "")
