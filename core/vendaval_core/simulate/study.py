"""Simulated diagnostics over many learners, through the application's own functions.

Learners are drawn from the prior, answer as their families' curves say, and are measured and
asked by `settle`, `gains` and `choose_diagnostic`. A learner's draws depend on the seed and their
own number alone, so that policies face the same learners and work can be split.
"""

from __future__ import annotations

import random
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from ..mastery.diagnostic import DiagnosticPlan, plan_diagnostic
from ..measure.grid import THETA, Array, probability_above
from ..measure.level import DEFAULT_TARGET, LevelScale, read_levels
from ..measure.posterior import LearnerState, Posterior, Prior, posterior_of
from ..measure.response import ResponseCurve
from ..measure.selection import FamilyTable, choose_diagnostic, gains
from ..measure.stopping import CLEAR_CHANCE
from ..measure.sweeps import converge

BLOCK = 50
NARROWEST = 0.05


class Policy(StrEnum):
    """How learners are measured and what they are asked.

    joint: as in the application, answers in one topic inform the others. independent: adaptive
    tests of equal length, one per topic, each with its own exact posterior and greedy choice; they
    take turns, and only whole rounds count. interleaved: independent posteriors too, but the
    greatest gain of all topics is asked. random: any family, joint posterior.
    """

    JOINT = "joint"
    INDEPENDENT = "independent"
    INTERLEAVED = "interleaved"
    RANDOM = "random"

    @property
    def alone(self) -> bool:
        """Whether topics do not inform each other."""
        return self in {Policy.INDEPENDENT, Policy.INTERLEAVED}


