"""Whether a recheck finds out what is true: taken by copies of a person who know a known amount."""

from __future__ import annotations

import random
from collections.abc import Sequence
from dataclasses import replace

from ..mastery.recheck import LAPSE_CHANCE, QUESTIONS, has_held, questions_more
from ..measure.grid import probability_above
from ..measure.journal import Entry, SideBySide
from ..measure.level import LevelScale
from ..measure.posterior import LearnerState
from .circle import CircleBank
from .pupil import Pupil

TRIED_LEVELS = (90, 60, 50)


def try_out(
    bank: CircleBank,
    state: LearnerState,
    pupil: Pupil,
    topic: int,
    keys: Sequence[str],
    away: float,
) -> list[tuple[int, bool, int]]:
    """Return for each true level whether a topic's recheck would find its target held, and how many
    questions it would take.

    state: what is believed before it; it stays as it is. keys: of its families. away: days without
    an answer.
    """
    curves = [bank.by_key[key].curve for key in keys]
    own = [pupil.curve(family.key, family.curve) for family in bank.by_topic[topic]]
    scale, found = LevelScale.of(own), []
    for level in TRIED_LEVELS:
        seed = f"{bank.circle.seed}:{pupil.rng.random()}"
        person = replace(
            pupil, truth=pupil.truth.copy(), misses=0, blind=False, rng=random.Random(seed)
        )
        person.truth[topic] = scale.ability(level)
        batch = SideBySide(bank.circle.prior, [state], bank.circle.change)
        asked, more, chance = 0, QUESTIONS, 0.0
        while more:
            for number in range(asked, asked + more):
                place = number % len(keys)
                outcome = person.answer(keys[place], curves[place], topic).outcome
                first = number == 0
                entry = Entry(
                    topic,
                    curves[place],
                    outcome,
                    1.0,
                    days=away if first else 0.0,
                    lapse=LAPSE_CHANCE if first else 0.0,
                )
                mass = batch.posterior(batch.fold({0: entry}), 0, 0).marginals[topic]
                chance = probability_above(mass, bank.wanted[topic])
            asked += more
            more = questions_more(asked, chance)
        found.append((level, has_held(chance), asked))
    return found
