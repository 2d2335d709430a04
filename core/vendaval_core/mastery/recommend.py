"""What to do next and why, in one sentence made from the learner's own numbers.

Topics are ordered by the targets expected to be met per minute, weighted by importance. The
factors below are judgements.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from math import ceil

from ..measure.change import ChangeSettings
from ..measure.grid import THETA, Array
from ..measure.level import LevelReading, LevelScale
from .practice import LIKELY_ENOUGH, STEADY_ENOUGH, Coverage, target_met

MOST_STEPS = 5
EXPECTED_RIGHT = 0.75
LEAST = 1e-6
UNMET_PREREQUISITE = 0.35
PER_MISS = 0.15
RECENT_EFFORT = 0.5
FEWEST, MOST = 3, 15
SLACK = 1.3
MINUTES_PER_MISS = 1.5


class StepKind(StrEnum):
    """What a recommended step is."""

    CARRY_ON = "carry_on"
    DIAGNOSE = "diagnose"
    PRACTISE = "practise"
    REVIEW = "review"
    RECHECK = "recheck"
    FRESHEN = "freshen"
    STUDY = "study"
    SPELL = "spell"


@dataclass(frozen=True, slots=True)
class TopicStanding:
    """A topic as the recommendation sees it.

    steady: weight of the answers running that left it likely enough to be at its target.
    seconds: mean time a question needs. recent: share, 0 to 1, of the last day's answers spent
    here. waiting_for: titles of prerequisite topics that are plainly not at their target.
    taught: whether it has been taught so far; what has not is never recommended.
    """

    key: str
    title: str
    reading: LevelReading
    marginal: Array
    scale: LevelScale
    importance: float
    coverage: Coverage
    seconds: float
    steady: float = 0.0
    misses: int = 0
    recent: float = 0.0
    waiting_for: tuple[str, ...] = ()
    taught: bool = True


@dataclass(frozen=True, slots=True)
class Step:
    """One next step. value: expected rise per minute, for ordering. topic: its key or None. run:
    number of the one to carry on."""

    kind: StepKind
    topic: str | None
    title: str
    reason: str
    minutes: int
    questions: int
    value: float
    run: int | None = None

    @property
    def key(self) -> str:
        """What a step is known by when it is put off: its kind and what it is about."""
        about = self.run if self.topic is None else self.topic
        return f"{self.kind}:{about}" if about is not None else str(self.kind)


def questions_to_target(standing: TopicStanding) -> int:
    """Questions that a learner near the target will want: a judgement, 3 to 15."""
    short = max(0.0, LIKELY_ENOUGH - standing.reading.chance)
    by_chance = answers_running(standing.steady) if short == 0 else 3 + round(10 * short)
    fewest = 1 if short == 0 else FEWEST
    return max(fewest, min(MOST, max(by_chance, standing.coverage.answers_left)))


def minutes_for(questions: int, seconds: float) -> int:
    """Whole minutes for a number of questions of a mean length in seconds, feedback included."""
    return max(1, round(questions * seconds * SLACK / 60))


def practice_value(standing: TopicStanding, settings: ChangeSettings) -> float:
    """Targets expected to be met, weighted by importance, per minute of practice.

    Whoever is at the target already needs the answers that cover it and show it; whoever is below
    needs the answers, too, that the distance takes by the learning model. Shortest first is what
    meets most targets soonest: Smith's rule (1956) for jobs by weight and length. The simulated
    weeks of docs/measurement.md hold it against what was tried before.
    """
    reading, marginal = standing.reading, standing.marginal
    target = standing.scale.ability(reading.target)
    below = target > THETA
    short = float(marginal[below] @ (target - THETA[below])) / max(1 - reading.chance, LEAST)
    shown = standing.coverage.answers_left / EXPECTED_RIGHT
    shown = max(shown, answers_running(standing.steady), 1.0)
    learned = short / (settings.jump_chance * settings.jump_mean)
    met = reading.chance / shown + (1 - reading.chance) / (shown + learned)
    value = standing.importance * met / (standing.seconds * SLACK / 60)
    value *= 1 + PER_MISS * min(standing.misses, 4)
    value *= 1 - RECENT_EFFORT * standing.recent
    return value * (UNMET_PREREQUISITE if standing.waiting_for else 1.0)


def sentence_of_share(part: int, whole: int, noun: str, state: str) -> str:
    """A sentence on a part of a whole: One of three topics is still open."""
    return f"{share_of(part, whole, noun).capitalize()} {'is' if part == 1 else 'are'} {state}."


NUMBERS = ("none", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")


def in_words(number: int) -> str:
    """A small number as a word, others in figures."""
    return NUMBERS[number] if number < len(NUMBERS) else str(number)


def counted(number: int, one: str, many: str | None = None) -> str:
    """A number and its noun: no misses, one miss, 12 misses."""
    noun = one if number == 1 else (many or one + "s")
    return f"{in_words(number) if number else 'no'} {noun}"


def some_of(words: Sequence[str]) -> str:
    """Some of many words in a row: three, and how many more."""
    if not words:
        return "nothing"
    if len(words) > 3:
        return f"{', '.join(words[:3])} and {counted(len(words) - 3, 'other')}"
    *others, last = words
    return f"{', '.join(others)} and {last}" if others else last


def some_have(names: Sequence[str], one: str = "has", several: str = "have") -> str:
    """Names with the verb that goes with as many: Ana has, Ana and Bea have."""
    return f"{some_of(names)} {one if len(names) == 1 else several}"


def share_of(part: int, whole: int, noun: str) -> str:
    """A part of a whole: one of three topics, none of six topics."""
    return f"{in_words(part)} of {counted(whole, noun)}"


def practice_reason(standing: TopicStanding) -> str:
    """Why to practise a topic: where it stands and the term that counts most."""
    reading = standing.reading
    if reading.known:
        level, target = round(reading.level), round(reading.target)
        start = f"You are probably at {level}, and {target} is the target."
    else:
        low, high = round(reading.low), round(reading.high)
        start = f"Your level lies somewhere from {low} to {high}; practice will narrow it."
    return f"{start} {_strongest_term(standing)}"


def _strongest_term(standing: TopicStanding) -> str:
    cover = standing.coverage
    wanted = still_wanted(standing.reading.chance, standing.steady, cover)
    if wanted is not None:
        return wanted
    if standing.misses:
        missed = counted(standing.misses, "missed question").capitalize()
        return f"{missed} from here {'waits' if standing.misses == 1 else 'wait'} for you."
    if standing.waiting_for:
        return f"It builds on {standing.waiting_for[0].lower()}, which is not there yet."
    return sentence_of_share(cover.covered, cover.essential, "idea", "covered")


def still_wanted(chance: float, steady: float, cover: Coverage) -> str | None:
    """What the target still wants of a topic that is likely enough to be at it, in one line; None
    when it wants nothing, or when the chance (0 to 1) of being at it is what is missing. The ideas
    that are missing come before the answers running."""
    if chance < LIKELY_ENOUGH:
        return None
    if not cover.done:
        ideas = cover.essential - cover.covered
        answers = counted(cover.answers_left, "right first answer").capitalize()
        last = "idea" if ideas == 1 else f"{in_words(ideas)} ideas"
        return f"{answers} would cover the last {last}."
    running = answers_running(steady)
    if running == 0:
        return None
    more = f"{counted(running, 'more answer').capitalize()} like this would show that it holds"
    return f"{more}; an idea asked twice in a sitting counts half." if steady % 1 else f"{more}."


def answers_running(steady: float) -> int:
    """Answers of full weight that are still wanted to be steady enough."""
    return max(0, ceil(STEADY_ENOUGH - steady))


def recommend_practice(standings: Sequence[TopicStanding], settings: ChangeSettings) -> list[Step]:
    """Practice steps for every topic whose target is not met, best first."""
    steps = []
    for standing in standings:
        if not standing.taught or target_met(standing.steady, standing.coverage):
            continue
        questions = questions_to_target(standing)
        steps.append(
            Step(
                StepKind.PRACTISE,
                standing.key,
                standing.title,
                practice_reason(standing),
                minutes_for(questions, standing.seconds),
                questions,
                practice_value(standing, settings),
            )
        )
    return sorted(steps, key=lambda step: -step.value)


@dataclass(frozen=True, slots=True)
class OpenRun:
    """A run that was left: its number and title, topics settled, keys of all its topics, expected
    questions left."""

    id: int
    title: str
    settled: int
    topics: frozenset[str]
    questions_left: int


def _unknown_reason(unknown: int, topics: int) -> str:
    if unknown == topics:
        return "Nothing has been asked yet, so no level can be told."
    return (
        f"For {in_words(unknown)} of its {in_words(topics)} topics not enough has been seen "
        "yet to tell a level."
    )


def next_steps(
    standings: Sequence[TopicStanding],
    subjects: Sequence[tuple[str, str, Sequence[str]]],
    open_runs: Sequence[OpenRun],
    sure_misses: int,
    settings: ChangeSettings,
    first: Sequence[Step] = (),
) -> list[Step]:
    """Next steps, in the order to take them; a page shows the first five.

    subjects: (key, title, topic keys). open_runs: diagnostics under way, latest first;
    they take the place of those of the subjects that they cover, and of no others. sure_misses:
    misses given with a confidence of 90 % or more. first: what is due or to be read comes first.
    """
    by_key = {standing.key: standing for standing in standings}
    seconds = sum(s.seconds for s in standings) / len(standings) if standings else 60.0
    steps = list(first)
    for open_run in open_runs:
        still = len(open_run.topics) - open_run.settled
        reason = sentence_of_share(still, len(open_run.topics), "topic", "still open")
        minutes = minutes_for(max(1, open_run.questions_left), seconds)
        steps.append(
            Step(
                StepKind.CARRY_ON,
                None,
                open_run.title,
                reason,
                minutes,
                open_run.questions_left,
                1.0,
                open_run.id,
            )
        )
    unknown = [s for s in standings if not s.reading.known]
    for key, title, topics in subjects:
        taught = [by_key[t] for t in topics if t in by_key and by_key[t].taught]
        wide = [standing for standing in taught if not standing.reading.known]
        under_way = any(run.topics.issuperset(s.key for s in taught) for run in open_runs)
        if not under_way and 2 * len(wide) > len(taught):
            reason = _unknown_reason(len(wide), len(taught))
            questions = 4 * len(wide)
            minutes = minutes_for(questions, sum(s.seconds for s in wide) / len(wide))
            steps.append(
                Step(
                    StepKind.DIAGNOSE,
                    key,
                    f"Diagnostic: {title.lower()}",
                    reason,
                    minutes,
                    questions,
                    0.9,
                )
            )
    practice = recommend_practice([s for s in standings if s not in unknown] or (), settings)
    misses = sum(standing.misses for standing in standings)
    if misses:
        most = max(standings, key=lambda s: s.misses)
        sure = in_words(sure_misses).capitalize()
        reason = (
            f"{sure} of them you were sure about, so worth seeing first."
            if sure_misses
            else f"Most of them are in {most.title.lower()}."
        )
        title = f"{counted(misses, 'missed question').capitalize()} to mend"
        review = Step(
            StepKind.REVIEW,
            None,
            title,
            reason,
            max(2, round(MINUTES_PER_MISS * misses)),
            misses,
            0.5,
        )
        practice.insert(min(1, len(practice)), review)
    return steps + practice