@dataclass(frozen=True, slots=True)
class Study:
    """What to simulate.

    families: in each topic. within, across: correlations of topics in a subject and across. sd:
    of ability, logits. subject_size: topics in a subject. questions: asked of each learner;
    with `until_stopped` the most, and a run stops by the application's rules. own_bank: curves by
    topic, in the place of a drawn bank; own_subjects: subject number by topic.
    """

    learners: int = 500
    topics: int = 18
    families: int = 60
    within: float = 0.5
    across: float = 0.3
    sd: float = 1.0
    subject_size: int = 3
    questions: int = 120
    policy: Policy = Policy.JOINT
    seed: int = 1
    until_stopped: bool = False
    own_bank: tuple[tuple[ResponseCurve, ...], ...] = ()
    own_subjects: tuple[int, ...] = ()

    @property
    def subjects(self) -> list[int]:
        """Subject number of each topic."""
        if self.own_subjects:
            return list(self.own_subjects)
        return [topic // self.subject_size for topic in range(self.topics)]

    def prior(self, policy: Policy | None = None) -> Prior:
        """What is assumed of learners under a policy, or, with none, what is true."""
        alone = policy is not None and policy.alone
        within, across = (0.0, 0.0) if alone else (self.within, self.across)
        return Prior.of_course(self.subjects, mean=0.0, sd=self.sd, within=within, across=across)

    def bank(self) -> tuple[FamilyTable, list[ResponseCurve], list[LevelScale]]:
        """Families drawn from the seed: a lognormal(0.2, 0.3), b standard normal, c = 0.2 for
        every second. Curves are in the table's order."""
        if self.own_bank:
            return self._own()
        rng = np.random.default_rng([self.seed, 0])
        count = self.topics * self.families
        slopes, difficulties = rng.lognormal(0.2, 0.3, count), rng.normal(size=count)
        curves = [
            ResponseCurve(float(a), float(b), 0.2 * (i % 2))
            for i, (a, b) in enumerate(zip(slopes, difficulties, strict=True))
        ]
        triples = [(f"f{i}", i // self.families, curve) for i, curve in enumerate(curves)]
        scales = [
            LevelScale.of(curves[t * self.families : (t + 1) * self.families])
            for t in range(self.topics)
        ]
        return FamilyTable.of(triples, self.topics), curves, scales

    def _own(self) -> tuple[FamilyTable, list[ResponseCurve], list[LevelScale]]:
        curves = [curve for own in self.own_bank for curve in own]
        topics = [topic for topic, own in enumerate(self.own_bank) for _ in own]
        triples = [
            (f"f{i}", topic, curve)
            for i, (topic, curve) in enumerate(zip(topics, curves, strict=True))
        ]
        scales = [LevelScale.of(own) for own in self.own_bank]
        return FamilyTable.of(triples, self.topics), curves, scales


@dataclass(slots=True)
class Record:
    """What became of some learners.

    squares, errors (questions + 1,): sums over learners and topics after each number of questions.
    covered, calls, right_calls: at the end. used: questions asked of each learner. expected: what
    the first plan said would be asked. inside: whether it lay in the range then given. asked:
    learners who saw each family.
    """

    squares: Array
    errors: Array
    covered: int
    marginals: int
    calls: int
    right_calls: int
    used: list[int]
    expected: list[int]
    inside: list[bool]
    asked: Counter[str]

    def plus(self, other: Record) -> Record:
        """Both together."""
        return Record(
            self.squares + other.squares,
            self.errors + other.errors,
            self.covered + other.covered,
            self.marginals + other.marginals,
            self.calls + other.calls,
            self.right_calls + other.right_calls,
            self.used + other.used,
            self.expected + other.expected,
            self.inside + other.inside,
            self.asked + other.asked,
        )


class Block:
    """Some learners side by side."""

    def __init__(self, study: Study, numbers: Sequence[int]) -> None:
        self.study, self.numbers = study, numbers
        self.prior = study.prior(study.policy)
        self.table, self.curves, self.scales = study.bank()
        root = np.linalg.cholesky(study.prior().covariance)
        normal = [
            np.random.default_rng([study.seed, 1, n]).normal(size=study.topics) for n in numbers
        ]
        self.truth = np.array(normal) @ root.T
        self.luck = [random.Random(f"{study.seed}:answers:{n}") for n in numbers]
        self.choice = [random.Random(f"{study.seed}:choices:{n}") for n in numbers]
        empty = LearnerState.of(self.prior)
        self.rows = np.repeat(empty.rows[None], len(numbers), axis=0)
        self.sites = np.repeat(empty.sites[None], len(numbers), axis=0)
        self.asked: list[list[str]] = [[] for _ in numbers]
        self.first: list[DiagnosticPlan | None] = [None for _ in numbers]
        self.last: list[DiagnosticPlan | None] = [None for _ in numbers]
        self.going = list(range(len(numbers)))

    def posteriors(self) -> list[Posterior]:
        """Posterior of every learner."""
        joint = converge(self.prior.gaussian, self.rows, self.sites)
        self.sites = joint.sites
        return [posterior_of(joint, rows, i) for i, rows in enumerate(self.rows)]

    def next_family(self, place: int, posterior: Posterior) -> str | None:
        """Family to ask one learner, None when their run stops."""
        study, table, asked = self.study, self.table, self.asked[place]
        topics = range(study.topics)
        if study.policy is Policy.RANDOM:
            return self.choice[place].choice([k for k in table.keys if k not in set(asked)])
        if study.until_stopped:
            return self._planned(place, posterior)
        if study.policy is Policy.INDEPENDENT:
            return self._best_in_turn(place, posterior)
        gain = gains(table, posterior, np.ones(study.topics), topics)
        return choose_diagnostic(table, gain, topics, asked, self.choice[place]).family

    def _best_in_turn(self, place: int, posterior: Posterior) -> str:
        """The greatest gain in the topic whose turn it is, among families not asked yet."""
        asked, table = self.asked[place], self.table
        topic = len(asked) % self.study.topics
        gain = gains(table, posterior, np.ones(self.study.topics), [topic])
        gain[[table.position[key] for key in asked]] = -1.0
        return table.keys[int(gain.argmax())]

    def _planned(self, place: int, posterior: Posterior) -> str | None:
        topics, asked = range(self.study.topics), self.asked[place]
        targets = [DEFAULT_TARGET] * len(topics)
        readings = read_levels(posterior.marginals, posterior.sd, self.scales, targets)
        counts = Counter(int(self.table.topics[self.table.position[key]]) for key in asked)
        plan = plan_diagnostic(
            self.table,
            posterior,
            readings,
            self.scales,
            [1.0] * len(topics),
            topics,
            [counts[t] for t in topics],
            asked,
            self.choice[place],
        )
        self.first[place] = self.first[place] or plan
        self.last[place] = plan
        return plan.choice.family if plan.choice else None

    def in_range(self, place: int) -> bool:
        """Whether one learner was asked as many questions as the first plan said."""
        plan = self.first[place]
        low, high = plan.range_left if plan else (0, 0)
        return low <= len(self.asked[place]) <= high

    def ask_each(self, posteriors: Sequence[Posterior]) -> None:
        """Ask every learner still going one question; those with none left stop."""
        for place in list(self.going):
            family = self.next_family(place, posteriors[place])
            if family is None:
                self.going.remove(place)
            else:
                self.answer(place, family)

    def answer(self, place: int, family: str) -> None:
        """One learner answers, as their ability and luck have it."""
        row = self.table.position[family]
        topic, curve = int(self.table.topics[row]), self.curves[row]
        chances = curve.probabilities(self.truth[place, [topic]])[:, 0]
        above = np.cumsum(chances[::-1])[:-1]
        outcome = int((self.luck[place].random() < above).sum())
        evidence = self.rows[place, topic] + curve.log_likelihood(outcome, THETA)
        self.rows[place, topic] = evidence - evidence.max()
        self.asked[place].append(family)


def _judged(block: Block, posteriors: Sequence[Posterior]) -> tuple[int, int, int]:
    """Topics whose 90 % interval holds the truth, calls of target met or not made with more than
    0.9 certainty, and those of them that are right."""
    covered = calls = right = 0
    for place, posterior in enumerate(posteriors):
        for topic, scale in enumerate(block.scales):
            truth = float(block.truth[place, topic])
            mass = posterior.marginals[topic]
            covered += NARROWEST <= probability_above(mass, truth) <= 1 - NARROWEST
            chance = probability_above(mass, scale.ability(DEFAULT_TARGET))
            if max(chance, 1 - chance) > CLEAR_CHANCE:
                calls += 1
                right += (chance > 0.5) == (scale.level(truth) >= DEFAULT_TARGET)
    return covered, calls, right


def run_block(
    study: Study, numbers: NDArray[np.int64], progress: Callable[[int], None] = lambda _: None
) -> Record:
    """Simulate the learners of these numbers. progress: called with answers given."""
    block = Block(study, [int(n) for n in numbers])
    squares, errors = np.zeros(study.questions + 1), np.zeros(study.questions + 1)
    for turn in range(study.questions + 1):
        posteriors = block.posteriors()
        away = np.array([posterior.mean for posterior in posteriors]) - block.truth
        squares[turn], errors[turn] = (away**2).sum(), away.sum()
        if turn == study.questions:
            break
        block.ask_each(posteriors)
        progress(len(block.going))
        if not block.going:
            squares[turn + 1 :], errors[turn + 1 :] = squares[turn], errors[turn]
            break
    covered, calls, right = _judged(block, posteriors)
    return Record(
        squares,
        errors,
        covered,
        away.size,
        calls,
        right,
        [len(asked) for asked in block.asked],
        [plan.questions_left if plan else 0 for plan in block.first],
        [block.in_range(place) for place in range(len(numbers))],
        Counter(key for asked in block.asked for key in set(asked)),
    )


def blocks(study: Study) -> list[NDArray[np.int64]]:
    """The study's learners, in pieces that can be run on their own."""
    return np.array_split(np.arange(study.learners), max(1, -(-study.learners // BLOCK)))


def questions_to(rmse: Array, bar: float, round_of: int = 1) -> int | None:
    """Fewest questions after which the RMSE is at most `bar`, None when it never is.

    round_of: only multiples of it count, as for tests of equal length.
    """
    there = np.flatnonzero(rmse[::round_of] <= bar)
    return round_of * int(there[0]) if len(there) else None


def summary(study: Study, record: Record) -> dict[str, object]:
    """The study's figures, for JSON. RMSE and bias in logits."""
    size = study.learners * study.topics
    rmse = np.sqrt(record.squares / size)
    round_of = study.topics if study.policy is Policy.INDEPENDENT else 1
    count = len(study.bank()[0].keys)
    exposure = np.array([record.asked[f"f{i}"] for i in range(count)])
    shares = exposure / study.learners
    return {
        "policy": study.policy.value,
        "learners": study.learners,
        "topics": study.topics,
        "families": study.families,
        "correlations": {"within": study.within, "across": study.across},
        "seed": study.seed,
        "until_stopped": study.until_stopped,
        "questions_used": {
            "mean": round(float(np.mean(record.used)), 2),
            "median": float(np.median(record.used)),
            "most": max(record.used),
            "expected_at_the_start": round(float(np.mean(record.expected)), 2),
            "inside_the_range_said": round(float(np.mean(record.inside)), 4),
        },
        "questions_to_rmse": {
            f"{bar:.2f}": questions_to(rmse, bar, round_of) for bar in (0.6, 0.5, 0.4)
        },
        "rmse": [round(float(x), 4) for x in rmse],
        "bias": [round(float(x), 4) for x in record.errors / size],
        "coverage_90": round(record.covered / record.marginals, 4),
        "calls": {
            "made": record.calls,
            "right": round(record.right_calls / record.calls, 4) if record.calls else None,
        },
        "exposure": {
            "most": round(float(shares.max()), 4),
            "families_used": round(float(np.mean(exposure > 0)), 4),
        },
    }
