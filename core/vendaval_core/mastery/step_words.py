"""Why a step is worth taking, in one or two sentences made from the learner's own numbers."""

from __future__ import annotations

from ..words import counted, in_words, sentence_of_share
from .practice import LIKELY_ENOUGH, Coverage
from .steps import TopicStanding, answers_running


def practice_reason(standing: TopicStanding) -> str:
    """Why to practise a topic: where it stands and the term that counts most."""
    reading = standing.reading
    if reading.known:
        level, target = round(reading.level), round(reading.target)
        start = f"You're probably at {level}. The target is {target}."
    else:
        low, high = round(reading.low), round(reading.high)
        start = f"Your level is between {low} and {high}. Practice will show it better."
    return f"{start} {_strongest_term(standing)}"


def _strongest_term(standing: TopicStanding) -> str:
    cover = standing.coverage
    wanted = still_wanted(standing.reading.chance, standing.steady, cover)
    if wanted is not None:
        return wanted
    if standing.misses:
        missed = counted(standing.misses, "missed question").capitalize()
        return f"You have {missed} to correct here."
    if standing.waiting_for:
        return (
            f"It builds on {standing.waiting_for[0].lower()}, where you're not at the target yet."
        )
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
        return f"{answers} will cover the last {last}."
    running = answers_running(steady)
    if running == 0:
        return None
    more = f"{counted(running, 'more answer').capitalize()} like this will show that you know it"
    return (
        f"{more}. A second question on the same idea in one sitting counts half."
        if steady % 1
        else f"{more}."
    )


def unknown_reason(unknown: int, topics: int) -> str:
    """Why to take a diagnostic: how many of a subject's topics have no level yet."""
    if unknown == topics:
        return "You haven't answered anything here yet, so we can't show a level."
    return f"We don't know your level yet in {in_words(unknown)} of its {in_words(topics)} topics."


def misses_reason(sure: int, most_in: str) -> str:
    """Why to mend misses. sure: given with a confidence of 90 % or more. most_in: a topic."""
    if sure:
        first = in_words(sure).capitalize()
        return f"You were sure about {first} of them, so look at those first."
    return f"Most are in {most_in.lower()}."
