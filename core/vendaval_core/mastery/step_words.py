"""Why a step is worth taking, in one or two sentences made from the learner's own numbers."""

from __future__ import annotations

from vendaval_core.language import gettext

from ..words import counted, in_words, sentence_of_share
from .practice import LIKELY_ENOUGH, Coverage
from .steps import TopicStanding, answers_running


def practice_reason(standing: TopicStanding) -> str:
    """Return why to practise a topic: its level and the term that counts most."""
    reading = standing.reading
    if reading.known:
        level, target = round(reading.level), round(reading.target)
        start = gettext("You’re probably at {level}. The target is {target}.").format(
            level=level, target=target
        )
    else:
        low, high = round(reading.low), round(reading.high)
        start = gettext(
            "Your level is between {low} and {high}. Practice will show it better."
        ).format(low=low, high=high)
    return f"{start} {_strongest_term(standing)}"


def _strongest_term(standing: TopicStanding) -> str:
    cover = standing.coverage
    wanted = still_wanted(standing.reading.chance, standing.steady, cover)
    if wanted is not None:
        return wanted
    above = standing.reading.known and standing.reading.level >= standing.reading.target
    if above and cover.done:
        return gettext("Every idea is covered. A few more right answers will make us sure.")
    if standing.misses:
        missed = counted(standing.misses, "mistake")
        return gettext("You have {missed} to correct here.").format(missed=missed)
    if standing.waiting_for:
        return gettext("It builds on {waiting_for}, where you’re not at the target yet.").format(
            waiting_for=standing.waiting_for[0].lower()
        )
    return sentence_of_share(cover.covered, cover.essential, "idea", "covered")


def still_wanted(chance: float, steady: float, cover: Coverage) -> str | None:
    """Return in one line what is missing for the target of a topic that is likely enough to be at
    it. None if nothing is, or if the chance (0 to 1) itself is too low. Missing ideas are named
    before missing answers."""
    if chance < LIKELY_ENOUGH:
        return None
    if not cover.done:
        ideas = cover.essential - cover.covered
        answers = counted(cover.answers_left, "right first answer").capitalize()
        last = "idea" if ideas == 1 else gettext("{ideas} ideas").format(ideas=in_words(ideas))
        return gettext("{answers} will cover the last {last}.").format(answers=answers, last=last)
    running = answers_running(steady)
    if running == 0:
        return None
    more = gettext("{more_answers} like this will show that you know it").format(
        more_answers=counted(running, "more answer").capitalize()
    )
    return (
        gettext("{more}. A second question on the same idea in one sitting counts half.").format(
            more=more
        )
        if steady % 1
        else f"{more}."
    )


def unknown_reason(unknown: int, topics: int) -> str:
    """Return why to take a diagnostic: how many of a subject's topics have no level yet."""
    if unknown == topics:
        return gettext("You haven’t answered anything here yet, so we can’t show a level.")
    return gettext("We don’t know your level yet in {unknown} of its {topics} topics.").format(
        unknown=in_words(unknown), topics=in_words(topics)
    )


def misses_reason(sure: int, most_in: str) -> str:
    """Return why to mend misses. sure: answered with a confidence of 90% or more. most_in: a
    topic's title."""
    if sure:
        first = in_words(sure)
        return gettext("You were sure about {first} of them, so look at those first.").format(
            first=first
        )
    return gettext("Most are in {most_in}.").format(most_in=most_in.lower())
